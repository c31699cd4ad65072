import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { judgedAgent, lengthText, type Vec3 } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { ShapeEditor } from '../../../../state/shape-editor';
import { ViewMarks } from '../../../../state/view-marks';
import { Choice, type Option } from '../../../../ui/choice';
import { Disclosure } from '../../../../ui/disclosure';
import { ownerRows, setRows, shapeRows } from './set-rows';

/** How good the set of shapes is: each measure against what is felt, with its place. */
@Component({
  selector: 'yb-set-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, Disclosure],
  template: `
    @if (count()) {
      <section class="panel" data-testid="set">
        <h3>The set, judged</h3>
        <div class="row">
          <span class="faded">for</span>
          <yb-choice
            class="grow"
            label="Judged for"
            [options]="agents()"
            [value]="agent()"
            (chosen)="judgeFor($event)"
          />
        </div>
        @if (!rows() || stale()) {
          <p class="faded" role="status">Measuring the shapes …</p>
        }
        @if (rows(); as rows) {
          <ul [class.stale]="stale()">
            @for (row of rows; track row.id) {
              <li [attr.data-measure]="row.id">
                <span class="name">{{ row.name }}</span>
                <span class="bar" aria-hidden="true">
                  @if (row.share !== null) {
                    <i [class.over]="row.share > 1" [style.width.%]="width(row.share)"></i>
                  }
                </span>
                <b class="figures" [class.over]="row.share !== null && row.share > 1">{{ row.figure }}</b>
                @if (row.at; as at) {
                  <button
                    type="button"
                    class="quiet-button"
                    [attr.aria-label]="'Go to where ' + row.name + ' is most'"
                    title="Go there"
                    (click)="go(at, row.shapes)"
                  >
                    <span class="pi pi-map-marker" aria-hidden="true"></span>
                  </button>
                }
                @if (row.note) {
                  <span class="note faded figures">{{ row.note }}</span>
                }
              </li>
            }
          </ul>
          @if (owners().length > 1) {
            <yb-disclosure more="By part">
              <table>
                <thead>
                  <tr>
                    <th scope="col">Part</th>
                    <th scope="col" class="figure">Excess</th>
                    <th scope="col" class="figure">Uncovered</th>
                    <th scope="col"><span class="sr-only">Actions</span></th>
                  </tr>
                </thead>
                <tbody>
                  @for (row of owners(); track row.part) {
                    <tr>
                      <td>{{ row.name }}</td>
                      <td class="figure figures">{{ row.excess }}</td>
                      <td class="figure figures">{{ row.uncovered }}</td>
                      <td class="figure">
                        @if (row.part; as part) {
                          <button
                            type="button"
                            class="quiet-button"
                            [attr.aria-label]="
                              (row.leftOut ? 'Collide with ' : 'No collision for ') + row.name
                            "
                            (click)="collide(part, row.leftOut)"
                          >
                            {{ row.leftOut ? 'Count in' : 'Leave out' }}
                          </button>
                        }
                      </td>
                    </tr>
                  }
                </tbody>
              </table>
            </yb-disclosure>
          }
          <yb-disclosure more="By shape, the worst first">
            <table>
              <thead>
                <tr>
                  <th scope="col">Shape</th>
                  <th scope="col" class="figure">Excess</th>
                  <th scope="col" class="figure">Overfill</th>
                </tr>
              </thead>
              <tbody>
                @for (row of shapes(); track row.id) {
                  <tr>
                    <td>
                      <button type="button" class="quiet-button figures" (click)="choose(row.id, row.at)">
                        {{ row.name }}
                      </button>
                    </td>
                    <td class="figure figures">{{ row.excess }}</td>
                    <td class="figure figures">{{ row.uncovered }}</td>
                  </tr>
                }
              </tbody>
            </table>
          </yb-disclosure>
        }
      </section>
    }
  `,
  styles: `
    ul {
      display: grid;
      gap: 2px;
    }
    li {
      display: grid;
      grid-template-columns: 1fr 64px 76px 24px;
      gap: 0 8px;
      align-items: center;
      min-height: 24px;
    }
    .stale {
      opacity: 0.5;
    }
    .bar {
      position: relative;
      height: 8px;
      border-bottom: 1px solid var(--rule);
    }
    /* What goes unfelt ends at the middle. */
    .bar:has(i)::after {
      content: '';
      position: absolute;
      left: 50%;
      top: -1px;
      height: 10px;
      border-left: 1px solid var(--ink);
    }
    .bar i {
      display: block;
      height: 6px;
      background: var(--moss);
    }
    .bar .over {
      background: var(--brass);
    }
    b {
      font-weight: 500;
      text-align: right;
      white-space: nowrap;
    }
    b.over {
      color: var(--brass);
      font-weight: 700;
    }
    .note {
      grid-column: 1 / 4;
      font-size: 11px;
      text-align: right;
    }
    .quiet-button {
      min-width: 24px;
      min-height: 24px;
      padding: 0;
      justify-content: center;
    }
    li .quiet-button {
      grid-row: 1;
      grid-column: 4;
    }
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
  `,
})
export class SetPanel {
  private readonly bench = inject(BenchStore);
  private readonly editor = inject(ShapeEditor);
  private readonly marks = inject(ViewMarks);
  private readonly document = toSignal(this.bench.document$);
  private readonly measured = toSignal(this.bench.measured$, { requireSync: true });
  protected readonly count = computed(() => this.document()?.proxies.length ?? 0);
  private readonly facts = computed(() => {
    const document = this.document();
    const judged = this.measured()?.judged;
    if (!document || !judged) return null;
    return { document, judged, stale: judged.key !== this.bench.setKeyOf(document) };
  });
  protected readonly rows = computed(() => {
    const facts = this.facts();
    return facts && setRows(facts.document, facts.judged, this.bench.feltMetres);
  });
  /** what is shown was measured before the last change: it stays in sight until the new figures are there */
  protected readonly stale = computed(() => this.facts()?.stale ?? false);
  protected readonly owners = computed(() => {
    const facts = this.facts();
    return facts ? ownerRows(facts.document, facts.judged) : [];
  });
  protected readonly shapes = computed(() => {
    const facts = this.facts();
    return facts ? shapeRows(facts.document, facts.judged) : [];
  });

  private readonly piece = toSignal(this.bench.piece$);
  protected readonly agents = computed((): Option<string>[] =>
    (this.piece()?.yard.rules.agents ?? []).map(({ id, name, detail }) => ({
      label: `${name}, ignores below ${lengthText(detail)}`,
      value: id,
    })),
  );
  protected readonly agent = computed(() => {
    const document = this.document();
    return (document && judgedAgent(document, this.piece()?.yard.rules.agents ?? [])?.id) ?? null;
  });

  protected judgeFor(agent: string | null): void {
    if (agent && agent !== this.agent()) this.bench.apply({ kind: 'set-agent', agent });
  }

  /** Hundredths of the bar: what is just not felt reaches its middle. */
  protected readonly width = (share: number): number => Math.min(100, share * 50);

  protected go(at: Vec3, shapes: readonly string[] = []): void {
    if (shapes.length) this.editor.chooseAll(shapes);
    this.marks.goTo(at);
  }

  /** Nothing collides with a part that is left out: it needs no shapes. */
  protected collide(part: string, collides: boolean): void {
    this.bench.apply({ kind: 'set-collision', parts: [part], collides });
  }

  protected choose(id: string | null, at: Vec3 | null): void {
    this.editor.choose(id);
    if (at) this.marks.goTo(at);
  }
}
