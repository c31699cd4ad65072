import {
  type Agent,
  artBounds,
  artNodes,
  type Clearance,
  clearanceAxes,
  distance,
  length,
  lengthText,
  listText,
  measuredText,
  nodeById,
  nodesBelow,
  ownFrame,
  partBounds,
  partPivot,
  placeMatrix,
  passageOf,
  type PieceDocument,
  type Proxy,
  type Pivot,
  quatAbout,
  scaled,
  sizeOf,
  sizeText,
  type Shape,
  type Vec3,
} from '@yard-brace/core';
import type { PartShift } from '../../../state/part-drag';
import { heldId } from '../../../state/shape-editor';
import type { Swing, Tape } from '../../../state/view-marks';
import type { MovedParts } from '../../../viewport/layers/art-layer';
import type { Label, MarksToDraw } from '../../../viewport/layers/marks-layer';
import type { NumberedShape } from '../../../viewport/layers/proxies-layer';

export interface MarksOf {
  document: PieceDocument;
  /** metres that are wanted beside who passes. Default 0 */
  margin?: number;
  agents: readonly Agent[];
  tapes: readonly Tape[];
  /** the point that a click would take, and what it is */
  point: Vec3 | null;
  pointWord?: string;
  /** ids of the chosen shapes: those that they are linked to are shown */
  chosen: ReadonlySet<string>;
  /** where the view was asked to go */
  place: Vec3 | null;
  /** what the target calls the front, while it is marked */
  front?: string | null;
  /** parts that are dragged */
  shift?: PartShift | null;
  /** pivots of all parts */
  pivots: boolean;
  /** the piece's own sides */
  dimensions: boolean;
}

/** How far a hinge is drawn to both sides of its pivot, in longest sides of the piece. */
const HINGE_REACH = 0.6;

export const numberedShapes = ({
  proxies,
}: {
  proxies: readonly Pick<Proxy, 'id' | 'shape'>[];
}): NumberedShape[] => proxies.map(({ id, shape }, i) => ({ id, number: i + 1, shape }));

/** Everything that is drawn over a piece: pivots, a hinge, tapes, clearances, and what is written on it. */
export function marksOf({
  document,
  agents,
  margin = 0,
  tapes,
  point,
  chosen,
  place,
  pivots,
  dimensions,
  shift = null,
  front = null,
  pointWord = '',
}: MarksOf): MarksToDraw {
  const parts = artNodes(document.nodes).map((i) => partPivot(document, i));
  return {
    pivots: pivots ? parts.map((pivot) => ({ pivot, lit: false })) : [],
    hinge: hingeMark(document, parts),
    tapes,
    links: [...linksOf(document, chosen), ...(front ? [frontLine(document)] : [])],
    ridden: document.riddenEdges.map(({ line }) => line),
    points: [point, place, shift?.said ? shift.at : null, document.presentation?.position ?? null].filter(
      (at) => at !== null,
    ),
    clearances: document.clearances.map((clearance) => ({
      ...clearance,
      passes: agents.some((agent) => passageOf(clearance, agent, margin).passes),
    })),
    labels: [
      ...tapes.map(tapeLabel),
      ...document.clearances.map((clearance) => openingLabel(clearance)),
      ...document.riddenEdges.map(({ name, line }) => ({ text: name, at: line[line.length >> 1]! })),
      ...(dimensions ? dimensionLabels(document) : []),
      ...(point && pointWord ? [{ text: pointWord, at: point }] : []),
      ...(front ? [{ text: `front, ${front}`, at: frontLine(document)[1] }] : []),
      ...(shift?.said ? [{ text: shift.said, at: shift.at }] : []),
      ...(document.presentation
        ? [{ text: 'pivot for presentation', at: document.presentation.position }]
        : []),
      ...(pivots ? pivotLabels(document) : []),
    ],
  };
}

/** How far the mark of the front stands out, in depths of the piece. */
const FRONT_REACH = 0.3;

/** From the piece's front, on the ground, straight ahead: its front looks along Z. */
function frontLine(document: PieceDocument): [Vec3, Vec3] {
  const { min, max } = artBounds(document);
  const from: Vec3 = [(min[0] + max[0]) / 2, min[1], max[2]];
  const reach = Math.max(max[0] - min[0], max[2] - min[2]) * FRONT_REACH;
  return [from, [from[0], from[1], from[2] + reach]];
}

/** As many pivots have their names written at them; more would hide the piece. */
const MAX_PIVOT_LABELS = 40;
/** Pivots nearer to each other than this are in one place. */
const SAME_PLACE_METRES = 1e-6;
/** A pivot farther than this off its part, in sizes of the part, is said to be off it. */
const OFF_SHARE = 0.01;

/** Name of each part at its pivot, with what is odd about it: shared, off the part, at the origin. */
export function pivotLabels(document: PieceDocument): Label[] {
  const places = new Map<string, { at: Vec3; names: string[]; notes: Set<string> }>();
  for (const i of artNodes(document.nodes).slice(0, MAX_PIVOT_LABELS)) {
    const { position } = partPivot(document, i);
    const key = position.map((v) => Math.round(v / SAME_PLACE_METRES)).join();
    const known = places.get(key) ?? { at: position, names: [], notes: new Set<string>() };
    known.names.push(document.nodes[i]!.name);
    if (length(position) < SAME_PLACE_METRES) known.notes.add('at the origin');
    const { min, max } = partBounds(document, i);
    const off = distance(position, position.map((v, k) => Math.min(max[k]!, Math.max(min[k]!, v))) as Vec3);
    if (off > distance(min, max) * OFF_SHARE) known.notes.add(`${lengthText(off)} off`);
    places.set(key, known);
  }
  return [...places.values()].map(({ at, names, notes }) => {
    if (names.length > 1) notes.add(`shared by ${names.length}`);
    return { text: [listText(names, 2), ...notes].join(', '), at };
  });
}

/** The hinge of the piece, or of the first part that has one. */
function hingeMark(document: PieceDocument, parts: readonly Pivot[]): MarksToDraw['hinge'] {
  const hinged = [document.pivot, ...parts].find(({ hinge }) => hinge);
  if (!hinged?.hinge) return null;
  const reach = Math.max(...sizeOf(artBounds(document))) * HINGE_REACH;
  return { at: hinged.position, axis: hinged.hinge.axis, reach };
}

/** From the first of each link that a chosen shape is in to the others of it. */
function linksOf({ proxies }: PieceDocument, chosen: ReadonlySet<string>): MarksToDraw['links'] {
  const groups = new Set(proxies.flatMap(({ id, link }) => (link && chosen.has(id) ? [link.group] : [])));
  return [...groups].flatMap((group) => {
    const [first, ...others] = proxies
      .filter(({ link }) => link?.group === group)
      .map(({ shape }) => ownFrame(shape).center);
    return others.map((other) => [first!, other] as const);
  });
}

/** Lenses that are drawn while no shape is chosen; more would hide the piece. */
const MAX_LENSES = 8;

/** The lenses to draw: those of the chosen shapes, or else the deepest of all. */
export function shownLenses<Lens extends { pair: readonly string[] }>(
  lenses: readonly Lens[],
  chosen: ReadonlySet<string>,
): readonly Lens[] {
  if (!chosen.size) return lenses.slice(0, MAX_LENSES);
  return lenses.filter(({ pair }) => pair.some((id) => chosen.has(id)));
}

/** The document with the opening that is dragged where it is now. */
export function withDraggedOpenings<Document extends Pick<PieceDocument, 'clearances'>>(
  document: Document | null,
  dragged: ReadonlyMap<string, Shape> | undefined,
): Document | null {
  if (!document?.clearances.some((clearance) => dragged?.has(heldId(clearance)))) return document;
  return {
    ...document,
    clearances: document.clearances.map((clearance) => {
      const shape = dragged?.get(heldId(clearance));
      return shape?.kind === 'box' ? { ...clearance, ...shape } : clearance;
    }),
  };
}

/** Its name and its free size, as on a drawing. */
const openingLabel = (clearance: Clearance): Label => {
  const { width, height } = clearanceAxes(clearance);
  const size = [width, height].map((axis) => 2 * clearance.halfExtents[axis]!);
  return { text: `${clearance.name}, ${sizeText(size)}`, at: clearance.center, clearance: clearance.id };
};

const tapeLabel = ([a, b]: Tape): Label => ({
  text: measuredText(distance(a, b)),
  at: a.map((v, k) => (v + b[k]!) / 2) as Vec3,
});

/** Width, height and depth at the middle of an edge of the bounds each. */
function dimensionLabels(document: PieceDocument): Label[] {
  const { min, max } = artBounds(document);
  const middle = (k: number) => (min[k]! + max[k]!) / 2;
  const [width, height, depth] = sizeOf({ min, max });
  return [
    { text: lengthText(width!), at: [middle(0), min[1], max[2]] },
    { text: lengthText(height!), at: [max[0], middle(1), max[2]] },
    { text: lengthText(depth!), at: [max[0], min[1], middle(2)] },
  ];
}

/**
 * The parts that a swing turns or slides; null where there is no hinge for it.
 *
 * @param drawn the document that the art on show was drawn from: its hinges may be older, its nodes are those of the art
 */
export function swungParts(
  document: PieceDocument,
  drawn: PieceDocument,
  swing: Swing | null,
): MovedParts | null {
  if (!swing) return null;
  const node = nodeById(document, swing.part);
  const { hinge, position } = node < 0 ? document.pivot : partPivot(document, node);
  if (!hinge) return null;
  const turns = node < 0 ? null : nodesBelow(drawn, [swing.part]);
  return {
    part: (number) => !turns || turns[number] === 1,
    matrix: placeMatrix({
      by: scaled(hinge.axis, swing.metres ?? 0),
      turn: quatAbout(hinge.axis, (swing.degrees * Math.PI) / 180),
      about: position,
    }),
  };
}

/** Parts that are dragged, with all below them. */
export function shiftedParts(drawn: PieceDocument, shift: PartShift | null): MovedParts | null {
  if (!shift) return null;
  const ids = new Set(shift.parts);
  const below = nodesBelow(drawn, shift.parts);
  const moves = (number: number) => (shift.alone ? ids.has(drawn.nodes[number]!.id) : below[number] === 1);
  return { part: moves, matrix: placeMatrix(shift) };
}

/** Ids of the shapes that go with moved parts: those that belong to them, or all when the whole piece moves. */
export function shapesOfMoved(
  document: PieceDocument,
  drawn: PieceDocument,
  { part }: MovedParts,
): ReadonlySet<string> {
  const whole = drawn.nodes.every((_, i) => part(i));
  return new Set(
    document.proxies.flatMap(({ id, part: owner }) => {
      const node = owner === undefined ? -1 : nodeById(drawn, owner);
      return whole || (node >= 0 && part(node)) ? [id] : [];
    }),
  );
}
