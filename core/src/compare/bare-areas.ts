import { triangleArea, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import type { BareArea } from './judge-set.js';

/**
 * Lists of faces as areas with their size and the vertex that stands out most, the largest first.
 *
 * @param vertices [n]: metres that each vertex stands out of all shapes
 */
export function areasOfFaces(
  { positions: p, indices }: Pick<Mesh, 'positions' | 'indices'>,
  lists: readonly (readonly number[])[],
  vertices: Float32Array,
): BareArea[] {
  return lists
    .map((faces): BareArea => {
      const corners = faces.flatMap((f) => [indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!]);
      const worst = corners.reduce((a, b) => (vertices[b]! > vertices[a]! ? b : a));
      return {
        area: faces.reduce((sum, f) => sum + triangleArea(p, ...cornersOf(indices, f)), 0),
        most: Math.max(0, vertices[worst]!),
        at: [p[worst * 3]!, p[worst * 3 + 1]!, p[worst * 3 + 2]!] as Vec3,
        faces: faces.length,
      };
    })
    .sort((a, b) => b.area - a.area);
}

const cornersOf = (indices: ArrayLike<number>, f: number): [number, number, number] => [
  indices[f * 3]! * 3,
  indices[f * 3 + 1]! * 3,
  indices[f * 3 + 2]! * 3,
];
