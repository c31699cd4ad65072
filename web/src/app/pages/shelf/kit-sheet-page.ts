import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  numberAttribute,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type PieceSummary, routes } from '@yard-brace/contract';
import { budgetFor, counted, countText, lengthText, placeText, sizeText, targetsOf } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Notices } from '../../state/notices';
import { ShelfStore } from '../../state/shelf-store';
import { Header } from '../../ui/header';
import { StampMark } from '../../ui/stamp';
import { TallyMark } from '../../ui/tally';

/** The whole kit on pages that print: picture, size, pivot, shapes against their budget, and what left for which target. */
@Component({
  selector: 'yb-kit-sheet-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Header, StampMark, TallyMark],
  template: `
    <div class="page">
      <yb-header
        [places]="[
          { name: 'Yards', link: '/' },
          { name: yard()?.name ?? '…', link: '/yards/' + yardId() },
          { name: 'Kit sheet' },
        ]"
      >
        <p-button start label="Print" size="small" [disabled]="!whole()" (onClick)="print()" />
      </yb-header>
      @if (yard(); as yard) {
        <main>
          <h1>{{ yard.name }}</h1>
          <p class="faded">
            {{ counted(yard.pieces, 'piece') }}, for {{ targets() }}. Lengths as the yard shows them; a budget
            is what its rules allow a piece of that size.
          </p>
          <ul data-testid="kit">
            @for (piece of pieces(); track piece.id) {
              <li>
                @if (piece.picture) {
                  <img [src]="blob(piece.picture)" [alt]="piece.name" width="132" height="62" />
                } @else {
                  <span class="none faded">no picture yet</span>
                }
                <div class="what">
                  <b>{{ piece.name }}</b>
                  <span class="figures faded">{{ piece.meshName }}</span>
                  <yb-tally [tally]="piece.tally" />
                </div>
                <dl>
                  <dt>Size</dt>
                  <dd class="figures">{{ sizeText(piece.size) }}</dd>
                  <dt>Pivot</dt>
                  <dd>
                    <div>{{ piece.pivot.anchor.replaceAll('-', ' ') }}</div>
                    <div class="figures">{{ placeText(piece.pivot.position) }}</div>
                  </dd>
                </dl>
                <dl>
                  <dt>Shapes</dt>
                  <dd class="figures">
                    {{ shapesText(piece) }}
                    @if (isOver(piece)) {
                      <yb-stamp stamp="look" />
                    }
                  </dd>
                  <dt>Triangles</dt>
                  <dd class="figures">{{ countText(piece.triangles) }}</dd>
                </dl>
                <dl>
                  <dt>Deviation</dt>
                  <dd class="figures">
                    {{ piece.deviation === null ? 'not measured' : lengthText(piece.deviation) }}
                  </dd>
                  <dt>Delivered</dt>
                  <dd>{{ deliveredText(piece) }}</dd>
                </dl>
              </li>
            }
          </ul>
        </main>
      }
    </div>
  `,
  styles: `
    main {
      max-width: 1000px;
      margin: 0 auto;
      padding: 20px;
      background: var(--card);
    }
    h1 {
      font-size: 20px;
    }
    ul {
      margin-top: 12px;
      border-top: 1px solid var(--ink);
    }
    li {
      display: grid;
      grid-template-columns: 132px minmax(0, 1.3fr) minmax(0, 1.4fr) minmax(0, 1fr) minmax(0, 1.4fr);
      align-items: center;
      gap: 14px;
      padding: 7px 0;
      border-bottom: 1px solid var(--rule);
      break-inside: avoid;
    }
    .what {
      display: grid;
      gap: 2px;
      overflow-wrap: anywhere;
    }
    dl {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr);
      gap: 2px 8px;
    }
    dt {
      color: var(--faded);
    }
    dd {
      margin: 0;
    }
    .none {
      font-size: 11px;
      text-align: center;
    }
    @media print {
      yb-header {
        display: none;
      }
      main {
        max-width: none;
        padding: 0;
        font-size: 9pt;
      }
    }
  `,
})
export class KitSheetPage {
  private readonly store = inject(ShelfStore);
  private readonly notices = inject(Notices);
  readonly yardId = input.required({ transform: numberAttribute });
  protected readonly yard = toSignal(this.store.yard$, { initialValue: null });
  /** whether every piece is there: less is not printed */
  protected readonly whole = computed(() => this.yard()?.more === 0);
  protected readonly pieces = computed(() => {
    const { compare } = new Intl.Collator('en', { numeric: true });
    return [...(this.yard()?.shelf ?? [])].sort((a, b) => compare(a.name, b.name));
  });
  protected readonly targets = computed(() =>
    this.yard()
      ? targetsOf(this.yard()!.rules)
          .map(({ name }) => name)
          .join(', ')
      : '',
  );
  protected readonly blob = routes.blob;
  protected readonly counted = counted;
  protected readonly countText = countText;
  protected readonly lengthText = lengthText;
  protected readonly placeText = placeText;
  protected readonly sizeText = sizeText;

  constructor() {
    effect(() => {
      this.store.load(this.yardId()).catch((error: unknown) => this.notices.error(error));
    });
  }

  protected print(): void {
    window.print();
  }

  protected shapesText(piece: PieceSummary): string {
    const budget = this.budgetOf(piece);
    return budget === null ? countText(piece.shapes) : `${countText(piece.shapes)} of ${countText(budget)}`;
  }

  protected isOver = (piece: PieceSummary): boolean => piece.shapes > (this.budgetOf(piece) ?? Infinity);

  protected deliveredText = ({ delivered }: PieceSummary): string =>
    delivered
      .map(
        ({ target, agreed, changed }) =>
          `${target}${agreed ? '' : ', differs'}${changed ? ', changed since' : ''}`,
      )
      .join('; ') || 'not yet';

  private budgetOf = ({ size }: PieceSummary): number | null =>
    budgetFor(this.yard()!.rules, Math.max(...size))?.shapes ?? null;
}
