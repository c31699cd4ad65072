import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import {
  anchorPlace,
  artBounds,
  artNodes,
  centreOf,
  nodeById,
  onGrid,
  partBounds,
  pointOfBounds,
} from '@yard-brace/core';
import { RadioButton } from 'primeng/radiobutton';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { Selection } from '../../../../state/selection';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { anchorOfCell, anchorOfPick, cellOf, NAMED_ANCHORS, type NamedAnchor } from './anchor-words';
import { type Cell, PivotCube } from './pivot-cube';
import { WhosePivot } from './whose-pivot';

/** Whose pivot, and where it is put: a point of the bounds, a named place, a picked point. */
@Component({
  selector: 'yb-anchor-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RadioButton, Check, Choice, PivotCube],
  template: `
    <section class="panel">
      <div class="row">
        <span>Pivot of</span>
        <yb-choice
          class="grow"
          label="Whose pivot"
          [options]="parts()"
          [value]="whose.part()"
          (chosen)="whose.turnTo($event)"
          data-testid="whose"
        />
        <yb-check [checked]="whose.locked()" (changed)="lock($event)">locked</yb-check>
        <yb-check [checked]="settings().pivots" (changed)="view.set({ pivots: $event })">show all</yb-check>
      </div>
      <div class="anchors">
        <yb-pivot-cube [cell]="cell()" (picked)="toCell($event)" />
        <div class="named" role="radiogroup" aria-label="Pivot">
          @for (choice of anchors; track choice.anchor) {
            <span>
              <p-radiobutton
                name="pivot-anchor"
                size="small"
                [inputId]="'anchor-' + choice.anchor"
                [value]="choice.anchor"
                [ngModel]="whose.pivot().anchor"
                (onClick)="toAnchor(choice.anchor)"
                [disabled]="whose.locked()"
              />
              <label [for]="'anchor-' + choice.anchor">{{ choice.name }}</label>
            </span>
          }
        </div>
      </div>
      <div class="row">
        <button
          type="button"
          class="act"
          [disabled]="whose.locked()"
          (click)="pickPoint()"
          data-testid="pick-pivot"
        >
          Pick a point …
        </button>
        <button type="button" class="act" [disabled]="whose.locked() || !faces()" (click)="toSelection()">
          Centre of the selection
        </button>
        <button type="button" class="act" [disabled]="whose.locked()" (click)="toGrid()">Snap to grid</button>
      </div>
    </section>
  `,
  styles: `
    .anchors {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .named {
      flex: 1 0 136px;
      display: grid;
      align-content: center;
    }
    .named span {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 24px;
    }
    .named label {
      flex: 1;
      white-space: nowrap;
    }
  `,
})
export class AnchorPanel {
  protected readonly whose = inject(WhosePivot);
  private readonly bench = inject(BenchStore);
  protected readonly view = inject(ViewSettingsStore);
  private readonly operations = inject(Operations);
  private readonly picking = inject(Picking);
  protected readonly faces = toSignal(inject(Selection).faces$, { requireSync: true });
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly anchors = NAMED_ANCHORS;
  protected readonly cell = computed(() => cellOf(this.whose.pivot()));
  protected readonly parts = computed((): Option<string | null>[] => {
    const { nodes } = this.whose.document();
    return [
      { label: 'the piece', value: null },
      ...artNodes(nodes).map((i) => ({ label: nodes[i]!.name, value: nodes[i]!.id })),
    ];
  });

  protected lock(locked: boolean): void {
    const pivot = { ...this.whose.pivot(), locked };
    const part = this.whose.part();
    this.bench.apply({ kind: 'set-pivots', act: locked ? 'lock' : 'unlock', pivots: [{ part, pivot }] });
  }

  protected async toAnchor(anchor: NamedAnchor): Promise<void> {
    const part = this.whose.part();
    if (anchor === 'lowest-contact' || anchor === 'centroid') {
      const place = await this.operations.measuredPivot(anchor, part);
      if (place && part === this.whose.part()) this.whose.place(anchor, place);
    } else if (anchor === 'as-it-came' && part !== null)
      this.bench.apply({ kind: 'set-pivots', pivots: [{ part, pivot: null }] });
    else this.whose.place(anchor, anchorPlace(this.bench.document, part, anchor));
  }

  protected toCell(cell: Cell): void {
    if (this.whose.locked()) return;
    const [document, part] = [this.bench.document, this.whose.part()];
    const bounds = part === null ? artBounds(document) : partBounds(document, nodeById(document, part));
    const anchor = anchorOfCell(cell);
    this.whose.place(anchor, pointOfBounds(bounds, cell), anchor === 'bounds' ? { cell } : {});
  }

  protected async pickPoint(): Promise<void> {
    const picked = await this.picking.ask('Pick a vertex, the middle of an edge or a face.');
    if (picked) this.whose.place(anchorOfPick(picked), picked.at);
  }

  protected toSelection(): void {
    const faces = this.faces();
    if (faces) this.whose.place('selection', centreOf(faces));
  }

  protected toGrid(): void {
    const { gridMetres } = this.bench.piece.yard.rules;
    this.whose.place('numeric', onGrid(this.whose.pivot().position, gridMetres));
  }
}
