import * as z from 'zod';
import type { Vec3 } from '../../math/index.js';
import type { PieceDocument } from '../document.js';
import { type Pivot, pivotAt, type PivotAnchor, pivotSchema } from '../pivot.js';
import { editKind } from './edit-kind.js';
import { intentSchema } from './intent.js';

/** For what pivots are set, where the pivots themselves do not say it. */
const PIVOT_ACTS = ['lock', 'unlock', 'hinge', 'follow', 'free', 'copy'] as const;

/** Pivots of parts, and of the piece under `null`; a part's pivot set to null is its node's origin again. */
export const setPivots = editKind({
  schema: z.object({
    kind: z.literal('set-pivots'),
    pivots: z.array(z.object({ part: z.string().nullable(), pivot: pivotSchema.nullable() })),
    act: z.enum(PIVOT_ACTS).optional(),
    intent: intentSchema.optional(),
  }),
  apply: (document, { pivots }) => withPivots(document, pivots),
  describe({ pivots, act }) {
    const many = pivots.length > 1 ? `${pivots.length} pivots` : 'pivot';
    if (act) return ACT_WORDS[act].replace('pivot', many);
    const anchors = new Set(pivots.map(({ pivot }) => pivot?.anchor ?? 'as-it-came'));
    return anchors.size === 1 ? `${many} ${ANCHOR_WORDS[[...anchors][0]!]}` : many;
  },
});

const ACT_WORDS: Record<(typeof PIVOT_ACTS)[number], string> = {
  lock: 'lock pivot',
  unlock: 'unlock pivot',
  hinge: 'set hinge',
  follow: 'link pivot',
  free: 'unlink pivot',
  copy: 'copy pivot',
};

const ANCHOR_WORDS: Record<PivotAnchor, string> = {
  'as-it-came': 'as imported',
  'base-centre': 'to base centre',
  centre: 'to centre of bounds',
  bounds: 'to a point of the bounds',
  'lowest-contact': 'to lowest contact',
  centroid: 'to centroid',
  origin: 'to origin',
  numeric: 'by numbers',
  vertex: 'to a vertex',
  edge: 'to an edge',
  face: 'to a face',
  selection: 'to the selection',
  hinge: 'to the hinge',
  family: 'of the family',
};

/** The edit that puts the piece's own pivot somewhere: metres, in the piece's space. */
export const pivotEdit = (anchor: PivotAnchor, position: Vec3): z.infer<typeof setPivots.schema> => ({
  kind: 'set-pivots',
  pivots: [{ part: null, pivot: pivotAt(anchor, position) }],
});

/** A locked pivot stays until an edit unlocks it. */
export function withPivots(
  document: PieceDocument,
  pivots: readonly { part: string | null; pivot: Pivot | null }[],
): PieceDocument {
  const byPart = new Map(pivots.map(({ part, pivot }) => [part, pivot]));
  const held = (now: Pivot | null, next: Pivot | null) =>
    now?.locked && !(next && samePlace(now, next)) ? now : next;
  const whole = byPart.get(null);
  return {
    ...document,
    pivot: whole ? (held(document.pivot, whole) ?? document.pivot) : document.pivot,
    nodes: document.nodes.map((node) =>
      byPart.has(node.id) ? { ...node, pivot: held(node.pivot, byPart.get(node.id)!) } : node,
    ),
  };
}

const samePlace = (a: Pivot, b: Pivot): boolean =>
  a.position.every((v, k) => v === b.position[k]) && a.rotation.every((v, k) => v === b.rotation[k]);
