import type { Observable } from 'rxjs';
import type { Saving } from './saver';

/** What is worked on and saves itself: a piece on the bench, or a set-out. */
export abstract class SavedWork {
  abstract readonly saving$: Observable<Saving>;
  /** what the next step back would undo, in words; null when there is none */
  abstract readonly undoable$: Observable<string | null>;
  abstract readonly redoable$: Observable<string | null>;
  abstract undo(): void;
  abstract redo(): void;
  /** The other window was first: show what it saved. */
  abstract loadTheirs(): Promise<void>;
  /** The other window was first: keep what is here as something of its own. Answers with its address. */
  abstract keepMineAt(): Promise<string>;
}
