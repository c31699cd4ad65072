import {
  add,
  axesFrom,
  cross,
  distance,
  distanceToSegment,
  dot,
  normalized,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';
import type { HullShape } from '../shape/index.js';
import { equalPlaces, measured, placeAt } from './along-line.js';
import { type CentreLine, findCentreLine } from './centre-line.js';
import { DecomposeError } from './decompose-error.js';

export interface ChainOptions {
  /** how many boxes; or as many as `tolerance` asks for */
  count?: number;
  /** metres that the chain may lie off the line. Default: a tenth of the section */
  tolerance?: number;
}

/** Boxes of a chain at most. */
export const MAX_LINKS = 256;

/**
 * A chain of boxes along a line: each closed, of the same section, mitred so that neighbours meet face on face
 * without going into each other. A mitred box is a hull of eight corners.
 *
 * @param line places along it, two or more
 * @param half half of the width and of the height of the section; the height lies as near to up as it can
 * @throws DecomposeError when the line has no length, or is bent so sharply that mitres would cross
 */
export function chainAlong(
  line: readonly Vec3[],
  half: readonly [number, number],
  { closed = false }: { closed?: boolean } = {},
): HullShape[] {
  const n = line.length;
  if (n < (closed ? 3 : 2))
    throw new DecomposeError('A chain needs a line of two places or more, three when it closes.');
  const links = closed ? n : n - 1;
  const ways = Array.from({ length: links }, (_, i) => normalized(subtract(line[(i + 1) % n]!, line[i]!)));
  if (ways.some((way) => Math.hypot(...way) < 0.5))
    throw new DecomposeError('Two places of the line are the same; leave one of them out.');
  const first = axesFrom(ways[0]!, Math.abs(ways[0]![1]) < 0.95 ? cross([0, 1, 0], ways[0]!) : [1, 0, 0]);
  let [side, , up] = first;
  const shapes: HullShape[] = [];
  for (let i = 0; i < links; i++) {
    const way = ways[i]!;
    const before = i > 0 ? ways[i - 1]! : closed ? ways[links - 1]! : way;
    const after = i + 1 < links ? ways[i + 1]! : closed ? ways[0]! : way;
    if (dot(before, way) < -0.98)
      throw new DecomposeError(`The line turns back on itself at place ${i + 1}.`);
    if (i > 0) {
      // Mirrored in the mitre plane: the two prisms then meet it in the very same corners.
      const mitre = normalized(add(before, way));
      side = subtract(side, scaled(mitre, 2 * dot(side, mitre)));
      up = subtract(up, scaled(mitre, 2 * dot(up, mitre)));
    }
    const corners: Vec3[] = [];
    for (const [place, normal] of [
      [line[i]!, normalized(add(before, way))],
      [line[(i + 1) % n]!, normalized(add(way, after))],
    ] as const)
      for (const [s, t] of [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ] as const) {
        const corner = add(place, add(scaled(side, s * half[0]), scaled(up, t * half[1])));
        const slide = dot(subtract(place, corner), normal) / dot(way, normal);
        corners.push(add(corner, scaled(way, slide)));
      }
    for (let k = 0; k < 4; k++)
      if (dot(subtract(corners[k + 4]!, corners[k]!), way) <= 0)
        throw new DecomposeError(
          `The line bends too sharply at place ${i + 1} for boxes ${(2 * half[0]).toPrecision(2)} m wide; use fewer or narrower ones.`,
        );
    shapes.push({ kind: 'hull', points: corners.flat(), faces: facesOut(corners, way) });
  }
  return shapes;
}

/** The six faces of a prism of four sides, turned outward whichever way its frame is mirrored. */
function facesOut(corners: readonly Vec3[], way: Vec3): number[][] {
  const faces = [
    [3, 2, 1, 0],
    [4, 5, 6, 7],
    [0, 1, 5, 4],
    [1, 2, 6, 5],
    [2, 3, 7, 6],
    [3, 0, 4, 7],
  ];
  const turn = cross(subtract(corners[1]!, corners[0]!), subtract(corners[2]!, corners[0]!));
  return dot(turn, way) > 0 ? faces : faces.map((face) => [...face].reverse());
}

/** What was found of a run, and the chain laid along it. */
export interface RunChain {
  run: CentreLine;
  /** where its boxes meet, and half of their width and height: `chainAlong` makes the same of it */
  places: Vec3[];
  half: [number, number];
  shapes: HullShape[];
}

/**
 * Find the run of a tubular or prismatic mesh and lay a chain of boxes along it, wide enough to hold it.
 *
 * @throws DecomposeError when the mesh is no run
 */
export function chainOfRun(
  points: ArrayLike<number>,
  triangles: ArrayLike<number>,
  options: ChainOptions = {},
): RunChain {
  const run = findCentreLine(points, triangles);
  if (!run) throw new DecomposeError('This is no run: its sections are not alike along any line.');
  const line = measured(run.line, run.closed);
  const tolerance = options.tolerance ?? run.radius * 0.1;
  const least = run.closed ? 3 : 1;
  const at = (count: number) => equalPlaces(line, count).map((s) => placeAt(line, s));
  let count = options.count ?? least;
  if (options.count === undefined)
    while (count < MAX_LINKS && offLine(run.line, at(count), run.closed) > tolerance) count++;
  if (count < least || count > MAX_LINKS)
    throw new DecomposeError(`A chain here has ${least} to ${MAX_LINKS} boxes, not ${count}.`);
  // Where that many would be too short to be mitred, fewer do; a count that was asked for is kept or refused.
  for (; ; count--) {
    try {
      return { run, ...linksRound(points, at(count), run) };
    } catch (error) {
      if (options.count !== undefined || count <= least || !(error instanceof DecomposeError)) throw error;
    }
  }
}

function linksRound(
  points: ArrayLike<number>,
  places: Vec3[],
  run: CentreLine,
): Pick<RunChain, 'places' | 'half' | 'shapes'> {
  // The section as the chain itself sees it: how far the art reaches aside of its links.
  const probe = chainAlong(places, [run.radius * 1e-3, run.radius * 1e-3], { closed: run.closed });
  const half = reachAside(points, probe);
  return { places, half, shapes: chainAlong(places, half, { closed: run.closed }) };
}

/** How far a line lies off a chain of straight links at most. */
function offLine(line: readonly Vec3[], places: readonly Vec3[], closed: boolean): number {
  const links = closed ? places.length : places.length - 1;
  return Math.max(
    ...line.map((p) => {
      let least = Infinity;
      for (let i = 0; i < links; i++) {
        least = Math.min(least, distanceToSegment(p, places[i]!, places[(i + 1) % places.length]!));
      }
      return least;
    }),
  );
}

/** Half the width and height of the section that holds all points, each measured in the link it is nearest to. */
function reachAside(points: ArrayLike<number>, thin: readonly HullShape[]): [number, number] {
  const frames = thin.map(({ points: q }) => {
    const at = (v: number): Vec3 => [q[v * 3]!, q[v * 3 + 1]!, q[v * 3 + 2]!];
    const middle = (vs: number[]) => scaled(vs.map(at).reduce(add), 1 / vs.length);
    const [from, to] = [middle([0, 1, 2, 3]), middle([4, 5, 6, 7])];
    const way = normalized(subtract(to, from));
    const aside = subtract(at(1), at(0));
    const side = normalized(subtract(aside, scaled(way, dot(aside, way))));
    return { from, length: distance(from, to), way, side, up: cross(way, side) };
  });
  let wide = 0;
  let high = 0;
  for (let i = 0; i < points.length; i += 3) {
    const p: Vec3 = [points[i]!, points[i + 1]!, points[i + 2]!];
    let least = Infinity;
    let own: [number, number] = [0, 0];
    for (const { from, length, way, side, up } of frames) {
      const d = subtract(p, from);
      const along = dot(d, way);
      const beyond = Math.max(0, -along, along - length);
      const [s, t] = [Math.abs(dot(d, side)), Math.abs(dot(d, up))];
      const off = Math.hypot(beyond, s, t);
      if (off >= least) continue;
      least = off;
      own = [s, t];
    }
    wide = Math.max(wide, own[0]);
    high = Math.max(high, own[1]);
  }
  return [wide, high];
}
