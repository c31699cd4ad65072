import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { lengthText, lineLength } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { BenchStore } from '../../../../state/bench-store';
import { RiddenEdges } from '../../../../state/ridden-edges';
import { ViewMarks } from '../../../../state/view-marks';

/** Edges that something slides along or grips, and how shapes follow them. */
@Component({
  selector: 'yb-ridden-edges-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText],
  template: `
    @if (rows().length) {
      <section class="panel" data-testid="ridden-edges">
        <h3>Ridden edges</h3>
        <ul class="list">
          @for (row of rows(); track row.id) {
            <li [attr.data-edge]="row.id">
              <input
                pInputText
                pSize="small"
                class="grow"
                maxlength="120"
                [attr.aria-label]="'Name of ' + row.name"
                [value]="row.name"
                (change)="ridden.rename(row.id, $any($event.target).value)"
              />
              <span class="figures faded">{{ row.says }}</span>
              <button
                type="button"
                class="quiet-button"
                [attr.aria-label]="'Go to ' + row.name"
                title="Go there"
                (click)="marks.goTo(row.at)"
              >
                <span class="pi pi-map-marker" aria-hidden="true"></span>
              </button>
              <button
                type="button"
                class="quiet-button"
                [attr.aria-label]="'Forget ' + row.name"
                title="Not ridden any more"
                (click)="ridden.forget(row.id)"
              >
                <span class="pi pi-times" aria-hidden="true"></span>
              </button>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    li {
      gap: 6px;
      padding: 0 4px;
    }
    input {
      min-width: 0;
      flex: 1;
    }
    span.figures {
      white-space: nowrap;
    }
  `,
})
export class RiddenEdgesPanel {
  protected readonly ridden = inject(RiddenEdges);
  protected readonly marks = inject(ViewMarks);
  private readonly bench = inject(BenchStore);
  private readonly document = toSignal(this.bench.document$);
  private readonly measured = toSignal(this.bench.measured$, { requireSync: true });
  protected readonly rows = computed(() => {
    const judged = this.measured()?.judged?.edges ?? [];
    return (this.document()?.riddenEdges ?? []).map(({ id, name, line }) => {
      const found = judged.find(({ edge }) => edge === id);
      const off = found && found.off !== null ? `, off by up to ${lengthText(found.off)}` : '';
      return {
        id,
        name,
        says: `${lengthText(lineLength(line))}${off}`,
        at: found?.at ?? line[Math.floor(line.length / 2)]!,
      };
    });
  });
}
