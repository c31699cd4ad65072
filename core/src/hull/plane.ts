/** Unit normal and offset of a polygon (Newell's method). Shape: nx, ny, nz, d with n . x = d. */
export function planeOf(
  points: ArrayLike<number>,
  face: readonly number[],
): [number, number, number, number] {
  let nx = 0,
    ny = 0,
    nz = 0;
  const o = face[0]! * 3;
  for (let i = 1; i + 1 < face.length; i++) {
    const a = face[i]! * 3;
    const b = face[i + 1]! * 3;
    const ux = points[a]! - points[o]!,
      uy = points[a + 1]! - points[o + 1]!,
      uz = points[a + 2]! - points[o + 2]!;
    const vx = points[b]! - points[o]!,
      vy = points[b + 1]! - points[o + 1]!,
      vz = points[b + 2]! - points[o + 2]!;
    nx += uy * vz - uz * vy;
    ny += uz * vx - ux * vz;
    nz += ux * vy - uy * vx;
  }
  const l = Math.hypot(nx, ny, nz) || 1;
  return [nx / l, ny / l, nz / l, (nx * points[o]! + ny * points[o + 1]! + nz * points[o + 2]!) / l];
}
