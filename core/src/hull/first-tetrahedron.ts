import { collinear, comesBefore, orient, orientPoint } from './orientation.js';

/** Where a hull starts from, or what the points span instead. */
export type Start = { span: 'solid'; corners: number[] } | { span: 'empty' | 'point' | 'line' | 'plane' };

/** Four points that span a volume, chosen far apart; or why there are none. Ties go to the lowest place. */
export function firstTetrahedron(p: ArrayLike<number>): Start {
  const n = Math.floor(p.length / 3);
  if (n === 0) return { span: 'empty' };
  const a = extreme(p, n, () => 0);
  const ax = p[a * 3]!,
    ay = p[a * 3 + 1]!,
    az = p[a * 3 + 2]!;
  const b = extreme(p, n, (x, y, z) => Math.hypot(x - ax, y - ay, z - az));
  const dx = p[b * 3]! - ax,
    dy = p[b * 3 + 1]! - ay,
    dz = p[b * 3 + 2]! - az;
  if (dx === 0 && dy === 0 && dz === 0) return { span: 'point' };
  let c = extreme(p, n, (x, y, z) => {
    const ux = x - ax,
      uy = y - ay,
      uz = z - az;
    return Math.hypot(uy * dz - uz * dy, uz * dx - ux * dz, ux * dy - uy * dx);
  });
  if (collinear(p, a, b, c)) {
    c = 0;
    while (c < n && collinear(p, a, b, c)) c++;
    if (c === n) return { span: 'line' };
  }
  const apex = extreme(p, n, (x, y, z) => Math.abs(orientPoint(p, a, b, c, x, y, z)));
  const side = orient(p, a, b, c, apex);
  if (side === 0) return { span: 'plane' };
  return { span: 'solid', corners: side > 0 ? [a, c, b, apex] : [a, b, c, apex] };
}

/** The point with the greatest value; of equals the one lowest in x, then y, then z. */
function extreme(
  p: ArrayLike<number>,
  n: number,
  value: (x: number, y: number, z: number) => number,
): number {
  let best = 0;
  let bestValue = -Infinity;
  for (let v = 0; v < n; v++) {
    const here = value(p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!);
    if (here > bestValue || (here === bestValue && comesBefore(p, v, best))) {
      best = v;
      bestValue = here;
    }
  }
  return best;
}
