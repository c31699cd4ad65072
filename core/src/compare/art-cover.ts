import { type Measured, nearest } from './measured-shape.js';

/**
 * How far places of the art are outside a set of shapes. From one set to the next only those are asked anew whose
 * nearest shape is gone, and of the new shapes whether they are nearer: moving one of many costs little.
 */
export class ArtCover {
  /** [n]: metres outside the nearest shape, 0 in one */
  readonly off: Float64Array;
  private readonly nearest: (Measured | undefined)[] = [];
  private set = new Set<Measured>();

  /** @param points [3n], @param places numbers of those that are asked for. Default: all */
  constructor(
    private readonly points: Float64Array,
    private readonly places?: Uint32Array,
  ) {
    this.off = new Float64Array(points.length / 3);
  }

  nearestTo(place: number): Measured | undefined {
    return this.nearest[place];
  }

  update(measured: readonly Measured[]): void {
    const set = new Set(measured);
    const fresh = measured.filter((one) => !this.set.has(one));
    const count = this.places?.length ?? this.off.length;
    for (let i = 0; i < count; i++) {
      const place = this.places ? this.places[i]! : i;
      const last = this.nearest[place];
      const kept = last !== undefined && set.has(last);
      if (kept && (this.off[place] === 0 || !fresh.length)) continue;
      const [x, y, z] = [this.points[place * 3]!, this.points[place * 3 + 1]!, this.points[place * 3 + 2]!];
      const { off, shape } = nearest(kept ? fresh : measured, x, y, z);
      if (kept && off >= this.off[place]!) continue;
      this.off[place] = Math.max(0, off);
      this.nearest[place] = shape;
    }
    this.set = set;
  }
}
