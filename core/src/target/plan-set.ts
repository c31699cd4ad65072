import {
  composeMatrix,
  decomposeMatrix,
  type Matrix,
  multiplyMatrices,
  invertMatrix,
  type Quat,
  type Vec3,
} from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import {
  applyEdit,
  type ContactSurface,
  meshReader,
  mirrorMatrix,
  operate,
  type PieceDocument,
} from '../piece/index.js';
import { type Documents, type Placed, placedPieces, type SetOut, sourceKey } from '../set-out/index.js';
import type { DeliveryChoices } from './choices.js';
import type { Plan } from './plan.js';
import { planTogether, type Stand } from './plan-together.js';
import type { TargetProfile } from './profile.js';

/** How a set leaves: all in one file, a file a piece with a list of places, or a file a group. */
export const SET_FORMS = ['one-file', 'file-a-piece', 'grouped'] as const;
export type SetForm = (typeof SET_FORMS)[number];

/** Most placements that one file holds: more of them are better told by a list. */
export const MAX_PLACEMENTS_IN_FILES = 500;

/** A set that cannot leave as it is, with a sentence for the person. */
export class PlanSetError extends Error {
  override readonly name = 'PlanSetError';
}

export interface PlanSetInput {
  setOut: SetOut;
  documents: Documents;
  form: SetForm;
  /** of the file; groups and lists are named after it */
  name: string;
  profile: TargetProfile;
  choices: DeliveryChoices;
  surfaces: readonly ContactSurface[];
  /** bytes of every mesh that the documents name */
  blobs: ReadonlyMap<string, Uint8Array>;
}

/** A placement that leaves, and what it is called there. */
export interface LeavingPlacement {
  placed: Placed;
  /** name of its root node, or of the mesh of its piece */
  node: string;
}

export interface SetPlan {
  /** plans of each file: those of one file together */
  files: Plan[][];
  /** by `sourceKey`: the first plan that is made from it. Its papers are written, those of its copies say the same */
  firstOf: Map<string, Plan>;
  leaving: LeavingPlacement[];
  meshOf: (blob: string) => Mesh;
}

/**
 * Plans of a set, as it leaves. In files that hold placements every one is a node of its own, mirrored ones as true
 * mirrored geometry: a root that mirrors is no part of any file of ours. In files of pieces each piece stands once, on its
 * pivot.
 *
 * @throws PlanSetError for an empty or too large set; PlanError, DecomposeError
 */
export async function planSet(input: PlanSetInput): Promise<SetPlan> {
  const placed = placedPieces(input.setOut, input.documents);
  if (!placed.length)
    throw new PlanSetError('Nothing of the set-out is in the yard any more; place pieces first.');
  if (input.form === 'file-a-piece') return planPieces(input, placed);
  if (placed.length > MAX_PLACEMENTS_IN_FILES)
    throw new PlanSetError(
      `The set holds ${placed.length} pieces, and files hold ${MAX_PLACEMENTS_IN_FILES} at most; deliver a file a piece with the list of places.`,
    );
  return planCopies(input, placed);
}

/** Every piece once, in a file of its own. */
async function planPieces(
  { profile, choices, surfaces, blobs }: PlanSetInput,
  placed: readonly Placed[],
): Promise<SetPlan> {
  const files: Plan[][] = [];
  const taken = new Set<string>();
  const firstOf = new Map<string, Plan>();
  for (const [key, document] of usedSources(placed)) {
    // Files of their own: only they have to be told apart.
    const own = underFreeNames(document, taken, ({ meshName }) => [meshName]);
    const plans = await planTogether([own], profile, choices, surfaces);
    files.push(plans);
    firstOf.set(key, plans[0]!);
  }
  const nodeOf = ({ placement }: Placed) => firstOf.get(sourceKey(placement))!.document.meshName;
  const leaving = placed.map((each) => ({ placed: each, node: nodeOf(each) }));
  return { files, firstOf, leaving, meshOf: meshReader(new Map(blobs)) };
}

/** Every placement as a node of its own, in one file, or in a file a group. */
async function planCopies(
  { form, name, profile, choices, surfaces, blobs: given }: PlanSetInput,
  placed: readonly Placed[],
): Promise<SetPlan> {
  const blobs = new Map(given);
  const meshOf = meshReader(blobs);
  const taken = new Set<string>();
  const mirrors = new Map<string, PieceDocument>();
  const groups = new Map<string, { placed: Placed; document: PieceDocument; stand: Stand }[]>();
  for (const each of placed) {
    const { document, stand } = await standingCopy(each, mirrors, { meshOf, blobs });
    const group = form === 'grouped' ? each.placement.group : null;
    const stem = group === null ? name : `${name}_${group}`;
    const copy = { placed: each, document: underFreeNames(document, taken), stand };
    groups.set(stem, [...(groups.get(stem) ?? []), copy]);
  }
  const files: Plan[][] = [];
  const firstOf = new Map<string, Plan>();
  const nodes = new Map<string, string>();
  for (const [together, own] of groups) {
    const plans = await planTogether(
      own.map(({ document }) => document),
      profile,
      { ...choices, together },
      surfaces,
      own.map(({ stand }) => stand),
    );
    plans.forEach((plan, i) => {
      const { placement } = own[i]!.placed;
      const key = sourceKey(placement);
      if (!firstOf.has(key)) firstOf.set(key, plan);
      nodes.set(placement.id, plan.document.meshName);
    });
    files.push(plans);
  }
  const leaving = placed.map((each) => ({ placed: each, node: nodes.get(each.placement.id)! }));
  return { files, firstOf, leaving, meshOf };
}

const usedSources = (placed: readonly Placed[]): Map<string, PieceDocument> =>
  new Map(placed.map(({ placement, document }) => [sourceKey(placement), document]));

/** The piece as it stands there: with the materials of the placement, mirrored for true where it is. */
async function standingCopy(
  { placement, document, matrix }: Placed,
  mirrors: Map<string, PieceDocument>,
  { meshOf, blobs }: { meshOf: (blob: string) => Mesh; blobs: Map<string, Uint8Array> },
): Promise<{ document: PieceDocument; stand: Stand }> {
  const dressed = withMaterials(document, placement.materials);
  if (!placement.mirrored) return { document: dressed, stand: standOf(matrix, document) };
  const plane = { point: [...document.pivot.position] as Vec3, normal: [1, 0, 0] as Vec3 };
  const key = sourceKey(placement);
  let seen = mirrors.get(key);
  if (!seen) {
    const done = await operate(document, { op: 'mirror', parts: [], plane, copy: false }, meshOf);
    for (const [id, bytes] of done.blobs) blobs.set(id, bytes);
    seen = applyEdit(document, done.edit);
    mirrors.set(key, seen);
  }
  // What the mirror did to the piece is undone before it stands there: together they are what the instance was.
  const whole = multiplyMatrices(matrix, invertMatrix(mirrorMatrix(plane))!);
  return { document: withMaterials(seen, placement.materials), stand: standOf(whole, seen) };
}

/** Where the pivot of a piece comes to be, by the matrix that carries the piece. */
function standOf(matrix: Matrix, { pivot }: PieceDocument): Stand {
  const own = composeMatrix({
    translation: pivot.position,
    rotation: pivot.rotation as Quat,
    scale: [1, 1, 1],
  });
  const { translation, rotation } = decomposeMatrix(multiplyMatrices(matrix, own));
  return { position: translation, rotation };
}

const withMaterials = (
  document: PieceDocument,
  materials: Readonly<Record<string, string>>,
): PieceDocument =>
  Object.keys(materials).length
    ? {
        ...document,
        materials: document.materials.map((each) => ({ ...each, name: materials[each.name] ?? each.name })),
      }
    : document;

/** The piece under names that nothing before it has: its own, or numbered from 2. */
function underFreeNames(
  document: PieceDocument,
  taken: Set<string>,
  namesOf = ({ meshName, nodes }: PieceDocument) => [meshName, ...nodes.map(({ name }) => name)],
): PieceDocument {
  for (let n = 1; ; n++) {
    const own = n === 1 ? document : asCopy(document, n);
    const names = namesOf(own).map((each) => each.toLowerCase());
    if (names.some((each) => taken.has(each))) continue;
    for (const each of names) taken.add(each);
    return own;
  }
}

/**
 * A copy under names of its own. Its number stands behind a word: a bare one would read as the number of a shape of
 * the first.
 */
function asCopy(document: PieceDocument, number: number): PieceDocument {
  const named = (name: string) => `${name}_copy${String(number).padStart(2, '0')}`;
  return {
    ...document,
    meshName: named(document.meshName),
    nodes: document.nodes.map((node) => ({ ...node, name: named(node.name) })),
  };
}
