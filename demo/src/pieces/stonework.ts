import {
  type Mesh,
  plainMesh,
  plainPng,
  reversedFaces,
  type Vec3,
  writeGlb,
  writeObj,
  writeScene,
} from '@yard-brace/core';
import { seeded } from '../random.js';
import type { SampleFile } from '../sample-file.js';
import { material, sceneFrom } from '../scene.js';
import { lump, painted, placed, roundedBox, tube, turn } from '../solids.js';

const GRIT = material('gritstone', [0.42, 0.39, 0.34], 0.95);
const GRANITE = material('granite', [0.55, 0.54, 0.52], 0.8);
const IRON = material('iron', [0.14, 0.13, 0.13], 0.6, 0.8);

/** One arm of a wall of stones along x, its face at z = 0. */
function arm(length: number, seed: number): Mesh {
  const random = seeded(seed);
  const stones: Mesh[] = [];
  for (let course = 0; course < 6; course++) {
    let x = 0;
    for (let first = true; x < length - 1e-6; first = false) {
      let width = first && course % 2 ? 0.4 : 0.6 + random() * 0.3;
      if (length - x - width < 0.35) width = length - x;
      stones.push(
        placed(roundedBox([width - 0.012, 0.388, 0.84], 0.03), [x + width / 2, (course + 0.5) * 0.4, -0.44]),
      );
      x += width;
    }
  }
  return painted(lump(...stones), 0);
}

/**
 * Corner of the quay. Faults: the second arm is the first one mirrored by a scale of -1 and turned, its name is
 * taken twice.
 */
export async function quayCorner(): Promise<SampleFile[]> {
  const wall = arm(2.4, 7);
  const post = painted(placed(roundedBox([0.9, 2.4, 0.9], 0.05, 3), [-0.44, 1.2, -0.44]), 0);
  const cap = painted(placed(roundedBox([1.02, 0.22, 1.02], 0.035, 3), [-0.42, 2.51, -0.42]), 1);
  const scene = sceneFrom(
    [
      ['corner post', post],
      ['arm', wall],
      ['arm', wall, { scale: [-1, 1, 1], rotation: turn('y', 90), translation: [0, 0, 0] }],
      ['corner coping', cap],
    ],
    [GRIT, GRANITE],
  );
  return [{ name: 'quay_corner.glb', bytes: await writeGlb(scene) }];
}

/** One slab of coping, 1 m long, with a worn lip. `high` is its thickness. */
function slab(high: number, notch: boolean): Mesh {
  const body = roundedBox([0.994, high, 1.02], 0.035, 6);
  const lip = placed(roundedBox([0.994, 0.06, 0.08], 0.025, 4), [0, -high / 2 - 0.02, 0.47]);
  const scar = notch
    ? [placed(roundedBox([0.2, 0.05, 0.16], 0.02, 4), [0.24, high / 2, 0.34], turn('y', 12))]
    : [];
  return painted(lump(body, lip, ...scar), 1);
}

/**
 * Two copings that replace each other, in one file. Faults: several pieces in one file, each with its pivot
 * somewhere else, names with a space.
 */
export async function copings(): Promise<SampleFile[]> {
  const scene = sceneFrom(
    [
      ['coping 01', placed(slab(0.22, false), [0.5, 0.11, -0.48]), { translation: [0, 0, 0] }],
      ['coping 02', placed(slab(0.24, true), [0.53, 0.12, -0.45]), { translation: [4, 0, 0] }],
    ],
    [GRIT, GRANITE],
  );
  return [{ name: 'copings.glb', bytes: await writeGlb(scene) }];
}

/**
 * Stair down to the water with its railing in the same lump. Faults: drawn in centimetres with Z up, the railing
 * in one part with the steps, seams that are open by a hair.
 */
export async function quayStair(): Promise<SampleFile[]> {
  const steps = Array.from({ length: 10 }, (_, i) =>
    painted(placed(roundedBox([120, 18 * (i + 1) - 1, 29], 1.4, 3), [0, 9 * (i + 1), -29 * i]), 0),
  );
  const posts = [0, 3, 6, 9].map((i) =>
    painted(
      placed(
        tube(
          [
            [56, 0, 0],
            [56, 95, 0],
          ],
          1.8,
          12,
        ),
        [0, 18 * (i + 1) - 2, -29 * i],
      ),
      2,
    ),
  );
  const rail = (y: number) =>
    painted(
      tube(
        [
          [56, 18 + y, 6],
          [56, 18 + y, 0],
          [56, 180 + y, -261],
          [56, 180 + y, -272],
        ],
        2.2,
        14,
      ),
      2,
    );
  const flight = lump(...steps, ...posts, rail(93), rail(52));
  // Every face with vertices of its own, some off by a hair: the seams are open.
  const random = seeded(23);
  const torn = plainMesh(
    [...flight.indices].flatMap((v) =>
      [0, 1, 2].map((k) => flight.positions[v * 3 + k]! + Math.round(random()) * 0.004),
    ),
    [...flight.indices].map((_, i) => i),
  );
  const zUp = (m: Mesh): Mesh => ({
    ...m,
    positions: m.positions.map((_, i) =>
      i % 3 === 1 ? -m.positions[i + 1]! : i % 3 === 2 ? m.positions[i - 1]! : m.positions[i]!,
    ),
  });
  const [file] = await writeScene(
    sceneFrom([['stair+railing', { ...zUp(torn), groups: flight.groups }]], [GRIT, GRANITE, IRON]),
    'dae',
    'quay_stair',
  );
  const text = new TextDecoder()
    .decode(file!.bytes)
    .replace('name="meter" meter="1"', 'name="centimeter" meter="0.01"')
    .replace('Y_UP', 'Z_UP');
  return [{ name: 'quay_stair.dae', bytes: new TextEncoder().encode(text) }];
}

/**
 * Wall of the net loft with the hatch that carts go through. Faults: a picture that did not come along, another that
 * lies stretched, an open back, faces that look inward.
 */
export function loftWall(): SampleFile[] {
  const wall = [
    [
      [0, 0],
      [1.6, 4],
    ],
    [
      [4, 0],
      [6, 4],
    ],
    [
      [1.6, 2.6],
      [4, 4],
    ],
  ].map(([min, max]) =>
    placed(roundedBox([max![0]! - min![0]!, max![1]! - min![1]!, 0.35], 0.02, 4), [
      (min![0]! + max![0]!) / 2,
      (min![1]! + max![1]!) / 2,
      0,
    ]),
  );
  const boards = Array.from({ length: 12 }, (_, i) =>
    placed(roundedBox([0.48, 1.1, 0.03], 0.008, 2), [0.26 + i * 0.5, 4.6, 0.12]),
  );
  const frame = [
    placed(roundedBox([0.14, 2.6, 0.42], 0.02, 3), [1.6, 1.3, 0]),
    placed(roundedBox([0.14, 2.6, 0.42], 0.02, 3), [4, 1.3, 0]),
    placed(roundedBox([2.54, 0.16, 0.42], 0.02, 3), [2.8, 2.64, 0]),
  ];
  const inward = boards.map((board, i) =>
    i % 5 === 2 ? { ...board, indices: reversedFaces(board.indices) } : board,
  );
  const brick = {
    ...material('brick', [1, 1, 1]),
    pictures: { baseColor: { picture: 0, uvSet: 0, wrap: ['repeat', 'repeat'] as ['repeat', 'repeat'] } },
  };
  const tarred = {
    ...material('tarred boards', [1, 1, 1]),
    pictures: { baseColor: { picture: 1, uvSet: 0, wrap: ['repeat', 'repeat'] as ['repeat', 'repeat'] } },
  };
  const random = seeded(5);
  const bricks = plainPng(128, (x, y) => {
    const course = (y / 16) | 0;
    const joint = y % 16 < 2 || (x + (course % 2) * 16) % 32 < 2;
    const tone = joint ? 190 : 120 + ((random() * 24) | 0);
    return joint ? [tone, tone - 8, tone - 20] : [tone + 20, tone - 40, tone - 62];
  });
  const stretched = (m: Mesh): Mesh => ({
    ...m,
    uvs: m.uvs.map((uv) => uv.map((v, i) => (i % 2 ? v : v * 5))),
  });
  const scene = sceneFrom(
    [
      ['loft wall', painted(lump(...wall), 0)],
      ['hatch frame', painted(lump(...frame), 2)],
      ['boards', painted(stretched(lump(...inward)), 1)],
    ],
    [brick, tarred, material('oak frame', [0.3, 0.2, 0.12])],
    [
      { name: 'loft_brick.png', type: 'image/png', bytes: bricks },
      { name: 'loft_boards.png', type: 'image/png', bytes: bricks },
    ],
  );
  const { obj, mtl } = writeObj(scene, 'net_loft.mtl');
  // The second picture is named in the library and was not sent along.
  return [
    { name: 'net_loft_wall.obj', bytes: obj },
    { name: 'net_loft.mtl', bytes: mtl },
    { name: 'loft_brick.png', bytes: bricks },
  ];
}

/**
 * Launch channel that the trolley is driven down. Faults: the floor looks downward, so that whatever drives on it falls
 * through; it is open all round, as it must be.
 */
export function launchChannel(): SampleFile[] {
  const points: number[] = [];
  const indices: number[] = [];
  const [along, across] = [40, 14];
  const height = (i: number, j: number) => {
    const side = Math.max(0, Math.abs(j / across - 0.5) * 2 - 0.75) * 4;
    return -3 * (i / along) ** 1.4 + 0.35 * side * side;
  };
  for (let i = 0; i <= along; i++)
    for (let j = 0; j <= across; j++) points.push((j / across - 0.5) * 3.2, height(i, j), -(i / along) * 12);
  const at = (i: number, j: number) => i * (across + 1) + j;
  for (let i = 0; i < along; i++)
    for (let j = 0; j < across; j++)
      indices.push(at(i, j), at(i + 1, j + 1), at(i, j + 1), at(i, j), at(i + 1, j), at(i + 1, j + 1));
  const rails = [-0.7, 0.7].map((x) =>
    painted(
      tube(
        Array.from({ length: 41 }, (_, i): Vec3 => [x, height(i, 7) + 0.04, -(i / 40) * 12]),
        0.035,
        8,
      ),
      2,
    ),
  );
  const floor: Mesh = {
    ...plainMesh(points, indices),
    uvs: [
      Float32Array.from(
        { length: (points.length / 3) * 2 },
        (_, k) => points[((k / 2) | 0) * 3 + (k % 2 ? 2 : 0)]!,
      ),
    ],
  };
  const { obj, mtl } = writeObj(
    sceneFrom(
      [
        ['channel floor', painted({ ...floor, indices: reversedFaces(floor.indices) }, 0)],
        ['guide rails', lump(...rails)],
      ],
      [GRIT, GRANITE, IRON],
    ),
    'launch_channel.mtl',
  );
  return [
    { name: 'launch_channel.obj', bytes: obj },
    { name: 'launch_channel.mtl', bytes: mtl },
  ];
}
