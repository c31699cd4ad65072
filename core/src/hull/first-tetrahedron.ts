import { collinear, comesBefore, orient, orientPoint } from './orientation.js';

/** Where a hull starts from, or what the points span instead. */
export type Start = { span: 'solid'; corners: number[] } | { span: 'empty' | 'point' | 'line' | 'plane' };

/** Four points that span a volume, chosen far apart; or why there are none. Ties go to the lowest place. */
export function firstTetrahedron(p: ArrayLike<number>): Start {
  const n = Math.floor(p.length / 3);
  if (n === 0) return { span: 'empty' };
  const value = new Float64Array(n);
  const a = extreme(p, value);
  const ax = p[a * 3]!,
    ay = p[a * 3 + 1]!,
    az = p[a * 3 + 2]!;
  for (let v = 0; v < n; v++) {
    const x = p[v * 3]! - ax,
      y = p[v * 3 + 1]! - ay,
      z = p[v * 3 + 2]! - az;
    value[v] = x * x + y * y + z * z;
  }
  const b = extreme(p, value);
  const dx = p[b * 3]! - ax,
    dy = p[b * 3 + 1]! - ay,
    dz = p[b * 3 + 2]! - az;
  if (dx === 0 && dy === 0 && dz === 0) return { span: 'point' };
  for (let v = 0; v < n; v++) {
    const x = p[v * 3]! - ax,
      y = p[v * 3 + 1]! - ay,
      z = p[v * 3 + 2]! - az;
    const nx = y * dz - z * dy,
      ny = z * dx - x * dz,
      nz = x * dy - y * dx;
    value[v] = nx * nx + ny * ny + nz * nz;
  }
  let c = extreme(p, value);
  if (collinear(p, a, b, c)) {
    c = 0;
    while (c < n && collinear(p, a, b, c)) c++;
    if (c === n) return { span: 'line' };
  }
  for (let v = 0; v < n; v++) {
    value[v] = Math.abs(orientPoint(p, a, b, c, p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!));
  }
  const apex = extreme(p, value);
  const side = orient(p, a, b, c, apex);
  if (side === 0) return { span: 'plane' };
  return { span: 'solid', corners: side > 0 ? [a, c, b, apex] : [a, b, c, apex] };
}

/** The point with the greatest value; of equals the one lowest in x, then y, then z. */
function extreme(p: ArrayLike<number>, value: Float64Array): number {
  let best = 0;
  for (let v = 1; v < value.length; v++) {
    if (value[v]! > value[best]! || (value[v] === value[best] && comesBefore(p, v, best))) best = v;
  }
  return best;
}
