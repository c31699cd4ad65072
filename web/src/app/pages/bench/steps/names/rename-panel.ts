import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, type NamedThing, renameEdit, type RenamedList, renamesBy } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { BenchStore } from '../../../../state/bench-store';
import { Selection } from '../../../../state/selection';
import { Choice, type Option } from '../../../../ui/choice';
import { Disclosure } from '../../../../ui/disclosure';
import { type LongColumn, type LongRow, LongTable } from '../../../../ui/long-table';

const LISTS: Option<RenamedList>[] = [
  { label: 'Parts', value: 'parts' },
  { label: 'Materials', value: 'materials' },
  { label: 'Pictures', value: 'pictures' },
];
const THINGS: Record<RenamedList, { thing: NamedThing; usual: string }> = {
  parts: { thing: 'part', usual: '{subject:pascal}_{part:snake}' },
  materials: { thing: 'material', usual: 'M_{subject:pascal}_{number:2}' },
  pictures: { thing: 'picture', usual: 'T_{subject:pascal}_{number:2}' },
};

const COLUMNS: readonly LongColumn[] = [
  { field: 'from', label: 'Now' },
  { field: 'to', label: 'Then' },
  { field: 'says', label: '', width: '22%' },
];

/** Names by a pattern, old and new side by side, before they are taken over in one step. */
@Component({
  selector: 'yb-rename-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Choice, Disclosure, InputText, LongTable],
  template: `
    @if (document()) {
      <section class="panel">
        <yb-disclosure #more more="Rename by a pattern">
          @if (more.open()) {
            <div class="row">
              @if (!only()) {
                <yb-choice
                  label="What is renamed"
                  [options]="lists"
                  [value]="list()"
                  (chosen)="list.set($event!)"
                />
              }
              <input
                pInputText
                pSize="small"
                class="figures grow"
                aria-label="Pattern"
                [value]="pattern()"
                (input)="pattern.set(field.value)"
                #field
              />
            </div>
            @if (made().fault; as fault) {
              <p class="stop" role="alert">{{ fault }}</p>
            } @else {
              <p class="faded">{{ who() }}</p>
              <yb-long-table [columns]="columns" [rows]="rows()" data-testid="renames" />
              <p-button [label]="label()" size="small" [disabled]="edit() === null" (onClick)="apply()" />
            }
          }
        </yb-disclosure>
      </section>
    }
  `,
  styles: `
    .row {
      display: flex;
      gap: 6px;
      margin: 6px 0;
    }
    .grow {
      flex: 1;
      min-width: 0;
    }
    .stop {
      padding: 2px 8px;
      border-left: 4px solid var(--vermilion);
    }
  `,
})
export class RenamePanel {
  private readonly bench = inject(BenchStore);
  protected readonly document = toSignal(this.bench.document$);
  private readonly chosen = toSignal(inject(Selection).parts$, { initialValue: new Set<string>() });
  protected readonly lists = LISTS;
  /** the one list that can be renamed here; null for all */
  readonly only = input<RenamedList | null>(null);
  protected readonly list = linkedSignal<RenamedList>(() => this.only() ?? 'parts');
  /** the yard's own pattern, or one to begin with */
  protected readonly pattern = linkedSignal(() => {
    const { thing, usual } = THINGS[this.list()];
    return this.bench.rules.names[thing] ?? usual;
  });
  protected readonly made = computed(() =>
    renamesBy(this.document()!, {
      list: this.list(),
      pattern: this.pattern(),
      parts: this.chosen(),
      fields: this.bench.rules.nameFields,
    }),
  );
  protected readonly columns = COLUMNS;
  protected readonly rows = computed(() =>
    this.made().renames.map(({ of, from, to, says }): LongRow => ({
      id: String(of),
      cells: { from, to, says: says ?? (from === to ? 'stays' : '') },
      bad: says !== null,
    })),
  );
  protected readonly edit = computed(() => {
    const { renames } = this.made();
    if (renames.some(({ says }) => says !== null)) return null;
    const some = this.list() === 'parts' && this.chosen().size > 0;
    return renameEdit(this.list(), renames, some ? null : this.pattern());
  });
  protected readonly who = computed(() => {
    const chosen = this.list() === 'parts' && this.chosen().size > 0;
    return chosen
      ? `The ${counted(this.made().renames.length, 'chosen part')}, in their order:`
      : 'All of them, in their order:';
  });
  protected readonly label = computed(() => {
    const changed = this.made().renames.filter(({ from, to }) => from !== to).length;
    return `Rename ${counted(changed, this.list().slice(0, -1))}`;
  });

  protected apply(): void {
    const edit = this.edit();
    if (edit) this.bench.apply(edit);
  }
}
