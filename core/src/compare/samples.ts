import { areaVector } from '../math/index.js';
import type { ColumnGrid, Crossings, Runs } from '../solid/index.js';
import { type Shape, shapePolygons } from '../shape/index.js';

/** Places on a surface, with the area each stands for. */
export interface Samples {
  /** [3n] */
  points: Float64Array;
  /** [n] */
  areas: Float64Array;
  /** [n]: the triangle each is on; of corners that were added the first */
  faces: Uint32Array;
}

/** Places on a surface, and how far each stands off the other surface. */
export interface SurfacePlaces {
  /** [3n] */
  points: Float64Array;
  /** [n]: square metres that each stands for */
  areas: Float64Array;
  /** [n]: metres */
  off: Float64Array;
}

/**
 * The places where rays meet a surface, each with its share of the area: seen from three sides, a patch is met
 * as often as its normal's coordinates say. With `runs` only places outside those.
 */
export function samplesOf(
  grids: readonly ColumnGrid[],
  crossings: readonly Crossings[],
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  runs?: readonly Runs[],
): Samples {
  const points: number[] = [];
  const areas: number[] = [];
  const faces: number[] = [];
  const steep = steepness(positions, indices);
  grids.forEach(({ axis, wide, origin, cell, s, t }, g) => {
    const { start, at, face } = crossings[g]!;
    const p = [0, 0, 0];
    for (let r = 0; r + 1 < start.length; r++) {
      // Every other ray, as on a chequerboard, is enough for distances.
      if (start[r] === start[r + 1] || ((r % wide) + Math.floor(r / wide)) % 2) continue;
      p[(axis + 1) % 3] = origin[0] + ((r % wide) + s[r]!) * cell[0];
      p[(axis + 2) % 3] = origin[1] + (Math.floor(r / wide) + t[r]!) * cell[1];
      for (let k = start[r]!; k < start[r + 1]!; k++) {
        if (runs && within(runs[g]!, r, at[k]!)) continue;
        p[axis] = at[k]!;
        points.push(p[0]!, p[1]!, p[2]!);
        areas.push((2 * cell[0] * cell[1]) / steep[face[k]!]!);
        faces.push(face[k]!);
      }
    }
  });
  return {
    points: Float64Array.from(points),
    areas: Float64Array.from(areas),
    faces: Uint32Array.from(faces),
  };
}

/** [t]: sum of the coordinates of each unit normal, without sign. */
function steepness(p: ArrayLike<number>, indices: ArrayLike<number>): Float64Array {
  const out = new Float64Array(indices.length / 3);
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [indices[f]! * 3, indices[f + 1]! * 3, indices[f + 2]! * 3];
    const [nx, ny, nz] = areaVector(p, a, b, c);
    out[f / 3] = (Math.abs(nx) + Math.abs(ny) + Math.abs(nz)) / (Math.hypot(nx, ny, nz) || 1) || 1;
  }
  return out;
}

function within({ start, ends }: Runs, ray: number, at: number): boolean {
  for (let k = start[ray]!; k < start[ray + 1]!; k++)
    if (at >= ends[k * 2]! && at <= ends[k * 2 + 1]!) return true;
  return false;
}

export function withCorners(samples: Samples, shape: Shape, drawn: Float64Array): Samples {
  const corners =
    shape.kind === 'box' || shape.kind === 'hull' ? cornersAndMiddles(shapePolygons(shape)) : [...drawn];
  const points = new Float64Array(samples.points.length + corners.length);
  points.set(samples.points);
  points.set(corners, samples.points.length);
  const areas = new Float64Array(points.length / 3);
  areas.set(samples.areas);
  const faces = new Uint32Array(areas.length);
  faces.set(samples.faces);
  return { points, areas, faces };
}

/** Corners, middles of edges and of faces: where a flat face tends to stand off most. */
function cornersAndMiddles({ points, faces }: { points: Float64Array; faces: number[][] }): number[] {
  const out = [...points];
  for (const face of faces) {
    const middle = [0, 0, 0];
    face.forEach((v, i) => {
      const w = face[(i + 1) % face.length]!;
      for (let k = 0; k < 3; k++) {
        middle[k]! += points[v * 3 + k]! / face.length;
        if (v < w) out.push((points[v * 3 + k]! + points[w * 3 + k]!) / 2);
      }
    });
    out.push(...middle);
  }
  return out;
}

export function joinedPlaces(all: readonly SurfacePlaces[]): SurfacePlaces {
  const count = all.reduce((sum, { off }) => sum + off.length, 0);
  const joined = {
    points: new Float64Array(count * 3),
    areas: new Float64Array(count),
    off: new Float64Array(count),
  };
  let at = 0;
  for (const { points, areas, off } of all) {
    joined.points.set(points, at * 3);
    joined.areas.set(areas, at);
    joined.off.set(off, at);
    at += off.length;
  }
  return joined;
}
