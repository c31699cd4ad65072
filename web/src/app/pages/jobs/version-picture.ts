import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { VersionPictures } from '../../state/version-pictures';

/** A piece as it was at a version, with its shapes. */
@Component({
  selector: 'yb-version-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (address(); as address) {
      <img [src]="address" [alt]="label()" width="132" height="62" />
    } @else {
      <span class="faded">{{ address() === null ? 'not kept' : 'drawing …' }}</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      place-items: center;
      width: 132px;
      height: 62px;
      background: var(--paper);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
    }
  `,
})
export class VersionPicture {
  private readonly pictures = inject(VersionPictures);
  readonly piece = input.required<number>();
  readonly version = input.required<number>();
  readonly label = input.required<string>();
  /** undefined while it is drawn */
  protected readonly address = signal<string | null | undefined>(undefined);

  constructor() {
    effect(() => {
      const [piece, version] = [this.piece(), this.version()];
      this.address.set(undefined);
      void this.pictures.of(piece, version).then((address) => {
        if (this.piece() === piece && this.version() === version) this.address.set(address);
      });
    });
  }
}
