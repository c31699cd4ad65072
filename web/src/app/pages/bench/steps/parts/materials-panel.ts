import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artKey,
  colourCode,
  counted,
  countText,
  listText,
  type MaterialUse,
  type Operation,
  type PieceDocument,
} from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { ArtStore } from '../../../../state/art-store';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Selection } from '../../../../state/selection';
import { ViewMarks } from '../../../../state/view-marks';
import { Choice, type Option } from '../../../../ui/choice';
import { ChooseFaces } from '../../choose-faces';
import { RenamePanel } from '../names/rename-panel';
import { MaterialNamesPanel } from './material-names-panel';
import { chosenParts } from './chosen-parts';
import { screenColour } from './screen-colour';

type Material = PieceDocument['materials'][number];

/** Material slots: names, order, merging, who has them, and what they are given to. */
@Component({
  selector: 'yb-materials-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, ChooseFaces, InputText, MaterialNamesPanel, RenamePanel],
  template: `
    <section class="panel">
      <h3>Material slots, in the order that they leave in</h3>
      <ul class="list">
        @for (row of rows(); track $index; let i = $index) {
          <li
            [class.unused]="row.unused"
            (pointerenter)="light(i)"
            (pointerleave)="light(null)"
            (focusin)="light(i)"
            (focusout)="light(null)"
          >
            <i [style.background]="row.colour" aria-hidden="true"></i>
            <span class="slot">
              <input
                pInputText
                pSize="small"
                [value]="row.name"
                [attr.aria-label]="'Name of material ' + (i + 1)"
                (change)="rename(i, $any($event.target).value)"
              />
              <span class="faded figures" [title]="row.values">{{ row.code }} · {{ row.use }}</span>
            </span>
            <button
              type="button"
              class="quiet-button"
              [disabled]="i === 0"
              (click)="raise(i)"
              title="Move up"
              [attr.aria-label]="'Move ' + row.name + ' up'"
            >
              <span class="pi pi-arrow-up" aria-hidden="true"></span>
            </button>
            <button
              type="button"
              class="act"
              [disabled]="!target()"
              (click)="assign(i)"
              [title]="target() ? 'Give it to ' + target() : 'Choose parts or faces first'"
              [attr.aria-label]="'Assign ' + row.name"
            >
              Assign
            </button>
          </li>
        } @empty {
          <li class="faded">The piece has no material.</li>
        }
      </ul>
      @if (facesWithout(); as count) {
        <p class="faded">{{ count }} without a material.</p>
      }
      <div class="row">
        <button type="button" class="act" (click)="make({ op: 'add-material' })" data-testid="add-material">
          Add a slot
        </button>
        <button type="button" class="act" [disabled]="!unused().length" (click)="removeUnused()">
          {{ unused().length ? 'Remove ' + unused().length + ' unused' : 'Remove unused' }}
        </button>
      </div>
      @if (options().length > 1) {
        <div class="row">
          <span>Merge</span>
          <yb-choice
            class="grow"
            label="Material that goes"
            [options]="options()"
            [value]="from()"
            placeholder="one"
            (chosen)="from.set($event)"
          />
          <span>into</span>
          <yb-choice
            class="grow"
            label="Material that stays"
            [options]="options()"
            [value]="into()"
            placeholder="another"
            (chosen)="into.set($event)"
          />
          <button type="button" class="act" [disabled]="!canMerge()" (click)="merge()">Merge</button>
        </div>
      }
      <yb-rename-panel only="materials" />
      <h3>Faces that take a material{{ target() ? ': ' + target() : '' }}</h3>
      <yb-choose-faces />
    </section>
    <yb-material-names-panel [uses]="counts()?.uses ?? []" />
  `,
  styles: `
    i {
      width: 13px;
      height: 13px;
      flex: none;
      border: 1px solid var(--faded);
    }
    .slot {
      flex: 1;
      min-width: 0;
      display: grid;
    }
    .slot input {
      width: 100%;
      min-width: 0;
      padding-block: 1px;
      background: none;
      border-color: transparent;
    }
    .slot .figures {
      padding-left: 9px;
      font-size: 11px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .unused input {
      color: var(--faded);
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
  private readonly marks = inject(ViewMarks);
  private readonly arts = inject(ArtStore);
  private readonly document = toSignal(this.bench.document$);
  private readonly faces = toSignal(this.selection.faces$, { requireSync: true });
  private readonly chosen = chosenParts();
  protected readonly counts = signal<{ uses: MaterialUse[]; none: number } | null>(null);
  protected readonly from = signal<number | null>(null);
  protected readonly into = signal<number | null>(null);
  protected readonly rows = computed(() => {
    const document = this.document();
    if (!document) return [];
    const names = new Map(document.nodes.map(({ id, name }) => [id, name]));
    return document.materials.map((material, i) => {
      const use = this.counts()?.uses[i];
      return {
        name: material.name,
        colour: screenColour(material.baseColor),
        code: colourCode(material.baseColor),
        values: valuesText(material),
        unused: use?.faces === 0,
        use: use ? useText(use, names) : '…',
      };
    });
  });
  protected readonly facesWithout = computed(() => {
    const none = this.counts()?.none ?? 0;
    return none ? counted(none, 'face') : null;
  });
  protected readonly unused = computed(
    () => this.counts()?.uses.flatMap(({ faces }, i) => (faces === 0 ? [i] : [])) ?? [],
  );
  protected readonly options = computed((): Option<number | null>[] =>
    this.rows().map(({ name }, value) => ({ label: name, value })),
  );
  protected readonly canMerge = computed(
    () => this.from() !== null && this.into() !== null && this.from() !== this.into(),
  );
  /** who would take a material: chosen faces before chosen parts; nobody when nothing is chosen */
  protected readonly target = computed(() => {
    const faces = this.faces();
    if (faces) return counted(faces.count, 'chosen face');
    return this.chosen.none() ? null : this.chosen.words();
  });
  private readonly art = computed(() => {
    const document = this.document();
    return document ? artKey(document) + document.materials.length : '';
  });

  constructor() {
    effect(() => {
      if (this.art()) untracked(() => void this.count());
    });
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

  protected merge(): void {
    const [from, to] = [this.from(), this.into()];
    if (from !== null && to !== null)
      void this.operations.propose({ op: 'merge-materials', from: [from], to });
    this.from.set(null);
    this.into.set(null);
  }

  protected removeUnused(): void {
    this.make({ op: 'remove-materials', materials: this.unused() });
  }

  protected assign(material: number): void {
    const faces = this.selection.facesByPart();
    if (faces.length) this.make({ op: 'assign-material', material, faces });
    else if (!this.chosen.none()) this.make({ op: 'assign-material', material, parts: this.chosen.ids() });
  }

  protected make(operation: Operation): void {
    void this.operations.make(operation);
  }

  /** The faces that have a material, lit for as long as it is pointed at. */
  protected light(material: number | null): void {
    const groups = this.arts.art?.art.groups.filter((group) => group.material === material) ?? [];
    const faces = groups.flatMap(({ start, count }) => Array.from({ length: count }, (_, i) => start + i));
    this.marks.showFaults(
      material === null || !faces.length
        ? null
        : { faces: Uint32Array.from(faces), edges: new Float32Array() },
    );
  }

  private async count(): Promise<void> {
    const art = this.art();
    const counts = await this.operations.materialUses();
    if (counts && art === this.art()) this.counts.set(counts);
  }
}

function useText({ faces, parts }: MaterialUse, names: ReadonlyMap<string, string>): string {
  if (!faces) return 'unused';
  const where = parts.length > 1 ? `${countText(parts.length)} parts` : (names.get(parts[0]!) ?? '');
  return `${counted(faces, 'face')}, ${where}`;
}

function valuesText({ metalness, roughness, pictures, alpha }: Material): string {
  const said = [`metalness ${metalness.toFixed(2)}`, `roughness ${roughness.toFixed(2)}`];
  if (alpha !== 'opaque') said.push(`alpha ${alpha}`);
  const slots = Object.keys(pictures);
  return [...said, ...(slots.length ? [`pictures: ${listText(slots)}`] : [])].join(', ');
}
