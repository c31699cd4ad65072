import { type Measured, nearest } from './measured-shape.js';

/**
 * How far places of the art are outside a set of shapes. From one set to the next only those are asked anew whose
 * nearest shape is gone, and of the new shapes whether they are nearer: moving one of many costs little.
 */
export class ArtCover {
  /** [n]: metres outside the nearest shape; in one 0, or minus the depth in the one that covers it deepest */
  readonly off: Float64Array;
  private readonly nearest: (Measured | undefined)[] = [];
  private set = new Set<Measured>();

  /**
   * @param points [3n]
   * @param places numbers of those that are asked for. Default: all
   * @param deepest whether it is asked how deep a place is covered, too
   */
  constructor(
    private readonly points: Float64Array,
    private readonly places?: Uint32Array,
    private readonly deepest = false,
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
      if (kept && (!fresh.length || (this.off[place] === 0 && !this.deepest))) continue;
      const [x, y, z] = [this.points[place * 3]!, this.points[place * 3 + 1]!, this.points[place * 3 + 2]!];
      const { off, shape } = kept
        ? nearest(fresh, x, y, z, this.deepest, this.off[place])
        : nearest(measured, x, y, z, this.deepest);
      if (kept && off >= this.off[place]!) continue;
      this.off[place] = this.deepest ? off : Math.max(0, off);
      this.nearest[place] = shape;
    }
    this.set = set;
  }
}
