import { ChangeDetectionStrategy, Component } from '@angular/core';
import { FindingList } from '../../finding-list';
import { FacesPanel } from './faces-panel';
import { MaterialsPanel } from './materials-panel';
import { MendPanel } from './mend-panel';
import { ReducePanel } from './reduce-panel';
import { SplitPanel } from './split-panel';
import { TreePanel } from './tree-panel';
import { UvPanel } from './uv-panel';
import { VerticesPanel } from './vertices-panel';

/** The tree, faces chosen in the view, splitting, mending, materials and UVs. */
@Component({
  selector: 'yb-parts-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FindingList,
    TreePanel,
    FacesPanel,
    SplitPanel,
    MendPanel,
    VerticesPanel,
    ReducePanel,
    MaterialsPanel,
    UvPanel,
  ],
  host: { class: 'step' },
  template: `
    <yb-finding-list step="parts" />
    <yb-tree-panel />
    <yb-faces-panel />
    <yb-split-panel />
    <yb-mend-panel />
    <yb-vertices-panel />
    <yb-reduce-panel />
    <yb-materials-panel />
    <yb-uv-panel />
  `,
})
export class PartsStep {}
