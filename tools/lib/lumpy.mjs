import * as core from '@yard-brace/core';

/** A ball with three lumps, smooth all over: nothing flat to go by. */
export function lumpy(around, up) {
  const positions = [];
  const indices = [];
  for (let j = 0; j <= up; j++)
    for (let i = 0; i < around; i++) {
      const [a, b] = [(i / around) * 2 * Math.PI, (j / up) * Math.PI];
      const r = 1 + 0.25 * Math.sin(3 * a) * Math.sin(b) ** 2;
      positions.push(Math.sin(b) * Math.cos(a) * r, Math.cos(b) * 1.5, Math.sin(b) * Math.sin(a) * r);
    }
  for (let j = 0; j < up; j++)
    for (let i = 0; i < around; i++) {
      const [a, b] = [j * around + i, j * around + ((i + 1) % around)];
      indices.push(a, b, b + around, a, b + around, a + around);
    }
  return core.plainMesh(positions, indices);
}
