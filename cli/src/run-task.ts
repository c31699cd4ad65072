import {
  type Edit,
  figuresText,
  type Recipe,
  recipeYard,
  runRecipe,
  type StepReport,
  targetsOf,
  type YardRules,
} from '@yard-brace/core';
import { walkPiece } from '@yard-brace/trial';
import { assembled, placeOf } from './deliver.js';
import { problemOf } from './problem-of.js';
import { takeInFile } from './take-in-file.js';

/** A recipe done to the piece of one file, on a thread of its own. */
export interface RunTask {
  /** the mesh file, then what is named beside it */
  paths: readonly string[];
  unit: string | undefined;
  recipe: Recipe;
  rules: YardRules;
  /** folder for what leaves; empty where nothing does */
  out: string;
}

/** What is said of one file, as its JSON line. */
export interface RunLine {
  file: string;
  outcome: 'done' | 'stopped' | 'refused';
  /** why, or what has changed, in a sentence */
  says: string;
  steps: readonly StepReport[];
  edits: Edit['kind'][];
  deliveries: Record<string, unknown>[];
}

export interface RunTaskResult {
  line: RunLine;
  /** mesh name of what leaves; null where nothing does */
  mesh: string | null;
  /** what is written once it is known that no other file bears that name */
  writes: { folder: string; files: readonly { name: string; bytes: Uint8Array }[] }[];
}

export default async function runTask(task: RunTask): Promise<RunTaskResult> {
  try {
    return await done(task);
  } catch (error) {
    const says = problemOf(error);
    if (says === null) throw error;
    return {
      line: { file: task.paths[0]!, outcome: 'refused', says, steps: [], edits: [], deliveries: [] },
      mesh: null,
      writes: [],
    };
  }
}

async function done({ paths, unit, recipe, rules, out }: RunTask): Promise<RunTaskResult> {
  const { document: taken, ...sources } = await takeInFile(paths, unit);
  const run = await runRecipe({
    recipe,
    document: taken,
    meshOf: sources.meshOf,
    yard: recipeYard(rules),
    walk: walkPiece,
  });
  // The reader of meshes finds what is put in later, too.
  for (const [id, bytes] of run.blobs) sources.blobs.set(id, bytes);
  const { document } = run;
  const deliveries: Record<string, unknown>[] = [];
  const writes: RunTaskResult['writes'] = [];
  let stopped = run.stopped !== null;
  for (const { target, choices } of run.leaving) {
    const profile = targetsOf(rules).find(({ id }) => id === target)!;
    const left = await assembled([document], { profile, choices, sources, rules });
    deliveries.push(left.json);
    stopped ||= left.stopped;
    const apart = new Set(run.leaving.map((each) => each.target)).size > 1;
    if (left.files.length)
      writes.push({ folder: placeOf(document, profile, choices, { rules, out, apart }), files: left.files });
  }
  const line: RunLine = {
    file: paths[0]!,
    outcome: stopped ? 'stopped' : 'done',
    says: run.stopped ?? figuresText(run.before, run.after),
    steps: run.steps,
    edits: run.edits.map(({ kind }) => kind),
    deliveries,
  };
  return { line, mesh: writes.length ? document.meshName : null, writes };
}
