import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted } from '@yard-brace/core';
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
          <button type="button" class="quiet-button" (click)="selection.clearFaces()">Clear faces</button>
        }
      </div>
      <yb-choose-faces />
    </section>
  `,
})
export class ChosenFacesPanel {
  protected readonly selection = inject(Selection);
  protected readonly faces = toSignal(this.selection.faces$, { requireSync: true });
  protected readonly title = computed(() => {
    const faces = this.faces();
    return faces ? `Shapes for ${counted(faces.count, 'chosen face')}` : 'Shapes for all the art';
  });
}
