import type { Vec3 } from '../math/index.js';

/**
 * Points in cubes of a size, by the hash of their cube. (Teschner and others, "Optimized spatial hashing for collision
 * detection", 2003.)
 *
 * @param positions [3n]
 * @returns visits the numbers of all points in the cube of a place and the 26 around it, so of all that are nearer than
 *   `cell`; farther ones, too, and some of them twice where hashes meet
 */
export function pointGrid(
  positions: Float64Array,
  cell: number,
): (place: Readonly<Vec3>, visit: (point: number) => void) => void {
  const n = positions.length / 3;
  const mask = 2 ** Math.ceil(Math.log2(Math.max(2, n * 2))) - 1;
  const first = new Int32Array(mask + 1).fill(-1);
  const next = new Int32Array(n);
  const cubeOf = (v: number) => Math.floor(v / cell);
  const hash = (x: number, y: number, z: number) =>
    (Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791)) & mask;
  for (let i = 0; i < n; i++) {
    const cube = hash(
      cubeOf(positions[i * 3]!),
      cubeOf(positions[i * 3 + 1]!),
      cubeOf(positions[i * 3 + 2]!),
    );
    next[i] = first[cube]!;
    first[cube] = i;
  }
  return (place, visit) => {
    const [x, y, z] = place.map(cubeOf) as Vec3;
    for (let i = 0; i < 27; i++) {
      const cube = hash(x + (i % 3) - 1, y + (((i / 3) | 0) % 3) - 1, z + ((i / 9) | 0) - 1);
      for (let point = first[cube]!; point >= 0; point = next[point]!) visit(point);
    }
  };
}
