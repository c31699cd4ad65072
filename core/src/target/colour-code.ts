/** A linear value as screens encode it, IEC 61966-2-1. */
export const encoded = (linear: number): number =>
  linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055;

/** A linear colour as people type it: `#RRGGBB`. */
export const colourCode = (linear: readonly number[]): string =>
  `#${linear
    .slice(0, 3)
    .map((v) =>
      Math.round(255 * encoded(Math.min(1, Math.max(0, v))))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')
    .toUpperCase()}`;
