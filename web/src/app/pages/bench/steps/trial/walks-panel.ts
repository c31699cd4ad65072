import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { agentFor, type Agent, counted, countText, lengthText } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { HandWalkStore } from '../../../../state/hand-walk';
import { ShapeEditor } from '../../../../state/shape-editor';
import { TrialStore } from '../../../../state/trial-store';
import { ViewMarks } from '../../../../state/view-marks';
import { Choice } from '../../../../ui/choice';
import { type Fact, FactTable } from '../../../../ui/fact-table';
import { linesOf, openingText, type TrialLine } from '../../../../ui/trial-texts';

/** Lines that are shown at first. */
const FIRST_LINES = 8;

/** A walk that is made again goes straight on, farther than any piece. */
const FAR_METRES = 200;

/** Agents that walk by themselves: who, and what came of it. */
@Component({
  selector: 'yb-walks-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, FactTable],
  template: `
    <section class="panel" data-testid="walks">
      <h3>Walked from all sides</h3>
      <div class="row">
        <yb-choice label="Who walks" [options]="agents()" [value]="agent()" (chosen)="chosen.set($event)" />
        <button
          type="button"
          class="act"
          [disabled]="working() || !shapes()"
          (click)="walk()"
          data-testid="walk-all"
        >
          Send {{ agent()?.name }} from all sides
        </button>
        <button
          type="button"
          class="act"
          [disabled]="!shapes()"
          (click)="hand.begin(agent()!)"
          data-testid="walk-by-hand"
        >
          Walk by hand
        </button>
      </div>
      @if (kept(); as kept) {
        <yb-facts [facts]="facts()" />
        @if (!kept.current) {
          <p class="faded">The shapes, the art or the agent have changed since; send it again.</p>
        }
        @if (kept.walk.openings.length) {
          <ul class="list" aria-label="Openings">
            @for (opening of kept.walk.openings; track $index) {
              <li>
                <button type="button" class="quiet-button grow" (click)="marks.goTo(opening.at)">
                  {{ opening.passes ? '✓' : '✕' }} {{ opening.name }}
                </button>
                <span class="figures">{{ openingText(opening) }}</span>
              </li>
            }
          </ul>
        }
        @if (lines().length) {
          <ol class="list" aria-label="Places">
            @for (line of shownLines(); track line.id) {
              <li [attr.data-line]="line.id">
                <span class="flag figures">{{ $index + 1 }}</span>
                <button type="button" class="quiet-button grow" (click)="go(line)">{{ line.says }}</button>
                <span class="figures">{{ line.much }}</span>
                <span class="shape">{{ number(line.shape) }}</span>
                @if (line.from) {
                  <button
                    type="button"
                    class="quiet-button"
                    title="Walk there from where it came"
                    (click)="replay(line)"
                  >
                    walk
                  </button>
                }
              </li>
            }
          </ol>
          @if (lines().length > first && !all()) {
            <button type="button" class="quiet-button" (click)="all.set(true)">
              Show all {{ count(lines().length) }} places
            </button>
          }
        } @else {
          <p>Nothing stops the {{ kept.agent.name }} that the art does not.</p>
        }
      } @else if (!shapes()) {
        <p class="faded">There are no shapes yet: nothing would stop anybody. Make some in step 5 first.</p>
      }
    </section>
  `,
  styles: `
    yb-choice {
      width: 118px;
    }
    .grow {
      flex: 1;
      justify-content: flex-start;
      text-align: left;
    }
    .shape {
      min-width: 52px;
      color: var(--faded);
    }
    .list .quiet-button {
      padding: 0;
    }
    .flag {
      min-width: 20px;
      padding: 0 4px;
      text-align: center;
      color: var(--card);
      background: var(--ink);
    }
  `,
})
export class WalksPanel {
  private readonly bench = inject(BenchStore);
  private readonly trials = inject(TrialStore);
  private readonly editor = inject(ShapeEditor);
  protected readonly hand = inject(HandWalkStore);
  protected readonly marks = inject(ViewMarks);
  protected readonly openingText = openingText;
  protected readonly count = countText;
  protected readonly first = FIRST_LINES;
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly walks = toSignal(this.trials.walks$, { initialValue: [] });
  protected readonly working = toSignal(this.trials.working$, { requireSync: true });
  protected readonly chosen = signal<Agent | null>(null);
  protected readonly all = signal(false);
  protected readonly shapes = computed(() => this.document()?.proxies.length ?? 0);
  protected readonly agents = computed(() =>
    (this.piece()?.yard.rules.agents ?? []).map((value) => ({ label: value.name, value })),
  );
  protected readonly agent = computed(() => {
    const [document, piece] = [this.document(), this.piece()];
    const agents = piece?.yard.rules.agents ?? [];
    const judged = document && piece && agentFor(document, piece.yard.rules);
    return agents.find(({ id }) => id === this.chosen()?.id) ?? judged ?? agents[0] ?? null;
  });
  protected readonly kept = computed(
    () => this.walks().find(({ agent }) => agent.id === this.agent()?.id) ?? null,
  );
  protected readonly lines = computed(() => (this.kept() ? linesOf(this.kept()!.walk) : []));
  protected readonly shownLines = computed(() => this.lines().slice(0, this.all() ? undefined : FIRST_LINES));
  private readonly numbers = computed(
    () => new Map((this.document()?.proxies ?? []).map(({ id }, i) => [id, i + 1])),
  );
  protected readonly facts = computed((): Fact[] => {
    const walk = this.kept()?.walk;
    if (!walk) return [];
    const [gap] = walk.contacts;
    const lost = walk.routes.filter(({ found }) => !found).length;
    return [
      { name: 'runs', text: countText(walk.runs) },
      { name: 'falls through', text: countText(walk.fallCount), bad: walk.fallCount > 0 },
      { name: 'gets stuck', text: countText(walk.stuck.length), bad: walk.stuck.length > 0 },
      { name: 'stopped by air', text: countText(walk.blockedCount), bad: walk.blockedCount > 0 },
      { name: 'shaken', text: countText(walk.jolts.length), bad: walk.jolts.length > 0 },
      {
        name: 'routes found',
        text: `${countText(walk.routes.length - lost)} of ${countText(walk.routes.length)}`,
        bad: lost > 0,
      },
      {
        name: 'gaps at contacts',
        text: gap
          ? `${counted(walk.contactCount, 'place')}, up to ${lengthText(gap.metres)}`
          : 'none that is felt',
      },
    ];
  });

  constructor() {
    effect(() => this.trials.showFlags(this.shownLines().map(({ id, at }) => ({ id, at: [...at] }))));
    inject(DestroyRef).onDestroy(() => this.trials.showFlags([]));
  }

  protected walk(): void {
    const agent = this.agent();
    this.all.set(false);
    if (agent) void this.trials.walk([agent]);
  }

  protected number(shape: string | null): string {
    const number = shape === null ? undefined : this.numbers().get(shape);
    return number === undefined ? '' : `shape ${number}`;
  }

  /** The place, and the shape that is to blame for it. */
  protected go({ at, shape }: TrialLine): void {
    this.marks.goTo([...at]);
    this.editor.choose(shape, { more: false });
  }

  protected async replay({ from }: TrialLine): Promise<void> {
    const agent = this.agent();
    if (!from || !agent) return;
    await this.hand.begin(agent);
    await this.hand.startAt(from.at);
    await this.hand.goStraight([
      from.at[0] + from.way[0] * FAR_METRES,
      from.at[1],
      from.at[2] + from.way[1] * FAR_METRES,
    ]);
  }
}
