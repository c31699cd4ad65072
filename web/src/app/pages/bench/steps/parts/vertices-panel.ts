import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { Operation } from '@yard-brace/core';
import { Operations } from '../../../../state/operations';
import { NumberField } from '../../../../ui/number-field';
import { chosenParts } from './chosen-parts';

const DEFAULT_HARD_DEGREES = 30;

/** Normals, and whether vertices that are alike are one. */
@Component({
  selector: 'yb-vertices-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NumberField],
  template: `
    <section class="panel">
      <h3>Normals and vertices of {{ chosen.words() }}</h3>
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'normals', parts: chosen.ids(), degrees: hardDegrees() })"
        >
          Recompute normals
        </button>
        <span class="labelled"
          >hard above
          <yb-number
            [value]="hardDegrees()"
            (changed)="hardDegrees.set($event)"
            unit="°"
            label="Hard edges above"
            [min]="0"
            [max]="180"
            [digits]="1"
            [width]="58"
        /></span>
      </div>
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'vertices', parts: chosen.ids(), to: 'share' })"
          title="Vertices that are the same in everything become one"
        >
          Merge vertices
        </button>
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'vertices', parts: chosen.ids(), to: 'separate' })"
          title="Every face gets vertices of its own"
        >
          Split vertices
        </button>
      </div>
    </section>
  `,
})
export class VerticesPanel {
  private readonly operations = inject(Operations);
  protected readonly chosen = chosenParts();
  protected readonly hardDegrees = signal(DEFAULT_HARD_DEGREES);

  protected propose(operation: Operation): void {
    void this.operations.propose(operation);
  }
}
