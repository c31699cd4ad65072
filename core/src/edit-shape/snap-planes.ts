import { dot, type Vec3 } from '../math/index.js';
import type { Shape } from '../shape/index.js';
import { shapeHandles } from './handles.js';

/** A place along a direction that something dragged along it is caught by. */
export interface SnapPlane {
  /** metres along the direction, from the origin */
  along: number;
  /** "face of 3", "face of the art", "grid 0.5 m" */
  name: string;
}

/** Faces turned out of a direction by less than this are taken for parallel to it: half a degree. */
const PARALLEL_COSINE = Math.cos(Math.PI / 360);
/** Faces of the art in one plane, as a share of the size, and how much of the largest plane's area one needs to count. */
const PLANE_SHARE = 1e-4;
const MIN_AREA_SHARE = 0.02;

/** The flat faces of shapes that lie across a direction. */
export function planesOfShapes(
  direction: Readonly<Vec3>,
  shapes: readonly { name: string; shape: Shape }[],
): SnapPlane[] {
  return shapes.flatMap(({ name, shape }) =>
    shapeHandles(shape)
      .filter(({ moves, normal }) => moves === 'face' && Math.abs(dot(normal, direction)) > PARALLEL_COSINE)
      .map(({ at }) => ({ along: dot(at, direction), name })),
  );
}

/**
 * The planes that faces of art lie in across a direction: those with the most area, each once.
 *
 * @param positions [3n], metres from `origin`
 * @param indices [3t]
 */
export function planesOfArt(
  direction: Readonly<Vec3>,
  art: { positions: ArrayLike<number>; indices: ArrayLike<number>; origin: Readonly<Vec3> },
  name: string,
): SnapPlane[] {
  const { positions: p, indices } = art;
  const [dx, dy, dz] = direction;
  const flat: { along: number; area: number }[] = [];
  let [low, high] = [Infinity, -Infinity];
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [indices[f]! * 3, indices[f + 1]! * 3, indices[f + 2]! * 3];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const area = Math.sqrt(nx * nx + ny * ny + nz * nz);
    const along = p[a]! * dx + p[a + 1]! * dy + p[a + 2]! * dz;
    if (along < low) low = along;
    if (along > high) high = along;
    if (area > 0 && Math.abs(nx * dx + ny * dy + nz * dz) > area * PARALLEL_COSINE)
      flat.push({ along, area });
  }
  const near = (high - low) * PLANE_SHARE;
  const planes: { along: number; area: number }[] = [];
  for (const face of flat.sort((one, other) => one.along - other.along)) {
    const last = planes.at(-1);
    if (last && face.along - last.along <= near) last.area += face.area;
    else planes.push({ ...face });
  }
  const largest = planes.reduce((most, { area }) => Math.max(most, area), 0);
  const from = dot(art.origin, direction);
  return planes
    .filter(({ area }) => area >= largest * MIN_AREA_SHARE)
    .map(({ along }) => ({ along: along + from, name }));
}

/** The nearest plane within reach; null when there is none. `grid`: metres between lines that catch, 0 for none. */
export function caughtAt(
  along: number,
  planes: readonly SnapPlane[],
  { within, grid = 0, gridName = 'grid' }: { within: number; grid?: number; gridName?: string },
): SnapPlane | null {
  let caught: SnapPlane | null = null;
  for (const plane of planes) {
    const off = Math.abs(plane.along - along);
    if (off <= within && (!caught || off < Math.abs(caught.along - along))) caught = plane;
  }
  // A face of something that is there counts before a line of the grid.
  if (caught || !(grid > 0)) return caught;
  const line = Math.round(along / grid) * grid;
  return Math.abs(line - along) <= within ? { along: line, name: gridName } : null;
}
