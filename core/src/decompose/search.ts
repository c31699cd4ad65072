import { bodyAround } from '../compare/convex-overlap.js';
import type { Mesh } from '../mesh/index.js';
import { convexPartOf, leavesOf, type ConvexPart, type DecompositionContext } from './convex-part.js';
import { cutCrossings } from './cut-crossings.js';
import { cutDown } from './cut-tree.js';
import { DecomposeError } from './decompose-error.js';
import { cutFragment, splitFragment } from './fragment.js';
import { betterOf, handOut, type State } from './hand-out.js';
import { joinUp } from './join-up.js';
import { Mirror } from './mirror.js';
import type { Settings } from './options.js';
import { MAX_SEARCH_TRIANGLES, type PreparedArt, REDUCTION_SHARE } from './prepared-art.js';
import { MEETING_METRES } from './rungs.js';
import { runStates } from './run-states.js';
import { turnedStates } from './turned-states.js';
import { WholeArt } from './whole-art.js';

/** Places nearer to the plane that art is mirrored over than this share of the size lie on it. */
const ON_PLANE_SHARE = 1e-5;

/** Sets of pieces at every count, before shapes are laid round them. */
export interface Searched {
  /** fewest pieces first */
  states: State[];
  /** all of the art a piece stands for */
  whole: WholeArt;
  mirror: Mirror | null;
}

export const contextOf = (prepared: PreparedArt, settings: Settings): DecompositionContext => ({
  art: prepared.distance,
  bound: prepared.bound,
  size: prepared.size,
  clearances: settings.clearances.map((shape) => bodyAround(shape)),
  agentDetail: settings.agentDetail,
  progress: (share) => prepared.told.progress(share),
});

/**
 * Cut art down and join it up again. Asks of the settings how many shapes there may be, who collides, the clearances, and
 * whether shapes may cross; the rest matters when shapes are laid round what is found.
 */
export function search(prepared: PreparedArt, settings: Settings): Searched {
  const { art, parts } = prepared;
  const context = contextOf(prepared, settings);
  const mirror = mirrorOf(prepared, settings);
  const { runs, start } = runsAmong(nearSide(parts, mirror), settings, mirror, context);
  const crossing = settings.mayCross ? Infinity : MEETING_METRES / 2;
  const halves = mirror ? start.flatMap((part) => nearHalf(part, mirror, context)) : start;
  let leaves = cutDown(halves, limits(halves.length, art, settings, context, mirror), context);
  if (!settings.mayCross) leaves = cutCrossings(leaves, crossing, context);
  if (!leaves.length && !runs.length)
    throw new DecomposeError('Nothing is left to wrap: the clearances swallow the whole piece.');
  const states = statesOf(leaves, runs, { crossing, mirror, parts, most: settings.maxShapes }, context);
  return { states, whole: new WholeArt(art, leavesIn(states), mirror, context), mirror };
}

/**
 * Of states of a run what lies on the near side, and what goes over the plane made its own image; of several with as many
 * shapes the better, fewest first.
 */
function evenStates(states: readonly State[], mirror: Mirror, context: DecompositionContext): State[] {
  if (mirror.sideOf(states[0]![0]!.points) < 0) return [...states];
  const halves = new Map<State, State>();
  for (const state of states) {
    const near = state.filter(({ points }) => mirror.sideOf(points) < 0);
    const across = state
      .filter(({ points }) => mirror.sideOf(points) === 0)
      .map((part) => mirror.evened(part, context));
    // An image fills as much as its original, and stands off as far.
    halves.set([...near, ...near, ...across], [...near, ...across]);
  }
  return betterOf([[...halves.keys()]], context).map((whole) => halves.get(whole)!);
}

/** Where art is symmetric, its sets are: looked for unless clearances or neighbours say where shapes may be. */
function mirrorOf({ mirrorPlane, size }: PreparedArt, { mayCross, clearances }: Settings): Mirror | null {
  const plane = mayCross && !clearances.length ? mirrorPlane() : null;
  return plane && new Mirror(plane, size * ON_PLANE_SHARE);
}

const nearSide = (parts: readonly ConvexPart[], mirror: Mirror | null): readonly ConvexPart[] =>
  mirror ? parts.filter(({ points }) => mirror.sideOf(points) <= 0) : parts;

/** What of a piece lies on the near side of the plane. */
function nearHalf(part: ConvexPart, mirror: Mirror, context: DecompositionContext): ConvexPart[] {
  if (mirror.sideOf(part.points) < 0 || !part.fragment) return [part];
  const [near] = cutFragment(part.fragment, mirror.cut, context.size * ON_PLANE_SHARE);
  if (!near) return [];
  return splitFragment(near).map((fragment) => convexPartOf(fragment, part.group, context));
}

/** Bent tubes, rings and turned bodies have states of their own; the rest is to be cut. */
function runsAmong(
  parts: readonly ConvexPart[],
  { maxShapes, agentDetail, mayCross }: Settings,
  mirror: Mirror | null,
  context: DecompositionContext,
): { runs: State[][]; start: ConvexPart[] } {
  const runs: State[][] = [];
  const start: ConvexPart[] = [];
  const near = Math.max(agentDetail / 4, context.size * 1e-3);
  for (const part of parts) {
    const alone = parts.every((other) => other === part || other.group !== part.group);
    const enough = alone ? context.size * 1e-4 : near;
    const states =
      part.standOff > enough
        ? (runStates(part, maxShapes, enough, mirror, context) ??
          turnedStates(part, maxShapes, enough, mirror, context))
        : null;
    if (!states) start.push(part);
    else if (alone || mayCross) runs.push(mirror ? evenStates(states, mirror, context) : states);
    // What touches others may cross them: that is cut away before joining.
    else start.push(...states.at(-1)!);
  }
  return { runs, start };
}

const limits = (
  parts: number,
  art: Mesh,
  { maxShapes, agentDetail }: Settings,
  { size }: DecompositionContext,
  mirror: Mirror | null,
) => ({
  // Of symmetric art one side is cut; half as many would do, but for what is joined across.
  pieces: Math.max(Math.ceil(Math.max(maxShapes + 8, maxShapes * 1.5) * (mirror ? 0.75 : 1)), parts),
  // What was reduced to be searched is uneven by as much.
  enough: Math.max(
    agentDetail / 8,
    size * (art.indices.length / 3 > MAX_SEARCH_TRIANGLES ? REDUCTION_SHARE * 1.5 : 1e-5),
  ),
});

/**
 * Sets of pieces, fewest first. As long as there are at least as many as separate solids, each solid is joined up
 * on its own; with fewer, whatever is cheapest to join is joined.
 */
function statesOf(
  leaves: readonly ConvexPart[],
  runs: readonly State[][],
  {
    crossing,
    mirror,
    parts,
    most,
  }: { crossing: number; mirror: Mirror | null; parts: readonly ConvexPart[]; most: number },
  context: DecompositionContext,
): State[] {
  const some = (states: readonly State[]) => states.find((state) => state.length >= 4) ?? states.at(-1)!;
  const joined = (pieces: readonly ConvexPart[], across = true) =>
    joinUp(pieces, { crossing, mirror, across }, context).reverse();
  const withImages = (states: readonly State[]): State[] =>
    states.map((state) =>
      mirror ? state.flatMap((part) => [...new Set([part, mirror.imageOf(part)])]) : state,
    );
  const groups = new Map<number, { leaves: ConvexPart[]; runs: State[][] }>();
  const groupOf = ([piece]: readonly ConvexPart[]) => {
    let group = groups.get(piece!.group);
    if (!group) groups.set(piece!.group, (group = { leaves: [], runs: [] }));
    return group;
  };
  for (const leaf of leaves) groupOf([leaf]).leaves.push(leaf);
  for (const run of runs) groupOf(run[0]!).runs.push(run);
  const ladders = [...groups].map(([number, { leaves: own, runs: among }]) => {
    // A solid that lies on the near side alone has another for its image.
    const across = parts.some((part) => part.group === number && !(mirror && mirror.sideOf(part.points) < 0));
    if (!among.length) return joined(own, across);
    if (among.length === 1 && !own.length) return withImages(among[0]!);
    // Pieces of runs may be joined to what is beside them, or each run keeps to itself.
    const apart = handOut(
      [...(own.length ? [joined(own, across)] : []), ...among.map(withImages)],
      most,
      context,
    );
    return betterOf([joined([...own, ...among.flatMap(some)], across), apart], context);
  });
  if (ladders.length === 1) return ladders[0]!;
  const apart = handOut(ladders, most, context);
  const all = joined([...leaves, ...runs.flatMap(some)]);
  return [...all.filter((state) => state.length < apart[0]!.length), ...apart];
}

const leavesIn = (states: readonly State[]): ConvexPart[] => [
  ...new Set(states.flatMap((state) => state.flatMap(leavesOf))),
];
