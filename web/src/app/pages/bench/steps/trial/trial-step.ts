import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { HandDriveStore } from '../../../../state/hand-drive';
import { HandWalkStore } from '../../../../state/hand-walk';
import { FindingList } from '../../finding-list';
import { BodiesPanel } from './bodies-panel';
import { CostPanel } from './cost-panel';
import { WalksPanel } from './walks-panel';

/** The shapes tried as the engine has them: walked at, by agents that are sent and by hand, and with bodies that move. */
@Component({
  selector: 'yb-trial-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingList, WalksPanel, BodiesPanel, CostPanel],
  host: { class: 'step' },
  template: `
    <yb-finding-list step="trial" />
    <yb-walks-panel />
    <yb-bodies-panel />
    <yb-cost-panel />
  `,
})
export class TrialStep {
  constructor() {
    const [walk, drive] = [inject(HandWalkStore), inject(HandDriveStore)];
    inject(DestroyRef).onDestroy(() => {
      walk.end();
      drive.end();
    });
  }
}
