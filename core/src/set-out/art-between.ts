import { applyMatrix, boundsOf, invertMatrix, type Matrix, subtract, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { SolidDistance } from '../solid/index.js';

/** How deep the art of two pieces goes into each other. Lengths in metres, in the space of the first. */
export interface ArtBetween {
  metres: number;
  /** where it is deepest */
  at: Vec3;
  /** by this the second comes out of the first again, there */
  shift: Vec3;
}

/** Corners and middles of faces that are looked at, at most, of each. */
const MAX_SAMPLES = 20_000;

/** Art as it was last asked about: most questions are of the same pieces. */
const solids = new WeakMap<Mesh, SolidDistance>();

function solidOf(art: Mesh): SolidDistance {
  let solid = solids.get(art);
  if (!solid) solids.set(art, (solid = new SolidDistance(art)));
  return solid;
}

/**
 * The deepest that corners and middles of faces of either of two pieces lie in the other; null where none do. Art that
 * is open encloses nothing here: what lies in a tray is not in its wall.
 *
 * @param there from the second's own space into the first's
 */
export function artBetween(first: Mesh, second: Mesh, there: Matrix): ArtBetween | null {
  const back = invertMatrix(there);
  if (!back) return null;
  const ofSecond = deepest(second, there, first);
  const ofFirst = deepest(first, back, second);
  if (ofSecond && ofSecond.metres >= (ofFirst?.metres ?? 0)) {
    const { metres, at, out } = ofSecond;
    return { metres, at, shift: subtract(out, at) };
  }
  if (!ofFirst) return null;
  const [at, out] = [applyMatrix(there, ofFirst.at), applyMatrix(there, ofFirst.out)];
  return { metres: ofFirst.metres, at, shift: subtract(at, out) };
}

/** The sample of a mesh that lies deepest in a solid, and the nearest place out of it, in the solid's space. */
function deepest(mesh: Mesh, into: Matrix, container: Mesh): { metres: number; at: Vec3; out: Vec3 } | null {
  const solid = solidOf(container);
  const { indices, faces } = solid.solid;
  if (indices.length > 3 * faces) return null;
  const { min, max } = boundsOf(container.positions);
  let found: { metres: number; at: Vec3; out: Vec3 } | null = null;
  for (const sample of samples(mesh)) {
    const at = applyMatrix(into, sample);
    if (at.some((v, k) => v <= min[k]! || v >= max[k]!) || !solid.inside(at)) continue;
    const nearest = solid.closest(at);
    if (nearest && nearest.distance > (found?.metres ?? 0))
      found = { metres: nearest.distance, at, out: nearest.point };
  }
  return found;
}

/** Corners and middles of faces, evenly thinned where there are too many. */
function* samples({ positions, indices }: Mesh): Generator<Vec3> {
  const count = (positions.length + indices.length) / 3;
  const every = Math.max(1, Math.ceil(count / MAX_SAMPLES));
  for (let v = 0; v < positions.length; v += 3 * every)
    yield [positions[v]!, positions[v + 1]!, positions[v + 2]!];
  for (let i = 0; i < indices.length; i += 3 * every) {
    const [a, b, c] = [indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3];
    yield [0, 1, 2].map((k) => (positions[a + k]! + positions[b + k]! + positions[c + k]!) / 3) as Vec3;
  }
}
