import { Color, Float32BufferAttribute, BufferGeometry, LineSegments, ShaderMaterial } from 'three';

const PAPER = new Color('#F4F0E7');
const FINE = new Color('#DDD5C6');
const HEAVY = new Color('#B9AF9C');

const MIN_METRES = 4;
const MAX_METRES = 80;
/** A piece of a line that passes the eye is lost on some drivers: each line is laid in so many across the ground. */
const PIECES = 12;

/**
 * The drawn ground: a line every metre, a heavier one every `step` metres, fading into the paper. Lines fade as
 * they are drawn: tens of thousands of short ones, coloured at their ends, are most of a frame where no graphics card
 * helps.
 */
export function groundGrid(radius: number, step: number): LineSegments {
  const metres = Math.min(MAX_METRES, Math.max(MIN_METRES, Math.ceil(radius)));
  const every = Math.max(1, Math.round(step));
  const points: number[] = [];
  const colors: number[] = [];
  for (let line = -metres; line <= metres; line++) {
    const half = Math.sqrt(metres ** 2 - line ** 2);
    const { r, g, b } = line % every === 0 ? HEAVY : FINE;
    const pieces = Math.ceil((half / metres) * PIECES);
    for (let piece = 0; piece < pieces; piece++) {
      const [from, to] = [piece, piece + 1].map((end) => half * ((2 * end) / pieces - 1)) as [number, number];
      points.push(line, 0, from, line, 0, to, from, 0, line, to, 0, line);
      for (let end = 0; end < 4; end++) colors.push(r, g, b);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(points, 3));
  geometry.setAttribute('color', new Float32BufferAttribute(colors, 3));
  return new LineSegments(geometry, fadingLines(metres));
}

/** Lines in the colours of their vertices, gone at a distance from their origin. */
function fadingLines(metres: number): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { paper: { value: PAPER }, metres: { value: metres } },
    vertexColors: true,
    depthWrite: false,
    vertexShader: `
      varying vec2 at;
      varying vec3 ink;
      void main() {
        at = position.xz;
        ink = color;
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader: `
      uniform vec3 paper;
      uniform float metres;
      varying vec2 at;
      varying vec3 ink;
      void main() {
        float fade = pow(min(1.0, length(at) / metres), 1.5);
        gl_FragColor = vec4(mix(ink, paper, fade), 1.0);
        #include <colorspace_fragment>
      }`,
  });
}
