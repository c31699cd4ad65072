import { ChangeDetectionStrategy, Component } from '@angular/core';
import { FindingList } from '../../finding-list';
import { FoundOpeningsPanel } from '../size/found-openings-panel';
import { AroundPanel } from './around-panel';
import { LadderPanel } from './ladder-panel';
import { RungsPanel } from './rungs-panel';
import { ShapeActionsPanel } from './shape-actions-panel';
import { ShapeCopiesPanel } from './shape-copies-panel';
import { ShapeNumbersPanel } from './shape-numbers-panel';
import { SetPanel } from './set-panel';
import { ShapesPanel } from './shapes-panel';
import { WrapPanel } from './wrap-panel';

/** Shapes round the art: proposed with their figures first, then kept or discarded. */
@Component({
  selector: 'yb-proxies-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FindingList,
    FoundOpeningsPanel,
    LadderPanel,
    RungsPanel,
    WrapPanel,
    AroundPanel,
    ShapesPanel,
    ShapeNumbersPanel,
    ShapeCopiesPanel,
    ShapeActionsPanel,
    SetPanel,
  ],
  host: { class: 'step' },
  template: `
    <yb-found-openings-panel />
    <yb-ladder-panel />
    <yb-rungs-panel />
    <yb-wrap-panel />
    <yb-around-panel />
    <yb-finding-list step="proxies" />
    <yb-shapes-panel />
    <yb-shape-numbers-panel />
    <yb-shape-copies-panel />
    <yb-shape-actions-panel />
    <yb-set-panel />
  `,
})
export class ProxiesStep {}
