import { convexHull } from '../hull/index.js';
import { lengthText } from '../math/figures.js';
import { boundsOf, quatFromAxes, type Vec3 } from '../math/index.js';
import { borderLoops, faceNeighbours, type Mesh, weld } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';
import { DecomposeError } from './decompose-error.js';

export interface BorderWallOptions {
  /** metres */
  height: number;
  /** metres */
  thickness: number;
  /** `outside`: the border is the wall's inner foot, nothing of the floor is lost; `inside`: the wall stands on it. Default outside */
  side?: 'outside' | 'inside';
  /** boxes lie level; hulls follow the border up and down and meet in mitres. Default hulls */
  as?: 'boxes' | 'hulls';
  /** metres that a wall may lie off the border. Default: a tenth of the thickness */
  tolerance?: number;
  /** whether the short ends of a long floor get walls, too. Default true */
  ends?: boolean;
  /** only borders longer than this, metres, get walls. Default: all */
  shortest?: number;
}

/** Walls of one border at most. */
const MAX_WALLS = 256;

/** Walls that are thicker than the floor is wide, or than half of it when they stand on it, meet across it. */
function refuseThick(places: readonly Vec3[], thickness: number, side: 'outside' | 'inside'): void {
  const { min, max } = boundsOf(places.flat());
  const wide = Math.min(max[0] - min[0], max[2] - min[2]);
  const most = side === 'inside' ? wide / 2 : wide;
  if (thickness < most || !(wide > 0)) return;
  throw new DecomposeError(
    `Walls ${lengthText(thickness)} thick are too thick for a floor ${lengthText(wide)} wide; make them thinner than ${lengthText(most)}.`,
  );
}

/**
 * Walls along the open borders of a floor, upright, one convex shape for each straight stretch; neighbours meet in
 * mitres and do not go into each other.
 *
 * @throws DecomposeError when there is no open border, or far too many stretches
 */
export function borderWalls(mesh: Mesh, options: BorderWallOptions): Shape[] {
  const { height, thickness, side = 'outside', as = 'hulls' } = options;
  if (!(height > 0) || !(thickness > 0))
    throw new DecomposeError('Walls need a height and a thickness above 0.');
  const tolerance = options.tolerance ?? thickness / 10;
  const { loops, apex } = bordersOf(mesh);
  const p = mesh.positions;
  const at = (v: number): Vec3 => [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
  const shapes: Shape[] = [];
  for (const loop of loops) {
    const long = loop.reduce(
      (sum, v, i) => sum + Math.hypot(...minus(at(loop[(i + 1) % loop.length]!), at(v))),
      0,
    );
    if (long < (options.shortest ?? 0)) continue;
    const kept = straightened(loop.map(at), tolerance);
    if (kept.length < 2) continue;
    const places = kept.map((i) => at(loop[i]!));
    refuseThick(places, thickness, side);
    const isEnd = options.ends === false ? shortEnds(places) : new Set<number>();
    const out = kept.map((i, k) => {
      const j = kept[(k + 1) % kept.length]!;
      return awayFrom(at(loop[i]!), at(loop[j]!), at(apex(loop[i]!, loop[(i + 1) % loop.length]!)));
    });
    const sign = side === 'outside' ? 1 : -1;
    for (let k = 0; k < kept.length; k++) {
      const [a, b] = [at(loop[kept[k]!]!), at(loop[kept[(k + 1) % kept.length]!]!)];
      const own = out[k]!;
      if (!own || isEnd.has(k)) continue;
      const before = out[(k + kept.length - 1) % kept.length] ?? own;
      const after = out[(k + 1) % kept.length] ?? own;
      shapes.push(
        as === 'boxes'
          ? levelBox(a, b, own, thickness * sign, height)
          : wallBetween(
              a,
              b,
              mitre(before, own, thickness * sign),
              mitre(own, after, thickness * sign),
              height,
            ),
      );
      if (shapes.length > MAX_WALLS)
        throw new DecomposeError(
          `The border has more than ${MAX_WALLS} straight stretches; allow it to lie further off.`,
        );
    }
  }
  if (!shapes.length) throw new DecomposeError('There is no open border to raise walls along.');
  return shapes;
}

/** A border that turns by more than this, as a cosine, turns a corner of the floor. */
const CORNER_COSINE = Math.cos((50 * Math.PI) / 180);
/** A side shorter than this share of the longest is an end. */
const END_SHARE = 0.4;

/** Of a closed line the stretches that are the short ends of it: between two corners, and short beside the other sides. */
function shortEnds(places: readonly Vec3[]): Set<number> {
  const n = places.length;
  const ways = places.map((p, k) => {
    const [x, , z] = minus(places[(k + 1) % n]!, p);
    const long = Math.hypot(x, z) || 1;
    return { x: x / long, z: z / long, long };
  });
  const turns = (k: number) => {
    const [a, b] = [ways[(k + n - 1) % n]!, ways[k]!];
    return a.x * b.x + a.z * b.z < CORNER_COSINE;
  };
  const first = ways.findIndex((_, k) => turns(k));
  if (first < 0) return new Set();
  const sides: { stretches: number[]; long: number }[] = [];
  for (let i = 0; i < n; i++) {
    const k = (first + i) % n;
    if (turns(k)) sides.push({ stretches: [], long: 0 });
    const side = sides[sides.length - 1]!;
    side.stretches.push(k);
    side.long += ways[k]!.long;
  }
  const longest = Math.max(...sides.map(({ long }) => long));
  return new Set(sides.flatMap(({ stretches, long }) => (long < longest * END_SHARE ? stretches : [])));
}

const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** Open borders, and for each of their edges the far corner of its face. */
function bordersOf(mesh: Mesh): { loops: number[][]; apex: (from: number, to: number) => number } {
  const joined = weld(mesh.positions);
  const neighbours = faceNeighbours(mesh, joined);
  const far = new Map<string, number>();
  const key = (a: number, b: number) => `${Math.min(a, b)},${Math.max(a, b)}`;
  for (let s = 0; s < neighbours.length; s++) {
    if (neighbours[s] !== -1) continue;
    const next = s % 3 === 2 ? s - 2 : s + 1;
    const last = next % 3 === 2 ? next - 2 : next + 1;
    const [a, b] = [joined.remap[mesh.indices[s]!]!, joined.remap[mesh.indices[next]!]!];
    far.set(key(a, b), mesh.indices[last]!);
  }
  return {
    loops: borderLoops(mesh, joined, neighbours),
    apex: (from, to) => far.get(key(joined.remap[from]!, joined.remap[to]!)) ?? from,
  };
}

/** The places of a closed line that a line through fewer needs, so that none lies off it further than the tolerance (Douglas and Peucker, 1973). */
function straightened(line: readonly Vec3[], tolerance: number): number[] {
  const n = line.length;
  let far = 0;
  for (let i = 1; i < n; i++)
    if (Math.hypot(...minus(line[i]!, line[0]!)) > Math.hypot(...minus(line[far]!, line[0]!))) far = i;
  if (far === 0) return [];
  const keep = new Set([0, far]);
  const spans: [number, number][] = [
    [0, far],
    [far, n],
  ];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [i, j] = span;
    let at = -1;
    let most = tolerance;
    for (let k = i + 1; k < j; k++) {
      const off = offSegment(line[k]!, line[i]!, line[j % n]!);
      if (off <= most) continue;
      most = off;
      at = k;
    }
    if (at < 0) continue;
    keep.add(at);
    spans.push([i, at], [at, j]);
  }
  return [...keep].sort((a, b) => a - b);
}

function offSegment(p: Vec3, a: Vec3, b: Vec3): number {
  const ab = minus(b, a);
  const ap = minus(p, a);
  const square = ab[0] ** 2 + ab[1] ** 2 + ab[2] ** 2 || 1;
  const t = Math.min(1, Math.max(0, (ap[0] * ab[0] + ap[1] * ab[1] + ap[2] * ab[2]) / square));
  return Math.hypot(ap[0] - ab[0] * t, ap[1] - ab[1] * t, ap[2] - ab[2] * t);
}

/** The level direction across a stretch of border, away from the face that it bounds; null for an upright one. */
function awayFrom(a: Vec3, b: Vec3, apex: Vec3): [number, number] | null {
  const [x, z] = [b[0] - a[0], b[2] - a[2]];
  const l = Math.hypot(x, z);
  if (l < 1e-9) return null;
  const across: [number, number] = [-z / l, x / l];
  const inward = across[0] * (apex[0] - a[0]) + across[1] * (apex[2] - a[2]);
  return inward > 0 ? [-across[0], -across[1]] : across;
}

/** From a corner to where two walls so thick meet outside; a very sharp corner is cut off. */
function mitre([ax, az]: [number, number], [bx, bz]: [number, number], thickness: number): [number, number] {
  const [x, z] = [ax + bx, az + bz];
  const square = x * x + z * z;
  if (square < 0.15) return [bx * thickness, bz * thickness];
  return [(2 * x * thickness) / square, (2 * z * thickness) / square];
}

function wallBetween(a: Vec3, b: Vec3, atA: [number, number], atB: [number, number], height: number): Shape {
  const feet = [a, b, [a[0] + atA[0], a[1], a[2] + atA[1]], [b[0] + atB[0], b[1], b[2] + atB[1]]];
  const points = feet.flatMap((p) => [p[0]!, p[1]!, p[2]!, p[0]!, p[1]! + height, p[2]!]);
  const result = convexHull(points);
  if (result.span !== 'solid') throw new DecomposeError('A stretch of the border is too short for a wall.');
  return { kind: 'hull', points: [...result.hull.points], faces: result.hull.faces };
}

function levelBox(a: Vec3, b: Vec3, [ox, oz]: [number, number], thickness: number, height: number): Shape {
  const long = Math.hypot(b[0] - a[0], b[2] - a[2]);
  const [low, high] = [Math.min(a[1], b[1]), Math.max(a[1], b[1]) + height];
  const x: Vec3 = [(b[0] - a[0]) / long, 0, (b[2] - a[2]) / long];
  const half = thickness / 2;
  return {
    kind: 'box',
    center: [(a[0] + b[0]) / 2 + ox * half, (low + high) / 2, (a[2] + b[2]) / 2 + oz * half],
    halfExtents: [long / 2, (high - low) / 2, Math.abs(half)],
    rotation: quatFromAxes(x, [0, 1, 0], [-x[2], 0, x[0]]),
  };
}
