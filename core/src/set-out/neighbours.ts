import type { Placed } from './placed.js';

/**
 * Pairs of placed pieces whose bounds come within a reach of each other, metres; the one that was placed first comes
 * first. Swept along x, so that thousands in a run cost little more than their pairs.
 */
export function neighbours(placed: readonly Placed[], reach: number): [Placed, Placed][] {
  const order = placed.map((_, i) => i);
  order.sort((a, b) => placed[a]!.bounds.min[0] - placed[b]!.bounds.min[0] || a - b);
  const pairs: [number, number][] = [];
  let open: number[] = [];
  for (const i of order) {
    const { min, max } = placed[i]!.bounds;
    open = open.filter((k) => placed[k]!.bounds.max[0] + reach >= min[0]);
    for (const k of open) {
      const other = placed[k]!.bounds;
      const near = [1, 2].every(
        (axis) => other.max[axis]! + reach >= min[axis]! && max[axis]! + reach >= other.min[axis]!,
      );
      if (near) pairs.push(i < k ? [i, k] : [k, i]);
    }
    open.push(i);
  }
  pairs.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  return pairs.map(([a, b]) => [placed[a]!, placed[b]!]);
}
