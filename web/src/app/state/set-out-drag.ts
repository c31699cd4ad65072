import { inject, Injectable } from '@angular/core';
import {
  placedAt,
  placedPieces,
  type Placed,
  type Placement,
  placementsTurned,
  shiftedBy,
  type Vec3,
} from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { SetOutActs } from './set-out-acts';
import { SetOutSelection } from './set-out-selection';
import { SetOutStore } from './set-out-store';

/** Id of the piece in the hand, which is not put yet. */
export const IN_HAND = 'in-hand';

/** What moves before it is let go: placements that are dragged, or a piece from the strip that is about to be put. */
@Injectable()
export class SetOutDrag {
  private readonly store = inject(SetOutStore);
  private readonly selection = inject(SetOutSelection);
  private readonly acts = inject(SetOutActs);
  private readonly shift$ = new BehaviorSubject<{ moved: readonly Placed[]; by: Vec3 } | null>(null);
  private readonly hand$ = new BehaviorSubject<Placed | null>(null);
  private readonly word$ = new BehaviorSubject('');
  /** placements where they are dragged to; null while nothing is */
  readonly dragged$ = this.shift$.asObservable();
  /** the piece in the hand; null when it is empty */
  readonly inHand$ = this.hand$.asObservable();
  /** what is caught: "vertex of Coping 01 2", "grid 0.5 m" */
  readonly caught$ = this.word$.asObservable();
  private from: Placed[] = [];

  get inHand(): Placed | null {
    return this.hand$.value;
  }

  /** What moves, where it was. */
  get moving(): readonly Placed[] {
    return this.from;
  }

  /** @param first id of what the pointer took: its pivot catches */
  begin(first?: string): void {
    const { moving } = this.selection;
    moving.sort((a, b) => Number(b.id === first) - Number(a.id === first));
    this.from = placedPieces({ placements: moving }, this.store.documents());
  }

  move(by: Vec3, caught: string): void {
    const moved = placedPieces(
      {
        placements: shiftedBy(
          this.from.map(({ placement }) => placement),
          by,
        ),
      },
      this.store.documents(),
    );
    this.shift$.next({ moved, by });
    this.say(caught);
  }

  drop(): void {
    const by = this.shift$.value?.by;
    this.end();
    if (by) this.acts.shift(by);
  }

  cancel(): boolean {
    const was = this.from.length > 0;
    this.end();
    return was;
  }

  /** A piece from the strip, to be put by the next click. */
  async take(piece: number): Promise<void> {
    const source = { piece, version: null };
    await this.store.fetch(source);
    this.hold({
      id: IN_HAND,
      ...source,
      ...placedAt([0, 0, 0]),
      group: null,
      locked: false,
      materials: {},
    });
  }

  hover(at: Vec3, caught: string): void {
    const held = this.inHand;
    if (!held) return;
    this.hold({ ...held.placement, position: at });
    this.say(caught);
  }

  /** A quarter turn of what is in the hand. */
  turnInHand(): boolean {
    const held = this.inHand;
    if (!held) return false;
    const [turned] = placementsTurned([held.placement], held.placement.position, 90, 1);
    this.hold(turned!);
    return true;
  }

  /** Put what is in the hand; it stays there for the next one when more are wanted. */
  put({ more = false } = {}): void {
    const held = this.inHand;
    if (!held) return;
    const { placement } = held;
    this.acts.place({ piece: placement.piece, version: placement.version }, placement.position, placement);
    if (!more) this.letGo();
  }

  /** True when there was something in the hand. */
  letGo(): boolean {
    const was = this.inHand !== null;
    if (was) this.hand$.next(null);
    this.say('');
    return was;
  }

  private hold(placement: Placement): void {
    const [placed] = placedPieces({ placements: [placement] }, this.store.documents());
    this.hand$.next(placed ?? null);
  }

  private end(): void {
    this.from = [];
    if (this.shift$.value) this.shift$.next(null);
    this.say('');
  }

  private say(word: string): void {
    if (word !== this.word$.value) this.word$.next(word);
  }
}
