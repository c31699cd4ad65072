import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  addClearance,
  type Agent,
  applyEdit,
  artBounds,
  changeClearance,
  type Clearance,
  clearanceAxes,
  clearanceBetween,
  counted,
  type Edit,
  growthFor,
  isHatch,
  lengthText,
  multiplyQuats,
  passageOf,
  quatAbout,
  removeClearance,
  resizeClearance,
  sizeOf,
  wallProbes,
} from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { ArtStore } from '../../../../state/art-store';
import { artFigures } from '../../../../state/change-figures';
import { Proposals } from '../../../../state/proposals';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { Selection } from '../../../../state/selection';
import { ShelfStore } from '../../../../state/shelf-store';
import { AmountField } from '../../../../ui/amount-field';
import { Check } from '../../../../ui/check';
import { FactTable } from '../../../../ui/fact-table';
import { NumberField } from '../../../../ui/number-field';
import { degreesOf } from '../proxies/shape-turn';
import { passageFacts } from './passage-facts';

interface Growth {
  agent: Agent;
  factor: number;
  percent: string;
}

/** Nobody grows a piece by more than this to let somebody through. */
const MAX_GROWTH = 2;
/** Up to the next tenth of a percent: what is rounded down does not pass. */
const roundedUp = (factor: number): number => Math.ceil(factor * 1000 - 1e-6) / 1000;

/** Openings that must stay open, and who passes them. */
@Component({
  selector: 'yb-clearances-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Check, FactTable, NumberField, InputText],
  template: `
    <section class="panel">
      <h3>Clearances: openings that must stay open</h3>
      <div class="row">
        <button type="button" class="act" (click)="add()" data-testid="add-clearance">
          Corner to corner …
        </button>
        <span class="faded">two points of the opening, snapped to its faces</span>
      </div>
      @for (clearance of document()?.clearances ?? []; track clearance.id) {
        <div class="clearance" [attr.data-clearance]="clearance.name">
          <div class="row">
            <input
              pInputText
              pSize="small"
              class="grow"
              [value]="clearance.name"
              aria-label="Name of the clearance"
              (change)="rename(clearance, $any($event.target).value)"
            />
            <button type="button" class="act" (click)="turn(clearance)" title="Which way one passes through">
              along {{ clearance.through }}
            </button>
            <button
              type="button"
              class="quiet-button"
              (click)="remove(clearance)"
              [attr.aria-label]="'Remove ' + clearance.name"
            >
              <span class="pi pi-times" aria-hidden="true"></span>
            </button>
          </div>
          <div class="row">
            @for (axis of axesOf(clearance); track axis.name) {
              <span class="labelled"
                >{{ axis.name }}
                <yb-number
                  [value]="2 * clearance.halfExtents[axis.axis]!"
                  (changed)="resize(clearance, axis.axis, $event)"
                  unit="m"
                  [label]="clearance.name + ' ' + axis.name"
                  [min]="0.01"
                  [width]="88"
              /></span>
            }
          </div>
          <div class="row">
            <span class="faded">Middle</span>
            @for (axis of AXES; track axis) {
              <yb-amount
                [value]="clearance.center[axis]"
                [digits]="3"
                [width]="72"
                [label]="clearance.name + ' ' + 'xyz'[axis]"
                (changed)="place(clearance, axis, $event)"
              />
            }
          </div>
          <div class="row">
            <span class="faded grow">Turned about the vertical by</span>
            <yb-amount
              [value]="turnOf(clearance)"
              unit="°"
              [digits]="1"
              [width]="70"
              [label]="clearance.name + ' turned by'"
              (changed)="turnTo(clearance, $event)"
            />
            <button
              type="button"
              class="act"
              (click)="hold(clearance)"
              [attr.aria-label]="'Hold ' + clearance.name"
            >
              Hold in the view
            </button>
          </div>
          <yb-facts [facts]="passages(clearance)" [wraps]="true" />
          @if (besidePieces().length && growths(clearance).length) {
            <yb-check [checked]="along()" (changed)="along.set($event)"
              >the {{ besideText() }} beside it grow along</yb-check
            >
          }
          @for (growth of growths(clearance); track growth.agent.id) {
            <div class="row">
              <button type="button" class="act" (click)="grow(clearance, growth)">
                Grow by {{ growth.percent }} for the {{ growth.agent.name }} …
              </button>
            </div>
          }
        </div>
      }
    </section>
  `,
  styles: `
    .clearance {
      display: grid;
      gap: 5px;
      padding: 6px 8px;
      background: var(--paper);
    }
  `,
})
export class ClearancesPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly picking = inject(Picking);
  private readonly proposals = inject(Proposals);
  private readonly beside = toSignal(inject(ArtStore).beside$, { requireSync: true });
  private readonly selection = inject(Selection);
  /** whether the whole set grows, and not the piece alone */
  protected readonly along = signal(true);
  private readonly besideIds = toSignal(this.bench.beside$, { initialValue: [] });
  private readonly yard = toSignal(inject(ShelfStore).yard$, { initialValue: null });
  protected readonly besidePieces = computed(() => {
    const ids = new Set(this.besideIds());
    return (this.yard()?.shelf ?? []).flatMap(({ id, name }) => (ids.has(id) ? [{ id, name }] : []));
  });
  protected readonly besideText = computed(() => counted(this.besidePieces().length, 'piece'));
  protected readonly AXES = [0, 1, 2] as const;
  protected readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly agents = computed(() => this.piece()?.yard.rules.agents ?? []);
  protected axesOf(clearance: Clearance): { name: string; axis: 0 | 1 | 2 }[] {
    const { width, height, through } = clearanceAxes(clearance);
    return [
      { name: 'width', axis: width },
      { name: isHatch(clearance) ? 'length' : 'height', axis: height },
      { name: 'depth', axis: through },
    ];
  }

  protected passages = (clearance: Clearance) =>
    passageFacts(clearance, this.agents(), this.piece()?.yard.rules.openings.marginMetres);

  /** A box between two corners of an opening; its thinner level side is the way through. */
  protected async add(): Promise<void> {
    const ends = await this.picking.askTwo(
      'Pick one lower corner of the opening.',
      'Pick the upper corner across from it.',
    );
    if (!ends) return;
    const corners = { from: ends[0].at, to: ends[1].at, normal: ends[0].normal };
    const probes = wallProbes(corners);
    const wall = probes ? await this.operations.wallMetres(probes) : 0;
    if (wall !== null) this.bench.apply(addClearance(this.bench.document, clearanceBetween(corners, wall)));
  }

  /** By how much the piece would have to grow for each agent that does not pass, as long as that is not absurd. */
  protected growths = (clearance: Clearance): Growth[] => {
    const margin = this.piece()?.yard.rules.openings.marginMetres ?? 0;
    return this.agents().flatMap((agent) => {
      const factor = roundedUp(growthFor(clearance, agent, margin));
      if (factor <= 1 || factor > MAX_GROWTH) return [];
      return [{ agent, factor, percent: `${((factor - 1) * 100).toFixed(1)} %` }];
    });
  };

  /** The piece, or the whole set: what stands beside is told, and shown, at the size that it would have then. */
  protected grow(clearance: Clearance, { agent, factor, percent }: Growth): void {
    const { document } = this.bench;
    const edit: Edit = { kind: 'resize', factor, about: document.pivot.position };
    const preview = applyEdit(document, edit);
    const after = preview.clearances.find(({ id }) => id === clearance.id)!;
    const margin = this.piece()?.yard.rules.openings.marginMetres ?? 0;
    const { widthLeft, heightLeft } = passageOf(after, agent, margin);
    const along = this.along() && this.besidePieces().length > 0;
    const beside = this.beside().map(({ document: other }) => {
      const [, height] = sizeOf(artBounds(other));
      return along
        ? `${other.name} beside it then stands ${lengthText(height! * factor)} instead of ${lengthText(height!)}`
        : `${other.name} beside it stays at ${lengthText(height!)}`;
    });
    this.proposals.propose({
      source: 'size',
      title:
        [
          `Grown by ${percent} the ${agent.name} passes, with ${lengthText(Math.min(widthLeft, heightLeft))} to spare`,
          ...beside,
        ].join('; ') + '.',
      keepLabel: 'Keep the size',
      edit,
      figures: artFigures(document, preview),
      ...(along ? { beside: { pieces: this.besidePieces(), factor, about: document.pivot.position } } : {}),
    });
  }

  protected rename({ id, name }: Clearance, typed: string): void {
    this.bench.apply(changeClearance(this.bench.document, id, { name: typed.trim() || name }));
  }

  protected turn({ id, through }: Clearance): void {
    this.bench.apply(changeClearance(this.bench.document, id, { through: through === 'x' ? 'z' : 'x' }));
  }

  protected resize({ id }: Clearance, axis: 0 | 1 | 2, metres: number): void {
    this.bench.apply(resizeClearance(this.bench.document, id, axis, metres));
  }

  protected place({ id, center }: Clearance, axis: 0 | 1 | 2, metres: number): void {
    const next: typeof center = [...center];
    next[axis] = metres;
    this.bench.apply(changeClearance(this.bench.document, id, { center: next }));
  }

  protected turnOf = ({ rotation }: Clearance): number => degreesOf(rotation)[1];

  protected turnTo(clearance: Clearance, degrees: number): void {
    const turn = quatAbout([0, 1, 0], ((degrees - this.turnOf(clearance)) * Math.PI) / 180);
    const rotation = multiplyQuats(turn, clearance.rotation);
    this.bench.apply(changeClearance(this.bench.document, clearance.id, { rotation }));
  }

  /** Its sides, corners and protractor can be dragged in the view then. */
  protected hold({ id }: Clearance): void {
    this.selection.chooseClearance(id);
  }

  protected remove({ id }: Clearance): void {
    this.bench.apply(removeClearance(this.bench.document, id));
  }
}
