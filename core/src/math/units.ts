/** Units of length a file may be drawn in, with their length in metres. */
export const UNITS = { m: 1, cm: 0.01, mm: 0.001, in: 0.0254, ft: 0.3048 } as const;

export type UnitName = keyof typeof UNITS;

/** Longest side, in metres, that a piece of environment art is expected to have. */
export const PLAUSIBLE_METRES = { smallest: 0.05, largest: 120 } as const;

/**
 * The unit that makes a longest side of `extent` file units a plausible piece of environment art.
 * Metres win when they are plausible; of the rest the one whose size comes nearest to `usualMetres`.
 */
export function likelyUnit(extent: number, usualMetres = 3): UnitName {
  const metres = (unit: UnitName) => extent * UNITS[unit];
  const plausible = (unit: UnitName) => metres(unit) >= PLAUSIBLE_METRES.smallest && metres(unit) <= 30;
  if (plausible('m')) return 'm';
  const off = (unit: UnitName) => Math.abs(Math.log(metres(unit) / usualMetres));
  const metric = (['cm', 'mm', 'm'] as const).filter(plausible);
  return metric.sort((a, b) => off(a) - off(b))[0] ?? 'm';
}
