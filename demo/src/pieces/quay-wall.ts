import { type Mesh, plainMaterial, plainNode, writeObj } from '@yard-brace/core';
import type { SampleFile } from '../sample-file.js';
import { lump, painted, placed, roundedBox, tube, turn, without } from '../solids.js';
import { seeded } from '../random.js';

const LENGTH = 4;
const HEIGHT = 2.4;
const DEPTH = 0.9;

/**
 * Straight run of quay wall, 4 m, with its coping as an object of its own. Faults: the backs of the stones
 * are missing (open borders), one stone lies there twice, the name is what a hurried person types.
 */
export function quayWall(): SampleFile[] {
  const random = seeded(41);
  const stones: Mesh[] = [];
  const courses = 6;
  for (let course = 0; course < courses; course++) {
    const height = HEIGHT / courses;
    let x = 0;
    for (let first = true; x < LENGTH - 1e-6; first = false) {
      let width = first && course % 2 ? 0.4 : 0.62 + random() * 0.3;
      if (LENGTH - x - width < 0.35) width = LENGTH - x;
      const depth = DEPTH - random() * 0.05;
      const stone = placed(roundedBox([width - 0.012, height - 0.012, depth], 0.03), [
        x + width / 2,
        (course + 0.5) * height,
        -depth / 2 - (DEPTH - depth) + 0.02,
      ]);
      stones.push(without(stone, (corners) => corners.every(([, , z]) => z < -DEPTH + 0.04)));
      x += width;
    }
  }
  stones.push(stones[7]!);
  const coping = Array.from({ length: 4 }, (_, i) =>
    placed(roundedBox([0.994, 0.22, DEPTH + 0.12], 0.035, 3), [i + 0.5, HEIGHT + 0.11, -DEPTH / 2 + 0.03]),
  );
  const fenders = [0.7, 2, 3.3].map((x) =>
    placed(roundedBox([0.24, HEIGHT - 0.3, 0.2], 0.04, 3), [x, HEIGHT / 2 - 0.05, 0.11]),
  );
  const ring = (x: number): Mesh =>
    placed(
      tube(
        Array.from({ length: 20 }, (_, i) => [
          0.11 * Math.cos((i / 20) * 2 * Math.PI),
          0.11 * Math.sin((i / 20) * 2 * Math.PI),
          0,
        ]),
        0.016,
        8,
        true,
      ),
      [x, HEIGHT - 0.42, 0.05],
      turn('x', 18),
    );
  const { obj, mtl } = writeObj(
    {
      unit: { metres: 1, stated: false },
      nodes: [plainNode('wall stones', 0), plainNode('coping', 1)],
      meshes: [
        {
          name: 'wall stones',
          mesh: lump(
            ...stones.map((stone) => painted(stone, 0)),
            ...fenders.map((fender) => painted(fender, 1)),
            painted(ring(1.35), 2),
            painted(ring(2.65), 2),
          ),
        },
        { name: 'coping', mesh: lump(...coping.map((slab) => painted(slab, 3))) },
      ],
      materials: [
        { ...plainMaterial('gritstone'), baseColor: [0.42, 0.39, 0.34, 1], roughness: 0.95 },
        { ...plainMaterial('greenheart'), baseColor: [0.2, 0.15, 0.1, 1], roughness: 0.85 },
        { ...plainMaterial('iron'), baseColor: [0.14, 0.13, 0.13, 1], metalness: 0.8, roughness: 0.6 },
        { ...plainMaterial('granite'), baseColor: [0.55, 0.54, 0.52, 1], roughness: 0.8 },
      ],
      pictures: [],
      leftOut: [],
      notes: [],
    },
    'quay wall.mtl',
  );
  return [
    { name: 'quay wall (new) 4m.obj', bytes: obj },
    { name: 'quay wall.mtl', bytes: mtl },
  ];
}
