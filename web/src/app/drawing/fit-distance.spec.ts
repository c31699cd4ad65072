import { PerspectiveCamera, Vector3 } from 'three';
import { fitDistance } from './fit-distance';
import type { Bounds, Vec3 } from '@yard-brace/core';

const DIRECTIONS: Vec3[] = [
  [0.55, 0.4, 0.75],
  [0, 0, 1],
  [0, 1, 0],
  [-1, 0.1, 0.2],
];
const BOUNDS: Bounds[] = [
  { min: [-0.05, 0, -0.05], max: [0.05, 12, 0.05] },
  { min: [-9, 0, -0.1], max: [9, 0.2, 0.1] },
  { min: [4000, 60, -900], max: [4000.4, 60.2, -899] },
];

/** How far the corners reach towards the edge of the frame: 1 is the edge. */
function reach(bounds: Bounds, direction: Vec3, aspect: number, away: number): number {
  const camera = new PerspectiveCamera(38, aspect, away / 1e4, away * 1e4);
  const middle = new Vector3()
    .addVectors(new Vector3(...bounds.min), new Vector3(...bounds.max))
    .divideScalar(2);
  camera.position.copy(middle).addScaledVector(new Vector3(...direction).normalize(), away);
  camera.lookAt(middle);
  camera.updateMatrixWorld();
  let most = 0;
  for (let k = 0; k < 8; k++) {
    const at = [0, 1, 2].map((i) => ((k >> i) & 1 ? bounds.max : bounds.min)[i]!);
    const p = new Vector3(...at).project(camera);
    most = Math.max(most, Math.abs(p.x), Math.abs(p.y));
  }
  return most;
}

describe('fitting a frame', () => {
  it('brings every corner in, and one to the edge, from wherever it is looked at', () => {
    const tall = Math.tan((38 * Math.PI) / 360);
    for (const direction of DIRECTIONS)
      for (const bounds of BOUNDS)
        for (const aspect of [0.5, 2.1]) {
          const away = fitDistance(bounds, { direction, tangents: [tall, tall * aspect] });
          expect(reach(bounds, direction, aspect, away))
            .withContext(`${direction.join()} ${bounds.max.join()} ${aspect}`)
            .toBeCloseTo(1, 3);
        }
  });

  it('without perspective looks only at how wide and tall it is', () => {
    const flat: Bounds = { min: [-2, -1, -50], max: [2, 1, 50] };
    expect(fitDistance(flat, { direction: [0, 0, 1], tangents: [0.5, 1], parallel: true })).toBeCloseTo(
      2,
      12,
    );
    expect(fitDistance({ min: [0, 0, 0], max: [0, 0, 0] }, { direction: [0, 0, 1], tangents: [1, 1] })).toBe(
      1e-6,
    );
  });
});
