import { triangleArea, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';

/** A connected area of art that no shape covers. */
export interface BareArea {
  /** square metres */
  area: number;
  /** the most that it stands out, metres, and where */
  most: number;
  at: Vec3;
  faces: number;
}

/**
 * Lists of faces as areas with their size and the place that stands out most, the largest first.
 *
 * @param mostOf the place of a face that stands out most
 */
export function areasOfFaces(
  { positions: p, indices }: Pick<Mesh, 'positions' | 'indices'>,
  lists: readonly (readonly number[])[],
  mostOf: (face: number) => { off: number; at: Vec3 },
): BareArea[] {
  return lists
    .map((faces): BareArea => {
      let most = mostOf(faces[0]!);
      let area = 0;
      for (const f of faces) {
        const here = mostOf(f);
        if (here.off > most.off) most = here;
        area += triangleArea(p, indices[f * 3]! * 3, indices[f * 3 + 1]! * 3, indices[f * 3 + 2]! * 3);
      }
      return { area, most: most.off, at: most.at, faces: faces.length };
    })
    .sort((a, b) => b.area - a.area);
}
