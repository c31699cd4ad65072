/** Cells and sides that are looked at for each corner of an outline, at most … */
const MAX_VISITS_PER_CORNER = 64;
/** … where that is more than a moment takes: outlines of some hundred corners are looked at to the end. */
const MIN_VISITS_ALLOWED = 400_000;

/**
 * Whether the sides of a closed outline in the plane cross or touch each other: "unknown" when looking would take
 * too long. Sides are laid into a grid of about as many cells as there are corners.
 *
 * @param flat [2n]
 */
export function selfCrossing(flat: readonly number[]): boolean | 'unknown' {
  const n = flat.length / 2;
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  for (let i = 0; i < flat.length; i++) {
    low[i % 2] = Math.min(low[i % 2]!, flat[i]!);
    high[i % 2] = Math.max(high[i % 2]!, flat[i]!);
  }
  const cells = Math.ceil(Math.sqrt(n));
  const step = [0, 1].map((k) => (high[k]! - low[k]!) / cells || 1);
  const cellOf = (value: number, k: number) =>
    Math.min(cells - 1, Math.max(0, Math.floor((value - low[k]!) / step[k]!)));
  const grid = new Map<number, number[]>();
  const allowed = Math.max(n * MAX_VISITS_PER_CORNER, MIN_VISITS_ALLOWED);
  let visits = 0;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const [ax, ay, bx, by] = [flat[i * 2]!, flat[i * 2 + 1]!, flat[j * 2]!, flat[j * 2 + 1]!];
    const [x0, x1] = [cellOf(Math.min(ax, bx), 0), cellOf(Math.max(ax, bx), 0)];
    for (let x = x0; x <= x1; x++) {
      // Of each column only the rows that the side runs through there.
      const left = Math.max(Math.min(ax, bx), low[0]! + x * step[0]!);
      const right = Math.min(Math.max(ax, bx), low[0]! + (x + 1) * step[0]!);
      const at = (u: number) => (bx === ax ? ay : ay + ((u - ax) / (bx - ax)) * (by - ay));
      const [u, v] = bx === ax ? [ay, by] : [at(left), at(right)];
      const [y0, y1] = [cellOf(Math.min(u, v), 1), cellOf(Math.max(u, v), 1)];
      for (let y = y0; y <= y1; y++) {
        if (++visits > allowed) return 'unknown';
        const key = x * cells + y;
        const there = grid.get(key);
        if (!there) {
          grid.set(key, [i]);
          continue;
        }
        for (const other of there) {
          visits++;
          if (areNeighbours(i, other, n)) continue;
          if (cross(flat, i, other, n)) return true;
        }
        there.push(i);
      }
    }
  }
  return false;
}

const areNeighbours = (i: number, j: number, n: number) => i === j || (i + 1) % n === j || (j + 1) % n === i;

function cross(flat: readonly number[], i: number, j: number, n: number): boolean {
  const [a, b, c, d] = [i, (i + 1) % n, j, (j + 1) % n];
  const side = (p: number, q: number, r: number) =>
    Math.sign(
      (flat[q * 2]! - flat[p * 2]!) * (flat[r * 2 + 1]! - flat[p * 2 + 1]!) -
        (flat[q * 2 + 1]! - flat[p * 2 + 1]!) * (flat[r * 2]! - flat[p * 2]!),
    );
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}
