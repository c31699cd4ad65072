import type { Pivot, PivotAnchor } from '@yard-brace/core';

/** The anchors that can be taken by name. */
export const NAMED_ANCHORS = [
  { anchor: 'base-centre', name: 'Base centre' },
  { anchor: 'centre', name: 'Centre of bounds' },
  { anchor: 'lowest-contact', name: 'Lowest contact' },
  { anchor: 'centroid', name: 'Centre of mass' },
  { anchor: 'origin', name: 'World origin' },
  { anchor: 'as-it-came', name: 'As imported' },
] as const satisfies readonly { anchor: PivotAnchor; name: string }[];
export type NamedAnchor = (typeof NAMED_ANCHORS)[number]['anchor'];

/** The point of the bounds that a pivot is at; null when it is at none. */
export function cellOf({ anchor, cell }: Pivot): readonly number[] | null {
  if (anchor === 'base-centre') return [0, -1, 0];
  if (anchor === 'centre') return [0, 0, 0];
  return anchor === 'bounds' ? (cell ?? null) : null;
}

/** The anchor that a point of the bounds is. */
export function anchorOfCell([x, y, z]: readonly [number, number, number]): PivotAnchor {
  const middle = x === 0 && z === 0;
  if (middle && y === -1) return 'base-centre';
  return middle && y === 0 ? 'centre' : 'bounds';
}

/** The anchor that a picked point is. */
export const anchorOfPick = ({ kind }: { kind: string }): PivotAnchor =>
  kind === 'vertex' ? 'vertex' : kind.startsWith('edge') ? 'edge' : 'face';

/** A part's pivot in a word or two: "base centre, locked". */
export const pivotWords = ({ anchor, locked }: Pivot, follows: boolean): string =>
  [
    anchor === 'as-it-came' ? 'as imported' : anchor.replaceAll('-', ' '),
    follows ? 'follows another' : '',
    locked ? 'locked' : '',
  ]
    .filter(Boolean)
    .join(', ');
