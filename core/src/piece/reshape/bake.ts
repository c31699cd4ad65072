import {
  composeMatrix,
  decomposeMatrix,
  type Matrix,
  multiplyMatrices,
  NO_ROTATION,
  placeOf,
  type Quat,
  shearOf,
  type Transform,
} from '../../math/index.js';
import { transformMesh } from '../../mesh/index.js';
import { fileToPiece, placedMatrices } from '../geometry.js';
import { pivotAt } from '../pivot.js';
import { NO_PLACING } from '../placing.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';

const identity = (): Matrix =>
  composeMatrix({ translation: [0, 0, 0], rotation: [...NO_ROTATION] as Quat, scale: [1, 1, 1] });

/**
 * Put transforms into the vertices. Every node gets a new world matrix (none, or its position and rotation
 * where those are kept) and its mesh what is left, so that nothing moves. The whole tree also takes up
 * the unit and the placing: the piece is then in metres.
 */
export function bake(
  work: Reshaping,
  { parts, except = [], keepPosition, keepRotation }: OperationOf<'bake'>,
): OutcomeOf<'bake'> {
  const all = parts.length === 0;
  const roots = all ? work.nodes.map((_, i) => i) : parts.map((id) => work.number(id));
  const below = work.below(roots);
  const kept = new Set(except.map((id) => work.number(id)));
  const marks = below.map((mark, i) => (kept.has(i) ? 0 : mark));
  const placed = work.placed();
  const outer = all ? identity() : fileToPiece(work);
  const sheared = placed.filter((matrix, i) => marks[i] && shearOf(matrix) > 1e-6).length;
  const mirrored = work.nodes.filter((node, i) => marks[i] && node.scale.some((s) => s < 0)).length;
  const wanted: Matrix[] = [];
  keepOrigins(work, marks);
  work.nodes.forEach((node, i) => {
    const parent = node.parent === null ? outer : wanted[node.parent]!;
    if (!marks[i]) {
      wanted[i] = placed[i]!;
      if (below[i]) keepUnder(work, i, multiplyMatrices(work.inverse(parent, i), placed[i]!));
      return;
    }
    const now = decomposeMatrix(placed[i]!);
    const held = decomposeMatrix(parent);
    const target =
      keepPosition || keepRotation
        ? composeMatrix({
            translation: keepPosition ? now.translation : held.translation,
            rotation: keepRotation ? now.rotation : held.rotation,
            scale: held.scale,
          })
        : parent;
    const local = decomposeMatrix(multiplyMatrices(work.inverse(parent, i), target));
    const next: Transform =
      keepPosition || keepRotation ? { ...local, scale: [1, 1, 1] } : decomposeMatrix(identity());
    // What the node can really hold: the vertices take up the rest exactly.
    wanted[i] = multiplyMatrices(parent, composeMatrix(next));
    const mesh = node.mesh === null ? null : work.mesh(i);
    work.nodes[i] = { ...node, ...next };
    if (mesh) work.setMesh(i, transformMesh(mesh, multiplyMatrices(work.inverse(wanted[i]!, i), placed[i]!)));
  });
  if (all) {
    work.unit = { name: 'm', stated: work.unit.stated, confirmed: work.unit.confirmed };
    work.placing = NO_PLACING;
  }
  const count = marks.reduce((sum, mark) => sum + mark, 0);
  return { op: 'bake', nodes: count, mirrored, sheared };
}

/** A node that is excepted keeps its place under a parent that is baked. @throws ReshapeError when no node can hold it */
function keepUnder(work: Reshaping, node: number, local: Matrix): void {
  if (shearOf(local) > 1e-6)
    throw new ReshapeError(
      `“${work.nodes[node]!.name}” is sheared by what is above it and cannot keep its transform; bake it, too.`,
    );
  work.nodes[node] = { ...work.nodes[node]!, ...decomposeMatrix(local) };
}

/** A node's local matrix goes into its own mesh and its children's transforms; a child that shears is baked too. */
export function bakeUnder(work: Reshaping, node: number, local: Matrix): void {
  keepOrigins(work, work.below([node]));
  const bakeOne = (i: number, matrix: Matrix) => {
    const { mesh } = work.nodes[i]!;
    const baked = mesh === null ? null : transformMesh(work.mesh(i), matrix);
    work.nodes[i] = {
      ...work.nodes[i]!,
      translation: [0, 0, 0],
      rotation: [...NO_ROTATION] as Quat,
      scale: [1, 1, 1],
    };
    if (baked) work.setMesh(i, baked);
    work.nodes.forEach((child, k) => {
      if (child.parent !== i) return;
      const inner = multiplyMatrices(matrix, composeMatrix(child));
      if (shearOf(inner) > 1e-9) bakeOne(k, inner);
      else work.nodes[k] = { ...child, ...decomposeMatrix(inner) };
    });
  };
  bakeOne(node, local);
}

/** A part that was grabbed by its node's origin goes on being grabbed there. */
function keepOrigins(work: Reshaping, marks: Uint8Array): void {
  const placed = placedMatrices({
    ...work.document,
    nodes: work.nodes,
    unit: work.unit,
    placing: work.placing,
  });
  work.nodes = work.nodes.map((node, i) =>
    marks[i] && node.mesh !== null && node.pivot === null
      ? { ...node, pivot: pivotAt('as-it-came', placeOf(placed[i]!)) }
      : node,
  );
}
