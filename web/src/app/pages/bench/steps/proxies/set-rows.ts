import {
  bareEdges,
  type Deviation,
  counted,
  countText,
  lengthText,
  partsLeftOut,
  type PieceDocument,
  type SetFacts,
  type Vec3,
  volumeText,
} from '@yard-brace/core';

/** One measure of the set. */
export interface SetRow {
  id: string;
  name: string;
  figure: string;
  /** what more there is to say of it */
  note: string;
  /** against what is wanted: 1 is the most that goes unfelt; null where there is no measure to hold it against */
  share: number | null;
  /** where it is worst */
  at: Vec3 | null;
  /** ids of the shapes it is about */
  shapes?: readonly string[];
}

/** The measures of a judged set: those that are held against what is felt first, the worst before the others. */
export function setRows(document: PieceDocument, facts: SetFacts, feltMetres: number): SetRow[] {
  const felt = (metres: number) => (feltMetres > 0 ? metres / feltMetres : null);
  const blocked = new Set(facts.blocked.map(({ opening }) => opening)).size;
  const openings = document.clearances.length;
  const part = (volume: number) =>
    volume > 0 && facts.artVolume > 0 ? `${percentText(volume / facts.artVolume)} of the art` : '';
  const [deepest] = facts.crossings;
  const [largest] = facts.bare;
  const held: SetRow[] = [
    { id: 'excess', name: 'Excess', ...deviation(facts.excess), share: felt(facts.excess.max) },
    { id: 'uncovered', name: 'Uncovered', ...deviation(facts.uncovered), share: felt(facts.uncovered.max) },
  ];
  if (largest)
    held.push({
      id: 'bare',
      name: 'Bare areas',
      figure: countText(facts.bareCount),
      note: `up to ${lengthText(largest.most)} out of the shapes`,
      share: felt(largest.most),
      at: largest.at,
    });
  if (openings)
    held.push({
      id: 'openings',
      name: 'Openings kept free',
      figure: `${openings - blocked} of ${openings}`,
      note: blocked ? `by up to ${lengthText(facts.blocked[0]!.depth)}` : '',
      share: blocked ? 2 : 0,
      at: facts.blocked[0]?.at ?? null,
      shapes: facts.blocked.map(({ shape }) => shape),
    });
  const [worst] = bareEdges(facts);
  if (facts.edges.length)
    held.push({
      id: 'edges',
      name: 'Ridden edges followed',
      figure: `${facts.edges.length - bareEdges(facts).length} of ${facts.edges.length}`,
      note: worst ? `${lengthText(worst.bare)} without an edge` : '',
      share: worst ? 2 : 0,
      at: worst?.at ?? null,
    });
  return [
    ...held.sort((a, b) => (b.share ?? 0) - (a.share ?? 0)),
    {
      id: 'crossing',
      name: 'Pairs that cross',
      figure: countText(facts.crossingCount),
      note: deepest ? `by up to ${lengthText(deepest.depth)}` : '',
      share: null,
      at: deepest?.at ?? null,
      shapes: [...new Set(facts.crossings.flatMap(({ a, b }) => [a, b]))],
    },
    {
      id: 'overfill',
      name: 'Overfill',
      figure: volumeText(facts.overfill),
      note: part(facts.overfill),
      share: null,
      at: null,
    },
    {
      id: 'underfill',
      name: 'Underfill',
      figure: volumeText(facts.underfill),
      note: part(facts.underfill),
      share: null,
      at: null,
    },
    {
      id: 'overlap',
      name: 'Overlap',
      figure: volumeText(facts.overlap),
      note: part(facts.overlap),
      share: null,
      at: null,
    },
    {
      id: 'cost',
      name: 'Cost',
      figure: counted(Number(facts.cost.toPrecision(3)), 'box', 'boxes'),
      note: `${counted(facts.corners, 'corner')} for ${counted(document.whole.triangles, 'triangle')} of art`,
      share: null,
      at: null,
    },
  ];
}

/** Nearer than this nothing stands out, metres. */
const NOTHING_METRES = 1e-6;

const deviation = ({ mean, p95, max, at }: Deviation) => ({
  figure: lengthText(max),
  note: max > NOTHING_METRES ? `95 % within ${lengthText(p95)}, mean ${lengthText(mean)}` : '',
  at: max > NOTHING_METRES ? at : null,
});

const percentText = (share: number): string =>
  `${share >= 0.1 ? (share * 100).toFixed(0) : (share * 100).toPrecision(2)} %`;

/** A shape or a part with how it lies. */
export interface StandingRow {
  name: string;
  excess: string;
  uncovered: string;
  at: Vec3 | null;
  id: string | null;
}

/** How many shapes are listed one by one: the worst. */
const MAX_SHAPES = 12;

/** The shapes that stand out most, the worst first. */
export function shapeRows(document: PieceDocument, { shapes }: SetFacts): StandingRow[] {
  const numbers = new Map(document.proxies.map(({ id }, i) => [id, i + 1]));
  return [...shapes]
    .sort((a, b) => b.excess.max - a.excess.max)
    .slice(0, MAX_SHAPES)
    .map(({ id, excess, overfill }) => ({
      name: `${numbers.get(id) ?? ''}`,
      excess: lengthText(excess.max),
      uncovered: volumeText(overfill),
      at: excess.at,
      id,
    }));
}

/** A part with how it and its shapes lie, and whether it is collided with at all. */
export interface OwnerRow {
  /** id of the part; null for the piece as a whole */
  part: string | null;
  name: string;
  excess: string;
  uncovered: string;
  leftOut: boolean;
}

/** The piece's parts, those that nothing collides with, and what belongs to the piece as a whole. */
export function ownerRows(document: PieceDocument, { owners }: SetFacts): OwnerRow[] {
  const names = new Map(document.nodes.map(({ id, name }) => [id, name]));
  const leftOut = partsLeftOut(document);
  return [
    ...owners.map(({ owner, shapes, excess, uncovered }) => ({
      part: owner,
      name: `${owner === null ? 'The whole piece' : (names.get(owner) ?? owner)}, ${counted(shapes, 'shape')}`,
      excess: shapes ? lengthText(excess.max) : '',
      uncovered: owner === null || leftOut.includes(owner) ? '' : lengthText(uncovered.max),
      leftOut: owner !== null && leftOut.includes(owner),
    })),
    ...leftOut
      .filter((part) => !owners.some(({ owner }) => owner === part))
      .map((part) => ({ part, name: names.get(part)!, excess: '', uncovered: '', leftOut: true })),
  ];
}
