import * as z from 'zod';
import { counted } from '../../math/figures.js';
import type { Vec3 } from '../../math/index.js';
import {
  artNodes,
  measuredPivot,
  PIVOT_RULES,
  type PivotAnchor,
  pivotPlace,
  pivotsByRule,
  placePivot,
} from '../../piece/index.js';
import { StepError } from '../step-error.js';
import { type StepKind, stepKind } from '../step-kind.js';

/** Anchors that mean something on any piece. */
export const RECIPE_ANCHORS = [
  'base-centre',
  'centre',
  'bounds',
  'lowest-contact',
  'centroid',
  'origin',
  'as-it-came',
] as const satisfies readonly PivotAnchor[];

const cell = z.union([z.literal(-1), z.literal(0), z.literal(1)]);
const words = (anchor: string) => anchor.replaceAll('-', ' ');

const pivot = stepKind({
  label: 'Place the pivot',
  parts: false,
  parameters: z.strictObject({
    anchor: z.enum(RECIPE_ANCHORS),
    /** the point of the bounds, for the anchor “bounds” */
    cell: z.tuple([cell, cell, cell]).optional(),
  }),
  run(work, { anchor, cell }) {
    const { document } = work;
    if (document.pivot.locked) throw new StepError('Its pivot is locked; unlock it first.');
    const measured = anchor === 'lowest-contact' || anchor === 'centroid';
    const place: Vec3 | null = measured
      ? measuredPivot(work.art.mesh, anchor)
      : pivotPlace(document, anchor, cell ?? [0, -1, 0]);
    if (!place) throw new StepError('Its surface is open and encloses nothing, so it has no centroid.');
    const more = anchor === 'bounds' ? { cell: cell ?? ([0, -1, 0] as [0, -1, 0]) } : {};
    work.apply(placePivot(document, null, anchor, place, more));
    return `Its pivot is at the ${words(anchor)}.`;
  },
});

const pivots = stepKind({
  label: 'Place pivots of parts',
  parts: true,
  parameters: z.strictObject({ rule: z.enum(PIVOT_RULES), hinges: z.boolean().default(false) }),
  run(work, { rule, hinges }, { ids }) {
    const { document } = work;
    const chosen = new Set(ids);
    const except = new Set(
      artNodes(document.nodes).flatMap((i) =>
        chosen.has(document.nodes[i]!.id) ? [] : [document.nodes[i]!.id],
      ),
    );
    const edit = pivotsByRule(document, rule, { except, hinges });
    if (!edit.pivots.length) throw new StepError('Every pivot of those parts is locked or a hinge.');
    work.apply(edit);
    return `${counted(edit.pivots.length, 'pivot')} at the ${words(rule)}.`;
  },
});

/** Where the piece and its parts are grabbed. */
export const PIVOT_STEPS: Readonly<Record<string, StepKind>> = { pivot, pivots };
