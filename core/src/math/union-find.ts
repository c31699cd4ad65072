/**
 * Disjoint sets of the numbers below `count`, joined step by step; a set is known by its lowest number, so
 * that the order of joining never shows. Union-find with path halving (Tarjan and van Leeuwen, 1984).
 */
export class UnionFind {
  private readonly parent: Uint32Array;

  constructor(readonly count: number) {
    this.parent = new Uint32Array(count);
    for (let i = 0; i < count; i++) this.parent[i] = i;
  }

  /** The lowest number of the set that `i` belongs to. */
  root(i: number): number {
    const { parent } = this;
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  }

  /** The sets of `a` and `b` become one. */
  join(a: number, b: number): void {
    const ra = this.root(a);
    const rb = this.root(b);
    if (ra < rb) this.parent[rb] = ra;
    else this.parent[ra] = rb;
  }
}
