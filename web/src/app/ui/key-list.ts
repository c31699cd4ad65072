import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Dialog } from 'primeng/dialog';
import { Keymap } from './keymap';

/** All keys on one card; a question mark brings it and takes it away. */
@Component({
  selector: 'yb-key-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Dialog],
  template: `
    <p-dialog
      header="Keys"
      [modal]="true"
      [draggable]="false"
      [resizable]="false"
      [dismissableMask]="true"
      [visible]="shown()"
      (visibleChange)="shown.set($event)"
      closeAriaLabel="Close the list of keys"
      [style]="{ maxHeight: '92vh' }"
    >
      @if (shown()) {
        <dl>
          @for (row of keymap.list(); track $index) {
            <dt class="figures">{{ row.label }}</dt>
            <dd>{{ row.help }}</dd>
          }
        </dl>
      }
    </p-dialog>
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: auto auto;
      gap: 4px 18px;
    }
  `,
})
export class KeyList {
  protected readonly keymap = inject(Keymap);
  protected readonly shown = signal(false);

  constructor() {
    this.keymap.bind([
      {
        keys: ['?'],
        help: 'show or hide this list',
        inDialogs: true,
        act: () => this.shown.update((shown) => !shown),
      },
    ]);
    this.keymap.onEscape('list', () => {
      const shown = this.shown();
      this.shown.set(false);
      return shown;
    });
  }
}
