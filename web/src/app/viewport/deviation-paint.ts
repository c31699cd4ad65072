import { Color } from 'three';
import type { Deviations } from '../state/deviation-store';

/** Steps of each scale; the palest is as near as makes no difference. */
const STEPS = 4;
const PALE = new Color('#efe9dc');
const ART_OUT = new Color('#17616e');
const PROXY_OUT = new Color('#b4471f');

/** The colours of the legend, from far out of the art's side to far out of the proxies'. */
export const LEGEND: readonly string[] = [
  ...Array.from({ length: STEPS }, (_, i) => `#${toned(ART_OUT, STEPS - i).getHexString()}`),
  `#${PALE.getHexString()}`,
  ...Array.from({ length: STEPS }, (_, i) => `#${toned(PROXY_OUT, i + 1).getHexString()}`),
];

function toned(full: Color, step: number): Color {
  return PALE.clone().lerp(full, step / STEPS);
}

/** [3n]: a colour for each vertex, in steps, so that lines of equal deviation show. */
export function deviationColors({ vertices, scale }: Pick<Deviations, 'vertices' | 'scale'>): Float32Array {
  const tones = [ART_OUT, PROXY_OUT].map((full) =>
    Array.from({ length: STEPS + 1 }, (_, step) => toned(full, step)),
  );
  const colors = new Float32Array(vertices.length * 3);
  for (let v = 0; v < vertices.length; v++) {
    const value = vertices[v]!;
    const step = Math.min(STEPS, Math.floor((Math.abs(value) / scale) * STEPS));
    const tone = tones[value > 0 ? 0 : 1]![step]!;
    colors[v * 3] = tone.r;
    colors[v * 3 + 1] = tone.g;
    colors[v * 3 + 2] = tone.b;
  }
  return colors;
}

/** How solid the faces of shapes are painted where they stand off. */
const FACE_OPACITY = 0.8;

/** [4n]: a colour for each corner of the shapes' own faces; clear where they stand off too little for a step. */
export function excessColors(values: Float32Array, scale: number): Float32Array {
  const tones = Array.from({ length: STEPS + 1 }, (_, step) => toned(PROXY_OUT, step));
  const colors = new Float32Array(values.length * 4);
  for (let v = 0; v < values.length; v++) {
    const step = Math.min(STEPS, Math.floor((values[v]! / scale) * STEPS));
    const { r, g, b } = tones[step]!;
    colors.set([r, g, b, step > 0 ? FACE_OPACITY : 0], v * 4);
  }
  return colors;
}
