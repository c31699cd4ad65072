import { type Mesh, unitFaceNormals } from '../mesh/index.js';

/** What of a surface is walked up: steps, and slopes. Lengths are in the unit of the positions. */
export interface Walkable {
  /** level treads one above the other; null where there are fewer than three */
  stairs: { steps: number; rise: number; run: number } | null;
  /** the steepest slope that takes up a tenth of what looks upwards, and is no level and no wall; null without one */
  slopeDegrees: number | null;
}

const LEVEL_DEGREES = 2;
const WALL_DEGREES = 75;
/** A tread has at least this share of what looks upwards. */
const LEAST_TREAD_SHARE = 0.01;
const LEAST_SLOPE_SHARE = 0.1;
/** Slopes are told apart by so many degrees. */
const SLOPE_STEP_DEGREES = 1;

/**
 * Step height and slope of stairs and ramps: level faces are put together by their height, and what follows each other
 * within twice the commonest rise are steps; the rise told is the greatest, the run the mean way on from tread to tread.
 */
export function walkable(mesh: Mesh): Walkable {
  const normals = unitFaceNormals(mesh);
  const { positions: p, indices } = mesh;
  const level: { height: number; area: number; x: number; z: number }[] = [];
  const slopes = new Map<number, number>();
  let upward = 0;
  for (let f = 0; f < indices.length / 3; f++) {
    const up = normals[f * 3 + 1]!;
    if (up <= 0) continue;
    const corner = (k: number) => indices[f * 3 + k]! * 3;
    const [a, b, c] = [corner(0), corner(1), corner(2)];
    const flat =
      Math.abs((p[b]! - p[a]!) * (p[c + 2]! - p[a + 2]!) - (p[b + 2]! - p[a + 2]!) * (p[c]! - p[a]!)) / 2;
    const degrees = (Math.acos(Math.min(1, up)) * 180) / Math.PI;
    if (degrees >= WALL_DEGREES) continue;
    upward += flat;
    const mean = (k: number) => (p[a + k]! + p[b + k]! + p[c + k]!) / 3;
    if (degrees <= LEVEL_DEGREES) level.push({ height: mean(1), area: flat, x: mean(0), z: mean(2) });
    else {
      const step = Math.round(degrees / SLOPE_STEP_DEGREES);
      slopes.set(step, (slopes.get(step) ?? 0) + flat);
    }
  }
  const steep = [...slopes].filter(([, area]) => area >= upward * LEAST_SLOPE_SHARE).map(([step]) => step);
  return {
    stairs: stairsOf(treadsOf(level, upward)),
    slopeDegrees: steep.length ? Math.max(...steep) * SLOPE_STEP_DEGREES : null,
  };
}

interface Tread {
  height: number;
  area: number;
  x: number;
  z: number;
}

/** Level faces of one height together, lowest first; small ones are rims. */
function treadsOf(level: readonly Tread[], upward: number): Tread[] {
  const span =
    Math.max(0, ...level.map(({ height }) => height)) - Math.min(0, ...level.map(({ height }) => height));
  const same = Math.max(span * 1e-3, 1e-9);
  const treads: Tread[] = [];
  for (const face of [...level].sort((a, b) => a.height - b.height)) {
    const last = treads.at(-1);
    if (!last || face.height - last.height > same) {
      treads.push({ ...face });
      continue;
    }
    const area = last.area + face.area || 1;
    const mixed = (k: 'x' | 'z') => (last[k] * last.area + face[k] * face.area) / area;
    [last.x, last.z, last.area] = [mixed('x'), mixed('z'), area];
  }
  return treads.filter(({ area }) => area >= upward * LEAST_TREAD_SHARE);
}

function stairsOf(treads: readonly Tread[]): Walkable['stairs'] {
  if (treads.length < 3) return null;
  const rises = treads.slice(1).map(({ height }, i) => height - treads[i]!.height);
  const common = [...rises].sort((a, b) => a - b)[rises.length >> 1]!;
  const steps = rises.flatMap((rise, i) => (rise <= common * 2 ? [i] : []));
  if (steps.length < 2) return null;
  const runs = steps.map((i) => Math.hypot(treads[i + 1]!.x - treads[i]!.x, treads[i + 1]!.z - treads[i]!.z));
  return {
    steps: steps.length,
    rise: Math.max(...steps.map((i) => rises[i]!)),
    run: runs.reduce((sum, run) => sum + run, 0) / runs.length,
  };
}
