import type { Comparer, ShapeComparison } from '../compare/index.js';
import { boundsOf, diagonalOf } from '../math/index.js';
import { mirrorShape, type Shape } from '../shape/index.js';
import { bodyAround, type ConvexBody } from '../compare/convex-overlap.js';
import type { State } from './hand-out.js';
import { keptOut } from './keep-out.js';
import { deviationOf, misfitOf, misfitOfState, standOffOf } from './misfit.js';
import type { Settings } from './options.js';
import { leavesOf, type ConvexPart, type DecompositionContext } from './convex-part.js';
import type { Mirror } from './mirror.js';
import { evenShape } from './even-shape.js';
import { partShape } from './part-shape.js';
import type { WholeArt } from './whole-art.js';

/** One count of shapes, measured against the art. */
export interface Rung {
  shapes: Shape[];
  figures: ShapeComparison;
}

/** Shapes may meet within this many metres. */
export const MEETING_METRES = 1e-4;
/** Without an agent a primitive serves when it stands off by this share of its size. */
const LOOSE_FIT_SHARE = 0.025;
/** While rungs are measured: rays for about 2 % of the volume, and so many vertices of the art. */
export const RUNG_COMPARER = { cells: 40, maxVertices: 20_000, exact: false };
/** Above this many shapes only some counts are told apart. */
const EVERY_COUNT = 6;
const COUNTS = [8, 10, 12, 16, 20, 24, 32, 40, 48, 64];

/** A rung is worth showing when its misfit is below that of all with fewer shapes by this factor. */
const BETTER = 0.98;

/** Share of the work that is done when rungs begin to be measured. */
const SEARCH_PROGRESS_SHARE = 0.55;

/** Shapes for sets of pieces, fewest first, each measured; what brings nothing over fewer shapes is left out. */
export function rungsOf(
  states: readonly State[],
  art: WholeArt,
  comparer: Comparer,
  settings: Settings,
  mirror: Mirror | null,
  context: DecompositionContext,
): Rung[] {
  const fitting = new Fitting(art, settings, mirror, context);
  const rungs: Rung[] = [];
  let least = Infinity;
  let leastMisfit = Infinity;
  const worth = worthMeasuring(states, settings.maxShapes, context);
  for (const [i, state] of worth.entries()) {
    context.progress(SEARCH_PROGRESS_SHARE + ((1 - SEARCH_PROGRESS_SHARE) * i) / worth.length);
    const shapes = fitting.shapesFor(state);
    if (!shapes.length) continue;
    const figures = comparer.compare(shapes);
    const deviation = deviationOf({ figures });
    const misfit = misfitOf({ figures });
    const nearer = deviation < least * (1 - 1e-3) - context.size * 1e-9;
    const better = misfit < leastMisfit * BETTER;
    if (!nearer && !better) continue;
    least = Math.min(least, deviation);
    leastMisfit = Math.min(leastMisfit, misfit);
    rungs.push({ shapes, figures });
  }
  return rungs;
}

/** States with few enough shapes that stand off less, or are better, than all with fewer. */
function worthMeasuring(states: readonly State[], most: number, context: DecompositionContext): State[] {
  let least = Infinity;
  let leastMisfit = Infinity;
  const kept = states.filter((state) => {
    if (state.length > most) return false;
    const [off, misfit] = [standOffOf(state), misfitOfState(state)];
    if (!(off < least * (1 - 1e-3) - context.size * 1e-7) && !(misfit < leastMisfit * BETTER)) return false;
    least = Math.min(least, off);
    leastMisfit = Math.min(leastMisfit, misfit);
    return true;
  });
  // Of larger counts the best up to each round number; and whatever stands off far less than what went before.
  const rounded = (state: State) => COUNTS.findIndex((count) => state.length <= count);
  return kept.filter((state, i) => {
    const next = kept[i + 1];
    if (i === 0 || state.length <= EVERY_COUNT || !next || rounded(next) !== rounded(state)) return true;
    return standOffOf(state) < standOffOf(kept[i - 1]!) * 0.5;
  });
}

/** Finds the shape for each piece once; where neighbours and clearances bind, what of it they leave. */
class Fitting {
  private readonly free = new Map<ConvexPart, Shape>();

  constructor(
    private readonly art: WholeArt,
    private readonly settings: Settings,
    private readonly mirror: Mirror | null,
    private readonly context: DecompositionContext,
  ) {}

  shapesFor(state: State): Shape[] {
    const { mayCross, maxVertices } = this.settings;
    const { size, clearances } = this.context;
    const shapes: Shape[] = [];
    const bodies: ConvexBody[] = [];
    // The largest come first: what crosses is cut off the smaller.
    const order = mayCross ? state : [...state].sort((a, b) => b.hullVolume - a.hullVolume);
    for (const piece of order) {
      let shape: Shape | null = this.freeShape(piece);
      if (clearances.length) shape = keptOut(shape, clearances, { depth: 0, eps: size * 1e-9, maxVertices });
      if (shape && !mayCross)
        shape = keptOut(shape, bodies, { depth: MEETING_METRES / 2, eps: size * 1e-9, maxVertices });
      if (!shape) continue;
      shapes.push(shape);
      if (!mayCross) bodies.push(bodyAround(shape));
    }
    return shapes;
  }

  private freeShape(piece: ConvexPart): Shape {
    let shape = this.free.get(piece);
    if (!shape) {
      this.context.progress(-1);
      const original = this.mirror?.originalOf(piece);
      shape = original ? mirrorShape(this.freeShape(original), this.mirror!.plane) : this.fitted(piece);
      this.free.set(piece, shape);
    }
    return shape;
  }

  private fitted(piece: ConvexPart): Shape {
    const { primitives, kinds, agentDetail, maxVertices } = this.settings;
    const points = this.art.pointsOf(piece);
    this.context.progress(-1);
    const own = diagonalOf(boundsOf(points));
    // A piece that stands off more than the agent minds is no better for a tight shape.
    const rough = agentDetail > 0 && piece.standOff <= agentDetail;
    const looseness = rough ? 0 : LOOSE_FIT_SHARE;
    const tolerance = Math.max(agentDetail * 0.9, Math.min(piece.standOff * 0.1, own * LOOSE_FIT_SHARE));
    const options = { primitives, kinds, tolerance, looseness, maxVertices };
    const shape = partShape(points, options);
    this.context.progress(-1);
    if (shape.kind !== 'hull' || !this.mirror?.isOwnImage(leavesOf(piece))) return shape;
    return evenShape(shape, points, this.mirror, { maxVertices, size: this.context.size });
  }
}
