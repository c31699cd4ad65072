import * as core from '@yard-brace/core';
import { samplePieces } from '@yard-brace/demo';

import { blocks, SOLIDS, tube } from '../../core/dist/testing/solids.js';
import { lumpy } from './lumpy.mjs';

/** A line round a quarter of a circle or more, `n` places. */
export const arc = (radius, angle, n, y = 0) =>
  Array.from({ length: n }, (_, i) => {
    const a = (angle * i) / (n - 1);
    return [Math.cos(a) * radius, y, Math.sin(a) * radius];
  });

export const ring = (sides = 48) =>
  tube(
    Array.from({ length: sides }, (_, i) => {
      const a = (i / sides) * 2 * Math.PI;
      return [Math.cos(a) * 2, 0, Math.sin(a) * 2];
    }),
    0.2,
    12,
    true,
  );

/** Bent twice, not in one plane. */
export const hose = () =>
  tube(
    Array.from({ length: 60 }, (_, i) => {
      const t = (i / 59) * 5;
      return [t, Math.sin(t) * 0.8, Math.cos(t * 0.7) * 1.1];
    }),
    0.12,
  );

/** What a person would break each clean case into; `boxes`: exactly, as boxes that cross nothing. */
export const CLEAN = [
  { name: 'L', mesh: SOLIDS.ell, boxes: 2 },
  { name: 'U', mesh: SOLIDS.you, boxes: 3 },
  { name: 'T', mesh: SOLIDS.tee, boxes: 2 },
  { name: 'plus', mesh: SOLIDS.plus, boxes: 3 },
  { name: 'slab on four legs', mesh: SOLIDS.table, boxes: 5 },
  { name: 'stair of six', mesh: SOLIDS.stair, boxes: 6 },
  { name: 'wall, one doorway', mesh: SOLIDS.door, boxes: 3 },
  { name: 'wall, two doorways', mesh: SOLIDS.twoDoors, boxes: 5 },
  { name: 'wall, one window', mesh: SOLIDS.window, boxes: 4 },
  { name: 'open tray', mesh: SOLIDS.tray, boxes: 5 },
  { name: 'H beam', mesh: SOLIDS.beam, boxes: 3 },
  { name: 'ring', mesh: ring },
  { name: 'bent tube', mesh: () => tube(arc(3, Math.PI / 2, 30), 0.2) },
  { name: 'hose', mesh: hose },
  { name: 'two apart', mesh: SOLIDS.apart, boxes: 3 },
];

const trestle = () =>
  core.joinMeshes([
    blocks([[0, 1, 0, 2.4, 1.12, 0.2]]),
    ...[0.2, 2.2].flatMap((x) =>
      [-1, 1].map((side) =>
        core.transformMesh(
          blocks([[-0.05, -1.05, -0.05, 0.05, 0, 0.05]]),
          core.composeMatrix({
            translation: [x, 1, 0.1],
            rotation: [Math.sin(side * 0.15), 0, 0, Math.cos(side * 0.15)],
            scale: [1, 1, 1],
          }),
        ),
      ),
    ),
  ]);

const funnel = () => {
  const profile = [
    [0.2, -1],
    [0.25, 0],
    [1, 0.8],
    [1, 1],
    [0.9, 1],
    [0.9, 0.85],
    [0.15, 0],
    [0.1, -1],
  ];
  const around = 40;
  const positions = profile.flatMap(([r, y]) =>
    Array.from({ length: around }, (_, i) => {
      const a = (i / around) * 2 * Math.PI;
      return [Math.cos(a) * r, y, Math.sin(a) * r];
    }).flat(),
  );
  const indices = profile.flatMap((_, k) => {
    const next = ((k + 1) % profile.length) * around;
    return Array.from({ length: around }, (_, i) => {
      const [a, b] = [k * around + i, k * around + ((i + 1) % around)];
      const [c, d] = [next + i, next + ((i + 1) % around)];
      return [a, c, b, b, c, d];
    }).flat();
  });
  return core.plainMesh(positions, indices);
};

/** Pieces that were never looked at while the numbers of the search were chosen. */
export const UNSEEN = [
  {
    name: 'shelf unit, three boards',
    mesh: () =>
      blocks([
        [0, 0, 0, 0.05, 2, 0.4],
        [1, 0, 0, 1.05, 2, 0.4],
        ...[0.1, 0.9, 1.7].map((y) => [0, y, 0, 1.05, y + 0.05, 0.4]),
      ]),
  },
  { name: 'trestle with splayed legs', mesh: trestle },
  { name: 'funnel, hollow', mesh: funnel },
  { name: 'arch', mesh: () => tube(arc(1.5, Math.PI, 40), 0.3, 4) },
  {
    name: 'steps down both sides',
    mesh: () => blocks([0, 1, 2, 3].map((i) => [i * 0.3, 0, 0, 2.4 - i * 0.3, (i + 1) * 0.2, 1])),
  },
  { name: 'lumpy ball', mesh: () => lumpy(50, 50) },
];

/** The sample yard's pieces in metres, each as one mesh, as the bench takes them in. */
export async function yardPieces() {
  const pieces = [];
  for (const { name, files } of await samplePieces()) {
    const [main, ...beside] = files.map(({ name: file, bytes }) => core.memoryFile(file, bytes));
    const { scene, proxies, aside } = core.setApart(await core.readFile(main, beside));
    const { document, blobs } = core.takeIn(scene, {
      proxies,
      aside,
      files: files.map(({ name: file, bytes }) => ({
        name: file,
        blob: core.blobId(bytes),
        bytes: bytes.length,
      })),
      meshName: core.meshNameFrom,
      target: 'prefix-tags',
    });
    pieces.push({ name, mesh: core.artMesh(document, core.meshReader(blobs)) });
  }
  return pieces;
}
