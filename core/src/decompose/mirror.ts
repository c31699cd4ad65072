import { convexBody } from '../compare/convex-overlap.js';
import { distance, dot, normalized, scaled, subtract, type Vec3 } from '../math/index.js';
import { farthestOutside } from '../hull/index.js';
import type { MirrorPlane } from '../shape/index.js';
import { type ConvexPart, type DecompositionContext, joinedPart, measured } from './convex-part.js';
import { type CutPlane, planeThrough } from './fragment.js';

/** The two sides of symmetric art: what is found for pieces on the near side holds for their images on the far one. */
export class Mirror {
  /** what lies below it is the near side */
  readonly cut: CutPlane;
  private readonly images = new Map<ConvexPart, ConvexPart>();
  private readonly originals = new Map<ConvexPart, ConvexPart>();

  /** @param near metres from the plane within which places lie on it */
  constructor(
    readonly plane: MirrorPlane,
    private readonly near: number,
  ) {
    this.cut = planeThrough([...plane.point], normalized(plane.normal));
  }

  /** On which side points ([3n]) lie: -1 near, 1 far, 0 on both or on the plane itself. */
  sideOf(points: Float64Array): -1 | 0 | 1 {
    let [low, high] = [0, 0];
    for (let i = 0; i < points.length; i += 3) {
      const off = this.off([points[i]!, points[i + 1]!, points[i + 2]!]);
      low = Math.min(low, off);
      high = Math.max(high, off);
    }
    if (high > this.near) return low < -this.near ? 0 : 1;
    return low < -this.near ? -1 : 0;
  }

  /** The image of a piece, always the same one. That of an image is the piece itself. */
  imageOf(piece: ConvexPart): ConvexPart {
    const known = this.knownImageOf(piece);
    if (known) return known;
    const points = this.mirrored(piece.points);
    const hull = piece.hull && {
      points: piece.hull.points === piece.points ? points : this.mirrored(piece.hull.points),
      faces: piece.hull.faces.map((face) => [...face].reverse()),
    };
    const image: ConvexPart = {
      ...piece,
      points,
      hull,
      body: hull && convexBody(hull.points, hull.faces),
      fragment: null,
      joined: piece.joined.map((part) => this.imageOf(part)),
    };
    this.images.set(piece, image);
    this.originals.set(image, piece);
    return image;
  }

  /** A piece over the plane that is as good as its own image is taken for it; else what holds both, once. */
  evened(piece: ConvexPart, context: DecompositionContext): ConvexPart {
    let even = piece;
    if (piece.hull && farthestOutside(piece.hull, this.mirrored(piece.points)) > this.near) {
      const both = measured(joinedPart([piece, this.imageOf(piece)], context), context);
      // What was reduced to be searched is uneven: of what the two hold together as much is art as of the one.
      const volume = piece.volume * (both.hullVolume / piece.hullVolume);
      even = { ...both, group: piece.group, volume };
    }
    this.images.set(even, even);
    return even;
  }

  /** The image of a piece, or the piece it is the image of; undefined when it has neither. */
  knownImageOf(piece: ConvexPart): ConvexPart | undefined {
    return this.images.get(piece) ?? this.originals.get(piece);
  }

  /** The piece that one is the image of; undefined when it is none. */
  originalOf(piece: ConvexPart): ConvexPart | undefined {
    return this.originals.get(piece);
  }

  /** Whether a piece joined of others is its own image. */
  isOwnImage(leaves: readonly ConvexPart[]): boolean {
    const own = new Set(leaves);
    return leaves.every((leaf) => {
      const image = this.knownImageOf(leaf);
      return image !== undefined && own.has(image);
    });
  }

  /** Packed points, those that all but lie on the plane brought onto it: they are their own images. Shape: [3n] */
  snapped(points: ArrayLike<number>): Float64Array {
    const out = Float64Array.from(points);
    for (let i = 0; i < out.length; i += 3) {
      const place: Vec3 = [out[i]!, out[i + 1]!, out[i + 2]!];
      const on = this.ontoPlane(place);
      if (distance(place, on) <= this.near) out.set(on, i);
    }
    return out;
  }

  /** Metres that a place lies on the far side. */
  off(place: Vec3): number {
    const { nx, ny, nz, d } = this.cut;
    return dot(place, [nx, ny, nz]) - d;
  }

  /** The nearest place on the plane. */
  ontoPlane(place: Vec3): Vec3 {
    const { nx, ny, nz } = this.cut;
    return subtract(place, scaled([nx, ny, nz], this.off(place)));
  }

  /** Packed points on the other side. Shape: [3n] */
  mirrored(points: ArrayLike<number>): Float64Array {
    const { nx, ny, nz, d } = this.cut;
    const out = Float64Array.from(points);
    for (let i = 0; i < out.length; i += 3) {
      const twice = 2 * (nx * out[i]! + ny * out[i + 1]! + nz * out[i + 2]! - d);
      out[i]! -= twice * nx;
      out[i + 1]! -= twice * ny;
      out[i + 2]! -= twice * nz;
    }
    return out;
  }
}
