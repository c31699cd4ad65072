import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { TrialPlayer } from '../state/trial-player';

/** A trial that is played: pause, slowly, step, again. */
@Component({
  selector: 'yb-play-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (playing(); as playing) {
      <section class="band" aria-label="Trial that is played" data-testid="play-bar">
        <span class="figures">{{ seconds() }} s</span>
        <button type="button" class="act" (click)="player.set({ running: !playing.running })">
          {{ playing.running ? 'Pause' : 'Play' }}
        </button>
        <button type="button" class="act" (click)="player.step()">Step</button>
        <button type="button" class="act" (click)="player.again()">Again</button>
        <button
          type="button"
          class="act"
          [attr.aria-pressed]="playing.slow"
          (click)="player.set({ slow: !playing.slow })"
        >
          Slowly
        </button>
        <button type="button" class="act" (click)="player.stop()">Close</button>
      </section>
    }
  `,
  styles: `
    section {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 8px;
      width: fit-content;
    }
    .figures {
      min-width: 56px;
    }
  `,
})
export class PlayBar {
  protected readonly player = inject(TrialPlayer);
  protected readonly playing = toSignal(this.player.playing$, { requireSync: true });
  protected readonly seconds = computed(() => ((this.playing()?.frame ?? 0) / 30).toFixed(1));
}
