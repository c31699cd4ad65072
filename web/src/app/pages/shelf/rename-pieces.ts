import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import type { PieceSummary } from '@yard-brace/contract';
import { counted, type PieceName, pieceRenamesBy } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { ShelfRenames } from '../../state/shelf-renames';
import { ShelfStore } from '../../state/shelf-store';
import { Choice, type Option } from '../../ui/choice';

const WHICH: Option<PieceName>[] = [
  { label: 'Names', value: 'name' },
  { label: 'Mesh names', value: 'mesh' },
];
const USUAL: Record<PieceName, string> = {
  name: '{subject} {number:2}',
  mesh: '{subject:pascal}_{variant:2}',
};

/** The chosen pieces by a pattern, old and new names side by side, before they are taken over. */
@Component({
  selector: 'yb-rename-pieces',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Choice, InputText],
  template: `
    <div class="row">
      <yb-choice label="Which names" [options]="choices" [value]="which()" (chosen)="which.set($event!)" />
      <input
        #field
        pInputText
        pSize="small"
        class="figures"
        aria-label="Pattern"
        [value]="pattern()"
        (input)="pattern.set(field.value)"
      />
      <p-button [label]="label()" size="small" [disabled]="!ready() || working()" (onClick)="apply()" />
    </div>
    @if (made().fault; as fault) {
      <p class="stop" role="alert">{{ fault }}</p>
    } @else {
      <ul data-testid="piece-renames">
        @for (rename of made().renames; track rename.of) {
          <li [class.same]="rename.from === rename.to">
            <span class="figures faded">{{ rename.from }}</span>
            <span class="figures">{{ rename.to }}</span>
            @if (rename.says) {
              <span class="stop">{{ rename.says }}</span>
            }
          </li>
        }
      </ul>
    }
  `,
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    input {
      flex: 0 1 320px;
      min-width: 120px;
    }
    ul {
      max-height: 180px;
      margin: 6px 0 0;
      padding: 0;
      overflow: auto;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 1fr);
      gap: 2px 12px;
      padding: 2px 0;
      border-bottom: 1px dotted var(--rule);
      overflow-wrap: anywhere;
    }
    .same {
      color: var(--faded);
    }
    .stop {
      padding: 0 8px;
      border-left: 4px solid var(--vermilion);
    }
  `,
})
export class RenamePieces {
  private readonly renames = inject(ShelfRenames);
  private readonly shelf = inject(ShelfStore);
  readonly pieces = input.required<readonly PieceSummary[]>();
  readonly done = output();
  protected readonly choices = WHICH;
  protected readonly which = signal<PieceName>('mesh');
  protected readonly working = signal(false);
  /** the yard's own pattern, or one to begin with */
  protected readonly pattern = linkedSignal(() => {
    const which = this.which();
    return this.shelf.yard?.rules.names[which === 'name' ? 'piece' : 'mesh'] ?? USUAL[which];
  });
  protected readonly made = computed(() => {
    const { rules, shelf = [] } = this.shelf.yard ?? {};
    const chosen = new Set(this.pieces().map(({ id }) => id));
    const which = this.which();
    return pieceRenamesBy(this.pieces(), {
      which,
      pattern: this.pattern(),
      others: shelf
        .filter(({ id }) => !chosen.has(id))
        .map(({ name, meshName }) => (which === 'name' ? name : meshName)),
      fields: rules?.nameFields,
    });
  });
  private readonly changed = computed(() => this.made().renames.filter(({ from, to }) => from !== to).length);
  protected readonly ready = computed(
    () => this.changed() > 0 && this.made().renames.every(({ says }) => says === null),
  );
  protected readonly label = computed(() => `Rename ${counted(this.changed(), 'piece')}`);

  protected async apply(): Promise<void> {
    this.working.set(true);
    await this.renames.rename(this.pieces(), this.which(), this.made().renames);
    this.working.set(false);
    this.done.emit();
  }
}
