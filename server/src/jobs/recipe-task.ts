import { type saveStepsSchema } from '@yard-brace/contract';
import {
  artKey,
  currentDocument,
  historySchema,
  meshReader,
  type PieceFigures,
  type ProxyFacts,
  pushEdit,
  type Recipe,
  recipeEdit,
  recipeYard,
  runRecipe,
  stepsBetween,
  type StepReport,
  type WantedDelivery,
  type YardRules,
} from '@yard-brace/core';
import { walkPiece } from '@yard-brace/trial';
import type { MessagePort } from 'node:worker_threads';
import type * as z from 'zod';

export interface RecipeTask {
  recipe: Recipe;
  rules: YardRules;
  /** JSON of the piece's history, and the version that it is */
  history: string;
  version: number;
  measured: ProxyFacts | null;
  /** bytes of every mesh that the piece names */
  blobs: Map<string, Uint8Array>;
  /** told of the share that is done */
  port: MessagePort;
}

export interface RecipeTaskResult {
  steps: StepReport[];
  before: PieceFigures;
  after: PieceFigures;
  /** the sentence of the step that stopped it */
  stopped: string | null;
  /** JSON of the request that saves it, as a page would send it; null where nothing was edited */
  save: string | null;
  /** what is stored before that */
  made: Map<string, Uint8Array>;
  measured: ProxyFacts | null;
  leaving: WantedDelivery[];
  /** whether the art looks otherwise */
  artChanged: boolean;
}

/** Runs on a worker thread: a recipe done to one piece, to the form in which a page would save it. */
export default async function recipeTask({
  recipe,
  rules,
  history: text,
  version,
  measured,
  blobs,
  port,
}: RecipeTask): Promise<RecipeTaskResult> {
  const history = historySchema.parse(JSON.parse(text));
  const document = currentDocument(history);
  const run = await runRecipe({
    recipe,
    document,
    meshOf: meshReader(blobs),
    yard: recipeYard(rules),
    measured,
    walk: walkPiece,
    progress: (share) => port.postMessage(share),
  });
  const now = run.edits.length ? pushEdit(history, recipeEdit(recipe.name, run.edits)) : history;
  const save: z.input<typeof saveStepsSchema> | null = run.edits.length
    ? { version, steps: stepsBetween(history, now)! }
    : null;
  const { edits: _edits, document: after, blobs: made, ...rest } = run;
  return {
    ...rest,
    made: new Map(made),
    save: save && JSON.stringify(save),
    artChanged: artKey(after) !== artKey(document) || after.materials !== document.materials,
  };
}
