import {
  add,
  axesFrom,
  boundsOf,
  cross,
  diagonalOf,
  distance,
  dot,
  normalized,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';
import { planeSection, type SectionLoop } from './plane-section.js';

/** The line a tube, rail or beam runs along. */
export interface CentreLine {
  /** places along it, about a third of its width apart, both ends included */
  line: Vec3[];
  closed: boolean;
  /** metres along it */
  length: number;
  /** half of the section's width in any direction, at the most */
  radius: number;
  /** mean area of its section */
  area: number;
}

/** Sections may differ so much in area and still be one run. */
const MAX_AREA_RATIO = 1.7;
/** A run is at least so many times as long as it is wide. */
const MIN_LENGTH_WIDTHS = 3;
const MAX_STEPS = 1500;

/**
 * Find the run of a tubular or prismatic surface by itself: where the section across it is least the way along
 * is taken, then section after section is cut in small steps, each turned to lie across the way its middle
 * went. Null when the surface is no such run.
 *
 * @param points [3n]
 * @param triangles [3t]
 * @param progress called at every step; what it throws stops the search
 */
export function findCentreLine(
  points: ArrayLike<number>,
  triangles: ArrayLike<number>,
  progress: () => void = () => undefined,
): CentreLine | null {
  if (triangles.length < 24) return null;
  const size = diagonalOf(boundsOf(points));
  const start = narrowest(points, triangles);
  if (!start || start.loop.area <= 0) return null;
  const radius = Math.sqrt(start.loop.area / Math.PI);
  const step = Math.max(radius * 0.4, size / 600);
  const forth = march(points, triangles, start, step, 1, progress);
  if (!forth) return null;
  let line = forth.line;
  let areas = forth.areas;
  if (!forth.closed) {
    const back = march(points, triangles, start, step, -1, progress);
    if (!back) return null;
    line = [...back.line.slice(1).reverse(), ...line];
    areas = [...areas, ...back.areas];
  }
  if (line.length < 4) return null;
  const sorted = [...areas].sort((a, b) => a - b);
  const middle = sorted[sorted.length >> 1]!;
  // Ends may be rounded or cut at a slant; of the rest all sections are alike.
  const steady = areas.filter(
    (area) => area < middle * MAX_AREA_RATIO && area > middle / MAX_AREA_RATIO,
  ).length;
  if (steady < areas.length * 0.85) return null;
  let length = 0;
  for (let i = 1; i < line.length; i++) length += distance(line[i - 1]!, line[i]!);
  if (forth.closed) length += distance(line[line.length - 1]!, line[0]!);
  if (length < MIN_LENGTH_WIDTHS * 2 * radius) return null;
  return { line, closed: forth.closed, length, radius, area: middle };
}

interface Start {
  at: Vec3;
  along: Vec3;
  loop: SectionLoop;
}

/** Of some places on the surface the one, and the way through it, with the shortest outline. */
function narrowest(points: ArrayLike<number>, triangles: ArrayLike<number>): Start | null {
  const t = triangles.length / 3;
  let best: Start | null = null;
  for (let k = 0; k < 5; k++) {
    const f = Math.floor(((k + 0.5) / 5) * t) * 3;
    const [a, b, c] = [0, 1, 2].map((i) => {
      const v = triangles[f + i]! * 3;
      return [points[v]!, points[v + 1]!, points[v + 2]!] as Vec3;
    }) as [Vec3, Vec3, Vec3];
    const normal = normalized(cross(subtract(b, a), subtract(c, a)));
    if (!(Math.hypot(...normal) > 0.5)) continue;
    const at = [0, 1, 2].map((i) => a[i]! * 0.41 + b[i]! * 0.33 + c[i]! * 0.26) as Vec3;
    const [u, , w] = axesFrom(normal, [1, 0, 0]);
    const through = (angle: number): { along: Vec3; loop: SectionLoop } | null => {
      const along = add(scaled(u, Math.cos(angle)), scaled(w, Math.sin(angle)));
      const loop = nearestLoop(planeSection(points, triangles, at, along), at);
      return loop && { along, loop };
    };
    let angle = 0;
    let least = Infinity;
    for (let i = 0; i < 12; i++) {
      const found = through((i / 12) * Math.PI);
      if (found && found.loop.length < least) {
        least = found.loop.length;
        angle = (i / 12) * Math.PI;
      }
    }
    for (let turn = Math.PI / 24; turn > 0.01; turn /= 2)
      for (const tried of [angle - turn, angle + turn]) {
        const found = through(tried);
        if (!found || found.loop.length >= least) continue;
        least = found.loop.length;
        angle = tried;
      }
    const found = through(angle);
    if (found && (!best || found.loop.length < best.loop.length)) best = { at: found.loop.centre, ...found };
  }
  return best;
}

/** The loop whose outline passes nearest to a place. */
function nearestLoop(loops: readonly SectionLoop[], place: Readonly<Vec3>): SectionLoop | null {
  let best: SectionLoop | null = null;
  let least = Infinity;
  for (const loop of loops) {
    // From the middle of the outline, less what it reaches out.
    const off = distance(loop.centre, place) - loop.length / 6;
    if (off >= least) continue;
    least = off;
    best = loop;
  }
  return best;
}

function march(
  points: ArrayLike<number>,
  triangles: ArrayLike<number>,
  start: Start,
  step: number,
  way: 1 | -1,
  progress: () => void,
): { line: Vec3[]; areas: number[]; closed: boolean } | null {
  const line: Vec3[] = [start.at];
  const areas: number[] = [start.loop.area];
  let along = scaled(start.along, way);
  let gone = 0;
  for (let i = 0; i < MAX_STEPS; i++) {
    progress();
    const here = line[line.length - 1]!;
    let next = sectionNear(points, triangles, add(here, scaled(along, step)), along, start.loop);
    if (next) {
      // Turned to lie across the way the middle went, and cut again.
      const went = normalized(subtract(next.centre, here));
      if (dot(went, along) < 0.2) return null;
      const turned = normalized(add(went, scaled(along, 0.3)));
      next = sectionNear(points, triangles, add(here, scaled(turned, step)), turned, start.loop) ?? next;
      along = normalized(subtract(next.centre, here));
    }
    if (!next) {
      const end = lastPlace(points, triangles, here, along, step, start.loop);
      if (distance(end, here) > step * 0.05) line.push(end);
      return { line, areas, closed: false };
    }
    line.push(next.centre);
    areas.push(next.area);
    gone += distance(here, next.centre);
    if (
      gone > step * 6 &&
      distance(next.centre, start.at) < step * 1.01 &&
      dot(along, start.along) * way > 0.5
    ) {
      // Back where it began: the last place would stand on the first.
      if (distance(next.centre, start.at) < step * 0.5) line.pop();
      return { line, areas, closed: true };
    }
  }
  return null;
}

function sectionNear(
  points: ArrayLike<number>,
  triangles: ArrayLike<number>,
  at: Vec3,
  along: Vec3,
  like: SectionLoop,
): SectionLoop | null {
  const reach = like.length / 3;
  const near = planeSection(points, triangles, at, along).filter((loop) => distance(loop.centre, at) < reach);
  const loop = nearestLoop(near, at);
  return loop && loop.area > like.area / 8 && loop.area < like.area * 8 ? loop : null;
}

/** How far the run still goes within one step, by halving. */
function lastPlace(
  points: ArrayLike<number>,
  triangles: ArrayLike<number>,
  here: Vec3,
  along: Vec3,
  step: number,
  like: SectionLoop,
): Vec3 {
  let low = 0;
  let high = step;
  for (let i = 0; i < 20; i++) {
    const middle = (low + high) / 2;
    if (sectionNear(points, triangles, add(here, scaled(along, middle)), along, like)) low = middle;
    else high = middle;
  }
  return add(here, scaled(along, low));
}
