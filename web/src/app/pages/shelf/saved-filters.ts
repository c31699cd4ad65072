import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import * as z from 'zod';
import { Choice, type Option } from '../../ui/choice';
import { ALL_PIECES, type ShelfFilter, shelfFilterSchema } from './shelf-filter';

const KEY = 'yard-brace.shelf-filters';
const savedSchema = z.array(z.object({ name: z.string().min(1).max(60), filter: shelfFilterSchema })).max(40);
type Saved = z.infer<typeof savedSchema>;

/** What is kept in this browser; what cannot be read is as good as nothing. */
function saved(): Saved {
  try {
    return savedSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? '[]'));
  } catch {
    return [];
  }
}

/** Filters of a shelf under names of one's own, kept in this browser. */
@Component({
  selector: 'yb-saved-filters',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    @if (list().length) {
      <yb-choice
        label="Saved filters"
        placeholder="Saved filters"
        [options]="options()"
        [value]="current()"
        (chosen)="take($event)"
      />
    }
    @if (current(); as name) {
      <button type="button" class="quiet-button" (click)="forget(name)">Forget filter</button>
    } @else if (filters()) {
      <button type="button" class="quiet-button" (click)="keep()">Save filter</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 8px;
    }
  `,
})
export class SavedFilters {
  readonly filter = input.required<ShelfFilter>();
  readonly chosen = output<ShelfFilter>();
  protected readonly list = signal(saved());
  protected readonly options = computed((): Option<string>[] =>
    this.list().map(({ name }) => ({ label: name, value: name })),
  );
  private readonly asText = computed(() => JSON.stringify(shelfFilterSchema.parse(this.filter())));
  /** name of the one that is shown */
  protected readonly current = computed(
    () => this.list().find(({ filter }) => JSON.stringify(filter) === this.asText())?.name ?? null,
  );
  protected readonly filters = computed(
    () => JSON.stringify({ ...this.filter(), order: 'name' }) !== JSON.stringify(ALL_PIECES),
  );

  protected take(name: string): void {
    const found = this.list().find((each) => each.name === name);
    if (found) this.chosen.emit(found.filter);
  }

  protected keep(): void {
    const filter = this.filter();
    this.put([...this.list(), { name: nameOf(filter, this.list()), filter }]);
  }

  protected forget(name: string): void {
    this.put(this.list().filter((each) => each.name !== name));
  }

  private put(list: Saved): void {
    this.list.set(list);
    localStorage.setItem(KEY, JSON.stringify(list));
  }
}

/** A filter is called by what it asks for. */
function nameOf({ name, step, stamp, left, apartMetres }: ShelfFilter, taken: Saved): string {
  const words = [
    name.trim() && `“${name.trim()}”`,
    stamp && (step ? `${stamp} in ${step}` : stamp),
    left,
    apartMetres && `over ${apartMetres} m`,
  ].filter(Boolean);
  const called = words.join(', ').slice(0, 56);
  const others = taken.filter((each) => each.name.startsWith(called)).length;
  return others ? `${called} ${others + 1}` : called;
}
