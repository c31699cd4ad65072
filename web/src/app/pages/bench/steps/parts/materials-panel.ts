import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, type Operation, type PieceDocument } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Selection } from '../../../../state/selection';
import { chosenParts } from './chosen-parts';
import { screenColour } from './screen-colour';

type Material = PieceDocument['materials'][number];

/** Material slots: names, order, merging, and what they are given to. */
@Component({
  selector: 'yb-materials-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText],
  template: `
    <section class="panel">
      <h3>Materials</h3>
      <ul class="list">
        @for (material of document()?.materials ?? []; track $index; let i = $index) {
          <li>
            <i [style.background]="screenColour(material.baseColor)" aria-hidden="true"></i>
            <input
              pInputText
              pSize="small"
              class="grow"
              [value]="material.name"
              [attr.aria-label]="'Name of material ' + (i + 1)"
              (change)="rename(i, $any($event.target).value)"
            />
            <span class="faded figures" title="metalness and roughness, kept as values">{{
              values(material)
            }}</span>
            <button
              type="button"
              class="quiet-button"
              [disabled]="i === 0"
              (click)="raise(i)"
              title="Move up"
              [attr.aria-label]="'Move ' + material.name + ' up'"
            >
              <span class="pi pi-arrow-up" aria-hidden="true"></span>
            </button>
            <button
              type="button"
              class="quiet-button"
              [disabled]="i === 0"
              (click)="merge(i)"
              title="Merge into the one above"
              [attr.aria-label]="'Merge ' + material.name + ' into the one above'"
            >
              <span class="pi pi-angle-double-up" aria-hidden="true"></span>
            </button>
            <button
              type="button"
              class="quiet-button"
              [disabled]="chosen.none() && !faces()"
              (click)="assign(i)"
              [title]="assignTitle()"
              [attr.aria-label]="'Assign ' + material.name"
            >
              <span class="pi pi-check" aria-hidden="true"></span>
            </button>
          </li>
        } @empty {
          <li class="faded">
            none; <button type="button" class="quiet-button" (click)="assign(0)">add one</button>
          </li>
        }
      </ul>
    </section>
  `,
  styles: `
    i {
      width: 13px;
      height: 13px;
      flex: none;
      border: 1px solid var(--faded);
    }
    input {
      background: none;
      border-color: transparent;
    }
    .quiet-button {
      padding: 0 3px;
      min-width: 24px;
      min-height: 24px;
      justify-content: center;
    }
    .list li {
      gap: 4px;
    }
  `,
})
export class MaterialsPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly selection = inject(Selection);
  protected readonly document = toSignal(this.bench.document$);
  protected readonly faces = toSignal(this.selection.faces$, { requireSync: true });
  protected readonly chosen = chosenParts();
  protected readonly screenColour = screenColour;

  protected values({ metalness, roughness, pictures }: Material): string {
    const count = Object.keys(pictures).length;
    const said = `m ${metalness.toFixed(2)} r ${roughness.toFixed(2)}`;
    return count ? `${said}, ${counted(count, 'picture')}` : said;
  }

  protected assignTitle(): string {
    if (this.faces()) return 'Assign to the chosen faces';
    return this.chosen.none() ? 'Choose parts or faces to assign it to' : 'Assign to the chosen parts';
  }

  protected rename(material: number, typed: string): void {
    const name = typed.trim();
    if (name) this.bench.apply({ kind: 'rename-material', material, name });
  }

  protected raise(i: number): void {
    const order = this.bench.document.materials.map((_, k) => k);
    [order[i - 1], order[i]] = [order[i]!, order[i - 1]!];
    this.make({ op: 'order-materials', order });
  }

  protected merge(i: number): void {
    void this.operations.propose({ op: 'merge-materials', from: [i], to: i - 1 });
  }

  protected assign(material: number): void {
    const faces = this.selection.facesByPart();
    this.make(
      faces.length
        ? { op: 'assign-material', material, faces }
        : { op: 'assign-material', material, parts: this.chosen.ids() },
    );
  }

  private make(operation: Operation): void {
    void this.operations.make(operation);
  }
}
