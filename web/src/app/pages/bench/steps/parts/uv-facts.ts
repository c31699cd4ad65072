import { countText, lengthText, type PieceDocument, type UvReport } from '@yard-brace/core';
import type { Fact } from '../../../../ui/fact-table';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** Pixels a metre that a yard wants. */
export interface WantedPixels {
  texture: number;
  baked: number;
}

/** Sides of pictures are powers of two: the smallest that comes to so many pixels a metre. */
const sideFor = (widthsAMetre: number, pixels: number): number =>
  2 ** Math.ceil(Math.log2(Math.max(1, pixels / widthsAMetre)));

/** How the UVs of each part lie against the pixels a metre that are wanted. */
export function uvFacts(
  reports: readonly UvReport[],
  { nodes }: Pick<PieceDocument, 'nodes'>,
  wanted: WantedPixels,
): Fact[] {
  const names = new Map(nodes.map(({ id, name }) => [id, name]));
  return reports.map(({ part, density, pixels, baked, stretched, uneven }) => {
    const name = names.get(part) ?? '';
    if (density === null) return { name, text: 'no UVs' };
    const scale =
      pixels === null
        ? `${lengthText(1 / Math.max(density, 1e-9))} a picture`
        : `${countText(Math.round(pixels))} px/m, ${percent(pixels / wanted.texture)}`;
    const light = baked ? `; baked light in ${countText(sideFor(baked, wanted.baked))} px` : '';
    return { name, text: `${scale}; ${percent(stretched)} stretched, ${percent(uneven)} uneven${light}` };
  });
}
