import { type Mesh, plainMesh } from '../mesh/index.js';

/** A closed outline ([radius, height] each, anticlockwise with the axis to its left) turned about y. */
export function turned(outline: readonly (readonly [number, number])[], around = 36): Mesh {
  const positions = outline.flatMap(([radius, y]) =>
    Array.from({ length: around }, (_, i) => {
      const angle = (2 * Math.PI * i) / around;
      return [radius * Math.cos(angle), y, radius * Math.sin(angle)];
    }).flat(),
  );
  const indices = outline.flatMap((_, k) => {
    const next = (k + 1) % outline.length;
    return Array.from({ length: around }, (_, i) => {
      const j = (i + 1) % around;
      const [a, b, c, d] = [k * around + i, k * around + j, next * around + i, next * around + j];
      return [a, c, b, b, c, d];
    }).flat();
  });
  return plainMesh(positions, indices);
}

/** A bowl: half a metre, 30 mm thick, open above. */
export const bowl = (around = 36): Mesh => {
  const arc = (radius: number) =>
    Array.from({ length: 12 }, (_, i): [number, number] => {
      const angle = (1.45 * (i + 0.001)) / 11;
      return [radius * Math.sin(angle), 0.5 - radius * Math.cos(angle)];
    });
  return turned([...arc(0.5), ...arc(0.47).reverse()], around);
};

/** A solid post with a waist, 1.2 m high. */
export const post = (): Mesh =>
  turned([
    [0.001, 0],
    [0.3, 0],
    [0.3, 0.2],
    [0.1, 0.3],
    [0.1, 0.9],
    [0.25, 1],
    [0.25, 1.2],
    [0.001, 1.2],
  ]);
