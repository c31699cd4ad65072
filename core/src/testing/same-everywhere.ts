import { decompose } from '../decompose/index.js';
import { joinMeshes, plainMesh } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';
import { moved } from './meshes.js';
import { SOLIDS } from './solids.js';

/** Shapes of each rung of one decomposition with bends, steps and shears in it: the same wherever it is worked out. */
export async function sameEverywhere(): Promise<Shape[][]> {
  const tray = SOLIDS.tray();
  const sheared = tray.positions.map((v, i, p) =>
    i % 3 === 0 ? v + p[i + 1]! / 8 : i % 3 === 2 ? v + 9 : v,
  );
  const mesh = joinMeshes([
    SOLIDS.table(),
    moved(SOLIDS.stair(5), [8, 0, 0]),
    plainMesh(sheared, tray.indices),
  ]);
  const { rungs } = await decompose(mesh, { maxShapes: 20 });
  return rungs.map(({ shapes }) => shapes);
}
