import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  changePivot,
  type EditOf,
  type Pivot,
  pivotOf,
  type PivotAnchor,
  placePivot,
  type Vec3,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { ViewMarks } from '../../../../state/view-marks';

/** Whose pivot the step works on, and the changes of it: shared by the panels of the step. */
@Injectable()
export class WhosePivot {
  private readonly bench = inject(BenchStore);
  private readonly marks = inject(ViewMarks);
  readonly document = toSignal(this.bench.document$, { requireSync: true });
  private readonly piece = toSignal(this.bench.piece$, { requireSync: true });
  private readonly taken = signal<{ piece: number | undefined; part: string | null }>({
    piece: undefined,
    part: null,
  });
  /** id of a part; null for the piece, which it is again when the part is gone or another piece has come */
  readonly part = computed(() => {
    const { piece, part } = this.taken();
    const here = piece === this.piece()?.id && this.document().nodes.some(({ id }) => id === part);
    return here ? part : null;
  });
  readonly pivot = computed((): Pivot => pivotOf(this.document(), this.part()));
  readonly locked = computed(() => this.pivot().locked);

  constructor() {
    // A swing that was tried on the last one ends.
    effect(() => {
      this.part();
      untracked(() => this.marks.swing(null));
    });
  }

  turnTo(part: string | null): void {
    this.taken.set({ piece: this.piece()?.id, part });
  }

  change(change: Partial<Pivot>, act?: EditOf<'set-pivots'>['act']): void {
    this.bench.apply(changePivot(this.bench.document, this.part(), change, act));
  }

  place(anchor: PivotAnchor, position: Vec3, more: Partial<Pivot> = {}): void {
    this.bench.apply(placePivot(this.bench.document, this.part(), anchor, position, more));
  }
}
