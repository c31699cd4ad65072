import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { SetPlaces } from '../../../../state/set-places';
import { MAKE_BY, type MakeBy, ViewSettingsStore } from '../../../../state/view-settings';
import { Segments } from '../../../../ui/segments';
import { FindingList } from '../../finding-list';
import { FoundOpeningsPanel } from '../size/found-openings-panel';
import { AreasPanel } from './areas-panel';
import { AroundPanel } from './around-panel';
import { ChosenFacesPanel } from './chosen-faces-panel';
import { DrawPanel } from './draw-panel';
import { KeptSetsPanel } from './kept-sets-panel';
import { LadderPanel } from './ladder-panel';
import { MakePanel } from './make-panel';
import { RiddenEdgesPanel } from './ridden-edges-panel';
import { RungsPanel } from './rungs-panel';
import { SetPanel } from './set-panel';
import { ShapeActionsPanel } from './shape-actions-panel';
import { ShapeCopiesPanel } from './shape-copies-panel';
import { ShapeNumbersPanel } from './shape-numbers-panel';
import { ShapeUsePanel } from './shape-use-panel';
import { ShapesPanel } from './shapes-panel';
import { WrapPanel } from './wrap-panel';

const WAYS: Record<MakeBy, string> = { ladder: 'Ladder', wrap: 'Wrap', make: 'Make', draw: 'Draw' };

/** Shapes round the art: made in one of several ways, changed by hand, and judged as a set. */
@Component({
  selector: 'yb-proxies-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Segments,
    FindingList,
    FoundOpeningsPanel,
    ChosenFacesPanel,
    LadderPanel,
    RungsPanel,
    AreasPanel,
    WrapPanel,
    AroundPanel,
    MakePanel,
    DrawPanel,
    ShapesPanel,
    ShapeNumbersPanel,
    ShapeCopiesPanel,
    ShapeActionsPanel,
    ShapeUsePanel,
    RiddenEdgesPanel,
    SetPanel,
    KeptSetsPanel,
  ],
  host: { class: 'step' },
  template: `
    <yb-finding-list step="proxies" />
    <yb-chosen-faces-panel />
    <yb-segments
      label="How shapes are made"
      [options]="ways"
      [value]="settings().makeBy"
      (chosen)="$event && view.set({ makeBy: $event })"
      data-testid="make-by"
    />
    @switch (settings().makeBy) {
      @case ('ladder') {
        <yb-found-openings-panel />
        <yb-ladder-panel />
        <yb-rungs-panel />
        <yb-areas-panel />
      }
      @case ('wrap') {
        <yb-wrap-panel />
      }
      @case ('make') {
        <yb-make-panel />
      }
      @case ('draw') {
        <yb-draw-panel />
      }
    }
    <yb-around-panel />
    <yb-shapes-panel />
    <yb-shape-numbers-panel />
    <yb-shape-copies-panel />
    <yb-shape-actions-panel />
    <yb-shape-use-panel />
    <yb-ridden-edges-panel />
    <yb-set-panel />
    <yb-kept-sets-panel />
  `,
})
export class ProxiesStep {
  protected readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly ways = MAKE_BY.map((value) => ({ label: WAYS[value], value }));

  constructor() {
    const places = inject(SetPlaces);
    places.show(true);
    inject(DestroyRef).onDestroy(() => places.show(false));
  }
}
