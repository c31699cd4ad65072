import { areaVector, length, type Vec3 } from '../math/index.js';
import type { Fragment } from './fragment.js';

/** Mixed moments below this share of the whole tell nothing: then the axes of the art stay. */
const MIN_MIXED_SHARE = 0.01;
const SWEEPS = 12;

/**
 * The middle of a fragment's surface and the three directions it spreads along, the widest first: those of the second
 * moments of its faces (Jacobi's rotations of a symmetric 3 by 3 matrix). What spreads alike along two of them keeps
 * the axes of the art.
 *
 * @param least mixed moments below this share of the whole tell nothing
 */
export function principalAxes(fragment: Fragment, least = MIN_MIXED_SHARE): { middle: Vec3; axes: Vec3[] } {
  const { middle, moments } = momentsOf(fragment);
  const axes: Vec3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const whole = moments[0]![0]! + moments[1]![1]! + moments[2]![2]!;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let turned = false;
    for (const [i, j] of PAIRS) {
      const mixed = moments[i]![j]!;
      if (Math.abs(mixed) <= whole * (sweep ? 1e-12 : least)) continue;
      turned = true;
      const angle = 0.5 * Math.atan2(2 * mixed, moments[j]![j]! - moments[i]![i]!);
      turn(moments, axes, i, j, Math.cos(angle), Math.sin(angle));
    }
    if (!turned) break;
  }
  return {
    middle,
    axes: axes
      .map((axis, k) => ({ axis, spread: moments[k]![k]! }))
      .sort((a, b) => b.spread - a.spread)
      .map(({ axis }) => axis),
  };
}

const PAIRS = [
  [0, 1],
  [0, 2],
  [1, 2],
] as const;

/** One rotation in the plane of axes i and j, of the moments and of the axes. */
function turn(moments: number[][], axes: Vec3[], i: number, j: number, c: number, s: number): void {
  for (let k = 0; k < 3; k++) {
    const [a, b] = [moments[i]![k]!, moments[j]![k]!];
    moments[i]![k] = c * a - s * b;
    moments[j]![k] = s * a + c * b;
  }
  for (let k = 0; k < 3; k++) {
    const [a, b] = [moments[k]![i]!, moments[k]![j]!];
    moments[k]![i] = c * a - s * b;
    moments[k]![j] = s * a + c * b;
  }
  const [a, b] = [axes[i]!, axes[j]!];
  axes[i] = [0, 1, 2].map((k) => c * a[k]! - s * b[k]!) as Vec3;
  axes[j] = [0, 1, 2].map((k) => s * a[k]! + c * b[k]!) as Vec3;
}

/** Of faces, each as its corners and three times its middle. */
function momentsOf({ points: p, triangles, faces: real }: Fragment): { middle: Vec3; moments: number[][] } {
  // What a cut left of the inside has caps only.
  const faces = real || triangles.length / 3;
  let area = 0;
  const middle: Vec3 = [0, 0, 0];
  const areas = new Float64Array(faces);
  for (let f = 0; f < faces; f++) {
    const [a, b, c] = [triangles[f * 3]! * 3, triangles[f * 3 + 1]! * 3, triangles[f * 3 + 2]! * 3];
    const own = length(areaVector(p, a, b, c));
    areas[f] = own;
    area += own;
    for (let k = 0; k < 3; k++) middle[k]! += (own * (p[a + k]! + p[b + k]! + p[c + k]!)) / 3;
  }
  for (let k = 0; k < 3; k++) middle[k]! /= area || 1;
  let [xx, xy, xz, yy, yz, zz] = [0, 0, 0, 0, 0, 0];
  for (let f = 0; f < faces; f++) {
    const [a, b, c] = [triangles[f * 3]! * 3, triangles[f * 3 + 1]! * 3, triangles[f * 3 + 2]! * 3];
    const add = (x: number, y: number, z: number, weight: number) => {
      xx += weight * x * x;
      xy += weight * x * y;
      xz += weight * x * z;
      yy += weight * y * y;
      yz += weight * y * z;
      zz += weight * z * z;
    };
    const [ax, ay, az] = [p[a]! - middle[0], p[a + 1]! - middle[1], p[a + 2]! - middle[2]];
    const [bx, by, bz] = [p[b]! - middle[0], p[b + 1]! - middle[1], p[b + 2]! - middle[2]];
    const [cx, cy, cz] = [p[c]! - middle[0], p[c + 1]! - middle[1], p[c + 2]! - middle[2]];
    const own = areas[f]!;
    add(ax, ay, az, own / 12);
    add(bx, by, bz, own / 12);
    add(cx, cy, cz, own / 12);
    add((ax + bx + cx) / 3, (ay + by + cy) / 3, (az + bz + cz) / 3, (own * 9) / 12);
  }
  return {
    middle,
    moments: [
      [xx, xy, xz],
      [xy, yy, yz],
      [xz, yz, zz],
    ],
  };
}
