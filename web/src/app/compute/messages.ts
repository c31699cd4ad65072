import {
  type Edit,
  type Ladder,
  MOST_RUNG,
  type NewArtReport,
  type PieceDocument,
  type ProxyFit,
  type Shape,
  type ShapeComparison,
  shapeSchema,
  type Vec3,
} from '@yard-brace/core';
import * as z from 'zod';
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
  /** [t]: number of the node, and of the face in that node's own mesh */
  part: Uint32Array<ArrayBuffer>;
  face: Uint32Array<ArrayBuffer>;
  /** [3t]: the face across each side, see `faceNeighbours` */
  neighbours: Int32Array<ArrayBuffer>;
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

export const ladderRequestSchema = z.object({
  mostShapes: z.number().int().min(1).max(MOST_RUNG),
  mostVertices: z.number().int().min(4),
  /** metres */
  agentDetail: z.number().nonnegative(),
  primitives: z.boolean(),
  mayCross: z.boolean(),
  clearances: z.array(shapeSchema),
  /** numbers of faces of the drawn art. Default: all */
  faces: z.instanceof(Uint32Array).optional(),
});
export type LadderRequest = z.infer<typeof ladderRequestSchema>;

export interface LadderRun {
  ladder: Ladder;
  /** the shapes that are there, measured the same way; null when there are none */
  now: ShapeComparison | null;
}

/** Shapes measured against the art, with a value for each of its vertices: see `DetailedComparison`. */
export interface Measured {
  figures: ShapeComparison;
  vertices: Float32Array<ArrayBuffer>;
}

/** Where a fault is: faces of the drawn art, and [6e] pairs of points from its origin. */
export interface FaultLines {
  faces: Uint32Array;
  edges: Float32Array<ArrayBuffer>;
}

/** A change that was worked out and is not made yet. */
export interface Operated {
  edit: Extract<Edit, { kind: 'reshape' }>;
  says: string;
}

export interface NewArt {
  report: NewArtReport;
  /** for each proxy, how it lies to the art before and after */
  fits: ProxyFit[];
}

/** How a part's UVs lie. */
export interface UvReport {
  part: string;
  /** picture widths a metre; null without UVs */
  density: number | null;
  /** pixels a metre by the part's own picture; null without one */
  pixels: number | null;
  stretched: number;
  uneven: number;
}

/** Several pieces that were in one file. */
export type Extracted = PieceDocument[];

export type Progress = (share: number, what: string) => void;
