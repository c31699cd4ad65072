import { type Mesh, plainMaterial, plainMesh, plainNode, type Vec3, writeObj } from '@yard-brace/core';
import type { SampleFile } from '../sample-file.js';
import { lathe, lump, painted, placed, roundedBox, tube } from '../solids.js';

const LENGTH = 3.4;
const STATIONS = 44;
const STRAKES = 7;
const ROWS = STRAKES * 3;
const PLANK = 0.016;

/**
 * Clinker dinghy with four fenders, modelled in one lump. Faults: everything is one mesh, the two halves of
 * the hull do not quite meet at the keel (a seam that looks closed and is not), the pivot lies at the
 * modeller's origin far astern.
 */
export function dinghy(): SampleFile[] {
  const half = painted(hullHalf(), 0);
  const other = painted(placed(hullHalf(), [0, 0, 0], [0, 0, 0, 1], [1, 1, -1]), 0);
  const thwarts = (
    [
      [0.55, 0.36],
      [1.55, 0.34],
      [2.5, 0.38],
    ] as const
  ).map(([x, y]) =>
    painted(placed(roundedBox([0.24, 0.028, 2 * (beam(x / LENGTH) - 0.05)], 0.008), [x, y, 0]), 1),
  );
  const ribs = Array.from({ length: 12 }, (_, i) => painted(rib(0.12 + i * 0.07), 1));
  const gunwales = [1, -1].map((side) =>
    painted(
      tube(
        Array.from({ length: STATIONS }, (_, i): Vec3 => sheer(i / (STATIONS - 1), side as 1 | -1)),
        0.022,
        8,
      ),
      1,
    ),
  );
  const keel = painted(
    tube(
      Array.from({ length: 30 }, (_, i): Vec3 => [
        0.04 + (i / 29) * (LENGTH - 0.3),
        keelHeight(0.012 + (i / 29) * 0.9) - 0.02,
        0,
      ]),
      0.026,
      8,
    ),
    1,
  );
  const transom = painted(placed(roundedBox([0.03, 0.42, 2 * beam(0) * 0.93], 0.01), [0.02, 0.34, 0]), 1);
  const fenders = (
    [
      [0.95, 1],
      [2.2, 1],
      [0.95, -1],
      [2.2, -1],
    ] as const
  ).flatMap(([x, side]) => fender(x, side));
  const mesh = lump(half, other, ...thwarts, ...ribs, ...gunwales, keel, transom, ...fenders);
  const { obj, mtl } = writeObj(
    {
      unit: { metres: 1, stated: false },
      nodes: [plainNode('dinghy_FINAL_v3', 0)],
      meshes: [{ name: 'dinghy_FINAL_v3', mesh: placed(mesh, [6.2, 0.08, 1.1]) }],
      materials: [
        { ...plainMaterial('painted larch'), baseColor: [0.62, 0.6, 0.52, 1], roughness: 0.55 },
        { ...plainMaterial('varnished ash'), baseColor: [0.46, 0.29, 0.13, 1], roughness: 0.4 },
        { ...plainMaterial('fender rubber'), baseColor: [0.08, 0.1, 0.14, 1], roughness: 0.9 },
        { ...plainMaterial('hemp'), baseColor: [0.5, 0.42, 0.28, 1], roughness: 1 },
      ],
      pictures: [],
      leftOut: [],
      notes: [],
    },
    'dinghy.mtl',
  );
  return [
    { name: 'dinghy.obj', bytes: obj },
    { name: 'dinghy.mtl', bytes: mtl },
  ];
}

/** Half beam, keel and sheer heights along the boat, 0 at the transom and 1 at the stem. */
const beam = (s: number) =>
  0.68 *
  Math.pow(Math.max(0, 1 - Math.pow(s, 3.2)), 0.62) *
  (0.74 + 0.26 * Math.sin(Math.PI * Math.min(1, s * 0.9 + 0.28)));
const keelHeight = (s: number) => 0.06 + 0.46 * Math.pow(s, 7) + 0.05 * (1 - s) ** 2;
const sheerHeight = (s: number) => 0.52 + 0.2 * (s - 0.35) ** 2 + 0.12 * s ** 4;

function section(s: number, t: number): [number, number] {
  const round = Math.sin((t * Math.PI) / 2) ** 0.75;
  const rise = t ** 1.7;
  return [keelHeight(s) + (sheerHeight(s) - keelHeight(s)) * rise, beam(s) * round];
}

const sheer = (s: number, side: 1 | -1): Vec3 => {
  const [y, z] = section(s, 1);
  return [s * LENGTH, y, side * z];
};

/** Starboard planking as a solid shell: each strake steps out over the one below. Open along the keel. */
function hullHalf(): Mesh {
  const points: number[] = [];
  const put = (s: number, row: number, outer: boolean) => {
    const t = row / ROWS;
    const lap = outer ? 0.012 * (1 - (row % 3) / 3) : 0;
    const [y, z] = section(s, t);
    const inward = outer ? 0 : PLANK;
    points.push(s * LENGTH, y + (outer ? 0 : PLANK * (1 - t)), Math.max(0.0001, z + lap * t - inward * t));
  };
  for (const outer of [true, false])
    for (let i = 0; i < STATIONS; i++)
      for (let row = 0; row <= ROWS; row++) put(i / (STATIONS - 1), row, outer);
  const at = (outer: boolean, i: number, row: number) => ((outer ? 0 : STATIONS) + i) * (ROWS + 1) + row;
  const indices: number[] = [];
  const quad = (a: number, b: number, c: number, d: number) => indices.push(a, b, c, a, c, d);
  for (let i = 0; i + 1 < STATIONS; i++) {
    for (let row = 0; row < ROWS; row++) {
      quad(at(true, i, row), at(true, i + 1, row), at(true, i + 1, row + 1), at(true, i, row + 1));
      quad(at(false, i, row), at(false, i, row + 1), at(false, i + 1, row + 1), at(false, i + 1, row));
    }
    quad(at(true, i, ROWS), at(true, i + 1, ROWS), at(false, i + 1, ROWS), at(false, i, ROWS));
  }
  for (const [i, turned] of [
    [0, false],
    [STATIONS - 1, true],
  ] as const) {
    for (let row = 0; row < ROWS; row++) {
      const loop = [at(true, i, row), at(true, i, row + 1), at(false, i, row + 1), at(false, i, row)] as [
        number,
        number,
        number,
        number,
      ];
      quad(...(turned ? (loop.reverse() as typeof loop) : loop));
    }
  }
  const mesh = plainMesh(points, indices);
  return {
    ...mesh,
    uvs: [
      Float32Array.from({ length: (points.length / 3) * 2 }, (_, k) => points[((k / 2) | 0) * 3 + (k % 2)]!),
    ],
  };
}

function rib(s: number): Mesh {
  const path: Vec3[] = [];
  for (let i = -10; i <= 10; i++) {
    const [y, z] = section(s, Math.abs(i) / 10.6);
    path.push([s * LENGTH, y + PLANK * 1.4, Math.sign(i) * Math.max(0, z - PLANK * 1.4)]);
  }
  return tube(path, 0.012, 6);
}

/** A sausage fender on its lanyard, hanging outside the gunwale. */
function fender(x: number, side: 1 | -1): Mesh[] {
  const [y, z] = section(x / LENGTH, 1);
  const profile: [number, number][] = [
    [0, -0.2],
    [0.03, -0.2],
    [0.034, -0.17],
  ];
  for (let i = 0; i <= 8; i++)
    profile.push([0.075 * Math.sin(((i + 1) / 10) * (Math.PI / 2)) + 0.004, -0.165 + 0.008 * i]);
  for (let i = 8; i >= 0; i--)
    profile.push([0.075 * Math.sin(((i + 1) / 10) * (Math.PI / 2)) + 0.004, 0.165 - 0.008 * i]);
  profile.push([0.034, 0.17], [0.03, 0.2], [0, 0.2]);
  const at: Vec3 = [x, y - 0.2, side * (z + 0.1)];
  const body = painted(placed(lathe(profile, 18), at), 2);
  const lanyard = painted(
    tube(
      [
        [x, y + 0.03, side * (z - 0.02)],
        [x, y + 0.035, side * (z + 0.03)],
        [x, y + 0.025, side * (z + 0.085)],
        [x, y + 0.003, side * (z + 0.1)],
      ],
      0.007,
      6,
    ),
    3,
  );
  return [body, lanyard];
}
