import { CHECK_STEPS } from './kinds/check-steps.js';
import { COLLISION_STEPS } from './kinds/collision-steps.js';
import { NAME_STEPS } from './kinds/name-steps.js';
import { PIVOT_STEPS } from './kinds/pivot-steps.js';
import { SHAPE_STEPS } from './kinds/shape-steps.js';
import { SIZE_STEPS } from './kinds/size-steps.js';
import { TREE_STEPS } from './kinds/tree-steps.js';
import type { StepKind } from './step-kind.js';

/** Every kind of step under the name of its operation, in the order of the work. */
export const STEP_KINDS: Readonly<Record<string, StepKind>> = {
  ...SIZE_STEPS,
  ...TREE_STEPS,
  ...PIVOT_STEPS,
  ...COLLISION_STEPS,
  ...SHAPE_STEPS,
  ...NAME_STEPS,
  ...CHECK_STEPS,
};

/** The kind of a step; null for an operation that no recipe has. */
export const stepKindOf = (op: string): StepKind | null =>
  Object.hasOwn(STEP_KINDS, op) ? STEP_KINDS[op]! : null;
