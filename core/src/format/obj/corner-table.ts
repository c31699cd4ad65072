/** Numbers each used combination of place, UV and normal once. */
export class CornerTable {
  count = 0;
  keys: Int32Array;
  private readonly table: Int32Array;
  private readonly mask: number;
  /** vertex of each place that has neither UV nor normal; of few corners among many places the table knows those, too */
  private readonly bare: Int32Array | null;

  /**
   * @param corners how many there are
   * @param places how many places they may name. Default: not known
   */
  constructor(corners: number, places = Infinity) {
    this.bare = places <= corners * 8 ? new Int32Array(places).fill(-1) : null;
    let size = 16;
    while (size < corners * 2) size *= 2;
    this.table = new Int32Array(size).fill(-1);
    this.mask = size - 1;
    this.keys = new Int32Array(Math.max(3, corners * 3));
  }

  /** The vertex for the corner at `at` in the packed corners. */
  vertex(corners: Int32Array, at: number): number {
    const v = corners[at]!;
    const t = corners[at + 1]!;
    const n = corners[at + 2]!;
    const { keys, table, mask, bare } = this;
    if (bare && t < 0 && n < 0) {
      const known = bare[v]!;
      return known < 0 ? (bare[v] = this.add(v, t, n)) : known;
    }
    let h = Math.imul(v, 0x9e3779b1) ^ Math.imul(t, 0x85ebca6b) ^ Math.imul(n, 0xc2b2ae35);
    h ^= h >>> 15;
    let slot = h & mask;
    for (;;) {
      const seen = table[slot]!;
      if (seen < 0) {
        table[slot] = this.count;
        return this.add(v, t, n);
      }
      if (keys[seen * 3] === v && keys[seen * 3 + 1] === t && keys[seen * 3 + 2] === n) return seen;
      slot = (slot + 1) & mask;
    }
  }

  private add(v: number, t: number, n: number): number {
    const { keys } = this;
    keys[this.count * 3] = v;
    keys[this.count * 3 + 1] = t;
    keys[this.count * 3 + 2] = n;
    return this.count++;
  }
}
