import { normalized, type Vec3 } from '../math/index.js';
import { faceDistance, type SolidDistance } from '../solid/index.js';
import type { Deviation } from './comparison.js';
import { summary } from './deviation-summary.js';
import { type Asked, farthestPlace, mostAtCorners, precisionOf, reachOf } from './farthest-place.js';
import type { Measured } from './measured-shape.js';
import { joinedPlaces, type SurfacePlaces } from './samples.js';

export type OuterPart = NonNullable<Measured['outer']>;

/** No place in a triangle counts. */
const NOWHERE: Asked = { here: NaN, most: 0 };

/** The surface that the shapes of a set have together, and how far it stands off the art. */
export class OuterSurface {
  /**
   * @param size diagonal of the art, metres
   * @param exact whether maxima are looked for between the samples, too
   */
  constructor(
    private readonly art: SolidDistance,
    private readonly size: number,
    private readonly exact: boolean,
  ) {}

  /** The part of one shape on the surface of all together: its places, and how far it stands off the art. */
  outerOf(measured: readonly Measured[], i: number): OuterPart {
    const own = measured[i]!;
    const others = this.neighboursOf(measured, i);
    const earlier = others.map((other) => measured.indexOf(other) < i);
    const known = own.outer;
    const same = (a: readonly unknown[], b: readonly unknown[]) =>
      a.length === b.length && a.every((each, k) => each === b[k]);
    if (known && same(known.others, others) && same(known.earlier, earlier)) return known;
    const hidden = this.hiddenBy(measured, i);
    const places = this.placesOn(own, hidden);
    const sampled = summary(places.points, places.areas, places.off);
    const deviation = this.exact ? this.farthestOfShape(own, others, hidden, sampled) : sampled;
    own.outer = { others, earlier, places, deviation };
    return own.outer;
  }

  ofOuter(outer: readonly OuterPart[]): Deviation {
    const { points, areas, off } = joinedPlaces(outer.map(({ places }) => places));
    return outer.reduce<Deviation>(
      (found, { deviation: { max, at } }) => (max > found.max ? { ...found, max, at } : found),
      summary(points, areas, off),
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
    return (off[i] = this.art.closest(p, bound)?.distance ?? 0);
  }

  hiddenBy(measured: readonly Measured[], i: number): (x: number, y: number, z: number) => boolean {
    const own = measured[i]!;
    const others = this.neighboursOf(measured, i);
    const earlier = others.map((other) => measured.indexOf(other) < i);
    return (x, y, z) => others.some((other, k) => this.hides(other, own, x, y, z, earlier[k]!));
  }

  private placesOn(own: Measured, hidden: (x: number, y: number, z: number) => boolean): SurfacePlaces {
    const kept: number[] = [];
    const { points, areas } = own.samples;
    let last = -1;
    for (let s = 0; s < own.off.length; s++) {
      // Inside or against another shape it is not the surface of the whole.
      if (own.off[s] !== 0 && hidden(points[s * 3]!, points[s * 3 + 1]!, points[s * 3 + 2]!)) continue;
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
  private farthestOfShape(
    own: Measured,
    others: readonly Measured[],
    hidden: (x: number, y: number, z: number) => boolean,
    sampled: Deviation,
  ): Deviation {
    const { surface } = this.art;
    const found = farthestPlace(
      own.triangles,
      (middle, triangle) => {
        const nearestArt = this.art.closest(middle);
        if (!nearestArt) return NOWHERE;
        const most = mostAtCorners(triangle, (x, y, z) => faceDistance(surface, nearestArt.face, [x, y, z]));
        if (most <= sampled.max) return NOWHERE;
        const reach = reachOf(triangle, middle);
        // Wholly in another shape, or wholly in the art, it does not stand off.
        if (others.some(({ distance }) => distance(...middle) <= -reach)) return NOWHERE;
        const inside = this.art.inside(middle);
        if (inside && nearestArt.distance >= reach) return NOWHERE;
        return { here: inside || hidden(...middle) ? NaN : nearestArt.distance, most };
      },
      { known: sampled.max, precision: precisionOf(this.size, sampled.max) },
    );
    return found ? { ...sampled, max: found.distance, at: found.at } : sampled;
  }

  private neighboursOf(measured: readonly Measured[], i: number): Measured[] {
    const own = measured[i]!;
    return measured.filter(
      (other, j) =>
        j !== i && [0, 1, 2].every((k) => other.low[k]! <= own.high[k]! && own.low[k]! <= other.high[k]!),
    );
  }

  /**
   * Whether another shape takes a place on this one's surface from the surface of the whole: it lies inside it, or
   * both surfaces lie there back to back. Where they lie there as one, looking the same way, the earlier has it.
   */
  private hides(other: Measured, own: Measured, x: number, y: number, z: number, earlier: boolean): boolean {
    const touching = this.size * 1e-9;
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
