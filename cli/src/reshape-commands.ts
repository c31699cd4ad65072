import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import {
  applyEdit,
  artBounds,
  artMesh,
  issueSentence,
  listText,
  lostIn,
  measuredPivot,
  meshReader,
  type Operation,
  type OperationOf,
  operate,
  operationSchema,
  type PieceDocument,
  pivotPlace,
  sceneOfPiece,
  sizeOf,
  subtract,
  type Vec3,
  WRITTEN_FORMATS,
  type Outcome,
  outcomeText,
  writeScene,
  type WrittenFormat,
} from '@yard-brace/core';
import type { Options, Result } from './result.js';
import { type TakenIn, takeInFile } from './take-in-file.js';
import { UsageError } from './usage-error.js';

/** A piece under operations: each one's meshes join those that were there. */
class Work {
  readonly outcomes: Outcome[] = [];
  constructor(private readonly piece: TakenIn) {}

  get document(): PieceDocument {
    return this.piece.document;
  }

  readonly meshOf = (id: string) => this.piece.meshOf(id);

  async do(operation: Operation): Promise<void> {
    const { edit, blobs, outcome } = await operate(this.document, operation, this.meshOf);
    for (const [id, bytes] of blobs) this.piece.blobs.set(id, bytes);
    this.piece.document = applyEdit(this.document, edit);
    this.outcomes.push(outcome);
  }

  parts(name: string | undefined): string[] {
    if (name === undefined) return [];
    const found = this.document.nodes.filter((node) => node.name === name).map((node) => node.id);
    if (found.length) return found;
    const names = this.document.nodes.map((node) => node.name);
    throw new UsageError(`There is no part “${name}”; there are ${listText(names, 12)}.`);
  }

  /** An operation whose parts are given by their names. */
  byNames(given: Record<string, unknown>, where: string): Operation {
    const idsOf = (names: unknown) =>
      Array.isArray(names) ? names.flatMap((name) => this.parts(String(name))) : names;
    const idOf = (name: unknown) => (typeof name === 'string' ? this.parts(name)[0] : name);
    const parsed = operationSchema.safeParse({
      ...given,
      ...('parts' in given ? { parts: idsOf(given['parts']) } : {}),
      ...('part' in given ? { part: idOf(given['part']) } : {}),
      ...('parent' in given ? { parent: idOf(given['parent']) } : {}),
    });
    if (parsed.success) return parsed.data;
    const issue = parsed.error.issues[0]!;
    throw new UsageError(`${where}: ${issueSentence(issue)}`);
  }

  /** Write the piece; the extension says the format. */
  async write(out: string | undefined, shift?: Vec3): Promise<{ files: string[]; lost: string[] }> {
    const { path, format } = target(out);
    let scene = sceneOfPiece(this.document, {
      meshOf: this.meshOf,
      pictureOf: (id) => this.piece.blobs.get(id)!,
    });
    if (shift) {
      const move = (v: Vec3): Vec3 => subtract(v, shift);
      scene = {
        ...scene,
        nodes: scene.nodes.map((node) =>
          node.parent === null ? { ...node, translation: move(node.translation) } : node,
        ),
      };
    }
    const files = await writeScene(scene, format, basename(path, extname(path)));
    await mkdir(dirname(path), { recursive: true });
    for (const { name, bytes } of files) await writeFile(join(dirname(path), name), bytes);
    return { files: files.map(({ name }) => name), lost: lostIn(format, scene) };
  }
}

function target(out: string | undefined): { path: string; format: WrittenFormat } {
  const format = WRITTEN_FORMATS.find((each) => out?.toLowerCase().endsWith(`.${each}`));
  if (!out || !format)
    throw new UsageError(
      `--out names the file to write, ending in ${WRITTEN_FORMATS.map((each) => `.${each}`).join(', ')}.`,
    );
  return { path: out, format };
}

/** A number with its bounds. @throws UsageError */
function numeric(option: string, text: string, { least = 0, most = Infinity } = {}): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value < least || value > most)
    throw new UsageError(
      `--${option} takes a number${most < Infinity ? ` from ${least} to ${most}` : ` of at least ${least}`}, not “${text}”.`,
    );
  return value;
}

function listed<T extends string>(option: string, text: string, known: readonly T[]): T[] {
  return text.split(',').map((word) => {
    const found = known.find((each) => each === word.trim());
    if (!found) throw new UsageError(`--${option} takes ${known.join(', ')}, not “${word}”.`);
    return found;
  });
}

async function opened(paths: readonly string[], options: Options): Promise<Work> {
  target(options.out);
  const piece = await takeInFile(paths, options.unit);
  return new Work({ ...piece, meshOf: meshReader(piece.blobs) });
}

async function done(
  work: Work,
  options: Options,
  more: Record<string, unknown> = {},
  shift?: Vec3,
): Promise<Result> {
  const { files, lost } = await work.write(options.out, shift);
  const { whole, nodes } = work.document;
  return {
    json: {
      says: work.outcomes.map(outcomeText),
      outcomes: work.outcomes,
      sizeMetres: sizeOf(artBounds(work.document)),
      triangles: whole.triangles,
      parts: nodes.filter((node) => node.mesh !== null).map((node) => node.name),
      closed: whole.closed,
      ...more,
      files,
      lost,
    },
    stopped: false,
  };
}

const REMOVED = [
  'doubled',
  'hidden',
  'zero-area',
  'specks',
  'unused',
] as const satisfies OperationOf<'remove-faces'>['which'];

/** Mends in the order they help each other: weld, remove, fill, turn, reduce, normals. */
export async function mend(paths: readonly string[], options: Options): Promise<Result> {
  const { weld, remove, longest, normals, share, error } = options;
  const fills = options['fill-holes'] !== undefined;
  const turns = options.outward !== undefined;
  if ([weld, remove, normals, share, error].every((option) => option === undefined) && !fills && !turns)
    throw new UsageError('Name at least one mend.');
  const which = remove === undefined ? [] : listed('remove', remove, REMOVED);
  const steps: Operation[] = [];
  const work = await opened(paths, options);
  const parts = work.parts(options.part);
  if (weld !== undefined)
    steps.push({ op: 'weld', parts, metres: numeric('weld', weld, { least: 1e-9 }) / 1000 });
  if (which.length) steps.push({ op: 'remove-faces', parts, which });
  if (fills)
    steps.push({
      op: 'fill-holes',
      parts,
      bores: options.bores !== undefined,
      ...(longest ? { longest: numeric('longest', longest) } : {}),
    });
  if (options['join-borders'] !== undefined) steps.push({ op: 'join-borders', parts });
  if (turns) steps.push({ op: 'face-outward', parts });
  if (share !== undefined || error !== undefined)
    steps.push({
      op: 'reduce',
      parts,
      ...(share === undefined ? {} : { share: numeric('share', share, { most: 1 }) }),
      ...(error === undefined ? {} : { metres: numeric('error', error, { least: 1e-9 }) }),
    });
  if (normals !== undefined)
    steps.push({ op: 'normals', parts, degrees: numeric('normals', normals, { most: 180 }) });
  const skipped: string[] = [];
  for (const step of steps) {
    try {
      await work.do(step);
    } catch (problem) {
      // Nothing to mend is no failure in a pipeline: it is said and the next mend goes on.
      if (!(problem instanceof Error) || problem.name !== 'ReshapeError') throw problem;
      skipped.push(problem.message);
    }
  }
  return done(work, options, { skipped });
}

export async function bake(paths: readonly string[], options: Options): Promise<Result> {
  const keep = options.keep === undefined ? [] : listed('keep', options.keep, ['position', 'rotation']);
  const work = await opened(paths, options);
  await work.do({
    op: 'bake',
    parts: work.parts(options.part),
    keepPosition: keep.includes('position'),
    keepRotation: keep.includes('rotation'),
  });
  return done(work, options);
}

const ANCHORS = ['base-centre', 'centre', 'origin', 'as-it-came', 'lowest-contact', 'centroid'] as const;

/** Writes the piece with its pivot at the origin, and says where that was. */
export async function pivot(paths: readonly string[], options: Options): Promise<Result> {
  const { at = 'base-centre' } = options;
  const typed = at.split(',').map(Number);
  const numbers = typed.length === 3 && typed.every(Number.isFinite);
  const anchor = ANCHORS.find((each) => each === at);
  if (!anchor && !numbers)
    throw new UsageError(`--at takes ${ANCHORS.join(', ')} or x,y,z in metres, not “${at}”.`);
  const work = await opened(paths, options);
  const { document } = work;
  const place =
    anchor === 'lowest-contact' || anchor === 'centroid'
      ? measuredPivot(artMesh(document, work.meshOf), anchor)
      : anchor
        ? pivotPlace(document, anchor)
        : (typed as Vec3);
  if (!place)
    throw new UsageError(
      'The surface is open and encloses nothing, so it has no centroid; mend it, or choose another anchor.',
    );
  return done(work, options, { pivot: { anchor: anchor ?? 'numeric', position: place } }, place);
}

/** Parts by shells or by material, each named and where it stood. */
export async function split(paths: readonly string[], options: Options): Promise<Result> {
  if (options.by !== 'shells' && options.by !== 'materials')
    throw new UsageError(`--by takes shells, materials${options.by ? `, not “${options.by}”` : ''}.`);
  const smallest = numeric('smallest', options.smallest ?? '0');
  const work = await opened(paths, options);
  const parts = work.parts(options.part);
  await work.do(
    options.by === 'shells' ? { op: 'split-shells', parts, smallest } : { op: 'split-materials', parts },
  );
  return done(work, options);
}

/**
 * Any operations on the tree and its meshes, one after the other, as a JSON list. Parts are named by their names, and
 * none of them stands for all; what names single faces or edges is refused.
 *
 * @example [{"op":"bend","parts":[],"module":{"origin":[0,0,0],"along":[1,0,0],"from":0,"to":4},"degrees":90,"divisions":8}]
 */
export async function change(paths: readonly string[], options: Options): Promise<Result> {
  if (!options.do) throw new UsageError('--do names a JSON file with the operations.');
  const asked = await operationsIn(options.do);
  const work = await opened(paths, options);
  for (const [i, operation] of asked.entries()) await work.do(work.byNames(operation, `operation ${i + 1}`));
  return done(work, options);
}

async function operationsIn(path: string): Promise<Record<string, unknown>[]> {
  let value: unknown;
  try {
    value = JSON.parse(await readFile(path, 'utf8'));
  } catch (problem) {
    const missing = (problem as NodeJS.ErrnoException).code === 'ENOENT';
    throw new UsageError(
      missing ? `${path}: there is no such file.` : `${path} is no JSON; write a list of operations.`,
    );
  }
  const isOperation = (each: unknown): each is Record<string, unknown> =>
    typeof each === 'object' && each !== null && !Array.isArray(each);
  if (!Array.isArray(value) || value.length === 0 || !value.every(isOperation))
    throw new UsageError(`${path} is no list of operations; write [{"op": …}, …].`);
  return value;
}
