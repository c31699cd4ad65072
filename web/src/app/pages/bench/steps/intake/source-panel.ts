import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { routes } from '@yard-brace/contract';
import { bytesText } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';

/** The files as they came. */
@Component({
  selector: 'yb-source-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel">
      <h3>Source files</h3>
      <ul class="list">
        @for (file of document()?.source?.files ?? []; track file.blob) {
          <li>
            <a class="grow" [href]="blob(file.blob)" [attr.download]="file.name">{{ file.name }}</a>
            <span class="figures faded">{{ bytesText(file.bytes) }}</span>
          </li>
        }
      </ul>
    </section>
  `,
  styles: `
    a {
      overflow-wrap: anywhere;
    }
  `,
})
export class SourcePanel {
  protected readonly document = toSignal(inject(BenchStore).document$);
  protected readonly blob = routes.blob;
  protected readonly bytesText = bytesText;
}
