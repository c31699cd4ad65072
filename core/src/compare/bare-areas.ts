import { triangleArea, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import type { BareArea } from './judge-set.js';

/**
 * Lists of faces as areas with their size and the corner or middle of a face that stands out most, the largest first.
 *
 * @param off metres that a place is outside all shapes
 */
export function areasOfFaces(
  { positions: p, indices }: Pick<Mesh, 'positions' | 'indices'>,
  lists: readonly (readonly number[])[],
  off: (x: number, y: number, z: number) => number,
): BareArea[] {
  const corner = (f: number, c: number): Vec3 => {
    const v = indices[f * 3 + c]! * 3;
    return [p[v]!, p[v + 1]!, p[v + 2]!];
  };
  // Faces share their corners.
  const known = new Map<number, number>();
  const cornerOff = (v: number): number => {
    const here = known.get(v) ?? off(p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!);
    known.set(v, here);
    return here;
  };
  return lists
    .map((faces): BareArea => {
      let most = 0;
      let at: Vec3 = corner(faces[0]!, 0);
      const ask = (place: Vec3, here = off(...place)) => {
        if (here <= most) return;
        most = here;
        at = place;
      };
      let area = 0;
      for (const f of faces) {
        const [a, b, c] = [corner(f, 0), corner(f, 1), corner(f, 2)];
        [a, b, c].forEach((place, k) => ask(place, cornerOff(indices[f * 3 + k]!)));
        ask([0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3) as Vec3);
        area += triangleArea(p, ...cornersOf(indices, f));
      }
      return { area, most, at, faces: faces.length };
    })
    .sort((a, b) => b.area - a.area);
}

const cornersOf = (indices: ArrayLike<number>, f: number): [number, number, number] => [
  indices[f * 3]! * 3,
  indices[f * 3 + 1]! * 3,
  indices[f * 3 + 2]! * 3,
];
