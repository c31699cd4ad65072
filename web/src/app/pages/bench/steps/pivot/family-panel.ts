import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import {
  artBounds,
  currentDocument,
  diagonalOf,
  eldestOf,
  type FamilyBy,
  joinFamily,
  lengthText,
  type MatchingShift,
  pivotLike,
} from '@yard-brace/core';
import { AutoComplete } from 'primeng/autocomplete';
import { Api } from '../../../../api/api';
import { Notices } from '../../../../state/notices';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { BenchStore } from '../../../../state/bench-store';
import { Proposals } from '../../../../state/proposals';
import { ShelfStore } from '../../../../state/shelf-store';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { Segments } from '../../../../ui/segments';
import { WhosePivot } from './whose-pivot';

/** A pivot this near to a piece, in diagonals of it, can be meant. */
const NEAR_SHARE = 0.25;
/** Less than this of the corners the same is chance. */
const LEAST_MATCH_SHARE = 0.4;

interface Joining {
  family: string;
  shift: MatchingShift | null;
  by: FamilyBy;
}

/** Variants that replace each other share a pivot; or another piece's pivot is copied once. */
@Component({
  selector: 'yb-family-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, AutoComplete, Check, Choice, Segments],
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
      @if (joining(); as joining) {
        <div class="row">
          <span>in common</span>
          <yb-segments
            label="What the family has in common"
            [options]="commons()"
            [value]="joining.by.by"
            (chosen)="by($event)"
          />
        </div>
      }
      @if (members().length) {
        <p class="faded">With {{ members().join(', ') }}.</p>
        <yb-check [checked]="laidOver()" (changed)="bench.layOver($event ? memberIds() : [])"
          >lay them over it, by their pivots</yb-check
        >
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
  protected readonly bench = inject(BenchStore);
  private readonly api = inject(Api);
  private readonly operations = inject(Operations);
  private readonly picking = inject(Picking);
  private readonly notices = inject(Notices);
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
  /** the family that is about to be joined, and by what */
  protected readonly joining = linkedSignal<string, Joining | null>({
    source: this.family,
    computation: () => null,
  });
  protected readonly commons = computed((): Option<FamilyBy['by']>[] => [
    ...(this.joining()?.shift
      ? [{ label: `art, ${Math.round(this.joining()!.shift!.share * 100)} %`, value: 'art' as const }]
      : []),
    { label: 'modelling origin', value: 'origin' },
    { label: 'a place …', value: 'place' },
    { label: 'bounds', value: 'bounds' },
  ]);
  private readonly over = toSignal(this.bench.beside$, { requireSync: true });
  private readonly overlaid = toSignal(this.bench.laidOver$, { requireSync: true });
  protected readonly laidOver = computed(() => this.overlaid() && this.over().length > 0);
  protected readonly memberIds = computed(() =>
    this.kin().flatMap(({ id, family }) => (family === this.family() ? [id] : [])),
  );
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

  /** Joining takes the family's pivot over, with the difference said first: by art that is the same where there is such. */
  protected async join(name: string | null): Promise<void> {
    // A field that was emptied holds null.
    const family = name?.trim() ?? '';
    if (family === this.family() || family === this.joining()?.family) return;
    const eldest = eldestOf(this.kin(), family);
    if (!family || !eldest) {
      this.joining.set(null);
      this.bench.apply(joinFamily(this.bench.document, family || null, this.kin()).edit);
      return;
    }
    const shift = eldest.feature ? await this.matched(eldest.id) : null;
    const by: FamilyBy = shift ? { by: 'art', shift: shift.shift } : this.nearest(family);
    this.joining.set({ family, shift, by });
    this.propose();
  }

  /** The same family, by something else that its pieces have in common. */
  protected async by(kind: FamilyBy['by'] | null): Promise<void> {
    const joining = this.joining();
    if (!joining || !kind) return;
    if (kind === 'place') {
      const picked = await this.picking.ask('Pick where this piece has what the family has at its pivot.');
      if (!picked) return;
      this.joining.set({ ...joining, by: { by: 'place', at: picked.at } });
    } else if (kind === 'art') {
      if (joining.shift) this.joining.set({ ...joining, by: { by: 'art', shift: joining.shift.shift } });
    } else this.joining.set({ ...joining, by: { by: kind } });
    this.propose();
  }

  /** Pieces that came out of one file were not modelled about one origin: it would lie far off all but one of them. */
  private nearest(family: string): FamilyBy {
    const { edit } = joinFamily(this.bench.document, family, this.kin(), { by: 'origin' });
    if (!edit.pivot) return { by: 'origin' };
    const bounds = artBounds(this.bench.document);
    const near = edit.pivot.position.every(
      (v, k) =>
        v >= bounds.min[k]! - diagonalOf(bounds) * NEAR_SHARE &&
        v <= bounds.max[k]! + diagonalOf(bounds) * NEAR_SHARE,
    );
    return { by: near && edit.feature ? 'origin' : 'bounds' };
  }

  private propose(): void {
    const { family, by } = this.joining()!;
    const { edit, eldest, metres, degrees } = joinFamily(this.bench.document, family, this.kin(), by);
    const turned = degrees > 0.01 ? ` and turns it by ${degrees.toFixed(1)}°` : '';
    this.proposals.propose({
      source: 'pivot',
      title: this.whose.document().pivot.locked
        ? `It joins “${family}”; its pivot is locked and stays where it is.`
        : `Joining “${family}” moves the pivot by ${lengthText(metres)}${turned}, to where ${eldest!.name} has it.`,
      keepLabel: 'Join the family',
      edit,
    });
  }

  /** From the eldest's art to the same art of this piece, where enough of it is the same. */
  private async matched(eldest: number): Promise<MatchingShift | null> {
    try {
      const other = currentDocument((await this.api.piece(eldest)).history);
      const found = await this.operations.familyMatch(other);
      return found && found.share >= LEAST_MATCH_SHARE ? found : null;
    } catch (error) {
      this.notices.error(error);
      return null;
    }
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
