import { readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { issueSentence, type Recipe, recipeSchema, targetsOf, type YardRules } from '@yard-brace/core';
import { Piscina } from 'piscina';
import { pieceFiles } from './deliver.js';
import { writeFiles } from './files.js';
import { profilesFrom, rulesFrom } from './given-rules.js';
import { problemOf } from './problem-of.js';
import type { Options, Result } from './result.js';
import type { RunLine, RunTask, RunTaskResult } from './run-task.js';
import { UsageError } from './usage-error.js';

const MAX_WORKERS = 64;

/**
 * A recipe done to many files, as many at a time as there are workers: a JSON line a file, in the order of the files, and
 * one for all of them. One that is stopped or refused stops no other.
 */
export async function run(
  [recipeFile, ...paths]: readonly string[],
  options: Options,
  tell: (line: object) => void,
): Promise<Result> {
  if (!recipeFile) throw new UsageError('Name a recipe, then the files that it is done to.');
  const rules = await rulesFrom(options.rules);
  const named = options.target?.length ? profilesFrom(options.target, rules).map(({ id }) => id) : null;
  const recipe = withTargets(await recipeFrom(recipeFile), named);
  const within: YardRules = { ...rules, targets: [...new Set([...(named ?? []), ...rules.targets])] };
  const leaves = recipe.steps.some(({ op }) => op === 'deliver');
  if (leaves && !options.out) throw new UsageError('--out names the folder for what leaves.');
  checkTargets(recipe, within);
  const files = pieceFiles(paths).filter(({ length }) => length > 0);
  if (!files.length) throw new UsageError('Name the files that the recipe is done to.');
  const workers = workersFrom(options.workers, files.length);
  const pool = new Piscina<RunTask, RunTaskResult>({
    filename: new URL('./run-task.js', import.meta.url).href,
    minThreads: workers,
    maxThreads: workers,
  });
  const task = (one: readonly string[]): RunTask => ({
    paths: one,
    unit: options.unit,
    recipe,
    rules: within,
    out: options.out ?? '',
  });
  const tally = { files: files.length, done: 0, stopped: 0, refused: 0, deliveries: 0 };
  const bearers = new Map<string, string>();
  try {
    for await (const result of inOrder(files, workers, (one) => pool.run(task(one)))) {
      const line = await written(result, bearers);
      tally[line.outcome]++;
      tally.deliveries += line.outcome === 'refused' ? 0 : line.deliveries.length;
      tell(line);
    }
  } finally {
    await pool.destroy();
  }
  return { json: { summary: { recipe: recipe.name, ...tally } }, stopped: tally.done < files.length };
}

/** What leaves is written once it is known whose name it bears: two pieces of one name would replace each other. */
async function written(
  { line, mesh, writes }: RunTaskResult,
  bearers: Map<string, string>,
): Promise<RunLine> {
  const refused = (says: string): RunLine => ({ ...line, outcome: 'refused', says, deliveries: [] });
  const other = mesh === null ? undefined : bearers.get(mesh.toLowerCase());
  if (other !== undefined)
    return refused(`${other} is named ${mesh}, too; rename one, or give them a pattern.`);
  if (mesh !== null) bearers.set(mesh.toLowerCase(), line.file);
  try {
    for (const { folder, files } of writes) await writeFiles(folder, files);
  } catch (error) {
    const says = problemOf(error);
    if (says === null) throw error;
    return refused(says);
  }
  return line;
}

/** Results in the order of what was asked, with no more under way or waiting than twice the workers. */
async function* inOrder<Asked, Done>(
  asked: readonly Asked[],
  workers: number,
  run: (one: Asked) => Promise<Done>,
): AsyncGenerator<Done> {
  const under: Promise<Done>[] = [];
  for (const one of asked) {
    const running = run(one);
    // What fails is said when its turn comes.
    running.catch(() => undefined);
    under.push(running);
    if (under.length >= workers * 2) yield await under.shift()!;
  }
  for (const one of under) yield await one;
}

/** The recipe of a file. @throws UsageError with the place in it that is wrong */
export async function recipeFrom(path: string): Promise<Recipe> {
  let value: unknown;
  try {
    value = JSON.parse(await readFile(path, 'utf8'));
  } catch (problem) {
    const missing = (problem as NodeJS.ErrnoException).code === 'ENOENT';
    throw new UsageError(
      missing
        ? `${path}: there is no such file.`
        : `${path} is no JSON; save a recipe from Rules, or write one as docs/recipes.md says.`,
    );
  }
  const read = recipeSchema.safeParse(value);
  if (read.success) return read.data;
  throw new UsageError(`${path}: ${issueSentence(read.error.issues[0]!)}`);
}

/** The recipe with deliveries for other targets than its own. */
const withTargets = (recipe: Recipe, targets: readonly string[] | null): Recipe =>
  targets === null
    ? recipe
    : {
        ...recipe,
        steps: [
          ...recipe.steps.filter(({ op }) => op !== 'deliver'),
          ...targets.map((target) => ({ op: 'deliver', parameters: { target } })),
        ],
      };

function checkTargets({ steps }: Recipe, rules: YardRules): void {
  const known = targetsOf(rules).map(({ id }) => id);
  for (const { op, parameters } of steps) {
    const target = parameters['target'] as string;
    if (op === 'deliver' && !known.includes(target))
      throw new UsageError(
        `The recipe delivers for “${target}”; the rules have ${known.join(', ')}. Name it with --target.`,
      );
  }
}

function workersFrom(text: string | undefined, files: number): number {
  const workers = text === undefined ? availableParallelism() : Number(text);
  if (!Number.isInteger(workers) || workers < 1 || workers > MAX_WORKERS)
    throw new UsageError(`--workers takes 1 to ${MAX_WORKERS}, not “${text}”.`);
  return Math.min(workers, files);
}
