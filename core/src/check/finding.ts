import type { NameRules } from '../naming/index.js';
import type { Edit } from '../piece/index.js';
import type { ShapeKind } from '../shape/index.js';

export const STEPS = ['intake', 'parts', 'size', 'pivot', 'proxies', 'names', 'trial', 'delivery'] as const;
export type Step = (typeof STEPS)[number];
/** The steps that work; the others are not shown. */
export const WORKING_STEPS = [
  'intake',
  'pivot',
  'proxies',
  'names',
  'delivery',
] as const satisfies readonly Step[];
export type WorkingStep = (typeof WORKING_STEPS)[number];
export const stepNumber = (step: Step): number => STEPS.indexOf(step) + 1;

/** Something about a piece that a person should know. Computed from the document, never stored. */
export interface Finding {
  id: string;
  step: WorkingStep;
  /** "stop" keeps the piece from leaving, "look" wants a decision, "note" is only said */
  weight: 'stop' | 'look' | 'note';
  /** what is wrong, one sentence */
  says: string;
  /** what goes wrong in the engine if it is ignored */
  why: string;
  fix?: { label: string; edit: Edit };
}

/** What a target allows, as far as findings ask. */
export interface CheckRules {
  names: NameRules;
  mostShapes: number;
  mostHullVertices: number;
  kinds: readonly ShapeKind[];
}

/** What is known about a piece beyond its document. */
export interface PieceSurroundings {
  /** mesh names of the other pieces of the yard */
  otherMeshNames?: readonly string[];
  lastDelivery?: { version: number; agreed: boolean } | null;
  /** the saved version of the document */
  version?: number;
}
