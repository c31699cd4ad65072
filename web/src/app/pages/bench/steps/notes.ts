import {
  artBounds,
  artNodes,
  counted,
  countText,
  distance,
  expectationOf,
  lengthText,
  listText,
  type PieceDocument,
  pivotPlace,
  shapeCorners,
  sizeOf,
  sizeText,
} from '@yard-brace/core';
import { momentText } from '../../../ui/moment';
import type { NoteContext } from './step';

/** The line in each step's header, like a note on a card. */

export const intakeNote = ({ document }: NoteContext): string =>
  `${document.source.files[0]!.name}, ${countText(document.whole.triangles)} triangles`;

export const partsNote = ({ document }: NoteContext): string =>
  `${counted(artNodes(document.nodes).length, 'part')}, ${counted(document.materials.length, 'material')}`;

export const sizeNote = ({ document }: NoteContext): string =>
  `${sizeText(sizeOf(artBounds(document)))}, ${scaleNote(document)}`;

/** The tell-tale of a wrong unit: a size that looks right and a node that is scaled. */
function scaleNote({ nodes }: PieceDocument): string {
  const scaled = nodes.find((node) => node.scale.some((s) => Math.abs(s - 1) > 1e-6));
  if (!scaled) return 'scale 1';
  const [x, y, z] = scaled.scale.map((s) => Number(s.toPrecision(3)));
  return x === y && y === z ? `scale ${x}` : `scale ${x}, ${y}, ${z}`;
}

/** Nearer than this, in metres, a pivot is where it is said to be. */
const SAME_PLACE_METRES = 5e-5;

export function pivotNote({ document }: NoteContext): string {
  const { anchor, position } = document.pivot;
  if (anchor === 'bounds') return 'a point of the bounds';
  if (anchor !== 'as-it-came' && anchor !== 'numeric')
    return anchor === 'centre' ? 'centre of bounds' : anchor.replaceAll('-', ' ');
  const away = distance(position, pivotPlace(document, 'base-centre'));
  const where = away < SAME_PLACE_METRES ? 'at the base centre' : `${lengthText(away)} from the base centre`;
  return `${anchor === 'numeric' ? 'by numbers' : 'as imported'}, ${where}`;
}

export function proxiesNote({ document, proposedShapes }: NoteContext): string {
  if (proposedShapes !== null) return `${counted(proposedShapes, 'shape')} proposed`;
  if (document.proxies.length === 0) return 'no shapes yet';
  const corners = document.proxies.reduce((sum, { shape }) => sum + shapeCorners(shape), 0);
  return `${counted(document.proxies.length, 'shape')}, ${counted(corners, 'corner')}`;
}

export function namesNote({ document, profile }: NoteContext): string {
  const { shapes } = expectationOf(document, profile);
  if (shapes.length === 0) return document.meshName;
  const more = shapes.length - 1;
  return more ? `${shapes[0]!.name} and ${countText(more)} more` : shapes[0]!.name;
}

export const deliveryNote = ({ lastDelivery }: NoteContext): string =>
  lastDelivery
    ? `delivered ${momentText(lastDelivery.at)}${lastDelivery.agreed ? ', read back as drawn' : ', read back differently'}`
    : 'not delivered yet';

export const trialNote = ({ document, walked }: NoteContext): string =>
  walked.length
    ? `walked by ${listText(walked)}`
    : document.proxies.length
      ? 'not walked yet'
      : 'nothing to try yet';
