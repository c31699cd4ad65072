import { normalized, type Vec3 } from '../math/index.js';
import { faceDistance, lastFace, type SolidDistance } from '../solid/index.js';
import type { Deviation } from './comparison.js';
import { summary, withFarthest } from './deviation-summary.js';
import {
  type Border,
  farthestCorner,
  farthestPlace,
  mostAtCorners,
  precisionOf,
  reachOf,
} from './farthest-place.js';
import type { Measured } from './measured-shape.js';
import { joinedPlaces, type SurfacePlaces } from './samples.js';

export type OuterPart = NonNullable<Measured['outer']>;

/** A shape near another. */
interface Neighbour {
  measured: Measured;
  /** comes before it in the set */
  earlier: boolean;
}

/** What was found out about a triangle on a shape, so that its halves need not ask again. */
interface KnownOfTriangle {
  /** the face of the art that is nearest to its middle; -1 before one is known */
  face: number;
  /** shapes that may hide some of it */
  about: readonly Neighbour[];
  /** all of it is outside the art */
  outside: boolean;
}

/** No place in a triangle counts. */
const NOWHERE = { here: NaN, most: 0 };

/** The surface that the shapes of a set have together, and how far it stands off the art. */
export class OuterSurface {
  /** places nearer than this lie on a surface, metres */
  private readonly touching: number;
  /** the face that was nearest to the sample before; -1 for none */
  private near = -1;

  /**
   * @param size diagonal of the art, metres
   * @param exact whether maxima are looked for between the samples, too
   */
  constructor(
    private readonly art: SolidDistance,
    private readonly size: number,
    private readonly exact: boolean,
  ) {
    this.touching = size * 1e-9;
  }

  /** The part of one shape on the surface of all together: its places, and how far it stands off the art. */
  outerOf(measured: readonly Measured[], i: number): OuterPart {
    const own = measured[i]!;
    const about = this.neighboursOf(measured, i);
    const known = own.outer;
    if (
      known?.about.length === about.length &&
      about.every(({ measured, earlier }, k) => {
        const before = known.about[k]!;
        return before.measured === measured && before.earlier === earlier;
      })
    )
      return known;
    const places = this.placesOn(own, about);
    const sampled = summary(places.points, places.areas, places.off);
    const deviation = this.exact ? this.farthestOfShape(own, about, sampled) : sampled;
    own.outer = { about, places, deviation };
    return own.outer;
  }

  ofOuter(outer: readonly OuterPart[]): Deviation {
    const { points, areas, off } = joinedPlaces(outer.map(({ places }) => places));
    return withFarthest(
      summary(points, areas, off),
      outer.map(({ deviation }) => deviation),
    );
  }

  /** Metres from a sample of a shape to the art. The one asked before is near, and so bounds how far to look. */
  offArt({ samples, off }: Measured, i: number, last: number): number {
    const known = off[i]!;
    if (known === known) return known;
    const { points, areas } = samples;
    const p: Vec3 = [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!];
    // Corners bear no area and were not sorted out by the rays.
    if (areas[i] === 0 && this.art.inside(p)) return (off[i] = 0);
    const step =
      last < 0
        ? Infinity
        : Math.hypot(p[0] - points[last * 3]!, p[1] - points[last * 3 + 1]!, p[2] - points[last * 3 + 2]!);
    const bound = last < 0 ? Infinity : (off[last]! + step) * (1 + 1e-9) + this.size * 1e-12;
    const found = this.art.distance(...p, bound, this.near);
    this.near = lastFace();
    return (off[i] = found < Infinity ? found : 0);
  }

  /** Whether other shapes take a place on the surface of one from the surface of all. */
  hiddenBy(measured: readonly Measured[], i: number): (x: number, y: number, z: number) => boolean {
    const about = this.neighboursOf(measured, i);
    return (x, y, z) => about.some((each) => this.hides(each, measured[i]!, x, y, z));
  }

  private placesOn(own: Measured, about: readonly Neighbour[]): SurfacePlaces {
    const kept: number[] = [];
    const { points, areas } = own.samples;
    let last = -1;
    for (let s = 0; s < own.off.length; s++) {
      // Inside or against another shape it is not the surface of the whole.
      const [x, y, z] = [points[s * 3]!, points[s * 3 + 1]!, points[s * 3 + 2]!];
      if (own.off[s] !== 0 && about.some((each) => this.hides(each, own, x, y, z))) continue;
      this.offArt(own, s, last);
      if (own.off[s]! > 0) last = s;
      kept.push(s);
    }
    return {
      points: Float64Array.from(
        { length: kept.length * 3 },
        (_, i) => points[kept[(i / 3) | 0]! * 3 + (i % 3)]!,
      ),
      areas: Float64Array.from(kept, (s) => areas[s]!),
      off: Float64Array.from(kept, (s) => own.off[s]!),
    };
  }

  /** The deviation of one shape with its true maximum. */
  private farthestOfShape(own: Measured, others: readonly Neighbour[], sampled: Deviation): Deviation {
    const { surface } = this.art;
    const precision = precisionOf(this.size, sampled.max);
    const found = farthestPlace<KnownOfTriangle>(
      own.triangles,
      (middle, triangle, best, known = { face: -1, about: others, outside: false }) => {
        const fromFace = (face: number) =>
          mostAtCorners(triangle, (x, y, z) => faceDistance(surface, face, [x, y, z]));
        // The face that was nearest to the whole is near its half, and asking for it costs little.
        const before = known.face < 0 ? Infinity : fromFace(known.face);
        if (before <= best + precision) return NOWHERE;
        const within =
          known.face < 0
            ? Infinity
            : faceDistance(surface, known.face, middle) * (1 + 1e-9) + this.size * 1e-12;
        const nearestArt = this.art.closest(middle, within);
        if (!nearestArt) return NOWHERE;
        const { face, distance } = nearestArt;
        const most = Math.min(before, face === known.face ? before : fromFace(face));
        if (most <= best + precision) return NOWHERE;
        const reach = reachOf(triangle, middle);
        const about: Neighbour[] = [];
        for (const each of known.about) {
          // A lower bound is enough to leave a shape aside, and is told sooner.
          const off = each.measured.distance(...middle, 0);
          // Wholly in another shape, or under the face of one, it is not on the surface of all.
          if (off <= -reach) return NOWHERE;
          if (off < this.touching && this.holds(each.measured, triangle) && this.hides(each, own, ...middle))
            return NOWHERE;
          if (off < reach * (1 + 1e-9)) about.push(each);
        }
        // Where the art's surface does not come, all of the triangle is inside or all of it outside.
        const apart = distance > reach;
        const outside = known.outside || ((apart || distance > best) && !this.art.inside(middle));
        if (apart && !outside) return NOWHERE;
        const counts = distance > best && outside && !about.some((each) => this.hides(each, own, ...middle));
        return {
          here: counts ? distance : NaN,
          most,
          known: { face, about, outside: known.outside || (apart && outside) },
          border: () =>
            this.border(triangle, face) ?? about.find(({ measured }) => measured.convex)?.measured.distance,
        };
      },
      { known: sampled.max, precision },
    );
    return found ? { ...sampled, max: found.distance, at: found.at } : sampled;
  }

  /** Where another face of the art begins to be nearer than one that is nearest to the middle of a triangle ([9]). */
  private border(triangle: Float64Array, face: number): Border | undefined {
    const { surface } = this.art;
    const to = (face: number) => (x: number, y: number, z: number) => faceDistance(surface, face, [x, y, z]);
    const corner = farthestCorner(triangle, to(face));
    const other = this.art.closest(corner, to(face)(...corner));
    if (!other || other.face === face) return undefined;
    const [near, far] = [to(face), to(other.face)];
    return (x, y, z) => near(x, y, z) - far(x, y, z);
  }

  /** Whether a triangle ([9]) lies in a convex shape or on its surface. */
  private holds({ convex, distance }: Measured, triangle: Float64Array): boolean {
    const near = 2 * this.touching;
    return convex && mostAtCorners(triangle, (x, y, z) => distance(x, y, z, near)) < near;
  }

  private neighboursOf(measured: readonly Measured[], i: number): Neighbour[] {
    const { low, high } = measured[i]!;
    const found: Neighbour[] = [];
    measured.forEach((other, j) => {
      if (j !== i && [0, 1, 2].every((k) => other.low[k]! <= high[k]! && low[k]! <= other.high[k]!))
        found.push({ measured: other, earlier: j < i });
    });
    return found;
  }

  /**
   * Whether another shape takes a place on this one's surface from the surface of the whole: it lies inside it, or
   * both surfaces lie there back to back. Where they lie there as one, looking the same way, the earlier has it.
   */
  private hides(
    { measured: other, earlier }: Neighbour,
    own: Measured,
    x: number,
    y: number,
    z: number,
  ): boolean {
    const { touching } = this;
    const depth = other.distance(x, y, z, touching);
    if (depth >= touching) return false;
    if (depth <= -touching) return true;
    const h = this.size * 1e-6;
    const slope = (dx: number, dy: number, dz: number) =>
      own.distance(x + dx, y + dy, z + dz) - own.distance(x - dx, y - dy, z - dz);
    const out: Vec3 = normalized([slope(h, 0, 0), slope(0, h, 0), slope(0, 0, h)]);
    const ahead = other.distance(x + out[0] * h, y + out[1] * h, z + out[2] * h);
    return ahead < h / 2 || earlier;
  }
}
