import {
  artNodes,
  distance,
  lengthText,
  partBounds,
  partPivot,
  type PieceDocument,
  type Vec3,
} from '@yard-brace/core';
import type { LongColumn, LongRow } from '../../../../ui/long-table';
import { pivotWords } from './anchor-words';

export const PIVOT_COLUMNS: readonly LongColumn[] = [
  { field: 'part', label: 'Part', width: '36%' },
  { field: 'pivot', label: 'Pivot' },
  { field: 'off', label: 'Off the part', figures: true, width: '84px' },
];

/** A pivot farther than this off its part, in sizes of the part, wants a look. */
const OFF_SHARE = 0.01;

/** The pivots of all parts: by which rule, and how far off the part. */
export const pivotRows = (document: PieceDocument): LongRow[] =>
  artNodes(document.nodes).map((i) => {
    const { id, name, pivot } = document.nodes[i]!;
    const own = partPivot(document, i);
    const { min, max } = partBounds(document, i);
    const nearest = own.position.map((v, k) => Math.min(max[k]!, Math.max(min[k]!, v))) as Vec3;
    const off = distance(own.position, nearest);
    const bad = off > distance(min, max) * OFF_SHARE;
    const words = pivotWords(own, pivot?.follows !== undefined);
    return {
      id,
      bad,
      cells: { part: name, pivot: words, off: bad ? lengthText(off) : '' },
      sort: { off },
    };
  });
