import { convexHull, type ConvexHull, planeOf } from '../hull/index.js';
import {
  axesFrom,
  cross,
  dot,
  normalized,
  quatFromAxes,
  rotate,
  subtract,
  type Vec3,
} from '../math/index.js';
import { type BoxShape, shapeVolume, thickened } from '../shape/index.js';
import { axisAlignedBox } from './axis-aligned-box.js';
import { mostApart } from './most-apart.js';
import { outline2d, smallestRectangle, type Vec2 } from './outline.js';
import { isDirection, refineAxis } from './refine-axis.js';

export interface MinVolumeBoxOptions {
  /** a turned box must be smaller than the axis-aligned one by this share to be taken. Default 0.01 */
  worthTurning?: number;
}

/** Directions looked at in full; of more only the ones that stand for most surface. */
const MAX_DIRECTIONS = 120;
/** How many of the best starts are followed downhill. */
const DESCENTS = 4;

/**
 * The smallest box round packed points ([3n], n > 0); the axis-aligned box when turning gains little.
 *
 * Starts are the directions of the hull's faces, of its edges and of the axes; across each the smallest
 * rectangle is exact (rotating calipers, Toussaint 1983). The best are followed downhill, because the
 * smallest box may touch with edges only (O'Rourke 1985).
 */
export function minVolumeBox(
  points: ArrayLike<number>,
  { worthTurning = 0.01 }: MinVolumeBoxOptions = {},
): BoxShape {
  const straight = axisAlignedBox(points);
  const result = convexHull(points);
  const corners = result.span === 'solid' ? result.hull.points : Float64Array.from(points);
  const directions = result.span === 'solid' ? startsOf(result.hull) : flatStarts(corners);
  const some = mostApart(corners);
  const volume = (axis: Vec3) => shapeVolume(boxAlong(axis, some));
  const starts = directions
    .filter(isDirection)
    .map((axis) => ({ axis, value: volume(axis) }))
    .sort((a, b) => a.value - b.value)
    .slice(0, DESCENTS);
  let best = straight;
  let least = shapeVolume(straight) * (1 - worthTurning);
  const offer = (box: BoxShape) => {
    const found = shapeVolume(box);
    if (found >= least) return;
    best = box;
    least = found;
  };
  for (const { axis } of starts) offer(boxAlong(axis, corners));
  // A face that lies flat is worth more than the last thousandth: downhill only when it gains.
  least *= 1 - 1e-3;
  for (const { axis } of starts) {
    const refined = refineAxis(axis, volume, { wide: 0.1, fine: 1e-4 });
    let box = boxAlong(refined.axis, corners);
    for (let round = 0; round < 4; round++) {
      const before = shapeVolume(box);
      for (const side of [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ] as Vec3[]) {
        const turned = boxAlong(rotate(box.rotation, side), corners);
        if (shapeVolume(turned) < shapeVolume(box)) box = turned;
      }
      if (shapeVolume(box) > before * (1 - 1e-6)) break;
    }
    offer(box);
  }
  return best;
}

/** The smallest box whose Y axis is the world's, round packed points ([3n], n > 0). */
export function uprightBox(
  points: ArrayLike<number>,
  { worthTurning = 0.01 }: MinVolumeBoxOptions = {},
): BoxShape {
  const straight = axisAlignedBox(points);
  const turned = boxAlong([0, 1, 0], points);
  return shapeVolume(turned) < shapeVolume(straight) * (1 - worthTurning) ? turned : straight;
}

/** The smallest box with two faces across `axis` (its own Y), round packed points ([3n], n > 0). */
export function boxAlong(axis: Readonly<Vec3>, points: ArrayLike<number>): BoxShape {
  const [u, y, v] = axesFrom(axis, [1, 0, 0]);
  const flat: Vec2[] = [];
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < points.length; i += 3) {
    const [px, py, pz] = [points[i]!, points[i + 1]!, points[i + 2]!];
    flat.push([px * u[0] + py * u[1] + pz * u[2], px * v[0] + py * v[1] + pz * v[2]]);
    const h = px * y[0] + py * y[1] + pz * y[2];
    if (h < low) low = h;
    if (h > high) high = h;
  }
  const { along, middle, half } = smallestRectangle(outline2d(flat));
  const [c, s] = along;
  const x: Vec3 = [u[0] * c + v[0] * s, u[1] * c + v[1] * s, u[2] * c + v[2] * s];
  const z: Vec3 = [v[0] * c - u[0] * s, v[1] * c - u[1] * s, v[2] * c - u[2] * s];
  const up = (low + high) / 2;
  return {
    kind: 'box',
    center: [0, 1, 2].map((k) => x[k]! * middle[0] + z[k]! * middle[1] + y[k]! * up) as Vec3,
    halfExtents: thickened([half[0], (high - low) / 2, half[1]]),
    rotation: quatFromAxes(x, y, z),
  };
}

/** Face normals and edge directions, those of the largest faces and longest edges first, opposite ones once. */
function startsOf({ points, faces }: ConvexHull): Vec3[] {
  const at = (v: number): Vec3 => [points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!];
  const normals: { axis: Vec3; weight: number }[] = [];
  const edges: { axis: Vec3; weight: number }[] = [];
  for (const face of faces) {
    const [nx, ny, nz] = planeOf(points, face);
    let area = 0;
    for (let i = 0; i < face.length; i++) {
      const [a, b, c] = [at(face[0]!), at(face[i]!), at(face[(i + 1) % face.length]!)];
      area += dot(cross(subtract(b, a), subtract(c, a)), [nx, ny, nz]);
      const edge = subtract(c, b);
      edges.push({ axis: normalized(edge), weight: Math.hypot(...edge) });
    }
    normals.push({ axis: [nx, ny, nz], weight: area });
  }
  return [...heaviest(normals), ...heaviest(edges), [1, 0, 0], [0, 1, 0], [0, 0, 1]];
}

function heaviest(weighed: { axis: Vec3; weight: number }[]): Vec3[] {
  const kept: Vec3[] = [];
  for (const { axis } of weighed.sort((a, b) => b.weight - a.weight)) {
    if (kept.length >= MAX_DIRECTIONS / 2) break;
    if (!kept.some((other) => Math.abs(dot(other, axis)) > 1 - 1e-9)) kept.push(axis);
  }
  return kept;
}

/** Directions for points in one plane or line: across the plane, and along what they span. */
function flatStarts(points: Float64Array): Vec3[] {
  const at = (i: number): Vec3 => [points[i]!, points[i + 1]!, points[i + 2]!];
  let far: Vec3 = [0, 0, 0];
  let normal: Vec3 = [0, 0, 0];
  for (let i = 3; i < points.length; i += 3) {
    const e = subtract(at(i), at(0));
    if (Math.hypot(...e) > Math.hypot(...far)) far = e;
  }
  for (let i = 3; i < points.length; i += 3) {
    const n = cross(far, subtract(at(i), at(0)));
    if (Math.hypot(...n) > Math.hypot(...normal)) normal = n;
  }
  return [normal, far].filter((v) => Math.hypot(...v) > 0).map(normalized);
}
