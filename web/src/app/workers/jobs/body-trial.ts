import {
  artBounds,
  type Bounds,
  type BodyTrial,
  type BodyTrialAsk,
  bodyTrialKey,
  bodyTrialSchema,
  centreOf,
  idsBelow,
  nodeById,
  partPivot,
  type PieceDocument,
  sizeOf,
  takesOf,
  type TargetProfile,
  type TrialCost,
  trialCostSchema,
  type Vec3,
} from '@yard-brace/core';
import {
  boundsOfSet,
  cost,
  drive,
  startOfDrive,
  drop,
  type Played,
  pour,
  roll,
  slide,
  swing,
  type TrialShape,
} from '@yard-brace/trial';
import { Told } from '../../api/told';
import type { Progress } from '../messages';
import { type TrialInput, trialInput } from './trial-input';

/** Places of one kind that are kept: the worst. */
const MAX_TOLD = 20;

/** A trial with bodies: what came of it, and how it went; null where nothing moved. */
export interface BodyTrialRun {
  trial: BodyTrial;
  played: Played | null;
  /** what moves, as it is drawn */
  moves: Moving;
  /** metres that it is drawn aside: what is dropped falls beside the piece */
  aside: Vec3;
}

/** What moves: lengths in metres. A set of shapes turns about the middle of its bounds. */
export type Moving =
  | { kind: 'balls'; radius: number }
  | { kind: 'barrel'; radius: number; length: number; sides: number | null }
  | { kind: 'set'; middle: Vec3 }
  | { kind: 'trolley'; track: number; wheelbase: number; wheelRadius: number; clearance: number }
  | { kind: 'nothing' };

/** Something that moves is tried with the shapes, as it is kept with the piece. */
export async function bodyTrial(
  document: PieceDocument,
  profile: TargetProfile,
  ask: BodyTrialAsk,
  progress: Progress,
): Promise<BodyTrialRun> {
  const input = await trialInput(document, profile, (share) => progress(share * 0.2, 'Fetching the art'));
  progress(0.2, 'Trying the shapes');
  const key = bodyTrialKey(document, ask, takesOf(profile));
  const { trial, played, moves = { kind: 'nothing' }, aside = [0, 0, 0] } = await tried(document, input, ask);
  return { trial: bodyTrialSchema.parse({ ...trial, key, ask }), played, moves, aside };
}

/** What copies of the set, and of the art's triangles, cost on this machine. */
export async function trialCost(
  document: PieceDocument,
  profile: TargetProfile,
  progress: Progress,
): Promise<TrialCost> {
  const { shapes, art } = await trialInput(document, profile, (share) =>
    progress(share * 0.1, 'Fetching the art'),
  );
  const found = await cost(shapes, art, (share) => progress(0.1 + share * 0.9, 'Measuring copies'));
  return trialCostSchema.parse({ ...found, key: bodyTrialKey(document, null, takesOf(profile)) });
}

async function tried(
  document: PieceDocument,
  { shapes, art }: TrialInput,
  ask: BodyTrialAsk,
): Promise<Tried> {
  const bounds = artBounds(document);
  switch (ask.kind) {
    case 'pour': {
      const { played, radius, leaks, ...found } = await pour({ shapes, container: bounds, balls: ask.balls });
      return {
        trial: { kind: ask.kind, ...found, leaks: leaks.slice(0, MAX_TOLD) },
        played,
        moves: { kind: 'balls', radius },
      };
    }
    case 'roll':
    case 'drive':
      return across({ shapes, art }, bounds, ask, null);
    case 'drop': {
      const { played, ...found } = await drop({ shapes, density: ask.density }, ask.side);
      const middle = bounds.min.map((v, k) => (v + bounds.max[k]!) / 2) as Vec3;
      const set = boundsOfSet(shapes);
      const size = Math.hypot(...sizeOf(set));
      return {
        trial: { kind: ask.kind, ...found },
        played,
        moves: { kind: 'set', middle: centreOf(set) },
        aside: [set.max[0] + size, bounds.min[1], middle[2]],
      };
    }
    case 'swing':
      return { trial: await swung(document, shapes, ask.part), played: null };
    case 'slide': {
      const edge = document.riddenEdges.find(({ id }) => id === ask.edge);
      if (!edge) throw new Told('That edge is marked no more; mark it again in step 5.');
      const found = await slide({ shapes, line: edge.line });
      return {
        trial: {
          kind: ask.kind,
          edge: edge.id,
          ...found,
          jolts: found.jolts.slice(0, MAX_TOLD),
          snags: found.snags.slice(0, MAX_TOLD),
        },
        played: null,
      };
    }
  }
}

/** What rolls or drives: the same over one piece and over a whole set. */
export type AcrossAsk = Extract<BodyTrialAsk, { kind: 'roll' | 'drive' }>;

interface Tried {
  trial: object;
  played: Played | null;
  moves?: Moving;
  aside?: Vec3;
}

/**
 * Something that comes from beside, over all there is. What rolls has its ground at the foot of the bounds.
 *
 * @param ground of what drives, metres; null where it falls that leaves the shapes
 */
export async function across(
  { shapes, art }: Pick<TrialInput, 'shapes' | 'art'>,
  bounds: Bounds,
  ask: AcrossAsk,
  ground: number | null,
): Promise<Tried> {
  if (ask.kind === 'roll') {
    const { what, radius, sides, way } = ask;
    const middle = centreOf(bounds);
    const away = Math.hypot(bounds.max[0] - bounds.min[0], bounds.max[2] - bounds.min[2]) / 2 + radius + 1;
    const from: Vec3 = [middle[0] - way[0] * away, bounds.min[1], middle[2] - way[1] * away];
    const roller =
      what === 'ball' ? { kind: what, radius } : { kind: what, radius, length: radius * 2.4, sides };
    const { played, ...found } = await roll({
      shapes,
      ground: bounds.min[1],
      roller,
      from,
      way,
      length: 2 * away,
    });
    return {
      trial: { kind: ask.kind, what, sides: what === 'ball' ? null : sides, ...found },
      played,
      moves: roller.kind === 'ball' ? { kind: 'balls', radius } : roller,
    };
  }
  const { track, wheelbase, wheelRadius, clearance, way } = ask;
  const { at, length } = startOfDrive(art.positions, bounds, way, wheelbase);
  const trolley = { track, wheelbase, wheelRadius, clearance };
  const around = bounds;
  const { played, marks, ...found } = await drive({ shapes, around, ground, trolley, from: at, way, length });
  return {
    trial: { kind: ask.kind, ...found, marks: marks.slice(0, MAX_TOLD) },
    played,
    moves: { kind: 'trolley', ...trolley },
  };
}

/** A part with its hinge, swung with all that hangs below it against the rest. */
async function swung(document: PieceDocument, shapes: readonly TrialShape[], part: string): Promise<object> {
  const node = nodeById(document, part);
  const pivot = node < 0 ? null : partPivot(document, node);
  if (!pivot?.hinge) throw new Told('That part has no hinge; give it one in step 4.');
  const below = new Set(idsBelow(document, [part]));
  const owner = new Map(document.proxies.map(({ id, part: of }) => [id, of]));
  const isLeaf = ({ id }: TrialShape) => below.has(owner.get(id) ?? '');
  const leaf = shapes.filter(isLeaf);
  if (!leaf.length) throw new Told('That part has no shapes of its own; nothing of it would meet anything.');
  const [from, to] = pivot.hinge.opens;
  const { hits } = await swing({
    leaf,
    rest: shapes.filter((shape) => !isLeaf(shape)),
    at: pivot.position,
    axis: pivot.hinge.axis,
    from,
    to,
  });
  return { kind: 'swing', part, opens: [from, to], hits };
}
