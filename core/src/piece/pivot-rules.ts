import {
  axesFrom,
  baseCentreOf,
  centreOf,
  cross,
  distance,
  normalized,
  type Quat,
  quatFromAxes,
  subtract,
  type Vec3,
} from '../math/index.js';
import type { PieceDocument } from './document.js';
import type { EditOf } from './edits/index.js';
import { artBounds, artNodes, nodeById, partBounds, partPivot, pivotPlace } from './geometry.js';
import { type Pivot, pivotAt, type PivotAnchor } from './pivot.js';

/** Where all parts at once can have their pivots. */
export const PIVOT_RULES = ['base-centre', 'centre', 'origin', 'as-it-came'] as const;
export type PivotRule = (typeof PIVOT_RULES)[number];

export interface PivotRuleOptions {
  /** ids of parts that keep what they have */
  except?: ReadonlySet<string>;
  /** hinges and axles follow the rule too. Default: they keep theirs */
  hinges?: boolean;
}

/** One rule for the pivots of all parts of the art; locked ones, exceptions and hinges keep theirs. */
export function pivotsByRule(
  document: PieceDocument,
  rule: PivotRule,
  { except = new Set(), hinges = false }: PivotRuleOptions = {},
): EditOf<'set-pivots'> {
  const pivots = artNodes(document.nodes).flatMap((i) => {
    const { id, pivot } = document.nodes[i]!;
    if (except.has(id) || pivot?.locked || (pivot?.hinge && !hinges)) return [];
    return [{ part: id, pivot: partPivotAt(document, i, rule) }];
  });
  return {
    kind: 'set-pivots',
    pivots,
    intent: { op: 'pivots', parts: { by: 'all' }, parameters: { rule, hinges } },
  };
}

/** The pivot that a rule gives one part; null for that of its node. */
function partPivotAt(document: PieceDocument, node: number, rule: PivotRule): Pivot | null {
  if (rule === 'as-it-came') return null;
  return pivotAt(rule, anchorPlace(document, document.nodes[node]!.id, rule));
}

/** Where an anchor that needs nothing but bounds is, for a part or, under null, the piece: metres. */
export function anchorPlace(
  document: PieceDocument,
  part: string | null,
  anchor: Extract<PivotAnchor, 'base-centre' | 'centre' | 'origin' | 'as-it-came'>,
): Vec3 {
  if (part === null) return pivotPlace(document, anchor);
  const node = nodeById(document, part);
  if (anchor === 'origin') return [0, 0, 0];
  if (anchor === 'as-it-came') return partPivot(document, node).position;
  const bounds = partBounds(document, node);
  return anchor === 'centre' ? centreOf(bounds) : baseCentreOf(bounds);
}

/** The edit that changes the pivot of a part, or of the piece under null; it follows no other part any more. */
export function changePivot(
  document: PieceDocument,
  part: string | null,
  change: Partial<Pivot>,
  act?: EditOf<'set-pivots'>['act'],
): EditOf<'set-pivots'> {
  const { follows: _follows, ...pivot } = { ...pivotOf(document, part), ...change };
  return { kind: 'set-pivots', ...(act ? { act } : {}), pivots: [{ part, pivot }] };
}

/** The edit that puts the pivot of a part or the piece to a place, with nothing left of how it was before. */
export const placePivot = (
  document: PieceDocument,
  part: string | null,
  anchor: PivotAnchor,
  position: Vec3,
  more: Partial<Pivot> = {},
): EditOf<'set-pivots'> =>
  changePivot(document, part, { anchor, position, cell: undefined, hinge: undefined, ...more });

/** The edit that lets the pivot of a part follow another's, or be its own again under null. */
export function followPivot(
  document: PieceDocument,
  part: string,
  leader: string | null,
): EditOf<'set-pivots'> {
  const { follows: _follows, ...now } = pivotOf(document, leader ?? part);
  const pivot = leader === null ? now : { ...now, locked: false, follows: leader };
  return { kind: 'set-pivots', act: leader === null ? 'free' : 'follow', pivots: [{ part, pivot }] };
}

/** The pivot of a part, or of the piece under null. */
export function pivotOf(document: PieceDocument, part: string | null): Pivot {
  const node = part === null ? -1 : nodeById(document, part);
  return node < 0 ? document.pivot : partPivot(document, node);
}

/** The nearest point of the grid, in all three directions. Metres. */
export const onGrid = (p: Readonly<Vec3>, step: number): Vec3 =>
  p.map((v) => Math.round(v / step) * step + 0) as Vec3;

/**
 * A hinge between two points: its lower end is the pivot and its axis points up, so that doors of one kind turn
 * alike. Null for points that are one.
 */
export function hingeBetween(a: Vec3, b: Vec3): Pick<Pivot, 'anchor' | 'position' | 'hinge'> | null {
  if (distance(a, b) < 1e-9) return null;
  const [low, high] = a[1] < b[1] || (a[1] === b[1] && a[0] <= b[0]) ? [a, b] : [b, a];
  return {
    anchor: 'hinge',
    position: low,
    hinge: { axis: normalized(subtract(high, low)), opens: [0, 90] },
  };
}

/**
 * Axes laid along what was picked: on a face, Y is its normal and X runs along its nearest edge; along an edge, X is
 * the edge and Z the normal of its face.
 */
export function axesAlong(
  what: 'edge' | 'face',
  { normal, edge }: { normal: Vec3; edge: readonly [Vec3, Vec3] },
): Quat {
  const along = normalized(subtract(edge[1], edge[0]));
  if (what === 'face') return quatFromAxes(...axesFrom(normal, along));
  return quatFromAxes(along, normalized(cross(normal, along)), normal);
}

/** How far a rotation turns, in degrees, 0 to 180. */
export const turnDegrees = ([, , , w]: Readonly<Quat>): number =>
  (2 * Math.acos(Math.min(1, Math.abs(w))) * 180) / Math.PI;

/** The turn by some degrees about a unit axis. */
export function turnAbout(axis: Readonly<Vec3>, degrees: number): Quat {
  const half = (degrees * Math.PI) / 360;
  const [x, y, z] = axis.map((v) => v * Math.sin(half)) as Vec3;
  return [x, y, z, Math.cos(half)];
}

/** How far the piece, or a part, reaches from its pivot: metres. */
export function reachFromPivot(document: PieceDocument, part: string | null): { from: Vec3; to: Vec3 } {
  const { min, max } = part === null ? artBounds(document) : partBounds(document, nodeById(document, part));
  const { position } = pivotOf(document, part);
  return { from: subtract(min, position), to: subtract(max, position) };
}
