import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { unionOf } from '@yard-brace/core';
import { ArtStore } from '../../../state/art-store';
import { BenchStore } from '../../../state/bench-store';
import { ViewSettingsStore } from '../../../state/view-settings';
import { ArtLayer } from '../../../viewport/layers/art-layer';
import { tieViews } from '../../../viewport/tied-views';
import { Viewport } from '../../../viewport/viewport';
import type { BenchScene } from './bench-scene';

/** The art as it is, beside what a proposal would make of it: looked at from the same place, in the same way. */
@Component({
  selector: 'yb-before-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      tabindex="0"
      role="img"
      aria-label="View of the piece as it is"
      data-testid="before"
    ></canvas>
    <p>as it is</p>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      overflow: hidden;
      border-right: 1px solid var(--rule);
      background: var(--paper);
    }
    canvas {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      outline-offset: -3px;
      touch-action: none;
    }
    p {
      position: absolute;
      bottom: 12px;
      left: 12px;
      padding: 2px 8px;
      background: var(--card);
      border: 1px solid var(--rule);
    }
  `,
})
export class BeforeView {
  private readonly arts = inject(ArtStore);
  private readonly bench = inject(BenchStore);
  readonly beside = input.required<BenchScene | null>();
  private readonly art = toSignal(this.arts.before$, { requireSync: true });
  private readonly settings = toSignal(inject(ViewSettingsStore).settings$, { requireSync: true });
  private readonly look = computed(() => {
    const { wire, facing, checker, checkerSet } = this.settings();
    return { wire, facing, checker, checkerSet };
  });
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly view = signal<{ viewport: Viewport; layer: ArtLayer } | null>(null);

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const canvas = this.canvas().nativeElement;
      const viewport = new Viewport(canvas, { gridMetres: this.bench.piece.yard.rules.gridMetres });
      const layer = new ArtLayer(() => viewport.redraw());
      viewport.add(layer);
      const sizes = new ResizeObserver(() => viewport.resize(canvas.clientWidth, canvas.clientHeight));
      sizes.observe(canvas);
      this.view.set({ viewport, layer });
      destroy.onDestroy(() => {
        sizes.disconnect();
        viewport.dispose();
      });
    });
    effect((onCleanup) => {
      const [view, scene] = [this.view(), this.beside()];
      if (!view || !scene) return;
      view.viewport.rig.lookAs(scene.viewport.rig);
      onCleanup(tieViews(scene.viewport, view.viewport));
      // Half as wide as it was, once it is laid out so; what moved is seen where it is and where it would be.
      const fitting = requestAnimationFrame(() => {
        scene.viewport.rig.fit(unionOf(scene.viewport.bounds(), view.viewport.bounds()));
        scene.viewport.redraw();
      });
      onCleanup(() => cancelAnimationFrame(fitting));
    });
    effect(() => {
      const view = this.view();
      const art = this.art();
      if (!view || !art) return;
      view.layer.set(art);
      view.layer.look(this.look());
      view.viewport.ground.lay(view.viewport.bounds());
      view.viewport.redraw();
    });
  }
}
