import type { Vec3 } from '../math/index.js';
import type { ShapeKind } from '../shape/index.js';

/** How far one surface stands off another, in metres. */
export interface Deviation {
  /** over the whole surface, by area; places that do not stand off count as 0 */
  mean: number;
  /** what 95 % of the surface keeps within */
  p95: number;
  max: number;
  /** where the most is; null when nothing stands off */
  at: Vec3 | null;
}

/** What a set of shapes costs. */
export interface SetCost {
  shapes: number;
  vertices: number;
  faces: number;
  kinds: Partial<Record<ShapeKind, number>>;
  /** see `shapeCost`; a box is 1 */
  cost: number;
}

/** Art against its proxies. Volumes in cubic metres. */
export interface ShapeComparison {
  /** art that no proxy covers */
  artOutside: Deviation;
  /** proxies where no art is */
  proxyOutside: Deviation;
  artVolume: number;
  /** of all proxies together, what they share counted once */
  proxyVolume: number;
  /** in proxies, not in art */
  overfill: number;
  /** in art, not in proxies */
  underfill: number;
  /** in more than one proxy, once for each beyond the first */
  overlap: number;
  /** how far the three ways of measuring volume disagree, as a share of the art's; the figures are their mean */
  accuracy: number;
  cost: SetCost;
}

/** A comparison with what is painted and listed. */
export interface DetailedComparison extends ShapeComparison {
  /** [n]: at each vertex of the art, positive where it stands out of the proxies, negative where they cover it so deep */
  vertices: Float32Array;
  /** connected areas of art faces that stand out by more than the tolerance, largest first */
  uncovered: number[][];
}

/** How the shapes of a set, and what belongs to each owner, lie to the art. */
export interface Standing {
  /** of all shapes and all art together */
  figures: ShapeComparison;
  shapes: {
    /** where it is on the surface of all shapes together */
    excess: Deviation;
    /** cubic metres of it without art */
    overfill: number;
    /** metres to the nearest art, when it holds and touches none; else 0 */
    away: number;
  }[];
  owners: { owner: number; excess: Deviation; uncovered: Deviation }[];
}

/** The shapes' own faces, cut finely, with how far each corner stands off the art. */
export interface PaintedShapes {
  /** [3n] */
  points: Float64Array;
  /** [3t] */
  indices: Uint32Array;
  /** [n]: metres */
  values: Float32Array;
}
