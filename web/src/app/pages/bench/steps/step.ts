import type { Type } from '@angular/core';
import type { LastDelivery } from '@yard-brace/contract';
import type { PieceDocument, TargetProfile, WorkingStep } from '@yard-brace/core';

/** What the line in a step's header is made of. */
export interface NoteContext {
  document: PieceDocument;
  profile: TargetProfile;
  lastDelivery: LastDelivery | null;
  /** names of the agents that have walked at it, on whatever state */
  walked: readonly string[];
  /** how many shapes a proposal would leave; null without one */
  proposedShapes: number | null;
}

/** One step of the job card. */
export interface Step {
  id: WorkingStep;
  /** as it stands on the card; the key of that number opens it */
  number: number;
  name: string;
  component: Type<unknown>;
  /** the line in its header, like a note on a card */
  note(context: NoteContext): string;
}
