import { Comparer, type ShapeComparison } from '../compare/index.js';
import { diagonalOf } from '../math/index.js';
import { type Mesh, plainMesh, reduceMesh } from '../mesh/index.js';
import {
  boundsOfFaces,
  closedSolid,
  type ClosedSolid,
  DistanceBound,
  SolidDistance,
} from '../solid/index.js';
import { bodyAround } from '../compare/convex-overlap.js';
import { cutCrossings } from './cut-crossings.js';
import { cutDown } from './cut-tree.js';
import { DecomposeError } from './decompose-error.js';
import { betterOf, handOut, type State } from './hand-out.js';
import { joinUp } from './join-up.js';
import { checkedOptions, type DecomposeOptions, type Settings } from './options.js';
import { convexPartOf, leavesOf, type ConvexPart, type DecompositionContext } from './convex-part.js';
import { cutFragment, splitFragment } from './fragment.js';
import { Mirror } from './mirror.js';
import { mirrorPlane } from './mirror-plane.js';
import { deviationOf, misfitOf } from './misfit.js';
import { MEETING_METRES, type Rung, RUNG_COMPARER, rungsOf } from './rungs.js';
import { runStates } from './run-states.js';
import { separateParts } from './separate-parts.js';
import { cornersOfFaces, speckless } from './specks.js';
import { turnedStates } from './turned-states.js';
import { WholeArt } from './whole-art.js';

/** Every useful count of shapes for one piece of art, fewest first. Counts that bring nothing are left out. */
export interface Ladder {
  rungs: Rung[];
  /** the first rung whose deviation is within the agent's detail; null when none is, or no agent was given */
  goodEnough: number | null;
  /** loose crumbs beside the art that are too small to collide with, and have no shape */
  specks: number;
}

/** Triangles that cuts are looked for on; finer art is reduced first, and its shapes laid round all of it after. */
const MAX_SEARCH_TRIANGLES = 1200;
/** Farther from the origin nothing is told apart. */
const MAX_METRES = 1e12;
/** Places nearer to the plane that art is mirrored over than this share of the size lie on it. */
const ON_PLANE_SHARE = 1e-5;
/** Share of the size by which reduced art may lie off without being noticed. */
const REDUCTION_SHARE = 2e-3;
/**
 * Break art into convex shapes, as a ladder.
 *
 * Cut from the top along the art's own planes where that takes away most hollow and most concave edges, then
 * joined from the bottom where that fills least; every state on the way is a rung. Separate solids have
 * ladders of their own, and the count is handed out to whichever stands off most.
 *
 * @throws DecomposeError with one sentence when there is nothing to break up or the options contradict
 */
export async function decompose(mesh: Mesh, options: DecomposeOptions = {}): Promise<Ladder> {
  const settings = checkedOptions(options);
  const progress = monotonous(options.progress);
  const { art: chosen, solid, specks } = withoutSpecks(chosenFaces(mesh, options.faces));
  const context = await contextFor(chosen, solid, settings, progress);
  const mirror = mirrorOf(chosen, settings, context);
  const parts = separateParts(context.art.solid, context);
  const { runs, start } = runsAmong(nearSide(parts, mirror), settings, mirror, context);
  const crossing = settings.mayCross ? Infinity : MEETING_METRES / 2;
  const halves = mirror ? start.flatMap((part) => nearHalf(part, mirror, context)) : start;
  let leaves = cutDown(halves, limits(halves.length, chosen, settings, context, mirror), context);
  if (!settings.mayCross) leaves = cutCrossings(leaves, crossing, context);
  if (!leaves.length && !runs.length)
    throw new DecomposeError('Nothing is left to wrap: the clearances swallow the whole piece.');
  const states = statesOf(leaves, runs, { crossing, mirror, parts }, context);
  const whole = new WholeArt(chosen, leavesIn(states), mirror, context);
  const rungs = rungsOf(
    states,
    whole,
    new Comparer(chosen, { ...RUNG_COMPARER, solid, progress: () => progress(-1) }),
    settings,
    mirror,
    context,
  );
  if (!rungs.length)
    throw new DecomposeError(
      `With the openings kept free at least ${states[0]!.length} shapes are needed; ${settings.maxShapes} are allowed.`,
    );
  return {
    rungs,
    goodEnough: goodEnough(rungs, settings.agentDetail, { art: chosen, solid, progress: () => progress(-1) }),
    specks,
  };
}

/** Figures of rungs are sampled: one that is so near to the limit, as a share of it, is measured exactly. */
const NEAR_LIMIT = 0.75;

/** The first rung within the detail that matters; what was measured exactly for that stands on the rung. */
function goodEnough(
  rungs: Rung[],
  agentDetail: number,
  { art, solid, progress }: { art: Mesh; solid: ClosedSolid; progress: () => void },
): number | null {
  if (!(agentDetail > 0)) return null;
  let exact: Comparer | undefined;
  for (const [i, rung] of rungs.entries()) {
    if (deviationOf(rung) > agentDetail) continue;
    if (deviationOf(rung) > agentDetail * NEAR_LIMIT) {
      exact ??= new Comparer(art, { cells: RUNG_COMPARER.cells, solid, progress });
      rungs[i] = { ...rung, figures: exact.compare(rung.shapes) };
    }
    if (deviationOf(rungs[i]!) <= agentDetail) return i;
  }
  return null;
}

/** The best rung with at most so many shapes, see `misfitOf`, of equals the lowest; null when even the lowest has more. */
export function rungWithin({ rungs }: Ladder, maxShapes: number): Rung | null {
  const within = rungs.filter(({ shapes }) => shapes.length <= maxShapes);
  if (!within.length) return null;
  return within.reduce((a, b) => (misfitOf(b) < misfitOf(a) * (1 - 1e-3) ? b : a));
}

export type { Rung, ShapeComparison };

async function contextFor(
  chosen: Mesh,
  whole: ClosedSolid,
  settings: Settings,
  progress: (share: number) => void,
): Promise<DecompositionContext> {
  const solid = await coarser(whole, progress);
  const size = diagonalOf(boundsOfFaces(solid));
  if (!(size > 0)) throw new DecomposeError('There is nothing to break up: no triangle has any extent.');
  const art = new SolidDistance(chosen, solid);
  return {
    art,
    bound: new DistanceBound(art),
    size,
    clearances: settings.clearances.map((shape) => bodyAround(shape)),
    agentDetail: settings.agentDetail,
    progress,
  };
}

/** Share done, from what the steps tell: a negative share means "still at it". */
function monotonous(progress?: (share: number) => void): (share: number) => void {
  let done = 0;
  return (share) => {
    done = Math.max(done, share);
    progress?.(done);
  };
}

/** Some of the faces of a mesh, or all, once it is known that their corners are somewhere. */
function chosenFaces(mesh: Mesh, faces?: Iterable<number>): Mesh {
  const { positions } = mesh;
  const indices = faces ? cornersOfFaces(mesh, Uint32Array.from(checkedFaces(mesh, faces))) : mesh.indices;
  if (!indices.length) throw new DecomposeError('There is nothing to break up: the piece has no triangles.');
  for (const v of indices)
    for (let k = v * 3; k < v * 3 + 3; k++)
      if (!(Math.abs(positions[k]!) < MAX_METRES))
        throw new DecomposeError(
          `Vertex ${v} is not at a usable place (${positions[k]}); mend it in Parts first.`,
        );
  return plainMesh(positions, indices);
}

function* checkedFaces({ indices }: Mesh, faces: Iterable<number>): Generator<number> {
  for (const f of faces) {
    if (!Number.isInteger(f) || f < 0 || f >= indices.length / 3)
      throw new DecomposeError(`There is no face ${f}: the mesh has ${indices.length / 3}.`);
    yield f;
  }
}

/** The art as a solid, without its specks. */
function withoutSpecks(mesh: Mesh): { art: Mesh; solid: ClosedSolid; specks: number } {
  const { kept, specks, solid } = speckless(mesh);
  if (!specks) return { art: mesh, solid, specks };
  const art = plainMesh(mesh.positions, cornersOfFaces(mesh, kept));
  return { art, solid: closedSolid(art), specks };
}

/** Fewer triangles to look for cuts on. Seams are closed already: what is torn would be reduced to crumbs. */
async function coarser(solid: ClosedSolid, progress: (share: number) => void): Promise<ClosedSolid> {
  progress(0);
  if (solid.faces <= MAX_SEARCH_TRIANGLES) return solid;
  const size = diagonalOf(boundsOfFaces(solid));
  const whole = plainMesh(solid.positions, solid.indices.subarray(0, solid.faces * 3));
  // First what can go unseen; then, where that is not enough, what shows a little.
  const { mesh: few } = await reduceMesh(whole, {
    share: MAX_SEARCH_TRIANGLES / solid.faces,
    error: size * REDUCTION_SHARE,
  });
  const left = few.indices.length / 3;
  if (left <= MAX_SEARCH_TRIANGLES * 1.3) return closedSolid(few);
  return closedSolid(
    (await reduceMesh(few, { share: MAX_SEARCH_TRIANGLES / left, error: size * 1e-2 })).mesh,
  );
}

/** Of states of a run what lies on the near side, and what goes over the plane made its own image; fewest shapes first. */
function evenStates(states: readonly State[], mirror: Mirror, context: DecompositionContext): State[] {
  if (mirror.sideOf(states[0]![0]!.points) < 0) return [...states];
  const found = new Map<number, State>();
  for (const state of states) {
    const near = state.filter(({ points }) => mirror.sideOf(points) < 0);
    const across = state.filter(({ points }) => mirror.sideOf(points) === 0);
    const count = near.length * 2 + across.length;
    if (!found.has(count)) found.set(count, [...near, ...across.map((part) => mirror.evened(part, context))]);
  }
  return [...found].sort(([a], [b]) => a - b).map(([, state]) => state);
}

/** Where art is symmetric, its sets are: looked for unless clearances or neighbours say where shapes may be. */
function mirrorOf(
  art: Mesh,
  { mayCross, clearances }: Settings,
  { size }: DecompositionContext,
): Mirror | null {
  const plane = mayCross && !clearances.length ? mirrorPlane(art) : null;
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
  { crossing, mirror, parts }: { crossing: number; mirror: Mirror | null; parts: readonly ConvexPart[] },
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
    const apart = handOut([...(own.length ? [joined(own, across)] : []), ...among.map(withImages)], context);
    return betterOf([joined([...own, ...among.flatMap(some)], across), apart], context);
  });
  if (ladders.length === 1) return ladders[0]!;
  const apart = handOut(ladders, context);
  const all = joined([...leaves, ...runs.flatMap(some)]);
  return [...all.filter((state) => state.length < apart[0]!.length), ...apart];
}

const leavesIn = (states: readonly State[]): ConvexPart[] => [
  ...new Set(states.flatMap((state) => state.flatMap(leavesOf))),
];
