import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { joinFamily, lengthText, pivotLike } from '@yard-brace/core';
import { AutoComplete } from 'primeng/autocomplete';
import { BenchStore } from '../../../../state/bench-store';
import { Proposals } from '../../../../state/proposals';
import { ShelfStore } from '../../../../state/shelf-store';
import { Choice } from '../../../../ui/choice';
import { WhosePivot } from './whose-pivot';

/** Variants that replace each other share a pivot; or another piece's pivot is copied once. */
@Component({
  selector: 'yb-family-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, AutoComplete, Choice],
  template: `
    <section class="panel">
      <h3>Family: variants that replace each other share a pivot</h3>
      <p-autocomplete
        size="small"
        [(ngModel)]="typed"
        [suggestions]="suggestions()"
        (completeMethod)="suggest($event.query)"
        (onSelect)="join($event.value)"
        (onBlur)="join(typed())"
        (keydown.enter)="join(typed())"
        [delay]="0"
        [dropdown]="families().length > 0"
        placeholder="none"
        ariaLabel="Family"
        [fluid]="true"
        [showEmptyMessage]="false"
        appendTo="body"
        [pt]="{ overlay: { role: 'region', 'aria-label': 'Families' } }"
        data-testid="family"
      />
      @if (members().length) {
        <p class="faded">With {{ members().join(', ') }}.</p>
      }
      @if (others().length) {
        <div class="row">
          <span>Copy the pivot of</span>
          <yb-choice
            class="grow"
            label="Copy the pivot of a piece"
            [options]="others()"
            [value]="other()"
            placeholder="a piece"
            (chosen)="other.set($event)"
          />
          <button type="button" class="act" [disabled]="other() === null" (click)="copy()">Copy</button>
        </div>
      }
    </section>
  `,
})
export class FamilyPanel {
  private readonly whose = inject(WhosePivot);
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly yard = toSignal(inject(ShelfStore).yard$, { initialValue: null });
  private readonly family = computed(() => this.whose.document().family ?? '');
  protected readonly typed = linkedSignal({
    source: this.family,
    computation: (family): string | null => family,
  });
  protected readonly other = signal<number | null>(null);
  protected readonly suggestions = signal<string[]>([]);
  private readonly kin = computed(() =>
    (this.yard()?.shelf ?? []).filter(({ id }) => id !== this.piece()?.id),
  );
  protected readonly others = computed(() => this.kin().map(({ id, name }) => ({ label: name, value: id })));
  protected readonly families = computed(() => [
    ...new Set(this.kin().flatMap(({ family }) => family ?? [])),
  ]);
  protected readonly members = computed(() =>
    this.family()
      ? this.kin()
          .filter(({ family }) => family === this.family())
          .map(({ name }) => name)
      : [],
  );

  protected suggest(text: string): void {
    const wanted = text.toLowerCase();
    this.suggestions.set(this.families().filter((family) => family.toLowerCase().includes(wanted)));
  }

  /** Joining takes the family's pivot over, with the difference said first. */
  protected join(name: string | null): void {
    // A field that was emptied holds null.
    const family = name?.trim() ?? '';
    if (family === this.family()) return;
    const { edit, eldest, metres } = joinFamily(this.bench.document, family || null, this.kin());
    if (!eldest) {
      this.bench.apply(edit);
      return;
    }
    this.proposals.propose({
      source: 'pivot',
      title: `Joining “${family}” moves the pivot by ${lengthText(metres)}, to where ${eldest.name} has it.`,
      keepLabel: 'Join the family',
      edit,
    });
  }

  protected copy(): void {
    const other = this.kin().find(({ id }) => id === this.other());
    if (!other) return;
    const { edit, metres } = pivotLike(this.bench.document, other);
    this.proposals.propose({
      source: 'pivot',
      title: `The pivot moves by ${lengthText(metres)}, to where ${other.name} has it.`,
      edit,
    });
  }
}
