import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Agent, bodyTrialText, sourceKey } from '@yard-brace/core';
import { HandDriveStore } from '../../state/hand-drive';
import { HandWalkStore } from '../../state/hand-walk';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { SetOutTrial } from '../../state/set-out-trial';
import { Choice, type Option } from '../../ui/choice';
import { SLIP_TROLLEY, TrolleyFields } from '../../ui/trolley-fields';
import { TrialPlaces } from '../../ui/trial-places';
import { contactLines, type TrialLine } from '../../ui/trial-texts';
import { WalkReport } from '../../ui/walk-report';

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
/** Of a ball and a barrel, metres, and the sides of a barrel. */
const ROLLER_METRES = 0.25;
const BARREL_SIDES = 12;

/** Agents across the whole set: by themselves, and by hand. */
@Component({
  selector: 'yb-set-trial-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, TrialPlaces, TrolleyFields, WalkReport],
  template: `
    <section class="panel" data-testid="set-trial-panel">
      <h3>Walked across the set</h3>
      <div class="row">
        <yb-choice label="Who walks" [options]="agents()" [value]="agent()" (chosen)="chosen.set($event)" />
        <button
          type="button"
          class="act"
          [disabled]="working() || !shapes()"
          (click)="walk()"
          data-testid="walk-set"
        >
          Send {{ agent()?.name }} across
        </button>
        <button
          type="button"
          class="act"
          [disabled]="!shapes()"
          (click)="byHand()"
          data-testid="walk-set-by-hand"
        >
          Walk by hand
        </button>
      </div>
      @if (!any()) {
        <p class="faded">Nothing stands here yet that somebody could walk at.</p>
      } @else if (!shapes()) {
        <p class="faded">
          None of these pieces has shapes yet: nothing would stop anybody. Make some on the bench first.
        </p>
      } @else {
        <p class="faded">
          Shapes collide as the target has them; the ground is at height 0. Routes and walkable ground are
          asked for while somebody walks by hand.
        </p>
      }
      @if (walked(); as walked) {
        <yb-walk-report
          [walk]="walked.walk"
          [who]="walked.agent.name"
          [shapeName]="whose"
          (go)="go($event)"
          (replay)="replay($event)"
          (look)="looks.lookAt($event)"
        />
      }
    </section>
    @if (felt().length) {
      <section class="panel">
        <h3>Felt by hand</h3>
        <yb-trial-places label="Felt by hand" [lines]="felt()" [shapeName]="whose" (go)="go($event)" />
      </section>
    }
    <section class="panel" data-testid="across-panel">
      <h3>Rolled and driven across</h3>
      <div class="row">
        <yb-choice label="What goes across" [options]="goers" [value]="goer()" (chosen)="goer.set($event)" />
        <yb-choice label="Which way" [options]="ways" [value]="way()" (chosen)="way.set($event)" />
        <button
          type="button"
          class="act"
          [disabled]="working() || !shapes()"
          (click)="across()"
          data-testid="try-across"
        >
          Try it
        </button>
        @if (goer() === 'trolley') {
          <button
            type="button"
            class="act"
            [disabled]="!shapes()"
            (click)="driveByKeys()"
            data-testid="drive-by-keys"
          >
            Drive by keys
          </button>
          <yb-trolley-fields [(trolley)]="trolley" />
        }
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
  `,
})
export class SetTrialPanel {
  private readonly store = inject(SetOutStore);
  private readonly trial = inject(SetOutTrial);
  private readonly hand = inject(HandWalkStore);
  private readonly drive = inject(HandDriveStore);
  protected readonly looks = inject(SetOutLookStore);
  private readonly selection = inject(SetOutSelection);
  private readonly open = toSignal(this.store.open$, { requireSync: true });
  private readonly setOut = toSignal(this.store.setOut$, { initialValue: null });
  private readonly names = toSignal(this.store.names$, { initialValue: new Map<string, string>() });
  private readonly sources = toSignal(this.store.sources$, { requireSync: true });
  private readonly walks = toSignal(this.trial.walks$, { requireSync: true });
  protected readonly working = toSignal(this.trial.working$, { requireSync: true });
  protected readonly chosen = signal<Agent | null>(null);
  protected readonly goers = GOERS;
  protected readonly ways = WAYS;
  protected readonly goer = signal<Goer>('trolley');
  protected readonly trolley = signal(SLIP_TROLLEY);
  protected readonly way = signal<readonly [number, number]>(WAYS[0]!.value);
  private readonly played = toSignal(this.trial.played$, { requireSync: true });
  protected readonly run = computed(() => {
    const played = this.played();
    return played && bodyTrialText(played.trial, { nodes: [], riddenEdges: [], proxies: [] });
  });
  private readonly walking = toSignal(this.hand.walking$, { requireSync: true });
  /** while somebody walks by hand */
  protected readonly felt = computed(() => contactLines(this.walking()?.contacts ?? [], 'felt'));
  protected readonly any = computed(() => (this.setOut()?.placements.length ?? 0) > 0);
  protected readonly shapes = computed(() =>
    (this.setOut()?.placements ?? []).some(
      (placement) => (this.sources().get(sourceKey(placement))?.document.proxies.length ?? 0) > 0,
    ),
  );
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

  protected across(): void {
    const [x, z] = this.way();
    const way: [number, number] = [x, z];
    const what = this.goer();
    void this.trial.tryAcross(
      what === 'trolley'
        ? { kind: 'drive', ...this.trolley(), way }
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
    this.showFreeView();
    void this.hand.begin(agent);
  }

  protected replay({ from }: TrialLine): void {
    const agent = this.agent();
    if (!from || !agent) return;
    this.showFreeView();
    void this.hand.walkAgain(agent, from);
  }

  protected driveByKeys(): void {
    this.showFreeView();
    void this.drive.begin(this.trolley(), this.way());
  }

  /** Who goes by hand is seen from beside. */
  private showFreeView(): void {
    if (this.looks.look.views === 'plan') this.looks.set({ views: 'both' });
  }

  /** "p12 3" is shape 3 of the placement p12. */
  protected readonly whose = (shape: string | null): string => {
    if (shape === null) return '';
    const [placement, number] = shape.split(' ');
    return `shape ${number} of ${this.names().get(placement!) ?? placement}`;
  };

  protected go({ shape, at }: TrialLine): void {
    const placement = shape?.split(' ')[0];
    if (placement) {
      this.selection.choose(placement);
      this.looks.goTo([placement]);
    } else this.looks.lookAt([...at]);
  }
}
