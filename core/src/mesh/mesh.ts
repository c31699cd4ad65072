import { type Bounds, emptyBounds } from '../math/index.js';

/** A run of triangles with one material. `start` and `count` are in triangles, `material` -1 is none. */
export interface SurfaceGroup {
  material: number;
  start: number;
  count: number;
}

/**
 * An indexed triangle mesh of n vertices and t triangles.
 *
 * Positions are doubles: a piece drawn ten kilometres from its origin keeps its microns until
 * it is moved onto its pivot. Groups are in order and cover every triangle.
 */
export interface Mesh {
  /** [3n] */
  positions: Float64Array;
  /** [3t], each below n */
  indices: Uint32Array;
  /** [3n], unit length */
  normals?: Float32Array;
  /** [4n], xyz and handedness */
  tangents?: Float32Array;
  /** UV sets, [2n] each */
  uvs: Float32Array[];
  /** [4n], linear red, green, blue, alpha */
  colors?: Float32Array;
  groups: SurfaceGroup[];
}

export const vertexCount = (mesh: Mesh): number => mesh.positions.length / 3;
export const triangleCount = (mesh: Mesh): number => mesh.indices.length / 3;

/** Bounds of the vertices that triangles use; unused vertices do not count. */
export function meshBounds({ positions, indices }: Mesh): Bounds {
  const { min, max } = emptyBounds();
  for (let i = 0; i < indices.length; i++) {
    const v = indices[i]! * 3;
    for (let axis = 0; axis < 3; axis++) {
      const value = positions[v + axis]!;
      if (value < min[axis]!) min[axis] = value;
      if (value > max[axis]!) max[axis] = value;
    }
  }
  return { min, max };
}

/** A mesh of bare triangles with one group. Shapes: positions [3n], indices [3t]. */
export function plainMesh(positions: ArrayLike<number>, indices: ArrayLike<number>): Mesh {
  return {
    positions: Float64Array.from(positions),
    indices: Uint32Array.from(indices),
    uvs: [],
    groups: [{ material: -1, start: 0, count: indices.length / 3 }],
  };
}
