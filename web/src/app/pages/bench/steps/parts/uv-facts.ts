import { countText, lengthText, type PieceDocument, type UvReport } from '@yard-brace/core';
import type { Fact } from '../../../../ui/fact-table';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** How the UVs of each part lie against the pixels a metre that are wanted. */
export function uvFacts(
  reports: readonly UvReport[],
  { nodes }: Pick<PieceDocument, 'nodes'>,
  wantedPixels: number,
): Fact[] {
  const names = new Map(nodes.map(({ id, name }) => [id, name]));
  return reports.map(({ part, density, pixels, stretched, uneven }) => {
    const name = names.get(part) ?? '';
    if (density === null) return { name, text: 'no UVs' };
    const scale =
      pixels === null
        ? `${lengthText(1 / Math.max(density, 1e-9))} a picture`
        : `${countText(Math.round(pixels))} px/m, ${percent(pixels / wantedPixels)}`;
    return { name, text: `${scale}; ${percent(stretched)} stretched, ${percent(uneven)} uneven` };
  });
}
