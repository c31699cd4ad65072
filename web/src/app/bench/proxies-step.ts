import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { type Shape, shapeCorners, shapeBounds, shapeVolume, sizeOf } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { SelectButton } from 'primeng/selectbutton';
import { Compute, Stopped } from '../compute/compute';
import { counted, countText, lengthText, sizeText, volumeText } from '../shell/figures';
import { Notices } from '../shell/notices';
import { tintOf } from '../view/tints';
import { BenchStore } from './bench-store';
import { FindingList } from './finding-list';
import { LadderPanel } from './ladder-panel';
import { NumberField } from './number-field';
import { figuresOf } from './set-figures';
import { ShapeGlyph } from './shape-glyph';
import { stepStyles } from './step-styles';

/** Shapes round the art: proposed with their figures first, then kept or left. */
@Component({
  selector: 'yb-proxies-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, NumberField, SelectButton, FindingList, LadderPanel, ShapeGlyph],
  template: `
    @if (document(); as document) {
      <yb-ladder-panel />
      <section class="choose">
        <h3>Or wrap it plainly</h3>
        <div class="row">
          <p-selectbutton
            [options]="kinds"
            optionLabel="label"
            optionValue="value"
            [(ngModel)]="kind"
            [allowEmpty]="false"
            size="small"
            aria-label="Kind of shape"
          />
          <p-selectbutton
            [options]="pers()"
            optionLabel="label"
            optionValue="value"
            [(ngModel)]="per"
            [allowEmpty]="false"
            size="small"
            aria-label="One shape round what"
          />
        </div>
        <div class="row detail">
          @if (kind() === 'hull') {
            <label
              >Corners at most
              <yb-number
                [value]="mostCorners()"
                (changed)="mostCorners.set($event)"
                label="Corners at most"
                [min]="4"
                [max]="255"
                [digits]="0"
                [width]="56"
            /></label>
          } @else {
            <label class="check"
              ><input type="checkbox" [checked]="turned()" (change)="turned.set(!turned())" /> turned to lie
              closer</label
            >
          }
          <span class="gap"></span>
          <p-button
            [label]="action()"
            size="small"
            [disabled]="working()"
            (onClick)="propose()"
            data-testid="propose"
          />
        </div>
      </section>

      @if (plain(); as proposal) {
        <section class="proposal" data-testid="proposal">
          <h3>{{ proposal.what }}, proposed</h3>
          <table>
            <tr>
              <th></th>
              <th class="number">now</th>
              <th class="number">proposed</th>
            </tr>
            @for (row of rows(); track row.name) {
              <tr>
                <td>{{ row.name }}</td>
                <td class="number figures">{{ row.now }}</td>
                <td class="number figures">{{ row.next }}</td>
              </tr>
            }
          </table>
          <div class="row">
            <p-button
              [label]="'Keep ' + counted(proposal.proxies.length, 'shape')"
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
          </div>
        </section>
      }

      <yb-finding-list step="proxies" />
      @if (list().length) {
        <section>
          <h3>{{ proposal() ? 'Proposed shapes' : 'Shapes' }}</h3>
          <ul class="list">
            @for (entry of list(); track entry.id) {
              <li
                [class.lit]="entry.id === lit()"
                (pointerenter)="store.lit$.next(entry.id)"
                (pointerleave)="store.lit$.next(null)"
                [attr.data-shape]="entry.number"
                [attr.data-kind]="entry.kind"
              >
                <span class="tag figures" [style.border-color]="entry.tint">{{ entry.number }}</span>
                <yb-shape-glyph [kind]="entry.kind" [style.color]="entry.tint" />
                <span class="figures">{{ entry.size }}</span>
                <span class="figures faded">{{ entry.cost }}</span>
                @if (!proposal()) {
                  <button
                    type="button"
                    class="quiet-button"
                    [attr.aria-label]="'Remove shape ' + entry.number"
                    title="Remove this shape"
                    (click)="remove(entry.id)"
                    (focus)="store.lit$.next(entry.id)"
                    (blur)="store.lit$.next(null)"
                  >
                    <span class="pi pi-times"></span>
                  </button>
                }
              </li>
            }
          </ul>
          @if (!proposal() && list().length > 1) {
            <button type="button" class="quiet-button danger" (click)="removeAll()">
              Remove all {{ list().length }} shapes
            </button>
          }
        </section>
      }
    }
  `,
  styles: [
    stepStyles,
    `
      .detail {
        margin-top: 8px;
        min-height: 28px;
      }
      label {
        display: inline-flex;
        align-items: center;
        gap: 8px;
      }
      .gap {
        flex: 1;
      }
      .proposal {
        padding: 10px 12px 12px;
        border: 1px dashed var(--tide);
        border-radius: var(--corner);
      }
      .proposal .row {
        margin-top: 10px;
      }
      .list li {
        display: flex;
        align-items: center;
        gap: 8px;
        min-height: 27px;
        padding: 0 4px;
        border-bottom: 1px dotted var(--rule);
      }
      .list .lit {
        background: #17616e17;
      }
      .list .figures {
        white-space: nowrap;
      }
      .list .faded {
        flex: 1;
        text-align: right;
      }
      .tag {
        min-width: 24px;
        text-align: center;
        border: 1px solid;
        border-left-width: 4px;
        background: var(--card);
      }
      .danger {
        margin-top: 6px;
        color: var(--vermilion);
      }
    `,
  ],
})
export class ProxiesStep {
  protected readonly store = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  protected readonly document = toSignal(this.store.document$);
  protected readonly proposal = toSignal(this.store.proposal$);
  /** a proposal of plain wrapping; the ladder shows its own */
  protected readonly plain = computed(() => (this.proposal()?.ladder ? null : this.proposal()));
  protected readonly lit = toSignal(this.store.lit$);
  protected readonly kind = signal<'box' | 'hull'>('box');
  protected readonly per = signal<'piece' | 'part'>('piece');
  protected readonly turned = signal(true);
  protected readonly mostCorners = signal(64);
  protected readonly working = signal(false);
  protected readonly counted = counted;
  protected readonly kinds = [
    { label: 'Box', value: 'box' },
    { label: 'Hull', value: 'hull' },
  ];
  protected readonly pers = computed(() => [
    { label: 'Whole piece', value: 'piece' },
    { label: `Each of ${counted(this.document()?.whole.parts ?? 0, 'part')}`, value: 'part' },
  ]);
  protected readonly action = computed(() => {
    const parts = this.per() === 'part' ? (this.document()?.whole.parts ?? 0) : 1;
    if (parts === 1) return `Wrap the piece in a ${this.kind()}`;
    return `Wrap ${counted(parts, 'part')} in ${this.kind() === 'box' ? 'boxes' : 'hulls'}`;
  });

  protected readonly list = computed(() => {
    const proxies = this.proposal()?.proxies ?? this.document()?.proxies ?? [];
    return proxies.map(({ id, shape }, i) => ({
      id,
      number: i + 1,
      tint: tintOf(i + 1),
      kind: shape.kind,
      size: describeSize(shape),
      cost: describeCost(shape),
    }));
  });

  protected readonly rows = computed(() => {
    const document = this.document();
    const proposal = this.proposal();
    if (!document || !proposal) return [];
    const now = figuresOf(document, document.proxies);
    const next = figuresOf(document, proposal.proxies);
    const rows = [
      { name: 'Shapes', now: countText(now.shapes), next: countText(next.shapes) },
      { name: 'Corners', now: countText(now.corners), next: countText(next.corners) },
      { name: 'Volume, added up', now: volumeText(now.volume), next: volumeText(next.volume) },
    ];
    if (next.artVolume !== null)
      rows.push({
        name: 'Volume of the art',
        now: volumeText(next.artVolume),
        next: volumeText(next.artVolume),
      });
    if (proposal.cutBack > 0)
      rows.push({ name: 'Art stands out, at most', now: '', next: lengthText(proposal.cutBack) });
    return rows;
  });

  protected async propose(): Promise<void> {
    const document = this.document()!;
    const request = {
      kind: this.kind(),
      per: this.per(),
      turned: this.turned(),
      mostCorners: this.mostCorners(),
    };
    const what = this.action().replace(/^Wrap/, 'Wrapped').replace('Wrapped the piece', 'The piece');
    this.working.set(true);
    try {
      const { shapes, cutBack } = await this.compute.run(
        (worker, progress) => worker.wrap(document, request, progress),
        { first: 'Wrapping' },
      );
      if (this.document() !== document) {
        this.notices.say('The piece was changed while it was wrapped; wrap it again.');
        return;
      }
      this.store.proposeShapes({
        what,
        proxies: shapes.map((shape, i) => ({ id: `${request.kind}-${request.per}-${i + 1}`, shape })),
        cutBack,
      });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.working.set(false);
    }
  }

  protected remove(id: string): void {
    this.store.lit$.next(null);
    this.store.apply({ kind: 'remove-proxy', id });
  }

  protected removeAll(): void {
    this.store.apply({ kind: 'set-proxies', proxies: [] });
  }
}

function describeSize(shape: Shape): string {
  if (shape.kind === 'box') return sizeText(shape.halfExtents.map((half) => half * 2));
  return sizeText(sizeOf(shapeBounds(shape)));
}

const describeCost = (shape: Shape) =>
  shape.kind === 'hull' ? counted(shapeCorners(shape), 'corner') : volumeText(shapeVolume(shape));
