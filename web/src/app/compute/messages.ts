import type { Shape, Vec3 } from '@yard-brace/core';
import type { SerializedBVH } from 'three-mesh-bvh';

/** What the view draws: single precision about an origin, so that far pieces do not tremble. */
export interface ArtToDraw {
  /** metres, in the piece's space */
  origin: Vec3;
  /** [3n], from the origin */
  positions: Float32Array<ArrayBuffer>;
  /** [3t] */
  indices: Uint32Array<ArrayBuffer>;
  /** [3n]; absent where the art has none, and is drawn with flat faces */
  normals?: Float32Array<ArrayBuffer>;
  /** [2n] */
  uv?: Float32Array<ArrayBuffer>;
  /** [4n] */
  colors?: Float32Array<ArrayBuffer>;
  groups: { material: number; start: number; count: number }[];
  /** [6e]: inked edges as pairs of points */
  ink: Float32Array<ArrayBuffer>;
  /** serialized bounding volume hierarchy for picking; absent for art without triangles */
  tree?: SerializedBVH;
}

export interface WrapRequest {
  kind: 'box' | 'hull';
  per: 'piece' | 'part';
  turned: boolean;
  mostCorners: number;
}

export interface Wrapped {
  shapes: Shape[];
  /** metres by which the art stands out of hulls kept to their corners */
  cutBack: number;
}

export type Progress = (share: number, what: string) => void;
