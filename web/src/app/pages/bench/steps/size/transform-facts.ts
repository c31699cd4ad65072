import { type PieceDocument, transformedNodes, turnDegrees } from '@yard-brace/core';
import type { Fact } from '../../../../ui/fact-table';

const short = (values: readonly number[]): string =>
  values.map((value) => Number(value.toPrecision(3))).join(', ');

/** The nodes whose transform is not the identity: where they are, how they are turned, how they are scaled. */
export const transformFacts = (document: Pick<PieceDocument, 'nodes'>): Fact[] =>
  transformedNodes(document).map(({ name, translation, rotation, scale }) => ({
    name,
    text: `${short(translation)} · ${turnDegrees(rotation).toFixed(0)}° · ${short(scale)}`,
  }));
