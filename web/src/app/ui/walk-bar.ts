import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { lengthText } from '@yard-brace/core';
import {
  AREA_OVER,
  type AreaOver,
  HandWalkStore,
  WALK_LOOKS,
  WALK_PACES,
  type WalkPace,
} from '../state/hand-walk';
import { Picking } from '../state/picking';
import { Choice } from './choice';
import { Keymap } from './keymap';

const LOOK_NAMES = { around: 'from around', eyes: 'from its eyes', above: 'from above' } as const;
const AREA_NAMES = { none: 'no ground', shapes: 'on shapes', art: 'on the art' } as const;

/** The band of a walk by hand: who walks, from where, start, slow, step. */
@Component({
  selector: 'yb-walk-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    @if (walking(); as walking) {
      <section aria-label="Walk" data-testid="walk-bar">
        <p>
          <span role="status" class="figures">{{ says() }}</span>
          <span class="faded">Arrow keys walk, J jumps, X held crouches.</span>
        </p>
        <div class="row">
          <button
            type="button"
            class="act"
            (click)="walk.set({ running: !walking.running })"
            data-testid="walk-run"
          >
            {{ walking.running ? 'Pause' : 'Go on' }}
          </button>
          <button type="button" class="act" (click)="walk.step()">Step</button>
          <button type="button" class="act" (click)="walk.restart()">Restart</button>
          <yb-choice
            label="Pace"
            [options]="paces"
            [value]="walking.pace"
            (chosen)="walk.set({ pace: $event })"
          />
          <yb-choice
            label="How it is looked at"
            [options]="looks"
            [value]="walking.look"
            (chosen)="walk.set({ look: $event })"
          />
          <yb-choice
            label="Walkable ground"
            [options]="areas"
            [value]="walking.over"
            (chosen)="walk.showArea($event)"
          />
          <button type="button" class="act" (click)="pickStart()">Start from …</button>
          <button type="button" class="act" (click)="pickGoal()" data-testid="walk-goal">Walk to …</button>
          <button type="button" class="act" (click)="walk.end()">End the walk</button>
        </div>
      </section>
    }
  `,
  styles: `
    section {
      display: grid;
      gap: 6px;
      padding: 8px 10px;
      background: var(--card);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
    p {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      gap: 2px 12px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
    }
    yb-choice {
      width: 118px;
    }
  `,
})
export class WalkBar {
  protected readonly walk = inject(HandWalkStore);
  private readonly picking = inject(Picking);
  protected readonly walking = toSignal(this.walk.walking$, { requireSync: true });
  protected readonly paces = (Object.keys(WALK_PACES) as WalkPace[]).map((value) => ({
    label: value,
    value,
  }));
  protected readonly looks = WALK_LOOKS.map((value) => ({ label: LOOK_NAMES[value], value }));
  protected readonly areas = AREA_OVER.map((value: AreaOver) => ({ label: AREA_NAMES[value], value }));

  protected readonly says = computed(() => {
    const walking = this.walking();
    if (!walking) return '';
    const { agent, frame, contacts, route } = walking;
    const [worst] = contacts;
    const stands = frame.stands ? '' : ', in the air';
    const lost = route && !route.complete ? '; no route leads there, it goes straight on' : '';
    const gap = worst
      ? `; worst so far ${lengthText(worst.metres)} of ${worst.kind === 'air' ? 'air' : 'art passed through'}`
      : '';
    const stopped = frame.stoppedBy === null ? '' : '; stopped';
    return `${agent.name}, ${lengthText(frame.at[1])} up${stands}${stopped}${lost}${gap}`;
  });

  constructor() {
    const held = (key: string, way: Parameters<HandWalkStore['hold']>[0], help = '', label?: string) => ({
      keys: [key],
      help,
      ...(label ? { label } : {}),
      act: () => this.walk.hold(way, true),
      release: () => this.walk.hold(way, false),
    });
    inject(Keymap).bind([
      held('ArrowUp', 'ahead', 'walk, while somebody walks', '↑ ↓ ← →'),
      held('ArrowDown', 'back'),
      held('ArrowLeft', 'left'),
      held('ArrowRight', 'right'),
      { keys: ['J'], help: 'jump', act: () => this.walk.jump() },
      {
        keys: ['X'],
        label: 'X, held',
        help: 'crouch',
        act: () => this.walk.crouch(true),
        release: () => this.walk.crouch(false),
      },
    ]);
  }

  protected async pickStart(): Promise<void> {
    const point = await this.picking.ask('Pick where it starts', { ground: true });
    if (point) await this.walk.startAt(point.at);
  }

  protected async pickGoal(): Promise<void> {
    const point = await this.picking.ask('Pick where it walks to', { ground: true });
    if (point) await this.walk.goTo(point.at);
  }
}
