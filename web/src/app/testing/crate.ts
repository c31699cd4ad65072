import { faceNeighbours, plainMesh, plainNode, type Shape, takeIn } from '@yard-brace/core';
import type { ArtOfPiece } from '../drawing/art-to-draw';

const corners = [-1, -1, -1, 1, -1, -1, 1, 1, -1, -1, 1, -1, -1, -1, 1, 1, -1, 1, 1, 1, 1, -1, 1, 1];
const triangles = [
  0, 3, 2, 0, 2, 1, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 2, 3, 7, 2, 7, 6, 0, 4, 7, 0, 7, 3, 1, 2, 6, 1, 6, 5,
];
const mesh = plainMesh(corners, triangles);
const taken = takeIn(
  {
    unit: { metres: 1, stated: true },
    nodes: [plainNode('Crate', 0)],
    meshes: [{ name: 'Crate', mesh }],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  },
  {
    files: [{ name: 'crate.obj', blob: 'a'.repeat(64), bytes: 1 }],
    meshName: (name) => name,
  },
);

const { document } = taken;

/** The crate as a piece, with the bytes of its mesh. */
export const crateScene = () => taken;

/** A crate two metres wide round a point, by default ten kilometres from the origin: 8 vertices, 12 faces. */
export const crateArt = (origin: [number, number, number] = [10000, 1, 0], key = 'crate'): ArtOfPiece => ({
  document,
  art: {
    key,
    origin,
    positions: Float32Array.from(corners),
    indices: Uint32Array.from(triangles),
    uvs: [],
    groups: [{ material: -1, start: 0, count: 12 }],
    ink: new Float32Array(),
    part: new Uint32Array(12),
    face: Uint32Array.from({ length: 12 }, (_, i) => i),
    neighbours: Int32Array.from(faceNeighbours(mesh)),
  },
});

export const boxRound = (center: [number, number, number], half: number): Shape => ({
  kind: 'box',
  center,
  halfExtents: [half, half, half],
  rotation: [0, 0, 0, 1],
});

/** A canvas of 400 x 300 CSS pixels on the page. */
export function canvasOnPage(): HTMLCanvasElement {
  const canvas = globalThis.document.createElement('canvas');
  canvas.style.cssText = 'position: fixed; left: 0; top: 0; width: 400px; height: 300px; display: block';
  globalThis.document.body.append(canvas);
  return canvas;
}
