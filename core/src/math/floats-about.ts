import type { Vec3 } from './vector.js';

/**
 * Packed points from an origin, in single precision: what is drawn, or handed to a library that takes no doubles, loses
 * least near its own middle. Shape: [3n] to [3n]. (A mapping callback takes a hundred times as long for millions.)
 */
export function floatsAbout(points: ArrayLike<number>, [x, y, z]: Readonly<Vec3>): Float32Array<ArrayBuffer> {
  const out = new Float32Array(points.length);
  for (let i = 0; i + 2 < out.length; i += 3) {
    out[i] = points[i]! - x;
    out[i + 1] = points[i + 1]! - y;
    out[i + 2] = points[i + 2]! - z;
  }
  return out;
}
