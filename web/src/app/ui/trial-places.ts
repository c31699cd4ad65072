import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { countText } from '@yard-brace/core';
import type { TrialLine } from './trial-texts';

/** Places that a trial came to, numbered as their flags in the view: a click goes there. */
@Component({
  selector: 'yb-trial-places',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'panel' },
  template: `
    <ol class="list" [attr.aria-label]="label()">
      @for (line of shown(); track line.id) {
        <li [attr.data-line]="line.id">
          <span class="flag figures">{{ $index + 1 }}</span>
          <button type="button" class="quiet-button grow" (click)="go.emit(line)">{{ line.says }}</button>
          <span class="figures">{{ line.much }}</span>
          <span class="shape">{{ shapeName()(line.shape) }}</span>
          @if (line.from) {
            <button
              type="button"
              class="quiet-button"
              title="Walk there from where it came"
              (click)="replay.emit(line)"
            >
              walk
            </button>
          }
        </li>
      }
    </ol>
    @if (lines().length > most()) {
      <button type="button" class="quiet-button" (click)="all.emit()">
        Show all {{ count(lines().length) }} places
      </button>
    }
  `,
  styles: `
    .grow {
      flex: 1;
      justify-content: flex-start;
      text-align: left;
    }
    .shape {
      min-width: 52px;
      color: var(--faded);
    }
    .quiet-button {
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
export class TrialPlaces {
  readonly label = input('Places');
  readonly lines = input.required<readonly TrialLine[]>();
  /** so many are shown; the rest is asked for */
  readonly most = input(Infinity);
  /** what a shape is called by its id; empty for none */
  readonly shapeName = input.required<(shape: string | null) => string>();
  readonly go = output<TrialLine>();
  readonly replay = output<TrialLine>();
  readonly all = output();
  protected readonly count = countText;
  protected readonly shown = computed(() => this.lines().slice(0, this.most()));
}
