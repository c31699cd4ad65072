import {
  areaText,
  counted,
  ownFrame,
  type PieceDocument,
  placeText,
  sizeOf,
  sizeText,
} from '@yard-brace/core';
import type { ChosenFaces } from '../../../drawing/face-selection';
import type { FaceHit } from '../../../viewport/layers/art-layer';
import type { NumberedShape } from '../../../viewport/layers/proxies-layer';

/** One run of the reading line; figures are set in their own face. */
export interface Reading {
  text: string;
  figures?: boolean;
}

export interface ReadingOf {
  hit: FaceHit | null;
  faces: ChosenFaces | null;
  /** the shape that is pointed at */
  pointed: NumberedShape | null;
  document: PieceDocument | null;
}

/** What is under the pointer, or what is chosen: the line under the view. */
export function readingOf({ hit, faces, pointed, document }: ReadingOf): Reading[] {
  if (pointed)
    return [
      { text: `Shape ${pointed.number}, ${pointed.shape.kind}` },
      { text: sizeText(ownFrame(pointed.shape).size), figures: true },
    ];
  const chosen = faces ? chosenReading(faces) : [];
  if (hit && document) {
    const names = [document.nodes[hit.part]?.name ?? 'Art', document.materials[hit.material]?.name];
    return [
      { text: names.filter(Boolean).join(', ') },
      { text: placeText(hit.at), figures: true },
      ...chosen,
    ];
  }
  return chosen.length ? chosen : [{ text: 'Nothing under the pointer' }];
}

const chosenReading = (faces: ChosenFaces): Reading[] => [
  { text: `${counted(faces.count, 'face')} chosen` },
  { text: `${sizeText(sizeOf(faces))}, ${areaText(faces.area)}`, figures: true },
];

/** What the piece comes to: the other end of the line. */
export const standingOf = ({ whole, proxies }: PieceDocument): string =>
  `${counted(whole.triangles, 'triangle')}, ${counted(proxies.length, 'shape')}`;
