import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artKey,
  blobId,
  costOf,
  counted,
  countText,
  type KeptSet,
  lengthText,
  MAX_SETS,
  shapeCorners,
} from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { BenchStore } from '../../../../state/bench-store';
import { Notices } from '../../../../state/notices';
import { type Figure, Proposals } from '../../../../state/proposals';

const artHash = (document: Parameters<typeof artKey>[0]): string =>
  blobId(new TextEncoder().encode(artKey(document)));

/** Sets of shapes kept under a name beside the one in use; what is delivered is the one in use. */
@Component({
  selector: 'yb-kept-sets-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText],
  template: `
    @if (count() || rows().length) {
      <section class="panel" data-testid="kept-sets">
        <h3>Sets beside the one in use</h3>
        @if (rows().length) {
          <table>
            <thead>
              <tr>
                <th scope="col">Set</th>
                <th scope="col" class="figure">Shapes</th>
                <th scope="col" class="figure">Corners</th>
                <th scope="col" class="figure">Off</th>
                <th scope="col" class="figure">Cost</th>
                <th scope="col"><span class="sr-only">Actions</span></th>
              </tr>
            </thead>
            <tbody>
              @for (row of rows(); track row.name) {
                <tr [attr.data-set]="row.name">
                  <td>{{ row.name }}</td>
                  <td class="figure figures">{{ row.shapes }}</td>
                  <td class="figure figures">{{ row.corners }}</td>
                  <td class="figure figures" [title]="row.note">{{ row.off }}</td>
                  <td class="figure figures">{{ row.cost }}</td>
                  <td class="figure">
                    <button type="button" class="quiet-button" (click)="use(row.name)">Use …</button>
                    <button
                      type="button"
                      class="quiet-button"
                      [attr.aria-label]="'Forget ' + row.name"
                      title="Forget this set"
                      (click)="forget(row.name)"
                    >
                      <span class="pi pi-times" aria-hidden="true"></span>
                    </button>
                  </td>
                </tr>
              }
            </tbody>
          </table>
        }
        @if (count()) {
          <div class="row">
            <input
              pInputText
              pSize="small"
              class="grow"
              maxlength="120"
              placeholder="Name, as “rough”"
              aria-label="Name of the set"
              [value]="name()"
              (input)="name.set($any($event.target).value)"
              (keydown.enter)="keep()"
            />
            <button type="button" class="act" [disabled]="!name().trim()" (click)="keep()">
              Keep these {{ what() }}
            </button>
          </div>
        }
      </section>
    }
  `,
  styles: `
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 12px;
    }
    th {
      font-weight: 600;
      text-align: left;
    }
    td,
    th {
      padding: 2px 0;
      border-bottom: 1px solid var(--rule);
    }
    .figure {
      padding-left: 8px;
      text-align: right;
      white-space: nowrap;
    }
    .quiet-button {
      min-width: 24px;
      min-height: 24px;
    }
    input {
      min-width: 0;
    }
  `,
})
export class KeptSetsPanel {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly notices = inject(Notices);
  private readonly document = toSignal(this.bench.document$);
  private readonly measured = toSignal(this.bench.measured$, { requireSync: true });
  protected readonly name = signal('');
  protected readonly count = computed(() => this.document()?.proxies.length ?? 0);
  protected readonly what = computed(() => counted(this.count(), 'shape'));
  protected readonly rows = computed(() => {
    const document = this.document();
    const art = document?.sets.length ? artHash(document) : '';
    return (document?.sets ?? []).map((set) => rowOf(set, art));
  });

  protected keep(): void {
    const name = this.name().trim();
    const { document } = this.bench;
    if (!name) return;
    if (document.sets.length >= MAX_SETS && !document.sets.some((set) => set.name === name))
      return this.notices.say(`A piece keeps at most ${MAX_SETS} sets; forget one first.`, true);
    const judged = this.measured()?.judged;
    this.bench.apply({
      kind: 'change-sets',
      keep: {
        name,
        ...(judged
          ? {
              measured: {
                art: artHash(document),
                excess: judged.excess.max,
                uncovered: judged.uncovered.max,
              },
            }
          : {}),
      },
    });
    this.name.set('');
  }

  /** The set is shown in the place of the one in use first. */
  protected use(name: string): void {
    const { document } = this.bench;
    const set = document.sets.find((each) => each.name === name)!;
    const [now, next] = [figuresOf(document.proxies), figuresOf(set.proxies)];
    this.proposals.propose({
      source: 'set',
      title: `“${name}” in the place of the set in use.`,
      keepLabel: `Use “${name}”`,
      edit: { kind: 'change-sets', use: name },
      figures: now.map((figure, i) => ({ ...figure, next: next[i]!.now })),
    });
  }

  protected forget(name: string): void {
    this.bench.apply({ kind: 'change-sets', remove: name });
  }
}

const cornersOf = (proxies: KeptSet['proxies']): number =>
  proxies.reduce((sum, { shape }) => sum + shapeCorners(shape), 0);
const costText = (proxies: KeptSet['proxies']): string =>
  countText(Number(costOf(proxies.map(({ shape }) => shape)).cost.toPrecision(3)));

const figuresOf = (proxies: KeptSet['proxies']): Figure[] => [
  { name: 'Shapes', now: countText(proxies.length), next: '' },
  { name: 'Corners', now: countText(cornersOf(proxies)), next: '' },
  { name: 'Cost', now: costText(proxies), next: '' },
];

function rowOf({ name, proxies, measured }: KeptSet, art: string) {
  return {
    name,
    shapes: countText(proxies.length),
    corners: countText(cornersOf(proxies)),
    cost: costText(proxies),
    off: measured ? lengthText(Math.max(measured.excess, measured.uncovered)) : '—',
    note: !measured
      ? 'It was not measured when it was kept'
      : measured.art === art
        ? `excess ${lengthText(measured.excess)}, uncovered ${lengthText(measured.uncovered)}`
        : 'Measured on art that has changed since',
  };
}
