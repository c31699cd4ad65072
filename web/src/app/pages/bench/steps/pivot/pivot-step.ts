import { ChangeDetectionStrategy, Component } from '@angular/core';
import { nextTask } from '../../../../ui/next-task';
import { FindingList } from '../../finding-list';
import { AllPartsPanel } from './all-parts-panel';
import { AnchorPanel } from './anchor-panel';
import { FamilyPanel } from './family-panel';
import { HingePanel } from './hinge-panel';
import { PivotAxesPanel } from './pivot-axes-panel';
import { PositionPanel } from './position-panel';
import { PresentationPanel } from './presentation-panel';
import { WhosePivot } from './whose-pivot';

/** Where the piece and its parts are grabbed. The geometry stays: only the point it is measured from moves. */
@Component({
  selector: 'yb-pivot-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FindingList,
    AnchorPanel,
    PositionPanel,
    HingePanel,
    PivotAxesPanel,
    AllPartsPanel,
    FamilyPanel,
    PresentationPanel,
  ],
  providers: [WhosePivot],
  host: { class: 'step' },
  template: `
    <yb-finding-list step="pivot" />
    <yb-anchor-panel />
    <yb-position-panel />
    <yb-hinge-panel />
    <yb-pivot-axes-panel />
    @if (below()) {
      <yb-all-parts-panel />
      <yb-family-panel />
      <yb-presentation-panel />
    }
  `,
})
export class PivotStep {
  protected readonly below = nextTask();
}
