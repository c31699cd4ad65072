import {
  type PieceDocument,
  type ProxyFacts,
  type Recipe,
  recipeEdit,
  recipeSchema,
  recipeYard,
  runRecipe as run,
  type YardRules,
} from '@yard-brace/core';
import { walkPiece } from '@yard-brace/trial';
import type { Progress, TriedRecipe } from '../messages';
import { meshes } from './art';
import { inSteps } from './in-steps';
import { asBodies, storeBlobs } from './store-blobs';

/** Work a recipe out and store the meshes it makes; the edit is for the page to keep or discard. */
export async function runRecipe(
  document: PieceDocument,
  rules: YardRules,
  recipe: Recipe,
  measured: ProxyFacts | null,
  progress: Progress,
): Promise<TriedRecipe> {
  const meshOf = await meshes.hold(document, (share) => progress(share * 0.1, 'Fetching the art'));
  let doing = recipe.name;
  const told = inSteps((share) => progress(0.1 + share * 0.8, doing));
  const { edits, blobs, ...rest } = await run({
    recipe: recipeSchema.parse(recipe),
    document,
    meshOf,
    yard: recipeYard(rules),
    measured,
    walk: walkPiece,
    progress: (share, step) => {
      doing = step;
      told(share);
    },
  });
  await storeBlobs(asBodies(new Map(blobs)), (share) => progress(0.9 + share * 0.1, 'Storing'));
  return { ...rest, edit: edits.length ? recipeEdit(recipe.name, edits) : null };
}
