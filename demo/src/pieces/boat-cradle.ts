import { type Mesh, plainMaterial, plainNode, type Scene, writeGlb } from '@yard-brace/core';
import type { SampleFile } from '../sample-file.js';
import { lathe, lump, painted, placed, roundedBox, turn } from '../solids.js';
import { withStrayCamera } from '../stray-camera.js';

const OAK = 0;
const STEEL = 1;
const CARPET = 2;

/**
 * Cradle a boat stands in ashore, modelled in centimetres. Faults: a scale of 0.01 is left on the root, the
 * port side is the starboard side mirrored by a negative scale, a camera was forgotten in the file. `changed` has lost
 * that side and got chocks.
 */
export async function boatCradle({ changed = false } = {}): Promise<SampleFile[]> {
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [
      { ...plainNode('cradle_export', null), scale: [0.01, 0.01, 0.01] },
      plainNode('base', 0, 0),
      plainNode('side', 1, 0),
      changed ? plainNode('chocks', 2, 0) : { ...plainNode('side.001', 1, 0), scale: [1, 1, -1] },
    ],
    meshes: [
      { name: 'base', mesh: base() },
      { name: 'side', mesh: side() },
      ...(changed
        ? [{ name: 'chocks', mesh: painted(placed(roundedBox([60, 18, 30], 1), [0, 52, -60]), OAK) }]
        : []),
    ],
    materials: [
      { ...plainMaterial('oak'), baseColor: [0.35, 0.24, 0.13, 1], roughness: 0.8 },
      { ...plainMaterial('galvanised'), baseColor: [0.52, 0.54, 0.55, 1], metalness: 1, roughness: 0.45 },
      { ...plainMaterial('carpet'), baseColor: [0.1, 0.16, 0.2, 1], roughness: 1 },
    ],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  return [{ name: 'boat_cradle.glb', bytes: withStrayCamera(await writeGlb(scene)) }];
}

/** Two sleepers across, a keel beam along, iron straps where they cross. */
function base(): Mesh {
  const beam = painted(placed(roundedBox([240, 22, 20], 1.4), [0, 31, 0]), OAK);
  const sleepers = [-82, 82].map((x) => painted(placed(roundedBox([24, 20, 190], 1.4), [x, 10, 0]), OAK));
  const pads = [-82, 0, 82].map((x) => painted(placed(roundedBox([26, 3, 22], 0.8), [x, 43, 0]), CARPET));
  const straps = [-82, 82].flatMap((x) =>
    [-12.5, 12.5].map((z) => painted(placed(roundedBox([18, 34, 1.6], 0.4), [x, 24, z]), STEEL)),
  );
  return lump(
    beam,
    ...sleepers,
    ...pads,
    ...straps,
    ...[-82, 82].flatMap((x) => [-70, -30, 30, 70].map((z) => painted(placed(bolt(), [x, 20, z]), STEEL))),
  );
}

/** Starboard: a leaning post with its brace and a padded rest on each sleeper, a rail between them. */
function side(): Mesh {
  const posts = [-82, 82].flatMap((x) => [
    painted(placed(roundedBox([14, 110, 14], 1.2), [x, 70, 74], turn('x', 12)), OAK),
    painted(placed(roundedBox([9, 84, 9], 1), [x, 50, 50], turn('x', -34)), OAK),
    painted(placed(roundedBox([30, 40, 6], 1.5), [x, 120, 76], turn('x', -28)), OAK),
    painted(placed(roundedBox([28, 37, 2.4], 1), [x, 118.2, 72.2], turn('x', -28)), CARPET),
  ]);
  const rail = painted(placed(roundedBox([176, 10, 7], 1), [0, 92, 88], turn('x', 12)), OAK);
  const bolts = [-82, 82].flatMap((x) =>
    [28, 92].map((y) => painted(placed(bolt(), [x, y, 66 + (y - 28) * 0.2 + 14], turn('x', 90)), STEEL)),
  );
  return lump(...posts, rail, ...bolts);
}

const bolt = (): Mesh =>
  lathe(
    [
      [0, -3],
      [1.6, -3],
      [1.6, 0],
      [2.6, 0],
      [2.6, 1.4],
      [2, 2],
      [0, 2],
    ],
    12,
  );
