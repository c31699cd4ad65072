import type { Bounds, Vec3 } from '@yard-brace/core';

/** Over the art's floor where a drive along a way begins, and how far it goes. */
export function startOfDrive(
  positions: Float64Array,
  { min, max }: Readonly<Bounds>,
  way: readonly [number, number],
  wheelbase: number,
): { at: Vec3; length: number } {
  const half = (Math.abs(way[0]) * (max[0] - min[0]) + Math.abs(way[1]) * (max[2] - min[2])) / 2;
  const middle = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2] as const;
  const inset = Math.min(half * 0.5, wheelbase * 0.75);
  const [x, z] = [middle[0] - way[0] * (half - inset), middle[1] - way[1] * (half - inset)];
  let floor = min[1];
  let nearest = Infinity;
  for (let i = 0; i < positions.length; i += 3) {
    const away = Math.hypot(positions[i]! - x, positions[i + 2]! - z);
    if (away < nearest - 1e-9 || (away < nearest + 1e-9 && positions[i + 1]! < floor)) {
      nearest = Math.min(nearest, away);
      floor = positions[i + 1]!;
    }
  }
  return { at: [x, floor + 0.02, z], length: 2 * (half - inset) };
}
