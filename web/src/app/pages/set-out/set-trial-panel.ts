import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Agent, bodyTrialText, countText } from '@yard-brace/core';
import { HandWalkStore } from '../../state/hand-walk';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { SetOutTrial } from '../../state/set-out-trial';
import { Choice, type Option } from '../../ui/choice';
import { type Fact, FactTable } from '../../ui/fact-table';
import { linesOf, openingText, type TrialLine } from '../../ui/trial-texts';

const FIRST_LINES = 20;

type Goer = 'trolley' | 'ball' | 'barrel';
const GOERS: Option<Goer>[] = [
  { label: 'a trolley', value: 'trolley' },
  { label: 'a ball', value: 'ball' },
  { label: 'a barrel', value: 'barrel' },
];
const WAYS: Option<readonly [number, number]>[] = [
  { label: 'along x', value: [1, 0] },
  { label: 'against x', value: [-1, 0] },
  { label: 'along z', value: [0, 1] },
  { label: 'against z', value: [0, -1] },
];
/** A slip trolley, metres. */
const TROLLEY = { track: 0.8, wheelbase: 1.1, wheelRadius: 0.15, clearance: 0.12 };
/** Of a ball and a barrel, metres, and the sides of a barrel. */
const ROLLER_METRES = 0.25;
const BARREL_SIDES = 12;

/** Agents across the whole set: by themselves, and by hand. */
@Component({
  selector: 'yb-set-trial-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, FactTable],
  template: `
    <section class="panel" data-testid="set-trial-panel">
      <h3>Walked across the set</h3>
      <div class="row">
        <yb-choice label="Who walks" [options]="agents()" [value]="agent()" (chosen)="chosen.set($event)" />
        <button
          type="button"
          class="act"
          [disabled]="working() || !any()"
          (click)="walk()"
          data-testid="walk-set"
        >
          Send {{ agent()?.name }} across
        </button>
        <button
          type="button"
          class="act"
          [disabled]="!any()"
          (click)="byHand()"
          data-testid="walk-set-by-hand"
        >
          Walk by hand
        </button>
      </div>
      @if (!any()) {
        <p class="faded">Nothing stands here yet that somebody could walk at.</p>
      } @else {
        <p class="faded">
          Shapes collide as the target has them; the ground is at height 0. Routes and walkable ground are
          asked for while somebody walks by hand.
        </p>
      }
      @if (walked(); as walked) {
        <yb-facts [facts]="facts()" />
        @if (walked.walk.openings.length) {
          <ul class="list" aria-label="Openings">
            @for (opening of walked.walk.openings; track $index) {
              <li>
                <span class="grow">{{ opening.passes ? '✓' : '✕' }} {{ opening.name }}</span>
                <span class="figures">{{ openingText(opening) }}</span>
              </li>
            }
          </ul>
        }
        @if (lines().length) {
          <ol class="list" aria-label="Places">
            @for (line of lines().slice(0, first); track line.id) {
              <li [attr.data-line]="line.id">
                <button type="button" class="quiet-button grow" (click)="go(line)">
                  {{ line.says }} {{ whose(line.shape) }}
                </button>
                <span class="figures">{{ line.much }}</span>
              </li>
            }
          </ol>
          @if (lines().length > first) {
            <p class="faded">and {{ count(lines().length - first) }} more</p>
          }
        } @else {
          <p>Nothing stops the {{ walked.agent.name }} that the art does not.</p>
        }
      }
    </section>
    <section class="panel" data-testid="across-panel">
      <h3>Rolled and driven across</h3>
      <div class="row">
        <yb-choice label="What goes across" [options]="goers" [value]="goer()" (chosen)="goer.set($event)" />
        <yb-choice label="Which way" [options]="ways" [value]="way()" (chosen)="way.set($event)" />
        <button
          type="button"
          class="act"
          [disabled]="working() || !any()"
          (click)="across()"
          data-testid="try-across"
        >
          Try it
        </button>
      </div>
      @if (run(); as run) {
        <p role="status">{{ run.name }}: {{ run.text }}</p>
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
    .list .quiet-button {
      padding: 0;
    }
  `,
})
export class SetTrialPanel {
  private readonly store = inject(SetOutStore);
  private readonly trial = inject(SetOutTrial);
  private readonly hand = inject(HandWalkStore);
  private readonly looks = inject(SetOutLookStore);
  private readonly selection = inject(SetOutSelection);
  private readonly open = toSignal(this.store.open$, { requireSync: true });
  private readonly setOut = toSignal(this.store.setOut$, { initialValue: null });
  private readonly names = toSignal(this.store.names$, { initialValue: new Map<string, string>() });
  private readonly walks = toSignal(this.trial.walks$, { requireSync: true });
  protected readonly working = toSignal(this.trial.working$, { requireSync: true });
  protected readonly chosen = signal<Agent | null>(null);
  protected readonly openingText = openingText;
  protected readonly count = countText;
  protected readonly first = FIRST_LINES;
  protected readonly goers = GOERS;
  protected readonly ways = WAYS;
  protected readonly goer = signal<Goer>('trolley');
  protected readonly way = signal<readonly [number, number]>(WAYS[0]!.value);
  private readonly played = toSignal(this.trial.played$, { requireSync: true });
  protected readonly run = computed(() => {
    const played = this.played();
    return played && bodyTrialText(played.trial, { nodes: [], riddenEdges: [], proxies: [] });
  });
  protected readonly any = computed(() => (this.setOut()?.placements.length ?? 0) > 0);
  protected readonly agents = computed(() =>
    (this.open()?.yard.rules.agents ?? []).map((value) => ({ label: value.name, value })),
  );
  protected readonly agent = computed(() => {
    const agents = this.agents().map(({ value }) => value);
    return (
      agents.find(({ id }) => id === this.chosen()?.id) ?? agents[Math.floor((agents.length - 1) / 2)] ?? null
    );
  });
  protected readonly walked = computed(
    () => this.walks().find(({ agent }) => agent.id === this.agent()?.id) ?? null,
  );
  protected readonly lines = computed(() => (this.walked() ? linesOf(this.walked()!.walk) : []));
  protected readonly facts = computed((): Fact[] => {
    const walk = this.walked()?.walk;
    if (!walk) return [];
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
    ];
  });

  protected across(): void {
    const [x, z] = this.way();
    const way: [number, number] = [x, z];
    const what = this.goer();
    void this.trial.tryAcross(
      what === 'trolley'
        ? { kind: 'drive', ...TROLLEY, way }
        : { kind: 'roll', what, radius: ROLLER_METRES, sides: what === 'ball' ? null : BARREL_SIDES, way },
    );
  }

  protected walk(): void {
    const agent = this.agent();
    if (agent) void this.trial.walk(agent);
  }

  protected byHand(): void {
    const agent = this.agent();
    if (!agent) return;
    if (this.looks.look.views === 'plan') this.looks.set({ views: 'both' });
    void this.hand.begin(agent);
  }

  /** "p12 3" is shape 3 of the placement p12. */
  protected whose(shape: string | null): string {
    if (shape === null) return '';
    const [placement, number] = shape.split(' ');
    return `at shape ${number} of ${this.names().get(placement!) ?? placement}`;
  }

  protected go({ shape, at }: TrialLine): void {
    const placement = shape?.split(' ')[0];
    if (placement) {
      this.selection.choose(placement);
      this.looks.goTo([placement]);
    } else this.looks.lookAt([...at]);
  }
}
