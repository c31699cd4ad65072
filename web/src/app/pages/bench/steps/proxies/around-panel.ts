import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, lengthText, volumeText } from '@yard-brace/core';
import { AroundStore } from '../../../../state/around-store';
import { Selection } from '../../../../state/selection';
import { ShapeEditor } from '../../../../state/shape-editor';
import { ShapeGlyph } from './shape-glyph';
import { WRAP_KIND_NAMES } from './wrap-kind-names';

/** A shape of any kind round chosen faces, or in the place of the one in the hand; their figures beside each other. */
@Component({
  selector: 'yb-around-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ShapeGlyph],
  template: `
    @if (action(); as action) {
      <section class="panel" data-testid="around">
        <h3>One shape, its kinds beside each other</h3>
        <div class="row">
          <button
            type="button"
            class="act"
            [disabled]="working()"
            (click)="around.ask()"
            data-testid="ask-around"
          >
            {{ action }} …
          </button>
        </div>
        @if (kinds(); as kinds) {
          <ul class="list" aria-label="Kinds of shapes">
            @for (each of kinds; track each.kind) {
              <li [attr.data-around]="each.kind" [class.closest]="each.closest">
                <yb-shape-glyph [kind]="each.glyph" />
                <button type="button" class="quiet-button grow" (click)="around.take(each.kind)">
                  {{ each.name }}
                </button>
                @if (each.closest) {
                  <b>closest</b>
                }
                <span class="figures" [title]="each.volume">{{ each.off }}</span>
              </li>
            }
          </ul>
        }
      </section>
    }
  `,
  styles: `
    li {
      gap: 8px;
      padding: 0 4px;
    }
    .grow {
      flex: 1;
      justify-content: flex-start;
    }
    .closest b {
      color: var(--moss);
    }
  `,
})
export class AroundPanel {
  protected readonly around = inject(AroundStore);
  protected readonly working = toSignal(this.around.working$, { requireSync: true });
  protected readonly faces = toSignal(inject(Selection).faces$, { requireSync: true });
  private readonly chosen = toSignal(inject(ShapeEditor).chosen$, { initialValue: [] });
  private readonly found = toSignal(this.around.around$, { requireSync: true });
  protected readonly action = computed(() => {
    const faces = this.faces();
    if (faces) return `Shapes around ${counted(faces.count, 'face')}`;
    return this.chosen().length === 1 ? 'Other kinds for the chosen shape' : null;
  });
  protected readonly kinds = computed(() => {
    const found = this.found();
    return found?.shapes.map(({ kind, shape, volume, deviation }) => ({
      kind,
      glyph: shape.kind,
      name: WRAP_KIND_NAMES[kind],
      off: `${lengthText(deviation)} off`,
      volume: volumeText(volume),
      closest: kind === found.closest,
    }));
  });
}
