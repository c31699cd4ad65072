import {
  applyEdit,
  describeEdit,
  type Edit,
  type History,
  type Intent,
  type PieceDocument,
  singleEdits,
  type Pivot,
} from '../piece/index.js';
import { RECIPE_ANCHORS } from './kinds/pivot-steps.js';
import { recipeStepSchema, type RecipeStep } from './recipe.js';

/** An edit of a piece's history, as a step that does the same to other pieces. */
export interface HistoryStep {
  /** in the words of the undo button */
  label: string;
  /** null for what means nothing on another piece */
  step: RecipeStep | null;
}

/** What was done to a piece, in its order, each edit with the step that a recipe makes of it. */
export function stepsOfHistory({ base, edits, cursor }: History): HistoryStep[] {
  let document = base;
  return edits
    .slice(0, cursor)
    .flatMap(singleEdits)
    .map((edit) => {
      const step = stepOf(document, edit);
      document = applyEdit(document, edit);
      return { label: describeEdit(edit), step };
    });
}

function stepOf(before: PieceDocument, edit: Edit): RecipeStep | null {
  const intent = 'intent' in edit && edit.intent ? edit.intent : impliedIntent(before, edit);
  if (!intent) return null;
  return recipeStepSchema.safeParse(intent).data ?? null;
}

/** What an edit that carries no intent was meant as, where its own values say it. */
function impliedIntent(before: PieceDocument, edit: Edit): Intent | null {
  switch (edit.kind) {
    case 'set-unit':
      return { op: 'unit', parameters: { unit: edit.unit } };
    case 'resize':
      return { op: 'scale', parameters: { factor: edit.factor } };
    case 'turn':
      return turned(edit.turn);
    case 'set-agent':
      return { op: 'agent', parameters: { agent: edit.agent } };
    case 'set-pivots':
      return edit.act === undefined && edit.pivots.length === 1 && edit.pivots[0]!.part === null
        ? anchored(edit.pivots[0]!.pivot)
        : null;
    case 'set-collision':
      return {
        op: 'collision',
        parts: {
          by: 'name',
          names: before.nodes.flatMap(({ id, name }) => (edit.parts.includes(id) ? [name] : [])),
        },
        parameters: { collides: edit.collides },
      };
    case 'put-proxies':
      return edit.changed.length === 0 && edit.removed === 'others'
        ? { op: 'clear-shapes', parameters: {} }
        : null;
    default:
      return null;
  }
}

function anchored(pivot: Pivot | null): Intent | null {
  const anchor = RECIPE_ANCHORS.find((each) => each === pivot?.anchor);
  if (!pivot || !anchor) return null;
  return { op: 'pivot', parameters: { anchor, ...(pivot.cell ? { cell: pivot.cell } : {}) } };
}

/** A turn about one of the piece's own axes. */
function turned([x, y, z, w]: readonly number[]): Intent | null {
  const vector = [x!, y!, z!];
  const length = Math.hypot(...vector);
  const at = vector.findIndex((v) => Math.abs(v) > length * 0.999999);
  if (length === 0 || at < 0) return null;
  const degrees = (2 * Math.atan2(vector[at]!, w!) * 180) / Math.PI;
  return { op: 'turn', parameters: { axis: 'xyz'[at]!, degrees: Number(degrees.toFixed(9)) } };
}
