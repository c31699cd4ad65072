import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { PieceSummary } from '@yard-brace/contract';
import { countText, sourceKey } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { SetOutActs } from '../../state/set-out-acts';
import { SetOutPieces } from '../../state/set-out-pieces';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { Check } from '../../ui/check';
import { Choice, type Option } from '../../ui/choice';
import { Disclosure } from '../../ui/disclosure';
import { momentText } from '../../ui/moment';

type Wanted = { piece: number; version: number | null };

/** Another piece or another version in the place of what is chosen, and materials of its own. */
@Component({
  selector: 'yb-swap-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice, Disclosure, InputText],
  template: `
    @if (first(); as first) {
      <section class="panel" data-testid="swap-panel">
        <h3>Swap in place</h3>
        <div class="row">
          <yb-choice
            class="grow"
            label="Swap for"
            placeholder="another piece or version"
            [options]="wanted()"
            [value]="null"
            (chosen)="others.swap($event, all)"
          />
        </div>
        <yb-check [checked]="all" (changed)="all = $event"
          >all {{ count(same()) }} of this piece at once</yb-check
        >
        @if (slots().length) {
          <yb-disclosure label="Materials here" [more]="overridden()">
            @for (slot of slots(); track slot.name) {
              <label
                ><span class="grow slot">{{ slot.name }}</span>
                <input
                  pInputText
                  pSize="small"
                  type="text"
                  class="override"
                  [attr.aria-label]="'Material for ' + slot.name"
                  [placeholder]="slot.name"
                  [value]="slot.override"
                  #field
                  (change)="acts.setMaterial(slot.name, field.value)"
              /></label>
            }
          </yb-disclosure>
        }
      </section>
    }
  `,
  styles: `
    .slot {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .override {
      width: 170px;
    }
  `,
})
export class SwapPanel {
  readonly pieces = input<readonly PieceSummary[]>([]);
  protected readonly acts = inject(SetOutActs);
  protected readonly others = inject(SetOutPieces);
  private readonly store = inject(SetOutStore);
  private readonly chosen = toSignal(inject(SetOutSelection).chosen$, { initialValue: [] });
  private readonly sources = toSignal(this.store.sources$, { requireSync: true });
  private readonly setOut = toSignal(this.store.setOut$, { initialValue: null });
  protected readonly count = countText;
  protected all = false;
  protected readonly first = computed(() => this.chosen()[0] ?? null);
  private readonly source = computed(() => {
    const first = this.first();
    return first ? (this.sources().get(sourceKey(first)) ?? null) : null;
  });
  protected readonly same = computed(() => {
    const first = this.first();
    return first
      ? (this.setOut()?.placements ?? []).filter((each) => sourceKey(each) === sourceKey(first)).length
      : 0;
  });
  protected readonly slots = computed(() => {
    const first = this.first();
    return (this.source()?.document.materials ?? []).map(({ name }) => ({
      name,
      override: first?.materials[name] ?? '',
    }));
  });
  protected readonly overridden = computed(() => {
    const own = this.slots().filter(({ override }) => override).length;
    return own ? `${own} of ${this.slots().length} are others` : 'as in the piece';
  });
  /** versions that left before, then the family, then the rest of the yard */
  protected readonly wanted = computed((): Option<Wanted>[] => {
    const first = this.first();
    const source = this.source();
    if (!first) return [];
    const versions = new Map(
      (source?.piece.lastDeliveries ?? []).map(({ version, at }) => [
        version,
        `${source!.document.name}, as it left ${momentText(at)}`,
      ]),
    );
    const own: Option<Wanted>[] = [...versions]
      .filter(([version]) => version !== first.version)
      .map(([version, label]) => ({ label, value: { piece: first.piece, version } }));
    if (first.version !== null)
      own.unshift({
        label: `${source?.document.name ?? 'this piece'}, as it is now`,
        value: { piece: first.piece, version: null },
      });
    const family = source?.document.family ?? null;
    const others = this.pieces()
      .filter(({ id, broken }) => id !== first.piece && broken === null)
      .map(({ id, name, family: theirs }) => ({
        related: family !== null && theirs === family,
        option: { label: name, value: { piece: id, version: null } },
      }));
    const related = others
      .filter(({ related }) => related)
      .map(({ option }) => ({ ...option, label: `${option.label} (same family)` }));
    return [...own, ...related, ...others.filter(({ related }) => !related).map(({ option }) => option)];
  });
}
