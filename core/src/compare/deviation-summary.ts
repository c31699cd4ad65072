import type { Vec3 } from '../math/index.js';
import type { Deviation } from './comparison.js';

/** Steps of distance that a 95th percentile is told in. */
const BINS = 4096;
const NOTHING: Deviation = { mean: 0, p95: 0, max: 0, at: null };

/** Mean, 95th percentile and most of distances at places ([3n]) that stand for areas ([n]). */
export function summary(points: Float64Array, areas: Float64Array, off: Float64Array): Deviation {
  if (off.length === 0) return NOTHING;
  let area = 0;
  let sum = 0;
  let farthest = 0;
  for (let i = 0; i < off.length; i++) {
    area += areas[i]!;
    sum += areas[i]! * off[i]!;
    if (off[i]! > off[farthest]!) farthest = i;
  }
  // Sorted into narrow bins by distance: the bin in which 95 % of the area is reached, by its far side.
  const bins = new Float64Array(BINS);
  const widest = off[farthest]! || 1;
  for (let i = 0; i < off.length; i++)
    bins[Math.min(BINS - 1, Math.ceil((off[i]! / widest) * (BINS - 1)))]! += areas[i]!;
  let bin = 0;
  for (let below = bins[0]!; bin < BINS - 1 && below < area * 0.95;) below += bins[++bin]!;
  const p95 = (bin / (BINS - 1)) * off[farthest]!;
  const max = off[farthest]!;
  const at: Vec3 | null =
    max > 0 ? [points[farthest * 3]!, points[farthest * 3 + 1]!, points[farthest * 3 + 2]!] : null;
  return { mean: area > 0 ? sum / area : 0, p95, max, at };
}

/** A summary of places, with the farthest place of its parts where that is farther. */
export function withFarthest(sampled: Deviation, parts: readonly Pick<Deviation, 'max' | 'at'>[]): Deviation {
  let { max, at } = sampled;
  for (const part of parts) if (part.max > max) ({ max, at } = part);
  return { ...sampled, max, at };
}
