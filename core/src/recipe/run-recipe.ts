import * as z from 'zod';
import type { ProxyFacts } from '../check/index.js';
import { DecomposeError, WrapError } from '../decompose/index.js';
import { sizeOf } from '../math/bounds.js';
import { counted, lengthText, sizeText } from '../math/figures.js';
import { vec3Schema } from '../math/schemas.js';
import { PatternError } from '../naming/index.js';
import { artBounds, type Edit, type PieceDocument, ReshapeError } from '../piece/index.js';
import { PlanError } from '../target/index.js';
import type { Recipe, RecipeStep } from './recipe.js';
import { RecipeWork, type RecipeWorkInput, type WantedDelivery } from './recipe-work.js';
import { StepError } from './step-error.js';
import { ALL_PARTS } from './step-kind.js';
import { stepKindOf } from './step-kinds.js';

/** What became of one step. */
export const stepReportSchema = z.object({
  op: z.string(),
  label: z.string(),
  outcome: z.enum(['done', 'skipped', 'stopped']),
  /** what it came to, or why it did not apply, in a sentence */
  says: z.string(),
});
export type StepReport = z.infer<typeof stepReportSchema>;

/** A piece in figures. */
export const pieceFiguresSchema = z.object({
  /** of its art, metres; absent in what earlier versions stored */
  size: vec3Schema.optional(),
  parts: z.number(),
  triangles: z.number(),
  shapes: z.number(),
  /** metres; null where nobody has measured */
  excess: z.number().nullable(),
  uncovered: z.number().nullable(),
});
export type PieceFigures = z.infer<typeof pieceFiguresSchema>;

export interface RecipeRun {
  /** the piece as the recipe leaves it; as it was where a step stopped it */
  document: PieceDocument;
  /** what was done to it, one after the other */
  edits: Edit[];
  /** what is stored before the edits are made */
  blobs: ReadonlyMap<string, Uint8Array>;
  /** how its shapes lie to the art now */
  measured: ProxyFacts | null;
  /** for which targets it leaves */
  leaving: WantedDelivery[];
  steps: StepReport[];
  /** the sentence of the step that stopped it; null when it came to its end */
  stopped: string | null;
  before: PieceFigures;
  after: PieceFigures;
}

export interface RunRecipeInput extends RecipeWorkInput {
  recipe: Recipe;
  /** called with the share done and the step that is at it; what it throws stops the work */
  progress?: (share: number, step: string) => void;
}

/**
 * Do a recipe to a piece. Each step finds the piece as the one before left it; a step that does not apply is skipped,
 * or ends the run with nothing done, as the recipe says. The same recipe and piece give the same edits everywhere.
 */
export async function runRecipe({ recipe, progress, ...input }: RunRecipeInput): Promise<RecipeRun> {
  const work = new RecipeWork(input);
  const before = figuresOf(input.document, work.measured);
  const steps: StepReport[] = [];
  const { length } = recipe.steps;
  for (const [i, step] of recipe.steps.entries()) {
    const { label } = stepKindOf(step.op)!;
    work.progress = (share) => progress?.((i + share) / length, label);
    work.progress(0);
    const report = await doStep(work, step);
    steps.push({ op: step.op, label, ...report });
    if (report.outcome !== 'stopped') continue;
    const stopped = `Stopped at step ${i + 1}, ${label.toLowerCase()}: ${report.says}`;
    return {
      document: input.document,
      edits: [],
      blobs: new Map(),
      measured: input.measured ?? null,
      leaving: [],
      steps,
      stopped,
      before,
      after: before,
    };
  }
  if (work.edits.length) work.judged();
  const { document, edits, blobs, measured, leaving } = work;
  return {
    document,
    edits,
    blobs,
    measured,
    leaving,
    steps,
    stopped: null,
    before,
    after: figuresOf(document, measured),
  };
}

type DoneStep = Pick<StepReport, 'outcome' | 'says'>;

async function doStep(work: RecipeWork, step: RecipeStep): Promise<DoneStep> {
  const kind = stepKindOf(step.op)!;
  try {
    const selector = step.parts ?? ALL_PARTS;
    const parts = { all: selector.by === 'all', ids: kind.parts ? work.select(selector) : [] };
    if (kind.parts && !parts.ids.length)
      throw new StepError(
        selector.by === 'name'
          ? `The piece has no part called “${selector.names.join('” or “')}”.`
          : 'No part of the piece is as the step asks for.',
      );
    return { outcome: 'done', says: await kind.run(work, kind.parameters.parse(step.parameters), parts) };
  } catch (error) {
    if (!isRefusal(error)) throw error;
    return {
      outcome: (step.otherwise ?? kind.otherwise) === 'skip' ? 'skipped' : 'stopped',
      says: error.message,
    };
  }
}

const REFUSALS = [StepError, ReshapeError, DecomposeError, WrapError, PatternError, PlanError];
const isRefusal = (error: unknown): error is Error => REFUSALS.some((kind) => error instanceof kind);

/** What is counted of a piece, and how far its shapes lie off, where that was measured. */
export function figuresOf(document: PieceDocument, measured: ProxyFacts | null): PieceFigures {
  const shapes = document.proxies.length;
  return {
    size: sizeOf(artBounds(document)),
    parts: document.nodes.filter(({ mesh, aside }) => mesh !== null && !aside).length,
    triangles: document.whole.triangles,
    shapes,
    excess: shapes && measured ? measured.proxyOutside : null,
    uncovered: shapes && measured ? measured.artOutside : null,
  };
}

/** Figures before and after, as a line: what is the same is said once. */
export function figuresText(before: PieceFigures, after: PieceFigures): string {
  const change = (one: string, a: number, b: number) =>
    a === b ? counted(b, one) : `${counted(a, one)} to ${counted(b, one)}`;
  const off = (f: PieceFigures) =>
    f.excess === null || f.uncovered === null ? null : lengthText(Math.max(f.excess, f.uncovered));
  const [was, is] = [off(before), off(after)];
  const [sizeWas, size] = [before, after].map((f) => (f.size ? sizeText(f.size) : null));
  return [
    ...(sizeWas && size && sizeWas !== size ? [`${sizeWas} to ${size}`] : []),
    change('part', before.parts, after.parts),
    change('triangle', before.triangles, after.triangles),
    change('shape', before.shapes, after.shapes),
    ...(is === null ? [] : [was === null || was === is ? `${is} off` : `${was} to ${is} off`]),
  ].join(', ');
}
