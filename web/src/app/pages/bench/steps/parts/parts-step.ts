import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type PartsShow, PARTS_SHOWS, ViewSettingsStore } from '../../../../state/view-settings';
import { Segments } from '../../../../ui/segments';
import { FindingList } from '../../finding-list';
import { AlignPanel } from './align-panel';
import { BesidePanel } from './beside-panel';
import { EdgesPanel } from './edges-panel';
import { FacesPanel } from './faces-panel';
import { MaterialsPanel } from './materials-panel';
import { MendPanel } from './mend-panel';
import { MirrorPanel } from './mirror-panel';
import { ModulePanel } from './module/module-panel';
import { PlacePanel } from './place-panel';
import { PutBackPanel } from './put-back-panel';
import { ReducePanel } from './reduce-panel';
import { SplitPanel } from './split-panel';
import { TreePanel } from './tree-panel';
import { UvLayPanel } from './uv-lay-panel';
import { UvPanel } from './uv-panel';

const WORDS: Record<PartsShow, string> = {
  tree: 'Tree',
  place: 'Place',
  module: 'Module',
  surface: 'Surface',
  materials: 'Materials',
  uvs: 'UVs',
};

/** The tree, faces chosen in the view, placing, modules, mending, materials and UVs. */
@Component({
  selector: 'yb-parts-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Segments,
    FindingList,
    TreePanel,
    FacesPanel,
    SplitPanel,
    PlacePanel,
    AlignPanel,
    MirrorPanel,
    BesidePanel,
    PutBackPanel,
    ModulePanel,
    MendPanel,
    EdgesPanel,
    ReducePanel,
    MaterialsPanel,
    UvPanel,
    UvLayPanel,
  ],
  host: { class: 'step' },
  template: `
    <yb-finding-list step="parts" />
    <yb-segments
      class="ways"
      label="What of the parts"
      [options]="shows"
      [value]="settings().partsShow"
      (chosen)="$event && show($event)"
      data-testid="parts-show"
    />
    @switch (settings().partsShow) {
      @case ('tree') {
        <yb-tree-panel />
        <yb-faces-panel />
        <yb-split-panel />
      }
      @case ('place') {
        <yb-place-panel />
        <yb-align-panel />
        <yb-mirror-panel />
        <yb-put-back-panel />
        <yb-beside-panel />
      }
      @case ('module') {
        <yb-module-panel />
      }
      @case ('surface') {
        <yb-mend-panel />
        <yb-edges-panel />
        <yb-reduce-panel />
      }
      @case ('materials') {
        <yb-materials-panel />
      }
      @case ('uvs') {
        <yb-uv-panel />
        <yb-uv-lay-panel />
      }
    }
  `,
})
export class PartsStep {
  private readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly shows = PARTS_SHOWS.map((value) => ({ label: WORDS[value], value }));

  constructor() {
    // What is only for a look ends with the step.
    inject(DestroyRef).onDestroy(() => this.leave());
  }

  protected show(partsShow: PartsShow): void {
    this.leave();
    this.view.set({ partsShow });
  }

  private leave(): void {
    this.view.set({ draggingParts: false, hardEdges: false, turning: false, uvPaint: null, apart: null });
  }
}
