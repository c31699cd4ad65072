import type { NameRules } from '../naming/index.js';
import type { Edit, FamilyShare, Operation } from '../piece/index.js';
import type { FaultKind } from '../solid/index.js';
import type { ShapeKind } from '../shape/index.js';
import type { Vec3 } from '../math/index.js';
import type { Agent } from './agents.js';
import type { SetFix } from './fix-set.js';
import type { ProxyFacts } from './proxy-facts.js';
import type { BodyTrialKind, WalkLimits } from './trial-facts.js';

export const STEPS = ['intake', 'parts', 'size', 'pivot', 'proxies', 'names', 'trial', 'delivery'] as const;
export type Step = (typeof STEPS)[number];
/** The steps that are shown. */
export const WORKING_STEPS = STEPS;
export type WorkingStep = (typeof WORKING_STEPS)[number];
export const stepNumber = (step: Step): number => STEPS.indexOf(step) + 1;

export type Severity = 'error' | 'warning' | 'info';

/** Something about a piece that a person should know. Computed from the document, never stored. */
export interface Finding {
  id: string;
  step: WorkingStep;
  /** an error keeps the piece from being delivered, a warning wants a decision, an info is only said */
  severity: Severity;
  /** what is wrong, one sentence */
  says: string;
  /** what goes wrong in the engine if it is ignored */
  why: string;
  fix?: { label: string; edit: Edit };
  /** a mend that makes geometry: it is proposed with its figures first */
  mend?: { label: string; operation: Operation };
  /** what is done about it on the shapes: worked out on the art, and proposed with its figures first */
  setFix?: { label: string; fix: SetFix };
  /** it is about faces that no shape covers: they can be chosen */
  bareFaces?: true;
  /** something that was tried did not pass: its step is stopped, and nothing else */
  fails?: true | undefined;
  /** it is said until somebody has looked at it */
  lookedAt?: true;
  /** where it is, in metres: the view goes there */
  at?: Vec3;
  /** ids of the shapes it is about: the view lights them */
  shapes?: readonly string[];
  /** what the view lights when the finding is pointed at */
  places?: FaultKind;
}

/** Who has to walk at a piece, and what shakes them. */
export interface AskedTrials extends WalkLimits {
  /** whether the yard asks for the walk */
  walk: boolean;
  walkers: readonly Agent[];
  /** trials with bodies that the yard asks for */
  bodies: readonly BodyTrialKind[];
}

/** What a target allows, as far as findings ask. */
export interface CheckRules {
  names: NameRules;
  maxShapes: number;
  maxHullVertices: number;
  kinds: readonly ShapeKind[];
  /** a text that is the same for two targets exactly when they take shapes alike */
  takes: string;
  /** what pieces up to a size may cost, the smallest size first */
  budgets?: readonly { upToMetres: number; shapes: number; corners: number }[];
  /** targets of the yard that do not take the names that the piece has, and what every one of them would take */
  namesRefused?: {
    targets: number;
    refused: readonly { target: string; says: readonly string[] }[];
    fixes: readonly { label: string; edit: Edit }[];
  };
  /** material values without a picture get lost */
  dropsConstants?: boolean;
  /** what has to be tried; absent where no yard asks */
  trials?: AskedTrials;
  /** who collides: deviations below its detail do not matter */
  agent?: { name: string; detail: number };
}

/** A target that a piece left for. */
export interface DeliveredState {
  /** its name */
  target: string;
  /** whether the read-back agreed */
  agreed: boolean;
  /** what of what leaves is otherwise now, a sentence each */
  changes: readonly string[];
}

/** What is known about a piece beyond its document. */
export interface PieceSurroundings {
  /** names of the targets of the yard */
  targets?: readonly string[];
  /** the other piece that the family's pivot is taken from */
  family?: { from: string; share: FamilyShare } | null;
  /** mesh names of the other pieces of the yard */
  otherMeshNames?: readonly string[];
  /** how it stands to what was delivered, for each target that it left for */
  deliveries?: readonly DeliveredState[];
  /** how the shapes lay to the art when that was last measured */
  measured?: ProxyFacts | null;
}
