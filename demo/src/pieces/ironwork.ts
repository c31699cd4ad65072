import { type Mesh, plainMesh, reversedFaces, type Vec3, writeGlb, writeScene } from '@yard-brace/core';
import { seeded } from '../random.js';
import type { SampleFile } from '../sample-file.js';
import { material, sceneFrom } from '../scene.js';
import { lathe, lump, painted, placed, roundedBox, tube, turn } from '../solids.js';

const STEEL = material('galvanised', [0.52, 0.54, 0.55], 0.45, 1);
const OAK = material('oak', [0.35, 0.24, 0.13]);
const PAINT = material('red lead', [0.5, 0.12, 0.07], 0.6);

const ringPath = (radius: number, n: number, turns = 1): Vec3[] =>
  Array.from({ length: n }, (_, i) => [
    radius * Math.cos((i / n) * 2 * Math.PI * turns),
    0,
    radius * Math.sin((i / n) * 2 * Math.PI * turns),
  ]);

/** A wheel with a rim, spokes and a hub, standing on z. */
function spokedWheel(radius: number, rim: number, spokes: number): Mesh {
  return lump(
    placed(tube(ringPath(radius, 36), rim, 10, true), [0, 0, 0], turn('x', 90)),
    ...Array.from({ length: spokes }, (_, i) =>
      placed(
        tube(
          [
            [0, 0, 0],
            [0, radius, 0],
          ],
          rim * 0.6,
          8,
        ),
        [0, 0, 0],
        turn('z', (i / spokes) * 360),
      ),
    ),
    placed(
      lathe(
        [
          [0, -rim * 2],
          [rim * 2.2, -rim * 2],
          [rim * 2.2, rim * 2],
          [0, rim * 2],
        ],
        18,
      ),
      [0, 0, 0],
      turn('x', 90),
    ),
  );
}

/**
 * Sluice gate with a leaf on hinges and a handwheel. Faults: old proxies under an importer's tags, one of which belongs to
 * nothing, a coarse detail level, a leaf whose pivot is at the frame. `changed` is the leaf as it came back later.
 */
export async function sluiceGate({ changed = false } = {}): Promise<SampleFile[]> {
  const frame = painted(
    lump(
      ...[-1.15, 1.15].map((x) => placed(roundedBox([0.3, 2.6, 0.4], 0.03, 4), [x, 1.3, 0])),
      placed(roundedBox([2.6, 0.3, 0.4], 0.03, 4), [0, 2.7, 0]),
      placed(roundedBox([2.6, 0.16, 0.5], 0.03, 4), [0, 0.08, 0]),
    ),
    1,
  );
  const wide = changed ? 1.9 : 1.94;
  const leaf = painted(
    lump(
      ...Array.from({ length: 6 }, (_, i) =>
        placed(roundedBox([wide / 6 - 0.012, 2.3, 0.09], 0.01, 3), [-0.97 + (i + 0.5) * (wide / 6), 1.34, 0]),
      ),
      ...(changed ? [0.6, 1.34, 2.08] : [0.6, 2.08]).map((y) =>
        placed(roundedBox([wide, 0.14, 0.06], 0.01, 3), [-0.97 + wide / 2, y, 0.075]),
      ),
    ),
    1,
  );
  const wheel = painted(spokedWheel(0.28, 0.02, 5), 0);
  const stem = painted(
    placed(
      tube(
        [
          [0, 0, 0],
          [0, 0, 0.3],
        ],
        0.025,
        12,
      ),
      [0, 2.7, 0.2],
    ),
    0,
  );
  const coarse = painted(placed(roundedBox([2.6, 2.85, 0.5], 0.02, 1), [0, 1.42, 0]), 1);
  const bare = (size: Vec3): Mesh => ({ ...plainBox(size) });
  const scene = sceneFrom(
    [
      ['SluiceGate', null],
      ['Frame', frame, { parent: 0 }],
      ['Leaf', leaf, { parent: 0 }],
      ['Handwheel', wheel, { parent: 0, translation: [0, 2.7, 0.5] }],
      ['Stem', stem, { parent: 0 }],
      [
        'SluiceGate_LOD0',
        painted(placed(roundedBox([0.2, 0.1, 0.2], 0.02, 2), [0, 2.9, 0]), 0),
        { parent: 0 },
      ],
      ['SluiceGate_LOD2', coarse, { parent: 0 }],
      ['UBX_Frame_01', placed(bare([0.3, 2.6, 0.4]), [-1.15, 1.3, 0])],
      ['UBX_Frame_02', placed(bare([0.3, 2.6, 0.4]), [1.15, 1.3, 0])],
      ['UCX_Leaf_01', placed(bare([1.94, 2.3, 0.2]), [0, 1.34, 0.03])],
      ['UCX_Gatepost_01', placed(bare([0.3, 1, 0.3]), [3, 0.5, 0])],
    ],
    [STEEL, OAK],
  );
  return [{ name: 'sluice_gate.glb', bytes: await writeGlb(scene) }];
}

/** Eight corners, twelve faces. */
function plainBox([x, y, z]: Vec3): Mesh {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => [
    k & 1 ? x / 2 : -x / 2,
    k & 2 ? y / 2 : -y / 2,
    k & 4 ? z / 2 : -z / 2,
  ]);
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  return plainMesh(
    corners,
    quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]),
  );
}

/** Slip winch. Faults: gears that stand inside each other, a frame that is there twice, faces without area, a deep tree. */
export async function slipWinch(): Promise<SampleFile[]> {
  const gear = (radius: number, teeth: number): Mesh =>
    lump(
      placed(
        lathe(
          [
            [0, -0.04],
            [radius, -0.04],
            [radius, 0.04],
            [0, 0.04],
          ],
          40,
        ),
        [0, 0, 0],
        turn('x', 90),
      ),
      ...Array.from({ length: teeth }, (_, i) => {
        const angle = (i / teeth) * 2 * Math.PI;
        return placed(
          roundedBox([0.05, 0.045, 0.08], 0.006, 1),
          [radius * Math.cos(angle), radius * Math.sin(angle), 0],
          turn('z', (angle * 180) / Math.PI),
        );
      }),
    );
  const cheek = placed(roundedBox([1.1, 0.9, 0.05], 0.02, 3), [0, 0.5, 0]);
  const frame = painted(
    lump(
      placed(cheek, [0, 0, -0.5]),
      placed(cheek, [0, 0, 0.5]),
      placed(cheek, [0, 0, 0.5]),
      placed(roundedBox([1.3, 0.08, 1.2], 0.02, 3), [0, 0.04, 0]),
    ),
    2,
  );
  const drum = painted(
    placed(
      lathe(
        [
          [0, -0.46],
          [0.3, -0.46],
          [0.3, -0.42],
          [0.18, -0.4],
          [0.18, 0.4],
          [0.3, 0.42],
          [0.3, 0.46],
          [0, 0.46],
        ],
        40,
      ),
      [0, 0.62, 0],
      turn('x', 90),
    ),
    0,
  );
  const slivers = plainMesh(
    [0, 1, 0, 0.4, 1, 0, 0.8, 1, 0, 0, 0.2, 0.5, 0, 0.2, 0.5, 0.3, 0.2, 0.5],
    [0, 1, 2, 3, 4, 5],
  );
  const scene = sceneFrom(
    [
      ['winch', null],
      ['frame', frame, { parent: 0 }],
      ['drum', drum, { parent: 1 }],
      ['large gear', painted(gear(0.36, 40), 0), { parent: 2, translation: [0, 0.62, 0.58] }],
      ['pinion', painted(gear(0.12, 14), 0), { parent: 1, translation: [0.44, 0.42, 0.58] }],
      [
        'crank',
        painted(
          tube(
            [
              [0.44, 0.42, 0.62],
              [0.44, 0.42, 0.72],
              [0.74, 0.42, 0.74],
              [0.78, 0.42, 0.76],
              [0.78, 0.42, 0.98],
            ],
            0.022,
            12,
          ),
          0,
        ),
        { parent: 4, translation: [-0.44, -0.42, -0.58] },
      ],
      ['slivers', painted({ ...slivers, uvs: [new Float32Array(12)] }, 2), { parent: 1 }],
    ],
    [STEEL, OAK, PAINT],
  );
  return [{ name: 'slip_winch.glb', bytes: await writeGlb(scene) }];
}

/** Slip trolley on four wheels. Faults: four parts of one name, wheels mirrored by their scale, a scale of 2.54 on the root. */
export async function slipTrolley(): Promise<SampleFile[]> {
  const wheel = painted(placed(spokedWheel(0.16, 0.02, 6), [0, 0, 0], turn('y', 90)), 0);
  const beams = painted(
    lump(
      ...[-0.6, 0.6].map((x) => placed(roundedBox([0.12, 0.14, 2.4], 0.015, 3), [x, 0.3, 0])),
      ...[-0.9, 0, 0.9].map((z) => placed(roundedBox([1.4, 0.1, 0.14], 0.015, 3), [0, 0.42, z])),
    ),
    1,
  );
  const at = (x: number, z: number, mirrored = false) => ({
    parent: 0,
    translation: [x, 0.16, z] as Vec3,
    scale: [mirrored ? -1 : 1, 1, 1] as Vec3,
  });
  const scene = sceneFrom(
    [
      ['trolley', null, { scale: [2.54, 2.54, 2.54] }],
      ['bed', beams, { parent: 0 }],
      ['wheel', wheel, at(0.72, 0.8)],
      ['wheel', wheel, at(0.72, -0.8)],
      ['wheel', wheel, at(-0.72, 0.8, true)],
      ['wheel', wheel, at(-0.72, -0.8, true)],
    ],
    [STEEL, OAK],
  );
  const inches = {
    ...scene,
    meshes: scene.meshes.map(({ name, mesh }) => ({
      name,
      mesh: { ...mesh, positions: mesh.positions.map((v) => v / 2.54) },
    })),
  };
  inches.nodes.forEach((node, i) => {
    if (i > 1) node.translation = node.translation.map((v) => v / 2.54) as Vec3;
  });
  return [{ name: 'slip trolley.glb', bytes: await writeGlb(inches) }];
}

/** Gangway with curved handrails. Faults: a node that is sheared, handrails below a turned and scaled one, no pictures. */
export async function gangway(): Promise<SampleFile[]> {
  const deck = painted(
    lump(
      ...Array.from({ length: 16 }, (_, i) =>
        placed(roundedBox([1.1, 0.04, 0.36], 0.01, 3), [0, 0.2, -3 + 0.2 + i * 0.375]),
      ),
      ...[-0.5, 0.5].map((x) => placed(roundedBox([0.08, 0.16, 6], 0.01, 3), [x, 0.1, 0])),
    ),
    1,
  );
  const curve = (i: number): Vec3 => [0, 1 + 0.25 * Math.sin((i / 30) * Math.PI), -3 + i * 0.2];
  const rail = painted(
    lump(
      tube(
        Array.from({ length: 31 }, (_, i) => curve(i)),
        0.025,
        12,
      ),
      ...[0, 6, 12, 18, 24, 30].map((i) => tube([[0, 0.2, curve(i)[2]], curve(i)], 0.018, 10)),
    ),
    0,
  );
  const half: Vec3 = [1, 1, 0.5];
  const scene = sceneFrom(
    [
      ['gangway', null],
      ['deck', deck, { parent: 0 }],
      ['rails', null, { parent: 0, scale: half }],
      [
        'rail left',
        { ...rail, positions: rail.positions.map((v, i) => (i % 3 === 2 ? v * 2 : v)) },
        { parent: 2, translation: [-0.5, 0, 0] },
      ],
      [
        'rail right',
        { ...rail, positions: rail.positions.map((v, i) => (i % 3 === 2 ? v * 2 : v)) },
        { parent: 2, translation: [0.5, 0, 0] },
      ],
      [
        'hook',
        painted(
          placed(
            tube(
              [
                [0, 0, 0],
                [0, 0.3, 0],
                [0.1, 0.36, 0],
                [0.16, 0.3, 0],
              ],
              0.03,
              12,
            ),
            [0, 0, 0],
          ),
          0,
        ),
        { parent: 2, translation: [0, 0.2, 6.1], rotation: turn('x', 30) },
      ],
    ],
    [STEEL, OAK],
  );
  const [file] = await writeScene(scene, 'dae', 'gangway');
  return [file!];
}

/** Oyster tray. Faults: STL in millimetres without any unit, half its bars inside out, crumbs of the export beside it. */
export async function oysterTray(): Promise<SampleFile[]> {
  const random = seeded(77);
  const bars = [
    ...Array.from({ length: 12 }, (_, i) => placed(roundedBox([12, 12, 540], 3, 2), [-330 + i * 60, 6, 0])),
    ...Array.from({ length: 10 }, (_, i) =>
      placed(roundedBox([690, 10, 10], 3, 2), [0, 15, -250 + i * 55.5]),
    ),
    ...[-1, 1].flatMap((s) => [
      placed(roundedBox([720, 90, 14], 4, 2), [0, 52, s * 276]),
      placed(roundedBox([14, 90, 540], 4, 2), [s * 352, 52, 0]),
    ]),
  ].map((bar, i) => (i % 2 ? { ...bar, indices: reversedFaces(bar.indices) } : bar));
  const crumbs = Array.from({ length: 5 }, () =>
    placed(plainBox([0.3, 0.3, 0.3]), [random() * 900 - 450, random() * 300, random() * 700 - 350]),
  );
  const [file] = await writeScene(sceneFrom([['tray', lump(...bars, ...crumbs)]], []), 'stl', 'oyster_tray');
  return [file!];
}

/** Coil of rope. Faults: vertex colours and no UVs, vertices that no face uses, lies on its side in a PLY with Z up. */
export async function ropeCoil(): Promise<SampleFile[]> {
  const path: Vec3[] = Array.from({ length: 181 }, (_, i) => {
    const angle = (i / 36) * 2 * Math.PI;
    const radius = 0.34 - 0.012 * (i / 36);
    return [radius * Math.cos(angle), radius * Math.sin(angle), 0.03 + 0.034 * (i / 36)];
  });
  const rope = tube(path, 0.022, 12);
  const n = rope.positions.length / 3;
  const stray = plainMesh([...rope.positions, 0, 0, 3, 1, 1, 1], rope.indices);
  const colors = new Float32Array((n + 2) * 4).fill(1);
  for (let v = 0; v < n; v++) {
    const light = (((v % 12) + ((v / 12) | 0)) % 6 < 3 ? 200 : 160) / 255;
    colors.set([light, Math.round(light * 230) / 255, Math.round(light * 165) / 255], v * 4);
  }
  for (let i = 0; i < colors.length; i++) colors[i] = Math.round(colors[i]! * 255) / 255;
  const [file] = await writeScene(sceneFrom([['rope coil', { ...stray, colors }]], []), 'ply', 'rope_coil');
  return [file!];
}

/** Channel buoy. Faults: drawn in centimetres and written into a format that says metres, so that it comes in 260 m high. */
export async function channelBuoy(): Promise<SampleFile[]> {
  const body = painted(
    lathe(
      [
        [0, -60],
        [20, -58],
        [52, -40],
        [66, -14],
        [70, 0],
        [66, 16],
        [52, 40],
        [34, 56],
        [24, 62],
        [0, 62],
      ],
      48,
    ),
    2,
  );
  const cage = lump(
    ...[0, 90, 180, 270].map((degrees) =>
      painted(
        placed(
          tube(
            [
              [22, 60, 0],
              [14, 150, 0],
              [6, 168, 0],
            ],
            2.2,
            10,
          ),
          [0, 0, 0],
          turn('y', degrees),
        ),
        0,
      ),
    ),
    painted(placed(tube(ringPath(17, 30), 1.8, 8, true), [0, 110, 0]), 0),
    painted(
      placed(
        lathe(
          [
            [0, 0],
            [7, 0],
            [8, 4],
            [8, 14],
            [5, 20],
            [0, 21],
          ],
          24,
        ),
        [0, 168, 0],
      ),
      0,
    ),
  );
  const chain = Array.from({ length: 3 }, (_, i) =>
    painted(placed(tube(ringPath(6, 20), 1.4, 8, true), [0, -66 - i * 9, 0], turn(i % 2 ? 'x' : 'z', 90)), 0),
  );
  return [
    {
      name: 'channel_buoy.glb',
      bytes: await writeGlb(sceneFrom([['buoy', lump(body, cage, ...chain)]], [STEEL, OAK, PAINT])),
    },
  ];
}
