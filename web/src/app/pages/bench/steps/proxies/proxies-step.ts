import { ChangeDetectionStrategy, Component } from '@angular/core';
import { FindingList } from '../../finding-list';
import { FoundOpeningsPanel } from '../size/found-openings-panel';
import { AreasPanel } from './areas-panel';
import { AroundPanel } from './around-panel';
import { ChosenFacesPanel } from './chosen-faces-panel';
import { DrawPanel } from './draw-panel';
import { LadderPanel } from './ladder-panel';
import { MakePanel } from './make-panel';
import { RungsPanel } from './rungs-panel';
import { ShapeActionsPanel } from './shape-actions-panel';
import { ShapeCopiesPanel } from './shape-copies-panel';
import { ShapeNumbersPanel } from './shape-numbers-panel';
import { SetPanel } from './set-panel';
import { ShapeUsePanel } from './shape-use-panel';
import { ShapesPanel } from './shapes-panel';
import { WrapPanel } from './wrap-panel';

/** Shapes round the art: proposed with their figures first, then kept or discarded. */
@Component({
  selector: 'yb-proxies-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FindingList,
    ChosenFacesPanel,
    FoundOpeningsPanel,
    AreasPanel,
    LadderPanel,
    RungsPanel,
    WrapPanel,
    MakePanel,
    DrawPanel,
    AroundPanel,
    ShapesPanel,
    ShapeNumbersPanel,
    ShapeCopiesPanel,
    ShapeActionsPanel,
    ShapeUsePanel,
    SetPanel,
  ],
  host: { class: 'step' },
  template: `
    <yb-chosen-faces-panel />
    <yb-found-openings-panel />
    <yb-ladder-panel />
    <yb-rungs-panel />
    <yb-areas-panel />
    <yb-wrap-panel />
    <yb-make-panel />
    <yb-draw-panel />
    <yb-around-panel />
    <yb-finding-list step="proxies" />
    <yb-shapes-panel />
    <yb-shape-numbers-panel />
    <yb-shape-copies-panel />
    <yb-shape-actions-panel />
    <yb-shape-use-panel />
    <yb-set-panel />
  `,
})
export class ProxiesStep {}
