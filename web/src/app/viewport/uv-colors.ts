import { Color } from 'three';
import type { PaintedUvs } from '../state/art-looks';

/** Steps of the scale to either side of its middle; each is twice the one before, or half of it. */
const STEPS = 3;
const PALE = new Color('#efe9dc');
const LESS = new Color('#17616e');
const MORE = new Color('#b4471f');
/** nothing is laid on */
const NONE = new Color('#9aa0a2');

const toned = (step: number): Color => PALE.clone().lerp(step < 0 ? LESS : MORE, Math.abs(step) / STEPS);

/** The colours of the legend, from an eighth of the middle to eight times as much. */
export const UV_LEGEND: readonly string[] = Array.from(
  { length: 2 * STEPS + 1 },
  (_, i) => `#${toned(i - STEPS).getHexString()}`,
);

/** Give all three corners of a face one colour. */
export function putTone(colors: Float32Array, face: number, { r, g, b }: Color): void {
  for (let corner = 0; corner < 3; corner++) colors.set([r, g, b], face * 9 + corner * 3);
}

/** [9t]: a colour for each corner of each face. */
export function uvColors({ values, middle }: Pick<PaintedUvs, 'values' | 'middle'>): Float32Array {
  const tones = Array.from({ length: 2 * STEPS + 1 }, (_, i) => toned(i - STEPS));
  const colors = new Float32Array(values.length * 9);
  for (let f = 0; f < values.length; f++) {
    const step = Math.round(Math.log2(values[f]! / middle));
    const tone = values[f]! > 0 ? tones[Math.min(STEPS, Math.max(-STEPS, step)) + STEPS]! : NONE;
    putTone(colors, f, tone);
  }
  return colors;
}
