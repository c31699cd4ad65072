import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { ChosenAreas } from '../../../../state/chosen-areas';
import { RiddenEdges } from '../../../../state/ridden-edges';
import { Selection } from '../../../../state/selection';
import { ChooseFaces } from '../../choose-faces';

/** Which faces the ways below work on: all the art, or those that are chosen. */
@Component({
  selector: 'yb-chosen-faces-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChooseFaces],
  template: `
    <section class="panel" data-testid="chosen-faces">
      <div class="row">
        <h3 class="grow">{{ title() }}</h3>
        @if (faces()) {
          @if (hasRun()) {
            <button
              type="button"
              class="quiet-button"
              title="Something slides along this run of edges, or grips it: a shape has to have an edge along it"
              (click)="ridden.markRun()"
            >
              Mark as ridden
            </button>
          }
          <button
            type="button"
            class="quiet-button"
            title="Nothing collides with these faces: they need no shapes, and are not measured against"
            (click)="areas.collide(false)"
          >
            Leave out
          </button>
          <button type="button" class="quiet-button" (click)="selection.clearFaces()">Clear faces</button>
        }
      </div>
      <yb-choose-faces />
      @if (leftOut(); as count) {
        <p class="row" data-testid="left-out">
          <span class="grow faded">{{ count }} left out of collision</span>
          <button type="button" class="quiet-button" (click)="areas.choose({ faces: noCollision() })">
            Choose
          </button>
          <button type="button" class="quiet-button" (click)="areas.collideWithAll()">Count in</button>
        </p>
      }
    </section>
  `,
})
export class ChosenFacesPanel {
  protected readonly selection = inject(Selection);
  protected readonly ridden = inject(RiddenEdges);
  protected readonly hasRun = computed(() => this.faces() !== null && this.selection.lastRun.length > 0);
  protected readonly areas = inject(ChosenAreas);
  private readonly document = toSignal(inject(BenchStore).document$);
  protected readonly noCollision = computed(() => this.document()?.noCollision ?? []);
  protected readonly leftOut = computed(() => {
    const runs = this.noCollision().flatMap(({ runs }) => runs);
    const faces = runs.reduce((sum, count, i) => sum + (i % 2 ? count : 0), 0);
    return faces ? counted(faces, 'face') : '';
  });
  protected readonly faces = toSignal(this.selection.faces$, { requireSync: true });
  protected readonly title = computed(() => {
    const faces = this.faces();
    return faces ? `Shapes for ${counted(faces.count, 'chosen face')}` : 'Shapes for all the art';
  });
}
