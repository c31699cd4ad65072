/** A triangle cut into smaller ones, for values that are taken at their corners. */
export interface PaintGrid {
  /** [3n], as they were given: metres */
  points: Float64Array;
  /** [3t] */
  indices: Uint32Array;
}

/** Steps along the sides of one triangle at most. */
const MAX_STEPS = 96;

/**
 * Triangles cut so finely that no side is longer than a step, as far as `maxTriangles` allows: values at the corners
 * then show what happens between the corners of large faces.
 *
 * @param corners [9t]
 */
export function paintGrid(corners: ArrayLike<number>, stepMetres: number, maxTriangles = 40_000): PaintGrid {
  const count = corners.length / 9;
  const longest = (f: number) => {
    const side = (a: number, b: number) =>
      Math.hypot(
        corners[f * 9 + a]! - corners[f * 9 + b]!,
        corners[f * 9 + a + 1]! - corners[f * 9 + b + 1]!,
        corners[f * 9 + a + 2]! - corners[f * 9 + b + 2]!,
      );
    return Math.max(side(0, 3), side(3, 6), side(6, 0));
  };
  const stepsOf = (step: number) =>
    Array.from({ length: count }, (_, f) => Math.min(MAX_STEPS, Math.max(1, Math.ceil(longest(f) / step))));
  let steps = stepsOf(stepMetres);
  for (let step = stepMetres; steps.reduce((sum, n) => sum + n * n, 0) > maxTriangles && step < Infinity;) {
    step *= 1.5;
    const wider = stepsOf(step);
    if (wider.every((n) => n === 1)) step = Infinity;
    steps = wider;
  }
  const points = new Float64Array(steps.reduce((sum, n) => sum + ((n + 1) * (n + 2)) / 2, 0) * 3);
  const indices = new Uint32Array(steps.reduce((sum, n) => sum + n * n, 0) * 3);
  let v = 0;
  let i = 0;
  steps.forEach((n, f) => {
    const first = v;
    const row = (r: number) => first + r * (n + 1) - (r * (r - 1)) / 2;
    for (let r = 0; r <= n; r++)
      for (let c = 0; c <= n - r; c++, v++)
        for (let k = 0; k < 3; k++) {
          const [a, b, d] = [corners[f * 9 + k]!, corners[f * 9 + 3 + k]!, corners[f * 9 + 6 + k]!];
          points[v * 3 + k] = a + ((b - a) * c) / n + ((d - a) * r) / n;
        }
    for (let r = 0; r < n; r++)
      for (let c = 0; c < n - r; c++) {
        const [here, above] = [row(r) + c, row(r + 1) + c];
        indices.set([here, here + 1, above], i);
        i += 3;
        if (c === n - r - 1) continue;
        indices.set([here + 1, above + 1, above], i);
        i += 3;
      }
  });
  return { points, indices };
}
