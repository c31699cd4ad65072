import { faceNeighbours, type Mesh, plainMesh, plainNode, takeIn } from '@yard-brace/core';
import type { ArtOfPiece } from '../drawing/art-to-draw';

/** A strip of four quads along x, the last two folded up, in two materials; ten metres from the origin. */
const points = [0, 1, 2, 3, 4].flatMap((i) => [0, 1].flatMap((j) => (i < 3 ? [i, 0, j] : [2, i - 2, j])));
const indices = [0, 1, 2, 3].flatMap((i) => [2 * i, 2 * i + 1, 2 * i + 2, 2 * i + 1, 2 * i + 3, 2 * i + 2]);
const mesh: Mesh = {
  ...plainMesh(points, indices),
  groups: [
    { material: 0, start: 0, count: 6 },
    { material: 1, start: 6, count: 2 },
  ],
};
const { document } = takeIn(
  {
    unit: { metres: 1, stated: true },
    nodes: [plainNode('Strip', 0)],
    meshes: [{ name: 'Strip', mesh }],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  },
  {
    files: [{ name: 'strip.obj', blob: 'a'.repeat(64), bytes: 1 }],
    meshName: (name) => name,
  },
);

export const stripArt = (): ArtOfPiece => ({
  document,
  art: {
    key: 'strip',
    origin: [10, 0, 0],
    positions: Float32Array.from(points),
    indices: Uint32Array.from(indices),
    uvs: [],
    groups: mesh.groups,
    ink: new Float32Array(),
    part: new Uint32Array(8),
    face: Uint32Array.from({ length: 8 }, (_, i) => i),
    neighbours: Int32Array.from(faceNeighbours(mesh)),
  },
});
