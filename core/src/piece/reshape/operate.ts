import type { Mesh } from '../../mesh/index.js';
import type { PieceDocument } from '../document.js';
import { bake } from './bake.js';
import { markEdgesOf } from './edges.js';
import { addMaterial, assignMaterial, mergeMaterials, orderMaterials, removeMaterials } from './materials.js';
import {
  deleteFaces,
  faceOutward,
  fill,
  flip,
  joinBordersOf,
  normals,
  reduce,
  removeFaces,
  vertices,
  weldParts,
} from './mend.js';
import { intentOf } from './intent-of.js';
import { bend, layAlong, repeat, stretch, trim } from './modules.js';
import type { Operation } from './operation.js';
import type { Outcome } from './outcome.js';
import { mirror, move, putBack } from './place.js';
import { type Reshape, Reshaping } from './reshaping.js';
import { splitFaces, splitMaterials, splitPlane, splitShells } from './split.js';
import { projectUvs, removeUvs, unwrapParts, uvDensity } from './uvs.js';
import { combine, duplicate, groupParts, remove, reparent, setAside } from './tree.js';

/**
 * Do one operation on a piece. The document given stays as it is: what comes back is the edit that makes
 * the change, with the bytes it needs, for a proposal or for keeping at once.
 *
 * @throws ReshapeError with a sentence when it cannot be done
 */
export async function operate(
  document: PieceDocument,
  operation: Operation,
  meshOf: (blob: string) => Mesh,
  progress?: (share: number) => void,
): Promise<Reshape> {
  const work = new Reshaping(document, meshOf);
  const outcome = await perform(work, operation);
  progress?.(0.3);
  return work.finish(outcome, intentOf(document, operation), (share) => progress?.(0.3 + share * 0.7));
}

function perform(work: Reshaping, operation: Operation): Outcome | Promise<Outcome> {
  switch (operation.op) {
    case 'reparent':
      return reparent(work, operation);
    case 'group':
      return groupParts(work, operation);
    case 'delete':
      return remove(work, operation);
    case 'duplicate':
      return duplicate(work, operation);
    case 'combine':
      return combine(work, operation);
    case 'set-aside':
      return setAside(work, operation);
    case 'move':
      return move(work, operation);
    case 'put-back':
      return putBack(work, operation);
    case 'mirror':
      return mirror(work, operation);
    case 'repeat':
      return repeat(work, operation);
    case 'bend':
      return bend(work, operation);
    case 'stretch':
      return stretch(work, operation);
    case 'lay-along':
      return layAlong(work, operation);
    case 'trim':
      return trim(work, operation);
    case 'split-shells':
      return splitShells(work, operation);
    case 'split-materials':
      return splitMaterials(work, operation);
    case 'split-faces':
      return splitFaces(work, operation);
    case 'split-plane':
      return splitPlane(work, operation);
    case 'weld':
      return weldParts(work, operation);
    case 'fill-holes':
      return fill(work, operation);
    case 'join-borders':
      return joinBordersOf(work, operation);
    case 'remove-faces':
      return removeFaces(work, operation);
    case 'delete-faces':
      return deleteFaces(work, operation);
    case 'face-outward':
      return faceOutward(work, operation);
    case 'flip':
      return flip(work, operation);
    case 'vertices':
      return vertices(work, operation);
    case 'normals':
      return normals(work, operation);
    case 'mark-edges':
      return markEdgesOf(work, operation);
    case 'reduce':
      return reduce(work, operation);
    case 'merge-materials':
      return mergeMaterials(work, operation);
    case 'order-materials':
      return orderMaterials(work, operation);
    case 'add-material':
      return addMaterial(work, operation);
    case 'remove-materials':
      return removeMaterials(work, operation);
    case 'assign-material':
      return assignMaterial(work, operation);
    case 'project-uvs':
      return projectUvs(work, operation);
    case 'uv-density':
      return uvDensity(work, operation);
    case 'unwrap':
      return unwrapParts(work, operation);
    case 'remove-uvs':
      return removeUvs(work, operation);
    case 'bake':
      return bake(work, operation);
  }
}
