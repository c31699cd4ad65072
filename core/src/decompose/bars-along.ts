import { exactBox } from '../fit/index.js';
import { convexHull, hullShape } from '../hull/index.js';
import { add, dot, normalized, scaled, subtract, type Vec3 } from '../math/index.js';
import type { EdgeLine, Mesh } from '../mesh/index.js';
import { buildBvh, firstHit } from '../solid/index.js';
import type { Shape } from '../shape/index.js';
import { DecomposeError } from './decompose-error.js';

/** How far below the face beside an edge its depth is measured, as a share of the least depth. */
const BELOW_SHARE = 1e-2;

export interface BarsOptions {
  /** metres that a bar reaches into the faces beside the edge, where the art is no thinner */
  minMetres: number;
  maxMetres: number;
}

/**
 * Bars under an edge, one a straight stretch, each with an edge of its own along it: they lie in the art as deep as it
 * is, and meet in the mitre where the edge bends.
 *
 * @throws DecomposeError when the edge turns back on itself, or has no depth beside it
 */
export function barsAlong(
  art: Pick<Mesh, 'positions' | 'indices'>,
  { line, sides }: EdgeLine,
  { minMetres, maxMetres }: BarsOptions,
): Shape[] {
  const ways = line.slice(1).map((to, i) => normalized(subtract(to, line[i]!)));
  const closed = line.length > 3 && line[0]!.every((v, k) => v === line.at(-1)![k]);
  const depths = depthsBeside(art, { line, sides }, { minMetres, maxMetres });
  return ways.map((way, i) => {
    const before = ways[i - 1] ?? (closed ? ways.at(-1)! : way);
    const after = ways[i + 1] ?? (closed ? ways[0]! : way);
    if (Math.min(dot(before, way), dot(way, after)) < -0.98)
      throw new DecomposeError(`The edge turns back on itself at place ${i + 1}; mark a part of it.`);
    const [a, b] = sides[i]!.map((side, k) => scaled(side, depths[k]!)) as [Vec3, Vec3];
    const section = [[0, 0, 0] as Vec3, a, b, add(a, b)];
    const corners = (
      [
        [line[i]!, normalized(add(before, way))],
        [line[i + 1]!, normalized(add(way, after))],
      ] as const
    ).flatMap(([place, mitre]) =>
      section.map((off) => add(add(place, off), scaled(way, -dot(off, mitre) / dot(way, mitre)))),
    );
    const hull = convexHull(corners.flat());
    if (hull.span !== 'solid')
      throw new DecomposeError('The faces beside the edge lie in one plane; choose an edge that stands out.');
    return exactBox(Float64Array.from(corners.flat())) ?? hullShape(hull.hull);
  });
}

/** How deep the art is along both faces beside an edge, where it is thinnest, within limits. */
function depthsBeside(
  art: Pick<Mesh, 'positions' | 'indices'>,
  { line, sides }: EdgeLine,
  { minMetres, maxMetres }: BarsOptions,
): [number, number] {
  const bvh = buildBvh(art);
  const depths: [number, number] = [maxMetres, maxMetres];
  sides.forEach((both, i) => {
    const middle = line[i]!.map((v, k) => (v + line[i + 1]![k]!) / 2) as Vec3;
    both.forEach((way, k) => {
      const step = minMetres * BELOW_SHARE;
      const from = add(middle, add(scaled(both[1 - k]!, step), scaled(way, step)));
      const deep = firstHit(bvh, from, way, maxMetres) + step;
      depths[k] = Math.min(depths[k]!, Math.max(minMetres, deep));
    });
  });
  return depths;
}
