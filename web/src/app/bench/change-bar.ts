import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artBounds, type PieceDocument, sizeOf } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { countText, sizeText } from '../shell/figures';
import { BenchStore } from './bench-store';

/** A change that is shown and not made: what it does, its figures beside what is there now, keep or leave. */
@Component({
  selector: 'yb-change-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    @if (change(); as change) {
      <section role="status" data-testid="proposal">
        <p><b>Proposed.</b> {{ change.says }}</p>
        <table>
          @for (row of rows(); track row.name) {
            <tr>
              <td class="faded">{{ row.name }}</td>
              <td class="number figures">{{ row.now }}</td>
              <td class="faded arrow">to</td>
              <td class="number figures">{{ row.next }}</td>
            </tr>
          }
        </table>
        <p-button
          [label]="change.keepLabel"
          size="small"
          (onClick)="store.keepProposal()"
          data-testid="keep"
        />
        <p-button
          label="Leave"
          size="small"
          [outlined]="true"
          (onClick)="store.leaveProposal()"
          data-testid="leave"
        />
      </section>
    }
  `,
  styles: `
    section {
      position: absolute;
      left: 12px;
      right: 12px;
      bottom: 12px;
      display: flex;
      align-items: center;
      gap: 10px;
      padding: 8px 12px;
      background: var(--card);
      border: 1px solid var(--tide);
      border-left: 4px solid var(--tide);
      border-radius: var(--corner);
    }
    p {
      flex: 1;
      margin: 0;
    }
    table {
      border-collapse: collapse;
      line-height: 16px;
    }
    .number {
      padding-left: 12px;
      text-align: right;
      white-space: nowrap;
    }
    .arrow {
      padding-left: 8px;
    }
  `,
})
export class ChangeBar {
  protected readonly store = inject(BenchStore);
  protected readonly change = toSignal(this.store.change$, { requireSync: true });
  private readonly document = toSignal(this.store.document$);
  protected readonly rows = computed(() => {
    const [now, next] = [this.document(), this.change()?.document];
    if (!now || !next) return [];
    return ROWS.map(({ name, of }) => ({ name, now: of(now), next: of(next) })).filter(
      (row) => row.now !== row.next,
    );
  });
}

const parts = (document: PieceDocument) =>
  document.nodes.filter((node) => node.mesh !== null && !node.aside).length;

const ROWS: { name: string; of: (document: PieceDocument) => string }[] = [
  { name: 'parts', of: (document) => countText(parts(document)) },
  { name: 'triangles', of: ({ whole }) => countText(whole.triangles) },
  { name: 'places', of: ({ whole }) => countText(whole.vertices - whole.doubledVertices) },
  { name: 'open edges', of: ({ whole }) => countText(whole.openEdges) },
  { name: 'size', of: (document) => sizeText(sizeOf(artBounds(document))) },
];
