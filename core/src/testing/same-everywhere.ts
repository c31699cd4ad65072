import { decompose } from '../decompose/index.js';
import { joinMeshes, plainMesh } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';
import { recipeSchema, runRecipe } from '../recipe/index.js';
import { FIRST_RULES, recipeYard } from '../rules/index.js';
import { pieceOf } from './documents.js';
import { moved, sceneOf } from './meshes.js';
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

/** All that a recipe makes of a piece, as text: the same wherever it is run. */
export async function sameRecipe(): Promise<string> {
  const { document, meshOf } = pieceOf(
    sceneOf(joinMeshes([SOLIDS.table(), moved(SOLIDS.stair(5), [8, 0, 0])])),
  );
  const steps = [
    { op: 'split-shells', parameters: { smallest: 0.01 } },
    { op: 'project-uvs', parameters: { metresPerPicture: 2 } },
    { op: 'unwrap', parameters: { texelsPerMetre: 32, paddingTexels: 2 } },
    { op: 'bake' },
    { op: 'ladder', parameters: { agent: 'deckhand' } },
    { op: 'deliver', parameters: { target: 'prefix-tags' } },
  ];
  const recipe = recipeSchema.parse({ format: 1, name: 'same', steps });
  const { blobs, ...run } = await runRecipe({ recipe, document, meshOf, yard: recipeYard(FIRST_RULES) });
  return JSON.stringify({ ...run, blobs: [...blobs.keys()] });
}

/** In the browser, what Node has worked out was put beside the specs: bit by bit the same. */
export function expectAsInNode(what: 'ladder' | 'recipe', text: string): void {
  const { fromNode } = globalThis as { fromNode?: Record<typeof what, string> };
  if ('document' in globalThis) expect(fromNode).toBeDefined();
  if (fromNode) expect(text).toBe(fromNode[what]);
}
