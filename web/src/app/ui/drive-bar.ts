import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, lengthText } from '@yard-brace/core';
import { DRIVE_LOOKS, HandDriveStore } from '../state/hand-drive';
import { Choice } from './choice';
import { RunBar } from './run-bar';

const LOOK_NAMES = { around: 'from around', above: 'from above' } as const;
const STATES = { drives: '', falls: '; falls', tips: '; tipped over' } as const;

/** The band of a drive by hand: how the trolley fares, and what happened to it. */
@Component({
  selector: 'yb-drive-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, RunBar],
  template: `
    @if (driving(); as driving) {
      <yb-run-bar
        name="drive"
        [run]="drive"
        [now]="driving"
        [says]="says()"
        keys="Arrow keys drive and steer; let go, it brakes."
      >
        <yb-choice
          label="How it is looked at"
          [options]="looks"
          [value]="driving.look"
          (chosen)="drive.set({ look: $event })"
        />
      </yb-run-bar>
    }
  `,
})
export class DriveBar {
  protected readonly drive = inject(HandDriveStore);
  protected readonly driving = toSignal(this.drive.driving$, { requireSync: true });
  protected readonly looks = DRIVE_LOOKS.map((value) => ({ label: LOOK_NAMES[value], value }));

  protected readonly says = computed(() => {
    const driving = this.driving();
    if (!driving) return '';
    const { frame, marks } = driving;
    const jolts = marks.filter(({ kind }) => kind === 'jolt');
    const caught = marks.length - jolts.length;
    return [
      `Trolley, ${Math.abs(frame.pace).toFixed(1)} m/s, ${frame.touching} of 4 wheels stand`,
      STATES[frame.state],
      frame.wrongWay === null ? '' : '; the faces under it look down',
      jolts.length ? `; ${counted(jolts.length, 'jolt')} of up to ${lengthText(jolts[0]!.metres)}` : '',
      caught ? `; caught in ${counted(caught, 'place')}` : '',
    ].join('');
  });
}
