import { cross, normalized, subtract, type Vec3 } from '../math/index.js';
import type { Distance } from '../hull/index.js';
import type { Mesh } from '../mesh/index.js';
import { firstHit, type SolidDistance } from '../solid/index.js';

/** Shapes that a ray goes through one after the other; more is as good as out. */
const MAX_SHAPES = 64;

export interface FilledAheadOptions {
  /** the distance function of the shape that covers a point deepest; undefined where none does */
  covering: (x: number, y: number, z: number) => Distance | undefined;
  /** diagonal of the art, metres */
  size: number;
}

/**
 * For each vertex of the art that shapes cover, how much of what is filled lies in front of its faces: the way
 * out along a face's normal until no shape or the art itself is met. A hollow that is filled is as deep as
 * that, however thin the wall behind it.
 *
 * @param vertices [n]: metres outside the shapes, negative inside; what is covered is lowered in place
 */
export function markFilledAhead(
  mesh: Pick<Mesh, 'positions' | 'indices'>,
  distance: SolidDistance,
  vertices: Float32Array,
  { covering, size }: FilledAheadOptions,
): void {
  const { solid, surface } = distance;
  const lift = size * 1e-7;
  for (let f = 0; f < solid.faces; f++) {
    const normal = faceNormal(solid, f);
    if (!normal) continue;
    const corners = [0, 1, 2].map((k) => mesh.indices[solid.source[f]! * 3 + k]!);
    if (corners.every((v) => vertices[v]! > 0)) continue;
    const points = corners.map((v) => pointAt(mesh.positions, v));
    const middle = [0, 1, 2].map((k) => (points[0]![k]! + points[1]![k]! + points[2]![k]!) / 3) as Vec3;
    corners.forEach((v, c) => {
      if (vertices[v]! > 0) return;
      // A little into the face, so that the walls beside a corner are not met at once.
      const from = points[c]!.map((x, k) => x + (middle[k]! - x) * 1e-3 + normal[k]! * lift) as Vec3;
      const out = wayOut(from, normal, covering, size);
      if (out <= -vertices[v]!) return;
      vertices[v] = -Math.max(-vertices[v]!, firstHit(surface, from, normal, out));
    });
  }
}

/** Along a ray until no shape covers it: a convex shape is left once, and then the next may go on. */
function wayOut(
  from: Readonly<Vec3>,
  way: Readonly<Vec3>,
  covering: FilledAheadOptions['covering'],
  size: number,
): number {
  const at = (along: number): Vec3 => [
    from[0] + way[0] * along,
    from[1] + way[1] * along,
    from[2] + way[2] * along,
  ];
  let along = 0;
  for (let i = 0; i < MAX_SHAPES; i++) {
    // A hair further on: where shapes meet, the next one begins there.
    const distance = covering(...at(along + size * 1e-7));
    if (!distance) break;
    let inside = along;
    let outside = along + 2 * size;
    for (let halvings = 0; halvings < 32; halvings++) {
      const middle = (inside + outside) / 2;
      if (distance(...at(middle)) <= 0) inside = middle;
      else outside = middle;
    }
    if (inside <= along) break;
    along = inside;
  }
  return along;
}

const pointAt = (p: ArrayLike<number>, v: number): Vec3 => [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];

function faceNormal(
  { positions, indices }: { positions: Float64Array; indices: Uint32Array },
  f: number,
): Vec3 | null {
  const [a, b, c] = [0, 1, 2].map((k) => pointAt(positions, indices[f * 3 + k]!)) as [Vec3, Vec3, Vec3];
  const n = cross(subtract(b, a), subtract(c, a));
  return Math.hypot(...n) > 0 ? normalized(n) : null;
}
