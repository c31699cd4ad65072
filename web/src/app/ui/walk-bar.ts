import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { lengthText } from '@yard-brace/core';
import { AREA_OVER, type AreaOver, HandWalkStore, WALK_LOOKS } from '../state/hand-walk';
import { Picking } from '../state/picking';
import { Steering, type SteerKey } from '../state/steering';
import { Choice } from './choice';
import { Keymap } from './keymap';
import { RunBar } from './run-bar';

const LOOK_NAMES = { around: 'from around', eyes: 'from its eyes', above: 'from above' } as const;
const AREA_NAMES = { none: 'no ground', shapes: 'on shapes', art: 'on the art' } as const;

/** The band of a walk by hand; the keys that steer are bound here, for who drives as well. */
@Component({
  selector: 'yb-walk-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, RunBar],
  template: `
    @if (walking(); as walking) {
      <yb-run-bar
        name="walk"
        [run]="walk"
        [now]="walking"
        [says]="says()"
        keys="Arrow keys walk, J jumps, X held crouches."
      >
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
        <button goal type="button" class="act" (click)="pickGoal()" data-testid="walk-goal">Walk to …</button>
      </yb-run-bar>
    }
  `,
})
export class WalkBar {
  protected readonly walk = inject(HandWalkStore);
  private readonly steering = inject(Steering);
  private readonly picking = inject(Picking);
  protected readonly walking = toSignal(this.walk.walking$, { requireSync: true });
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
    const height = frame.at[1];
    return `${agent.name}, ${lengthText(Math.abs(height))} ${height < 0 ? 'down' : 'up'}${stands}${stopped}${lost}${gap}`;
  });

  constructor() {
    const held = (key: string, way: SteerKey, help = '', label?: string) => ({
      keys: [key],
      help,
      ...(label ? { label } : {}),
      act: () => this.steering.hold(way, true),
      release: () => this.steering.hold(way, false),
    });
    inject(Keymap).bind([
      held('ArrowUp', 'ahead', 'walk or drive, while somebody does', '↑ ↓ ← →'),
      held('ArrowDown', 'back'),
      held('ArrowLeft', 'left'),
      held('ArrowRight', 'right'),
      { keys: ['J'], help: 'jump', act: () => this.steering.jump() },
      {
        keys: ['X'],
        label: 'X, held',
        help: 'crouch',
        act: () => (this.steering.crouches = true),
        release: () => (this.steering.crouches = false),
      },
    ]);
  }

  protected async pickGoal(): Promise<void> {
    const point = await this.picking.ask('Pick where it walks to', { ground: true });
    if (point) await this.walk.goTo(point.at);
  }
}
