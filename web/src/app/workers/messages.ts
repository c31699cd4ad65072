import {
  type Sight,
  type Vec3,
  type Outcome,
  type Edit,
  type FacesOfParts,
  type Ladder,
  type Make,
  MAX_RUNG_SHAPES,
  type NewArtReport,
  type ProxyFit,
  type PutProxies,
  type RecipeRun,
  type ShapeComparison,
  shapeSchema,
} from '@yard-brace/core';
import * as z from 'zod';

export const ladderRequestSchema = z.object({
  maxShapes: z.number().int().min(1).max(MAX_RUNG_SHAPES),
  maxVertices: z.number().int().min(4),
  /** metres */
  agentDetail: z.number().nonnegative(),
  primitives: z.boolean(),
  mayCross: z.boolean(),
  clearances: z.array(shapeSchema),
  /** numbers of faces of the drawn art. Default: all */
  faces: z.instanceof(Uint32Array).optional(),
  /** the area that these faces are: its shapes are those that are replaced */
  area: z.string().optional(),
});
export type LadderRequest = z.infer<typeof ladderRequestSchema>;

export const aroundRequestSchema = z.object({
  /** numbers of faces of the drawn art */
  faces: z.instanceof(Uint32Array),
  /** instead of faces: the shape whose art is asked about */
  shape: shapeSchema.optional(),
  maxCorners: z.number().int().min(4),
});
export type AroundRequest = z.infer<typeof aroundRequestSchema>;

export const setRequestSchema = z.object({
  /** art that is farther out is bare, and what stands out more is felt: metres */
  toleranceMetres: z.number().nonnegative(),
  maxCorners: z.number().int().min(4),
});
export type SetRequest = z.infer<typeof setRequestSchema>;

/** How finely a chain follows a run: so many boxes, or so close in metres; one of both. */
export interface ChainAsk {
  count: number | null;
  tolerance: number | null;
}

/** What `drawn-chain` is asked for, but for the word. */
export type RunLine = Omit<Extract<Make, { make: 'drawn-chain' }>, 'make'>;

/** Where a set is not as it should be. */
export interface SetPlaces {
  /** faces that no shape covers */
  bare: FacesOfParts;
  /** what pairs of shapes share, [3n] and their faces; the deepest first */
  lenses: { pair: [string, string]; points: number[]; faces: number[][] }[];
}

/** A set that was mended or added to, and is not kept yet. */
export interface FixedSet {
  edit: PutProxies;
  /** null when there were no shapes */
  before: ShapeComparison | null;
  after: ShapeComparison;
}

/** A recipe that was worked out on a piece, and is not kept yet. */
export type TriedRecipe = Omit<RecipeRun, 'edits' | 'blobs'> & {
  /** null where it changes nothing */
  edit: Edit | null;
};

export interface LadderRun {
  ladder: Ladder;
  /** the shapes that are there, measured the same way; null when there are none */
  now: ShapeComparison | null;
  /** for chosen faces: the whole set with each rung in it, on all the art */
  whole?: ShapeComparison[];
}

/** Shapes measured against the art, with a value for each of its vertices: see `DetailedComparison`. */
export interface Measured {
  figures: ShapeComparison;
  vertices: Float32Array<ArrayBuffer>;
  /** the shapes' own faces, cut finely */
  faces: PaintedFaces;
}

/** Faces of shapes, with metres that each corner stands off the art. */
export interface PaintedFaces {
  /** [3n], metres from `origin` */
  positions: Float32Array<ArrayBuffer>;
  /** [3t] */
  indices: Uint32Array<ArrayBuffer>;
  /** [n] */
  values: Float32Array<ArrayBuffer>;
  origin: Vec3;
}

/** Where a fault is: faces of the drawn art, and [6e] pairs of points from its origin. */
export interface FaultLines {
  faces: Uint32Array;
  edges: Float32Array<ArrayBuffer>;
}

/** How one UV set lies on each face of the drawn art, [t] each; 0 where nothing is laid on. */
export interface UvValues {
  /** picture widths a metre */
  density: Float32Array<ArrayBuffer>;
  /** 1 where nothing is stretched */
  stretch: Float32Array<ArrayBuffer>;
}

/** A change that was worked out and is not made yet. */
export interface Operated {
  edit: Extract<Edit, { kind: 'reshape' }>;
  outcome: Outcome;
}

export interface NewArt {
  report: NewArtReport;
  /** for each proxy, how it lies to the art before and after */
  fits: ProxyFit[];
}

/** A run of edges: the faces on both its sides, and its own sides (3 * face + corner) by part. */
export interface EdgeRun {
  faces: Uint8Array;
  sides: { part: string; sides: Uint32Array<ArrayBuffer> }[];
}

/** How the art is looked at: from where, which parts are hidden, and where it is cut open. */
export interface LookAt {
  sight: Sight;
  /** ids of parts */
  hidden: readonly string[];
  cut: { normal: Vec3; offset: number } | null;
}

export type Progress = (share: number, what: string) => void;

/** What the test deliveries of a profile came to. */
export const profileTestSchema = z.object({
  /** that agree */
  points: z.number().int().nonnegative(),
  /** that differ as the profile announces it */
  substituted: z.number().int().nonnegative(),
  /** what differs first in each format, a sentence each */
  off: z.array(z.string()),
});
export type ProfileTest = z.infer<typeof profileTestSchema>;

/** A file that will be written, with the folders it stands in. */
export const fileSizeSchema = z.object({ name: z.string(), bytes: z.number().int().nonnegative() });
export type FileSize = z.infer<typeof fileSizeSchema>;
