import { plainMaterial, plainNode, writeObj } from '@yard-brace/core';
import { lathe, lump, painted, placed, roundedBox, tube, turn } from '../solids.js';
import type { SampleFile } from '../sample-file.js';

/**
 * Cast-iron bollard, about 0.64 m high. Faults: drawn in centimetres, pivot adrift by metres, the bolts
 * sunk into the base plate. `changed` is a taller one that came back 3 cm to the side.
 */
export function bollard({ changed = false } = {}): SampleFile[] {
  const body = lathe(
    [
      [0, 2.4],
      [40, 2.4],
      [40, 8],
      [39.4, 9.2],
      [38, 9.8],
      [30, 10.2],
      [25, 11.2],
      [21.5, 13.5],
      [19, 17],
      [17.4, 22],
      [16.6, 28],
      [16.4, 34],
      [16.8, 40],
      [18, 45],
      [20.5, 48.5],
      [24, 50.4],
      [28, 51.6],
      [30.4, 53],
      [31.2, 55],
      [30.6, 57.4],
      [28, 60],
      [23, 62.2],
      [15, 63.6],
      [7, 64.2],
      [0, 64.4],
    ],
    56,
  );
  const foot = lathe(
    [
      [0, 0],
      [39, 0],
      [41, 1],
      [41, 2.6],
      [40, 3.6],
      [0, 3.6],
    ],
    56,
  );
  const bolts = Array.from({ length: 8 }, (_, i) => {
    const angle = (i / 8) * 2 * Math.PI + Math.PI / 8;
    return placed(
      lathe(
        [
          [0, -2],
          [2.4, -2],
          [2.4, 2.6],
          [1.9, 3.2],
          [0, 3.2],
        ],
        6,
      ),
      [34.5 * Math.cos(angle), 9, 34.5 * Math.sin(angle)],
    );
  });
  const horn = tube(
    [
      [-36, 34, 0],
      [-34, 34, 0],
      [-12, 34, 0],
      [12, 34, 0],
      [34, 34, 0],
      [36, 34, 0],
    ],
    3.6,
    14,
  );
  const plate = placed(roundedBox([22, 12, 1.2], 0.5), [0, 58.5, 0], turn('x', 90));
  const iron = lump(
    painted(body, 0),
    painted(foot, 0),
    painted(horn, 0),
    ...bolts.map((bolt) => painted(bolt, 0)),
    painted(plate, 1),
  );
  const { obj, mtl } = writeObj(
    {
      unit: { metres: 0.01, stated: false },
      nodes: [plainNode('bollard_low', 0)],
      meshes: [
        {
          name: 'bollard_low',
          mesh: changed
            ? placed(iron, [415, 0, -186], turn('y', 0), [1, 1.1, 1])
            : placed(iron, [412, 0, -186]),
        },
      ],
      materials: [
        { ...plainMaterial('cast iron'), baseColor: [0.11, 0.12, 0.13, 1], metalness: 0.7, roughness: 0.62 },
        { ...plainMaterial('number plate'), baseColor: [0.55, 0.42, 0.16, 1], metalness: 1, roughness: 0.4 },
      ],
      pictures: [],
      leftOut: [],
      notes: [],
    },
    'bollard.mtl',
  );
  return [
    { name: 'bollard.obj', bytes: obj },
    { name: 'bollard.mtl', bytes: mtl },
  ];
}
