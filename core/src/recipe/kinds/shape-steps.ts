import * as z from 'zod';
import { withOpeningsFree } from '../../check/index.js';
import { decompose, MAX_RUNG_SHAPES, rungWithin, type Ladder } from '../../decompose/index.js';
import { counted, lengthText } from '../../math/figures.js';
import { sizeOf, type Vec3 } from '../../math/index.js';
import {
  artBounds,
  clearanceShape,
  type Make,
  makeSchema,
  makeShapes,
  type Proxy,
  type PutProxies,
  replaceProxies,
  withDistinctIds,
} from '../../piece/index.js';
import type { RecipeWork } from '../recipe-work.js';
import { StepError } from '../step-error.js';
import { type ChosenParts, type StepKind, stepKind } from '../step-kind.js';

/** What becomes of shapes that are there: all go, those of the same parts do, or none. */
const replaces = z.enum(['all', 'of-parts', 'none']).optional();

/** Shapes of before that stay beside new ones. */
function staying(
  { document }: RecipeWork,
  how: z.infer<typeof replaces>,
  { all, ids }: ChosenParts,
): Proxy[] {
  const wanted = how ?? (all ? 'all' : 'of-parts');
  if (wanted === 'all') return [];
  if (wanted === 'none') return document.proxies;
  const parts = new Set(ids);
  return document.proxies.filter(({ part }) => !all && (part === undefined || !parts.has(part)));
}

/** Puts what was made beside what stays, and says how it lies to the art. */
function put(work: RecipeWork, made: readonly Proxy[], stay: readonly Proxy[]): string {
  if (!made.length) throw new StepError('No shape came of it.');
  const all = withDistinctIds([...stay, ...made]);
  work.apply(
    stay.length === work.document.proxies.length
      ? { kind: 'put-proxies', changed: all.slice(stay.length), removed: [] }
      : replaceProxies(all),
  );
  return `${counted(made.length, 'shape')}; ${liesText(work)}`;
}

function liesText(work: RecipeWork): string {
  const judged = work.judged()!;
  return `excess ${lengthText(judged.excess.max)}, uncovered ${lengthText(judged.uncovered.max)}.`;
}

type MakeName = Exclude<Make['make'], 'drawn-chain' | 'break-up' | 'frame'>;

/** Parameters that every piece can have: faces are those of the step's parts. */
function parametersOf(make: MakeName | 'frame') {
  const option = makeSchema.options.find((each) => each.shape.make.value === make) as unknown as z.ZodObject;
  const {
    make: _make,
    faces: _faces,
    clearance: _clearance,
    ...own
  } = option.shape as Record<string, z.ZodType>;
  return z.strictObject({ ...own, replaces });
}

async function made(work: RecipeWork, make: Make): Promise<PutProxies> {
  const options = { maxCorners: work.maxCorners, toleranceMetres: work.feltMetres };
  // As if there were none yet: what stays beside is decided by the step.
  const document = { ...work.document, proxies: [] };
  const edit = await makeShapes(document, work.art, make, options);
  const { art: placed, comparer } = work.colliding;
  return withOpeningsFree(edit, { document, placed, comparer, ...options });
}

const making = (make: MakeName, label: string): StepKind =>
  stepKind({
    label,
    parts: true,
    parameters: parametersOf(make),
    async run(work, { replaces: how, ...own }: { replaces?: z.infer<typeof replaces> }, parts) {
      const asked = makeSchema.parse({ make, ...own, faces: work.facesOf(parts) });
      const { changed } = await made(work, asked);
      return put(work, changed, staying(work, how, parts));
    },
  });

const frame = stepKind({
  label: 'Frame every opening',
  parts: false,
  parameters: parametersOf('frame'),
  async run(work, { replaces: how = 'none', ...own }: { replaces?: z.infer<typeof replaces> }) {
    const { clearances } = work.document;
    if (!clearances.length) throw new StepError('It has no opening that is kept free.');
    const shapes: Proxy[] = [];
    for (const { id } of clearances)
      shapes.push(...(await made(work, makeSchema.parse({ make: 'frame', ...own, clearance: id }))).changed);
    return put(work, withDistinctIds(shapes), staying(work, how, { all: true, ids: [] }));
  },
});

const ladder = stepKind({
  label: 'Break into convex shapes',
  parts: true,
  parameters: z.strictObject({
    /** id of who collides. Default: for whom the piece is judged; null: full detail */
    agent: z.string().max(40).nullable().optional(),
    maxShapes: z.number().int().min(1).max(MAX_RUNG_SHAPES).default(32),
    maxVertices: z.number().int().min(4).max(255).default(32),
    primitives: z.boolean().default(true),
    mayCross: z.boolean().default(true),
    /** how many, or the first count that is good enough */
    shapes: z
      .union([z.literal('good-enough'), z.number().int().min(1).max(MAX_RUNG_SHAPES)])
      .default('good-enough'),
    /** no more than the yard's budget for its size */
    withinBudget: z.boolean().default(true),
    replaces,
  }),
  async run(work, { agent: id, shapes: wanted, withinBudget, replaces: how, ...options }, parts) {
    const agent = id === undefined ? work.agent : id === null ? undefined : work.agentBy(id);
    const budget = withinBudget ? budgetOf(work) : Infinity;
    const faces = work.facesOf(parts);
    const found = await decompose(faces ? work.art.mesh : work.colliding.art.mesh, {
      ...options,
      maxShapes: Math.min(options.maxShapes, budget),
      maxVertices: Math.min(options.maxVertices, work.profile.solids.maxHullVertices),
      agentDetail: agent?.detail ?? 0,
      clearances: work.document.clearances.map(clearanceShape),
      kinds: work.profile.kinds.known,
      progress: work.progress,
      ...(faces ? { faces } : {}),
    });
    const rung = rungWanted(found, wanted);
    const part =
      parts.ids.length === 1 && !parts.all && work.document.nodes.length > 1 ? parts.ids[0] : undefined;
    const made = rung.shapes.map((shape, i): Proxy => ({
      id: `rung-${i + 1}`,
      shape,
      ...(part === undefined ? {} : { part }),
    }));
    const says = put(work, made, staying(work, how, parts));
    return wanted === 'good-enough' && found.goodEnough === null
      ? `${says} No count up to ${Math.min(options.maxShapes, budget)} is good enough for the ${agent?.name ?? 'full detail'}.`
      : says;
  },
});

function rungWanted(ladder: Ladder, wanted: 'good-enough' | number) {
  const { rungs, goodEnough } = ladder;
  const last = rungs[rungs.length - 1];
  if (!last) throw new StepError('It could not be broken into shapes.');
  if (wanted === 'good-enough') return rungs[goodEnough ?? rungs.length - 1]!;
  return rungWithin(ladder, wanted) ?? rungs[0]!;
}

/** What a piece of this size may cost in shapes. */
function budgetOf(work: RecipeWork): number {
  const longest = Math.max(...(sizeOf(artBounds(work.document)) as Vec3));
  const { budgets = [] } = work.yard.checks(work.document, work.profile);
  return budgets.find(({ upToMetres }) => longest <= upToMetres)?.shapes ?? Infinity;
}

const clear = stepKind({
  label: 'Remove all shapes',
  parts: true,
  parameters: z.strictObject({}),
  run(work, _, parts) {
    const left = staying(work, undefined, parts);
    const gone = work.document.proxies.length - left.length;
    if (!gone) return 'It has no such shapes.';
    work.apply(replaceProxies(left));
    return `${counted(gone, 'shape')} removed.`;
  },
});

/** Shapes that collide. */
export const SHAPE_STEPS: Readonly<Record<string, StepKind>> = {
  ladder,
  wrap: making('wrap', 'Wrap in shapes'),
  chain: making('chain', 'Lay a chain along the run'),
  slope: making('slope', 'Lay a slope'),
  walls: making('walls', 'Raise walls along the border'),
  slab: making('slab', 'Lay a slab below'),
  container: making('container', 'Build a container'),
  rounds: making('rounds', 'Stack rounds'),
  reduced: making('reduced', 'Reduce the art'),
  'own-triangles': making('own-triangles', 'Use its own triangles'),
  vehicle: making('vehicle', 'Build a vehicle'),
  frame,
  'clear-shapes': clear,
};
