import { BufferAttribute, BufferGeometry, Color, LineBasicMaterial, LineSegments } from 'three';

const PAPER = new Color('#F4F0E7');
const FINE = new Color('#DDD5C6');
const HEAVY = new Color('#B9AF9C');

/**
 * The drawn ground: a line every metre, a heavier one every `step` metres, fading into the paper. Lines are
 * cut into metres so that each end can have its own share of the fade.
 */
export function groundGrid(radius: number, step: number): LineSegments {
  const metres = Math.min(80, Math.max(4, Math.ceil(radius)));
  const points: number[] = [];
  const colors: number[] = [];
  const put = (x: number, z: number, heavy: boolean) => {
    points.push(x, 0, z);
    const fade = Math.min(1, Math.hypot(x, z) / metres) ** 1.5;
    const color = (heavy ? HEAVY : FINE).clone().lerp(PAPER, fade);
    colors.push(color.r, color.g, color.b);
  };
  const every = Math.max(1, Math.round(step));
  for (let line = -metres; line <= metres; line++) {
    const heavy = line % every === 0;
    for (let along = -metres; along < metres; along++) {
      if (Math.hypot(line, along + 0.5) > metres) continue;
      put(line, along, heavy);
      put(line, along + 1, heavy);
      put(along, line, heavy);
      put(along + 1, line, heavy);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(points), 3));
  geometry.setAttribute('color', new BufferAttribute(Float32Array.from(colors), 3));
  return new LineSegments(geometry, new LineBasicMaterial({ vertexColors: true, depthWrite: false }));
}
