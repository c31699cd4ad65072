import type { Yard } from '@yard-brace/contract';
import { listText, targetsOf } from '@yard-brace/core';

/** The targets of a yard by name, the default first. */
export const targetNames = ({ rules }: Pick<Yard, 'rules'>): string =>
  listText(
    targetsOf(rules).map(({ name }) => name),
    2,
  );
