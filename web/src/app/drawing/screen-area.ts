import type { Matrix4 } from 'three';
import type { ArtToDraw } from './art-to-draw';

/** A closed line on the screen in CSS pixels. */
export type Area = readonly (readonly [number, number])[];

/**
 * The faces whose middle lies in an area of the screen. Shape: [t].
 *
 * @param toClip from the piece's space into clip space
 */
export function facesInArea(
  art: ArtToDraw,
  area: Area,
  toClip: Matrix4,
  width: number,
  height: number,
): Uint8Array {
  const out = new Uint8Array(art.indices.length / 3);
  const xs = area.map(([x]) => x);
  const ys = area.map(([, y]) => y);
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const m = toClip.elements;
  const { positions: p, indices, origin } = art;
  for (let f = 0; f < out.length; f++) {
    const [a, b, c] = [indices[f * 3]! * 3, indices[f * 3 + 1]! * 3, indices[f * 3 + 2]! * 3];
    const x = (p[a]! + p[b]! + p[c]!) / 3 + origin[0];
    const y = (p[a + 1]! + p[b + 1]! + p[c + 1]!) / 3 + origin[1];
    const z = (p[a + 2]! + p[b + 2]! + p[c + 2]!) / 3 + origin[2];
    const w = m[3]! * x + m[7]! * y + m[11]! * z + m[15]!;
    if (w <= 0) continue;
    const sx = (((m[0]! * x + m[4]! * y + m[8]! * z + m[12]!) / w + 1) / 2) * width;
    const sy = ((1 - (m[1]! * x + m[5]! * y + m[9]! * z + m[13]!) / w) / 2) * height;
    if (sx < left || sx > right || sy < top || sy > bottom) continue;
    if (area.length === 4 || isInside([sx, sy], area)) out[f] = 1;
  }
  return out;
}

/** Whether a place on the screen lies in an area: even and odd crossings of a ray to the right. */
export function isInside([x, y]: readonly [number, number], area: Area): boolean {
  let odd = false;
  for (let i = 0, j = area.length - 1; i < area.length; j = i++) {
    const [xi, yi] = area[i]!;
    const [xj, yj] = area[j]!;
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) odd = !odd;
  }
  return odd;
}
