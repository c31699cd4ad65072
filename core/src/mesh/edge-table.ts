/** Edges of triangles by their two welded ends: open addressing over flat tables, in order of first use. */
export class EdgeTable {
  /** how many edges there are */
  count = 0;
  /** [count]: the two ends, smaller number first */
  readonly low: Int32Array;
  readonly high: Int32Array;
  private readonly slots: Int32Array;
  private readonly mask: number;

  /** @param most the most edges that will be put in */
  constructor(most: number) {
    let size = 16;
    while (size < most * 2) size *= 2;
    this.mask = size - 1;
    this.slots = new Int32Array(size).fill(-1);
    this.low = new Int32Array(most);
    this.high = new Int32Array(most);
  }

  /** The number of the edge between two different vertices; it is put in when it is new. */
  edge(from: number, to: number): number {
    const a = from < to ? from : to;
    const b = from < to ? to : from;
    let slot = ((Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 7) & this.mask;
    for (let e = this.slots[slot]!; e >= 0; e = this.slots[slot]!) {
      if (this.low[e] === a && this.high[e] === b) return e;
      slot = (slot + 1) & this.mask;
    }
    this.slots[slot] = this.count;
    this.low[this.count] = a;
    this.high[this.count] = b;
    return this.count++;
  }
}
