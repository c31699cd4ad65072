import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  clearanceFound,
  counted,
  type FoundOpening,
  isHatch,
  judgedAgent,
  lengthText,
  passageOf,
  sizeText,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { OpeningsStore } from '../../../../state/openings-store';
import { ViewMarks } from '../../../../state/view-marks';

/** Openings that are found by themselves: each is kept free for those who pass, or may be closed. */
@Component({
  selector: 'yb-found-openings-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" data-testid="found-openings">
      <div class="row">
        <button type="button" class="act" [disabled]="working()" (click)="store.find()">
          Find openings …
        </button>
        @if (forAgent().length; as count) {
          <button type="button" class="act" (click)="store.keepFree(forAgent())">
            Keep {{ count === rows().length ? 'all ' : '' }}{{ count }} free for a {{ agent()?.name }}
          </button>
        }
      </div>
      @if (found()) {
        <ul class="list">
          @for (row of rows(); track $index) {
            <li [attr.data-opening]="$index + 1">
              <span class="grow">
                <button
                  type="button"
                  class="quiet-button figures"
                  title="Go there"
                  (click)="marks.goTo(row.at)"
                >
                  {{ row.size }}
                </button>
                <span class="faded">{{ row.who }}</span>
              </span>
              <button type="button" class="act" (click)="store.keepFree([row.opening])">Keep free</button>
            </li>
          } @empty {
            <li class="faded">{{ none() }}</li>
          }
        </ul>
      }
    </section>
  `,
  styles: `
    li {
      gap: 8px;
      padding: 2px 4px;
    }
    .grow {
      display: grid;
      justify-items: start;
    }
  `,
})
export class FoundOpeningsPanel {
  protected readonly store = inject(OpeningsStore);
  protected readonly marks = inject(ViewMarks);
  private readonly bench = inject(BenchStore);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly document = toSignal(this.bench.document$);
  protected readonly working = toSignal(this.store.working$, { requireSync: true });
  protected readonly found = toSignal(this.store.found$, { initialValue: null });
  private readonly margin = computed(() => this.piece()?.yard.rules.openings.marginMetres ?? 0);
  private readonly agents = computed(() => this.piece()?.yard.rules.agents ?? []);
  protected readonly agent = computed(() => {
    const document = this.document();
    return document && judgedAgent(document, this.agents());
  });
  protected readonly rows = computed(() =>
    (this.found() ?? []).map((opening) => {
      const who = this.agents().filter((agent) => passes(opening, agent, this.margin()));
      return {
        opening,
        at: opening.center,
        size: sizeText(opening.halfExtents.map((half) => 2 * half)),
        who: `${isHatch(clearanceFound(opening)) ? 'from above, ' : ''}${lengthText(2 * opening.halfExtents[2])} through; ${who.length ? who.map(({ name }) => name).join(', ') + (who.length === 1 ? ' passes' : ' pass') : 'nobody passes: it may be closed'}`,
      };
    }),
  );
  protected readonly forAgent = computed(() => {
    const agent = this.agent();
    // A hole in a floor is kept free one by one: few climb through it.
    return agent
      ? (this.found() ?? []).filter(
          (opening) => passes(opening, agent, this.margin()) && !isHatch(clearanceFound(opening)),
        )
      : [];
  });
  protected readonly none = computed(() => {
    const kept = this.document()?.clearances.length ?? 0;
    return kept
      ? `No other way through than the ${counted(kept, 'clearance')}.`
      : 'No way goes through this piece.';
  });
}

const passes = (
  opening: FoundOpening,
  agent: Parameters<typeof passageOf>[1],
  marginMetres: number,
): boolean => passageOf(clearanceFound(opening), agent, marginMetres).passes;
