import { ChangeDetectionStrategy, Component } from '@angular/core';
import { nextTask } from '../../../../ui/next-task';
import { FindingList } from '../../finding-list';
import { UnitPanel } from '../intake/unit-panel';
import { AxesPanel } from './axes-panel';
import { BakePanel } from './bake-panel';
import { ClearancesPanel } from './clearances-panel';
import { FoundOpeningsPanel } from './found-openings-panel';
import { ReferencesPanel } from './references-panel';
import { ScalePanel } from './scale-panel';
import { TapePanel } from './tape-panel';
import { WalkPanel } from './walk-panel';

/** True size: the unit, scale, axes, known things beside it, the tape, clearances, baking. */
@Component({
  selector: 'yb-size-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FindingList,
    UnitPanel,
    ScalePanel,
    AxesPanel,
    ReferencesPanel,
    TapePanel,
    ClearancesPanel,
    FoundOpeningsPanel,
    WalkPanel,
    BakePanel,
  ],
  host: { class: 'step' },
  template: `
    <yb-finding-list step="size" />
    <yb-unit-panel />
    <yb-scale-panel />
    <yb-axes-panel />
    <yb-references-panel />
    @if (below()) {
      <yb-tape-panel />
      <yb-clearances-panel />
      <yb-found-openings-panel />
      <yb-walk-panel />
      <yb-bake-panel />
    }
  `,
})
export class SizeStep {
  protected readonly below = nextTask();
}
