import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { counted } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Operations } from '../../../../state/operations';
import { Selection } from '../../../../state/selection';
import { ChooseFaces } from '../../choose-faces';

/** Faces chosen in the view, and what is done to them. */
@Component({
  selector: 'yb-faces-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText, ChooseFaces],
  template: `
    <section class="panel">
      <h3>Faces</h3>
      <yb-choose-faces />
      @if (faces(); as faces) {
        <div class="row">
          <input
            pInputText
            pSize="small"
            class="grow"
            [ngModel]="partName()"
            (ngModelChange)="partName.set($event)"
            placeholder="name of the new part"
            aria-label="Name of the new part"
          />
          <p-button
            [label]="'Split off ' + counted(faces.count, 'face')"
            size="small"
            (onClick)="split()"
            data-testid="split-faces"
          />
        </div>
        <div class="row">
          <button type="button" class="act" (click)="deleteFaces()">Delete</button>
          <button type="button" class="act" (click)="flip()">Flip</button>
          <button type="button" class="act" (click)="selection.clearFaces()">Clear</button>
        </div>
      }
    </section>
  `,
})
export class FacesPanel {
  protected readonly selection = inject(Selection);
  private readonly operations = inject(Operations);
  protected readonly faces = toSignal(this.selection.faces$, { requireSync: true });
  protected readonly partName = signal('');
  protected readonly counted = counted;

  protected async split(): Promise<void> {
    const name = this.partName().trim();
    await this.operations.propose({
      op: 'split-faces',
      faces: this.selection.facesByPart(),
      ...(name ? { name } : {}),
    });
    this.partName.set('');
  }

  protected deleteFaces(): void {
    void this.operations.propose({ op: 'delete-faces', faces: this.selection.facesByPart() });
  }

  protected flip(): void {
    void this.operations.propose({ op: 'flip', faces: this.selection.facesByPart() });
  }
}
