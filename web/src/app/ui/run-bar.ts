import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type HandRunning, RUN_PACES, type RunControls, type RunPace } from '../state/hand-run';
import { Picking } from '../state/picking';
import { Choice } from './choice';

/** The band of a run by hand: what it says, stop, step, restart, slow, from where. */
@Component({
  selector: 'yb-run-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    <section class="band" [attr.aria-label]="label()" [attr.data-testid]="name() + '-bar'">
      <p>
        <span role="status" class="figures">{{ says() }}</span>
        <span class="faded">{{ keys() }}</span>
      </p>
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="run().set({ running: !now().running })"
          [attr.data-testid]="name() + '-run'"
        >
          {{ now().running ? 'Pause' : 'Go on' }}
        </button>
        <button type="button" class="act" (click)="run().step()">Step</button>
        <button type="button" class="act" (click)="run().restart()">Restart</button>
        <yb-choice
          label="Pace"
          [options]="paces"
          [value]="now().pace"
          (chosen)="run().set({ pace: $event })"
        />
        <ng-content />
        <button type="button" class="act" (click)="pickStart()">Start from …</button>
        <ng-content select="[goal]" />
        <button type="button" class="act" (click)="run().end()">End the {{ name() }}</button>
      </div>
    </section>
  `,
  styles: `
    section {
      display: grid;
      gap: 6px;
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
    .row ::ng-deep yb-choice {
      width: 118px;
    }
  `,
})
export class RunBar {
  private readonly picking = inject(Picking);
  readonly name = input.required<'walk' | 'drive'>();
  readonly says = input.required<string>();
  readonly keys = input.required<string>();
  readonly run = input.required<RunControls>();
  readonly now = input.required<HandRunning>();
  protected readonly label = computed(() => (this.name() === 'walk' ? 'Walk' : 'Drive'));
  protected readonly paces = (Object.keys(RUN_PACES) as RunPace[]).map((value) => ({
    label: value,
    value,
  }));

  protected async pickStart(): Promise<void> {
    const point = await this.picking.ask('Pick where it starts', { ground: true });
    if (point) await this.run().startAt(point.at);
  }
}
