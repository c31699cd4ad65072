import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { routes } from '@yard-brace/contract';
import { artNodes, piecesIn } from '@yard-brace/core';
import { map } from 'rxjs';
import { Stopped } from '../compute/compute';
import { ShelfStore } from '../shelf/shelf-store';
import { bytesText, counted, countText } from '../shell/figures';
import { Notices } from '../shell/notices';
import { BenchStore } from './bench-store';
import { FindingList } from './finding-list';
import { NewArtReportView } from './new-art-report';
import { stepStyles } from './step-styles';
import { UnitTable } from './unit-table';

/** What came in: files, true size, account, tree, materials, faults. */
@Component({
  selector: 'yb-intake-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingList, UnitTable, NewArtReportView],
  template: `
    @if (document(); as document) {
      <yb-unit-table [brief]="true" />
      <yb-finding-list step="intake" />
      @if (pieces() > 1) {
        <div class="row">
          <button type="button" class="act" (click)="takeApart()" data-testid="take-apart">
            Bring in as {{ pieces() }} pieces
          </button>
          <span class="faded">each stays where it stood, with the shapes that stand with it</span>
        </div>
        <label
          ><input type="checkbox" [checked]="removing()" (change)="removing.set(!removing())" /> and remove
          this piece, with its versions and deliveries</label
        >
      }
      <section>
        <h3>What is in it</h3>
        <table>
          <tr>
            <td>Triangles</td>
            <td class="number figures">{{ countText(document.whole.triangles) }}</td>
          </tr>
          <tr>
            <td>Vertices, at separate places</td>
            <td class="number figures">
              {{ countText(document.whole.vertices) }},
              {{ countText(document.whole.vertices - document.whole.doubledVertices) }}
            </td>
          </tr>
          <tr>
            <td>Nodes, parts, connected shells</td>
            <td class="number figures">
              {{ countText(document.nodes.length) }}, {{ countText(partCount()) }},
              {{ countText(document.whole.parts) }}
            </td>
          </tr>
          <tr>
            <td>Materials, pictures</td>
            <td class="number figures">{{ document.materials.length }}, {{ document.pictures.length }}</td>
          </tr>
          <tr>
            <td>Surface</td>
            <td class="number">
              {{ document.whole.closed ? 'closed' : counted(document.whole.borders, 'open border') }}
            </td>
          </tr>
          <tr>
            <td>UV sets, vertex colours</td>
            <td class="number">
              {{ document.whole.uvSets || 'none' }}, {{ document.whole.colors ? 'yes' : 'none' }}
            </td>
          </tr>
        </table>
      </section>
      <section>
        <h3>As it came</h3>
        <ul>
          @for (file of document.source.files; track file.blob) {
            <li class="file">
              <a [href]="blob(file.blob)" [attr.download]="file.name">{{ file.name }}</a>
              <span class="figures faded">{{ bytesText(file.bytes) }}</span>
            </li>
          }
        </ul>
        <yb-new-art-report />
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .file {
        display: flex;
        align-items: center;
        gap: 8px;
        padding: 2px 0;
        border-bottom: 1px dotted var(--rule);
      }
      .file {
        justify-content: space-between;
      }
      .file a {
        overflow-wrap: anywhere;
      }
    `,
  ],
})
export class IntakeStep {
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfStore);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  protected readonly document = toSignal(this.store.document$);
  protected readonly countText = countText;
  protected readonly bytesText = bytesText;
  protected readonly blob = routes.blob;

  protected readonly counted = counted;
  protected readonly partCount = computed(() => artNodes(this.document()?.nodes ?? []).length);
  protected readonly pieces = computed(() => (this.document() ? piecesIn(this.document()!).length : 1));

  private readonly pieceId = toSignal(this.store.piece$.pipe(map((piece) => piece?.id)));
  protected readonly removing = linkedSignal({
    source: this.pieceId,
    computation: () => false,
  });

  /** Each piece gets a card of its own; this one stays unless the person says otherwise. */
  protected async takeApart(): Promise<void> {
    const piece = this.store.piece$.value!;
    try {
      const version = await this.store.settled();
      const { document } = this.store;
      const remove = this.removing();
      const added = await this.shelf.takeApart({
        yardId: piece.yard.id,
        id: piece.id,
        version,
        document,
        remove,
      });
      this.notices.say(
        `${counted(added, 'piece')} came of ${document.name}, which ${remove ? 'was removed' : 'stays on the shelf'}.`,
      );
      await this.router.navigate(['/yards', piece.yard.id]);
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
  }
}
