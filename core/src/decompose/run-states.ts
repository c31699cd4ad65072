import { add, diagonalOf, distance, dot, scaled, subtract, type Vec3 } from '../math/index.js';
import { equalPlaces, type MeasuredLine, measured, placeAt, wayAt } from './along-line.js';
import { type CentreLine, findCentreLine } from './centre-line.js';
import { cutCandidates } from './cut-candidates.js';
import {
  type CutPlane,
  cutFragment,
  type Fragment,
  fragmentBounds,
  fragmentVolume,
  joinFragments,
  planeThrough,
  splitFragment,
} from './fragment.js';
import type { State } from './hand-out.js';
import type { Mirror } from './mirror.js';
import { type ConvexPart, convexPartOf, reachesInto, type DecompositionContext } from './convex-part.js';

/** A plane that resolves this share of all concave edges cuts at a corner, not through a bend. */
const CORNER_SHARE = 0.2;
const TRIED = 8;
/** A run so many times as long as its bounds lies in coils. */
const COIL_LENGTHS = 4;
/** A joint nearer to the plane of symmetry than this share of a length, and so far along its normal, is meant to lie in it. */
const NEAR_JOINT_SHARE = 0.05;
const MIN_ALONG = 0.9;
/** Counts that a run is cut into. */
const COUNTS = [1, 2, 3, 4, 6, 8, 12, 16, 24, 32, 48, 64];

/**
 * A bent tube, rail or ring in pieces of equal length, for each useful count until they stand off by no more than
 * `enough` metres; null when the piece is no run, is straight, lies in coils, or a clearance is in its way.
 */
export function runStates(
  piece: ConvexPart,
  maxShapes: number,
  enough: number,
  mirror: Mirror | null,
  context: DecompositionContext,
): State[] | null {
  const { fragment } = piece;
  if (!fragment || piece.standOff < context.size * 1e-3 || piece.volume <= 0) return null;
  // Where one plane takes away much of the hollow, corners are sharp and plain cuts do better.
  if (cutCandidates(fragment, TRIED).planes.some(({ resolves }) => resolves > CORNER_SHARE)) return null;
  const run = findCentreLine(fragment.points, fragment.triangles.subarray(0, fragment.faces * 3), () =>
    context.progress(-1),
  );
  if (!run || !isWhole(run, fragment)) return null;
  if (run.length > COIL_LENGTHS * diagonalOf(fragmentBounds(fragment))) return null;
  const line = measured(mirror && run.closed ? fromPlane(run.line, mirror.cut) : run.line, run.closed);
  const states: State[] = [];
  const worst = (state: State) => Math.max(...state.map((part) => part.standOff));
  for (const count of COUNTS) {
    if (count > maxShapes) break;
    const state =
      count === 1 ? [piece] : equalPieces(fragment, line, run.radius, count, piece.group, mirror, context);
    if (!state || state.some((part) => reachesInto(part, context))) {
      if (count === 1) continue;
      return null;
    }
    states.push(state);
    // Turns of a coil lie beside each other: its pieces would be cut through several at once.
    if (count >= 8 && worst(state) > piece.standOff * 0.6) return null;
    if (worst(state) <= enough) break;
  }
  return states.length > 1 && worst(states.at(-1)!) < piece.standOff * 0.6 ? states : null;
}

/** Nearly all of the solid is section times length: nothing branches off. */
function isWhole(run: CentreLine, fragment: Fragment): boolean {
  const volume = fragmentVolume(fragment);
  return Math.abs(run.area * run.length - volume) < 0.2 * volume;
}

function equalPieces(
  fragment: Fragment,
  line: MeasuredLine,
  radius: number,
  count: number,
  group: number,
  mirror: Mirror | null,
  context: DecompositionContext,
): State | null {
  const joints = equalPlaces(line, count)
    .map((s): Joint => ({ at: placeAt(line, s), way: wayAt(line, s, radius) }))
    .map((joint) => (mirror ? ontoPlane(joint, mirror.cut, line.length / count) : joint));
  const eps = diagonalOf(fragmentBounds(fragment)) * 1e-8;
  const state: State = [];
  for (let i = 0; i < count; i++) {
    context.progress(-1);
    const from = line.closed || i > 0 ? joints[i]! : null;
    const to = line.closed || i + 1 < count ? joints[(i + 1) % joints.length]! : null;
    const middle = placeAt(line, (line.length * (i + 0.5)) / count);
    let part: Fragment | null = fragment;
    if (from) part = part && cutFragment(part, planeThrough(from.at, scaled(from.way, -1)), eps)[0];
    if (to) part = part && cutFragment(part, planeThrough(to.at, to.way), eps)[0];
    if (!part) return null;
    // The same two planes may also cut the run elsewhere: what lies away from this stretch is not meant.
    const reach = line.length / count / 2 + radius;
    const own = splitFragment(part).filter((f) => offPlace(f, middle) <= reach);
    if (!own.length) return null;
    state.push(convexPartOf(joinFragments(own), group, context, state));
  }
  return state.every((part) => part.hull) ? state : null;
}

interface Joint {
  at: Vec3;
  way: Vec3;
}

/** A joint that all but lies in the plane that art is mirrored over lies in it: the lengths beside it are images. */
function ontoPlane(joint: Joint, { nx, ny, nz, d }: CutPlane, length: number): Joint {
  const normal: Vec3 = [nx, ny, nz];
  const off = dot(joint.at, normal) - d;
  const along = dot(joint.way, normal);
  if (Math.abs(off) > length * NEAR_JOINT_SHARE || Math.abs(along) < MIN_ALONG) return joint;
  return { at: subtract(joint.at, scaled(normal, off)), way: scaled(normal, Math.sign(along)) };
}

/** A closed line from where it goes through a plane on; as it is when it does not. */
function fromPlane(line: readonly Vec3[], { nx, ny, nz, d }: CutPlane): readonly Vec3[] {
  const off = line.map((place) => dot(place, [nx, ny, nz]) - d);
  for (let i = 0; i < line.length; i++) {
    const next = (i + 1) % line.length;
    if (!(off[i]! < 0 && off[next]! >= 0)) continue;
    const share = off[i]! / (off[i]! - off[next]!);
    const start = add(line[i]!, scaled(subtract(line[next]!, line[i]!), share));
    const rest = [...line.slice(next), ...line.slice(0, next)];
    return off[next] === 0 ? rest : [start, ...rest];
  }
  return line;
}

function offPlace({ points }: Fragment, place: Vec3): number {
  let least = Infinity;
  for (let i = 0; i < points.length; i += 3)
    least = Math.min(least, distance([points[i]!, points[i + 1]!, points[i + 2]!], place));
  return least;
}
