import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { axesAlong, turnDegrees } from '@yard-brace/core';
import { Picking } from '../../../../state/picking';
import { WhosePivot } from './whose-pivot';

/** The pivot's own axes. */
@Component({
  selector: 'yb-pivot-axes-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel">
      <h3>Axes of the pivot</h3>
      <div class="row">
        <button
          type="button"
          class="act"
          [disabled]="whose.locked()"
          (click)="whose.change({ rotation: [0, 0, 0, 1] })"
        >
          World
        </button>
        <button type="button" class="act" [disabled]="whose.locked()" (click)="along('edge')">
          Along an edge …
        </button>
        <button type="button" class="act" [disabled]="whose.locked()" (click)="along('face')">
          On a face …
        </button>
        <span class="figures faded">{{ turned() }}</span>
      </div>
    </section>
  `,
})
export class PivotAxesPanel {
  protected readonly whose = inject(WhosePivot);
  private readonly picking = inject(Picking);
  protected readonly turned = computed(() => {
    const degrees = turnDegrees(this.whose.pivot().rotation);
    return degrees < 1e-4 ? 'world axes' : `rotated ${degrees.toFixed(1)}°`;
  });

  protected async along(what: 'edge' | 'face'): Promise<void> {
    const picked = await this.picking.ask(
      what === 'edge' ? 'Pick the edge that the axes follow.' : 'Pick the face that the axes stand on.',
    );
    if (picked) this.whose.change({ rotation: axesAlong(what, picked) });
  }
}
