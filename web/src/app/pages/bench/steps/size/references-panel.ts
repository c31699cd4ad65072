import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { lengthText } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { ShelfStore } from '../../../../state/shelf-store';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { DOOR_METRES } from '../../../../viewport/layers/references-layer';

/** Known things, and another piece, beside this one. */
@Component({
  selector: 'yb-references-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice],
  template: `
    <section class="panel">
      <h3>References beside it</h3>
      <div class="row">
        @for (reference of references(); track reference.id) {
          <yb-check [checked]="stands(reference.id)" (changed)="view.toggleReference(reference.id)"
            >{{ reference.name }} <span class="figures faded">{{ reference.height }}</span></yb-check
          >
        }
      </div>
      @if (others().length > 1) {
        <div class="row">
          <span>Another piece, at its place</span>
          <yb-choice
            class="grow"
            label="Piece to show beside"
            [options]="others()"
            [value]="beside()"
            (chosen)="bench.showBeside($event)"
          />
        </div>
      }
    </section>
  `,
})
export class ReferencesPanel {
  protected readonly bench = inject(BenchStore);
  protected readonly view = inject(ViewSettingsStore);
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly piece = toSignal(this.bench.piece$);
  private readonly yard = toSignal(inject(ShelfStore).yard$, { initialValue: null });
  protected readonly beside = toSignal(this.bench.beside$, { requireSync: true });
  protected readonly references = computed(() => [
    ...(this.piece()?.yard.rules.agents ?? []).map(({ id, name, height }) => ({
      id,
      name,
      height: lengthText(height),
    })),
    { id: 'door', name: 'door', height: lengthText(DOOR_METRES.height) },
    { id: 'cube', name: 'cube', height: lengthText(1) },
  ]);
  protected readonly others = computed((): Option<number | null>[] => [
    { label: 'none', value: null },
    ...(this.yard()?.shelf ?? [])
      .filter(({ id }) => id !== this.piece()?.id)
      .map(({ id, name }) => ({ label: name, value: id })),
  ]);

  protected stands = (id: string): boolean => this.settings().references.includes(id);
}
