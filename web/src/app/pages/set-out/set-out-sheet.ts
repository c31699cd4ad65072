import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { PieceSummary } from '@yard-brace/contract';
import { SetOutCheck } from '../../state/set-out-check';
import { Segments } from '../../ui/segments';
import { ChosenPanel } from './chosen-panel';
import { DeliverPanel } from './deliver-panel';
import { MeetPanel } from './meet-panel';
import { PlacedList } from './placed-list';
import { SetTrialPanel } from './set-trial-panel';
import { SwapPanel } from './swap-panel';

type Tab = 'placed' | 'meet' | 'trial' | 'deliver';

/** The sheet beside the view: what is placed, whether it meets, trials, delivery. */
@Component({
  selector: 'yb-set-out-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChosenPanel, DeliverPanel, MeetPanel, PlacedList, Segments, SetTrialPanel, SwapPanel],
  template: `
    <yb-segments label="Sheet" [options]="tabs()" [value]="tab()" (chosen)="tab.set($event!)" />
    @switch (tab()) {
      @case ('placed') {
        <yb-chosen-panel />
        <yb-swap-panel [pieces]="pieces()" />
        <yb-placed-list [pieces]="pieces()" />
      }
      @case ('meet') {
        <yb-meet-panel />
      }
      @case ('trial') {
        <yb-set-trial-panel />
      }
      @case ('deliver') {
        <yb-deliver-panel />
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
      align-content: start;
      width: 100%;
      height: 100%;
      overflow: hidden auto;
      padding: 10px 14px 30px;
      background: var(--card);
    }
    /* A panel that has nothing to say takes no room. */
    :host > :empty {
      display: none;
    }
  `,
})
export class SetOutSheet {
  readonly pieces = input<readonly PieceSummary[]>([]);
  private readonly faults = toSignal(inject(SetOutCheck).faults$, { initialValue: [] });
  protected readonly tab = signal<Tab>('placed');
  protected readonly tabs = computed(() => {
    const faults = this.faults().filter(({ words }) => words.severity !== 'info').length;
    return [
      { label: 'Placed', value: 'placed' as const },
      { label: faults ? `Meet (${faults})` : 'Meet', value: 'meet' as const },
      { label: 'Trial', value: 'trial' as const },
      { label: 'Deliver', value: 'deliver' as const },
    ];
  });
}
