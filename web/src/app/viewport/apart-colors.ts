import type { ComingApart } from '@yard-brace/core';
import { Color } from 'three';
import { tintOf } from '../drawing/tints';
import { putTone } from './uv-colors';

/** what stays as it is, and what is too small to be a piece */
const STAYS = new Color('#e4ddcd');
const SPECK = new Color('#c8412b');

/** [9t]: a tint for each piece that a part would come apart into; specks stand out. */
export function apartColors({ pieces, ofFace }: ComingApart): Float32Array {
  const tones = pieces.map(({ speck }, n) => (speck ? SPECK : new Color(tintOf(n + 1))));
  const colors = new Float32Array(ofFace.length * 9);
  ofFace.forEach((piece, f) => putTone(colors, f, tones[piece] ?? STAYS));
  return colors;
}
