import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { agentFor, type Agent } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { HandWalkStore } from '../../../../state/hand-walk';
import { ShapeEditor } from '../../../../state/shape-editor';
import { TrialStore } from '../../../../state/trial-store';
import { ViewMarks } from '../../../../state/view-marks';
import { Choice } from '../../../../ui/choice';
import { TrialPlaces } from '../../../../ui/trial-places';
import { contactLines, type TrialLine } from '../../../../ui/trial-texts';
import { WalkReport } from '../../../../ui/walk-report';

/** Agents that walk by themselves: who, and what came of it. */
@Component({
  selector: 'yb-walks-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, TrialPlaces, WalkReport],
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
        <yb-walk-report
          [walk]="kept.walk"
          [who]="kept.agent.name"
          [shapeName]="shapeName"
          (go)="go($event)"
          (replay)="replay($event)"
          (look)="marks.goTo($event)"
        >
          @if (!kept.current) {
            <p class="faded">The shapes, the art or the agent have changed since; send it again.</p>
          }
        </yb-walk-report>
      } @else if (!shapes()) {
        <p class="faded">There are no shapes yet: nothing would stop anybody. Make some in step 5 first.</p>
      }
      @if (felt().length) {
        <h4>Felt by hand</h4>
        <yb-trial-places
          label="Felt by hand"
          [lines]="felt()"
          [shapeName]="shapeName"
          (go)="go($event)"
          (replay)="replay($event)"
        />
      }
    </section>
  `,
  styles: `
    yb-choice {
      width: 118px;
    }
  `,
})
export class WalksPanel {
  private readonly bench = inject(BenchStore);
  private readonly trials = inject(TrialStore);
  private readonly editor = inject(ShapeEditor);
  protected readonly hand = inject(HandWalkStore);
  protected readonly marks = inject(ViewMarks);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly walks = toSignal(this.trials.walks$, { initialValue: [] });
  protected readonly working = toSignal(this.trials.working$, { requireSync: true });
  protected readonly chosen = signal<Agent | null>(null);
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
  private readonly keptFelt = toSignal(this.trials.felt$);
  private readonly walking = toSignal(this.hand.walking$, { requireSync: true });
  /** while somebody walks by hand what they feel, and then what was kept of it */
  protected readonly felt = computed(() => {
    const contacts = this.walking()?.contacts ?? this.keptFelt()?.get(this.agent()?.id ?? '') ?? [];
    return contactLines(contacts, 'felt');
  });
  private readonly numbers = computed(
    () => new Map((this.document()?.proxies ?? []).map(({ id }, i) => [id, i + 1])),
  );
  protected walk(): void {
    const agent = this.agent();
    if (agent) void this.trials.walk([agent]);
  }

  protected readonly shapeName = (shape: string | null): string => {
    const number = shape === null ? undefined : this.numbers().get(shape);
    return number === undefined ? '' : `shape ${number}`;
  };

  /** The place, and the shape that is to blame for it. */
  protected go({ at, shape }: TrialLine): void {
    this.marks.goTo([...at]);
    this.editor.choose(shape, { more: false });
  }

  protected replay({ from }: TrialLine): void {
    const agent = this.agent();
    if (from && agent) void this.hand.walkAgain(agent, from);
  }
}
