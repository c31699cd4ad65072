import { ChangeDetectionStrategy, Component, effect, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Operation } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Check } from '../../../../ui/check';
import { NumberField } from '../../../../ui/number-field';
import { chosenParts } from './chosen-parts';
import { weldCountText } from './weld-count';

const DEFAULT_WELD_MM = 0.2;

/** Welding, filling, orienting and cleaning of the chosen parts, or of all. */
@Component({
  selector: 'yb-mend-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, NumberField],
  template: `
    <section class="panel">
      <h3>Repair {{ chosen.words() }}</h3>
      <div class="row">
        <button type="button" class="act" (click)="propose(weld())" data-testid="weld">Weld</button>
        <yb-number
          [value]="weldMm()"
          (changed)="tryWeld($event)"
          unit="mm"
          label="Weld distance"
          [min]="0.0001"
          [digits]="4"
          [width]="84"
        />
        <span class="faded figures" role="status">{{ weldCount() }}</span>
      </div>
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'fill-holes', parts: chosen.ids(), bores: bores() })"
        >
          Fill holes
        </button>
        <yb-check [checked]="bores()" (changed)="bores.set($event)">bores stay open</yb-check>
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'join-borders', parts: chosen.ids() })"
          title="Two open borders are joined by a band of faces"
        >
          Join borders
        </button>
      </div>
      <div class="row">
        <button type="button" class="act" (click)="propose({ op: 'face-outward', parts: chosen.ids() })">
          Orient outward
        </button>
        <button type="button" class="act" (click)="propose({ op: 'flip', parts: chosen.ids() })">
          Flip all
        </button>
        <button type="button" class="act" (click)="clean()">Clean</button>
      </div>
    </section>
  `,
})
export class MendPanel {
  private readonly operations = inject(Operations);
  private readonly bench = inject(BenchStore);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  protected readonly chosen = chosenParts();
  /** as the yard's rules have it, until another one is typed */
  protected readonly weldMm = linkedSignal(() => {
    const metres = this.piece()?.yard.rules.weldMetres;
    return metres === undefined ? DEFAULT_WELD_MM : Number((metres * 1000).toPrecision(6));
  });
  protected readonly weldCount = signal('');
  protected readonly bores = signal(true);

  constructor() {
    // A count is of the piece as it was.
    effect(() => {
      this.document();
      this.weldCount.set('');
    });
  }

  protected weld = (): Operation => ({
    op: 'weld',
    parts: this.chosen.ids(),
    metres: this.weldMm() / 1000,
  });

  /** The count follows the distance: a larger one can be tried before anything is proposed. */
  protected async tryWeld(mm: number): Promise<void> {
    this.weldMm.set(mm);
    this.weldCount.set('…');
    this.weldCount.set(weldCountText(await this.operations.try(this.weld())));
  }

  protected clean(): void {
    const which = ['doubled', 'hidden', 'zero-area', 'specks', 'unused'] as const;
    this.propose({ op: 'remove-faces', parts: this.chosen.ids(), which: [...which] });
  }

  protected propose(operation: Operation): void {
    void this.operations.propose(operation);
  }
}
