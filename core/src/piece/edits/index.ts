import * as z from 'zod';
import type { PieceDocument } from '../document.js';
import type { EditKind } from './edit-kind.js';
import { changeSets } from './change-sets.js';
import { putProxies } from './put-proxies.js';
import { renameListed } from './rename-listed.js';
import { renameMaterial } from './rename-material.js';
import { renameMesh } from './rename-mesh.js';
import { renameParts } from './rename-parts.js';
import { renamePiece } from './rename-piece.js';
import { reshape } from './reshape.js';
import { resize } from './resize.js';
import { setAgent } from './set-agent.js';
import { setAreas } from './set-areas.js';
import { setClearances } from './set-clearances.js';
import { setCollision } from './set-collision.js';
import { setFacesCollision } from './set-faces-collision.js';
import { setFamily } from './set-family.js';
import { setLeaves } from './set-leaves.js';
import { setPivots } from './set-pivots.js';
import { setPresentation } from './set-presentation.js';
import { setRiddenEdges } from './set-ridden-edges.js';
import { setUnit } from './set-unit.js';
import { takeNewArt } from './take-new-art.js';
import { turn } from './turn.js';
import { upgradeEdit } from './upgrade-edit.js';

export { type Intent, intentSchema, PART_ROLES, type PartSelector, partSelectorSchema } from './intent.js';
export { OPERATION_LABELS, type OperationName } from './operation-labels.js';
export {
  addProxies,
  changeProxies,
  mergeProxies,
  proxiesBetween,
  type ProxyUse,
  type ShapeChange,
  useProxies,
} from './change-proxies.js';
export { type PutProxies, removeProxy, replaceProxies } from './put-proxies.js';
export { type Reshaped } from './reshape.js';
export { pivotEdit } from './set-pivots.js';

/** Every kind of edit, each in its own file; a new one is one line here and one in the union below. */
const KINDS = {
  'rename-piece': renamePiece,
  'rename-mesh': renameMesh,
  'rename-parts': renameParts,
  'rename-listed': renameListed,
  'rename-material': renameMaterial,
  'set-unit': setUnit,
  'set-pivots': setPivots,
  'set-presentation': setPresentation,
  'set-family': setFamily,
  'set-leaves': setLeaves,
  'set-agent': setAgent,
  'set-areas': setAreas,
  'set-clearances': setClearances,
  'set-ridden-edges': setRiddenEdges,
  'set-collision': setCollision,
  'set-faces-collision': setFacesCollision,
  'put-proxies': putProxies,
  'change-sets': changeSets,
  resize,
  turn,
  reshape,
  'take-new-art': takeNewArt,
};

/** One change; what a recipe did is a list of them. */
const singleEditSchema = z.discriminatedUnion('kind', [
  renamePiece.schema,
  renameMesh.schema,
  renameParts.schema,
  renameListed.schema,
  renameMaterial.schema,
  setUnit.schema,
  setPivots.schema,
  setPresentation.schema,
  setFamily.schema,
  setLeaves.schema,
  setAgent.schema,
  setAreas.schema,
  setClearances.schema,
  setRiddenEdges.schema,
  setCollision.schema,
  setFacesCollision.schema,
  putProxies.schema,
  changeSets.schema,
  resize.schema,
  turn.schema,
  reshape.schema,
  takeNewArt.schema,
]);
type SingleEdit = z.infer<typeof singleEditSchema>;

/** What a recipe did to the piece: one undo step, however many edits it is. */
const recipeEditSchema = z.object({
  kind: z.literal('recipe'),
  /** of the recipe */
  name: z.string().min(1).max(60),
  edits: z.array(singleEditSchema).min(1).max(2000),
});

/** A change to a piece as a plain value; undo, saving and batch runs are lists of them. */
export const editSchema = z.preprocess(
  upgradeEdit,
  z.discriminatedUnion('kind', [singleEditSchema, recipeEditSchema]),
);
export type Edit = z.infer<typeof editSchema>;

/** What a recipe did, as one edit; what one did within another counts like the rest. */
export const recipeEdit = (name: string, edits: readonly Edit[]): Edit => ({
  kind: 'recipe',
  name,
  edits: edits.flatMap(singleEdits),
});

/** The edits that an edit is made of: itself, or what its recipe did. */
export const singleEdits = (edit: Edit): readonly SingleEdit[] =>
  edit.kind === 'recipe' ? edit.edits : [edit];
export type EditOf<Kind extends Edit['kind']> = Extract<Edit, { kind: Kind }>;

const kindOf = ({ kind }: SingleEdit) => KINDS[kind] as unknown as EditKind<z.ZodType<Edit>>;

/** The document after the edit. Pure: the one given stays as it is. */
export const applyEdit = (document: PieceDocument, edit: Edit): PieceDocument =>
  singleEdits(edit).reduce((now, each) => kindOf(each).apply(now, each), document);

/** The edit in the words of the undo button. */
export const describeEdit = (edit: Edit): string =>
  edit.kind === 'recipe' ? `recipe “${edit.name}”` : kindOf(edit).describe(edit);

const weights = new WeakMap<Edit, number>();

/** Bytes, about, that the edit takes where it is stored; worked out once. */
export function weightOf(edit: Edit): number {
  const known =
    weights.get(edit) ?? singleEdits(edit).reduce((sum, each) => sum + kindOf(each).weigh(each), 0);
  weights.set(edit, known);
  return known;
}
