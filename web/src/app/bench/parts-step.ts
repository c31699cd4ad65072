import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { artBounds, artKey, type Operation, type Vec3 } from '@yard-brace/core';
import { Button } from 'primeng/button';
import type { UvReport } from '../compute/messages';
import { counted, countText, lengthText } from '../shell/figures';
import { isTyping } from '../shell/keys';
import { CHOOSE_BY, type ChooseBy, ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { FindingList } from './finding-list';
import { NumberField } from './number-field';
import { Operations } from './operations';
import { PartsTree } from './parts-tree';
import { stepStyles } from './step-styles';

const WAYS: Record<ChooseBy, string> = {
  face: 'Face',
  shell: 'Shell',
  flat: 'Flat',
  border: 'Edge',
  material: 'Material',
  box: 'Box',
  lasso: 'Lasso',
};

/** The tree, faces chosen in the view, taking apart, mending, materials and UVs. */
@Component({
  selector: 'yb-parts-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, FindingList, PartsTree, NumberField],
  host: { '(document:keydown)': 'key($event)' },
  template: `
    @if (document(); as document) {
      <yb-finding-list step="parts" />
      <section>
        <yb-parts-tree
          [document]="document"
          [chosen]="chosen()"
          (chosenChange)="chosen.set($event)"
          (renamed)="store.apply({ kind: 'rename-parts', names: [$event] })"
          (hung)="operations.make({ op: 'reparent', part: $event.part, parent: $event.parent })"
        />
        <div class="row acts">
          <button
            type="button"
            class="act"
            [disabled]="none()"
            (click)="make({ op: 'group', parts: ids(), name: document.name })"
          >
            New root
          </button>
          <button
            type="button"
            class="act"
            [disabled]="chosen().size < 2"
            (click)="make({ op: 'combine', parts: ids() })"
          >
            Combine
          </button>
          <button
            type="button"
            class="act"
            [disabled]="none()"
            (click)="make({ op: 'duplicate', parts: ids() })"
          >
            Double
          </button>
          <button
            type="button"
            class="act"
            [disabled]="none()"
            (click)="make({ op: 'set-aside', parts: ids(), aside: !areAside() })"
          >
            {{ areAside() ? 'Bring back' : 'Set aside' }}
          </button>
          <button
            type="button"
            class="act"
            [disabled]="none()"
            (click)="make({ op: 'delete', parts: ids() })"
          >
            Take out
          </button>
        </div>
        <p class="faded">Drag a part onto another to hang it below; double-click to rename. {{ acting() }}</p>
      </section>

      <section>
        <h3>Faces</h3>
        <div class="ways" role="group" aria-label="Choose faces by">
          @for (way of ways; track way) {
            <button
              type="button"
              [class.on]="settings().choosing && settings().chooseBy === way"
              (click)="chooseBy(way)"
            >
              {{ words[way] }}
            </button>
          }
        </div>
        <div class="row">
          @switch (settings().chooseBy) {
            @case ('flat') {
              <label
                >up to
                <yb-number
                  [value]="settings().flatDegrees"
                  (changed)="view.set({ flatDegrees: $event })"
                  unit="°"
                  label="Angle of a flat region"
                  [min]="0"
                  [max]="180"
                  [digits]="1"
                  [width]="58"
              /></label>
            }
            @case ('box') {
              <label
                ><input type="checkbox" [checked]="settings().through" (change)="view.toggle('through')" />
                also what is behind</label
              >
            }
            @case ('lasso') {
              <label
                ><input type="checkbox" [checked]="settings().through" (change)="view.toggle('through')" />
                also what is behind</label
              >
            }
          }
          <span class="gap"></span>
          <button type="button" class="quiet-button" (click)="view.change('grow')" title="+">Grow</button>
          <button type="button" class="quiet-button" (click)="view.change('shrink')" title="−">Shrink</button>
          <button type="button" class="quiet-button" (click)="view.change('invert')" title="I">Invert</button>
        </div>
        @if (faces(); as faces) {
          <div class="row acts">
            <input
              class="text"
              [ngModel]="partName()"
              (ngModelChange)="partName.set($event)"
              placeholder="name of the new part"
              aria-label="Name of the new part"
            />
            <p-button
              [label]="'Make ' + counted(faces.count, 'face') + ' a part'"
              size="small"
              (onClick)="splitFaces()"
              data-testid="split-faces"
            />
          </div>
          <div class="row acts">
            <button
              type="button"
              class="act"
              (click)="propose({ op: 'delete-faces', faces: view.chosenByPart() })"
            >
              Remove
            </button>
            <button type="button" class="act" (click)="propose({ op: 'flip', faces: view.chosenByPart() })">
              Turn round
            </button>
            <button type="button" class="act" [disabled]="!operations.lastRun.length" (click)="edges('hard')">
              Hard edge
            </button>
            <button
              type="button"
              class="act"
              [disabled]="!operations.lastRun.length"
              (click)="edges('smooth')"
            >
              Smooth edge
            </button>
            <button type="button" class="act" (click)="view.clearChosen()">Let go</button>
          </div>
        } @else {
          <p class="faded">
            {{
              settings().choosing
                ? 'Click faces in the view; Shift adds, Alt takes away.'
                : 'Choose a way, then click in the view.'
            }}
          </p>
        }
      </section>

      <section>
        <h3>Take apart</h3>
        <div class="row acts">
          <button type="button" class="act" (click)="splitShells()" data-testid="split-shells">
            By shells
          </button>
          <label
            >leaving specks below
            <yb-number
              [value]="smallest() * 1000"
              (changed)="smallest.set($event / 1000)"
              unit="mm"
              label="Smallest shell"
              [min]="0"
              [digits]="1"
              [width]="64"
          /></label>
        </div>
        <div class="row acts">
          <button type="button" class="act" (click)="propose({ op: 'split-materials', part: onePart() })">
            By material
          </button>
          <button
            type="button"
            class="act"
            [disabled]="!settings().cut"
            (click)="splitPlane()"
            [title]="settings().cut ? '' : 'Lay a cut through the piece first (C)'"
          >
            Along the cut
          </button>
          <label
            ><input type="checkbox" [checked]="closing()" (change)="closing.set(!closing())" /> closed</label
          >
        </div>
      </section>

      <section>
        <h3>Mend {{ none() ? 'everything' : counted(chosen().size, 'part') }}</h3>
        <div class="row acts">
          <button type="button" class="act" (click)="propose(weld())" data-testid="weld">Weld</button>
          <yb-number
            [value]="weldMm()"
            (changed)="setWeld($event)"
            unit="mm"
            label="Weld distance"
            [min]="0.0001"
            [digits]="4"
            [width]="76"
          />
          <span class="faded figures">{{ weldCount() }}</span>
        </div>
        <div class="row acts">
          <button type="button" class="act" (click)="propose({ op: 'fill-holes', parts: ids() })">
            Fill holes
          </button>
          <button type="button" class="act" (click)="propose({ op: 'face-outward', parts: ids() })">
            Turn outward
          </button>
          <button type="button" class="act" (click)="propose({ op: 'flip', parts: ids() })">Turn all</button>
          <button
            type="button"
            class="act"
            (click)="
              propose({
                op: 'remove-faces',
                parts: ids(),
                which: ['doubled', 'hidden', 'zero-area', 'specks', 'unused'],
              })
            "
          >
            Clean
          </button>
        </div>
        <div class="row acts">
          <button
            type="button"
            class="act"
            (click)="propose({ op: 'normals', parts: ids(), degrees: hardDegrees() })"
          >
            Normals
          </button>
          <label
            >hard above
            <yb-number
              [value]="hardDegrees()"
              (changed)="hardDegrees.set($event)"
              unit="°"
              label="Hard edges above"
              [min]="0"
              [max]="180"
              [digits]="1"
              [width]="58"
          /></label>
          <button
            type="button"
            class="act"
            (click)="propose({ op: 'vertices', parts: ids(), to: 'share' })"
            title="Vertices that are the same in everything become one"
          >
            Share
          </button>
          <button
            type="button"
            class="act"
            (click)="propose({ op: 'vertices', parts: ids(), to: 'separate' })"
            title="Every face gets vertices of its own"
          >
            Part
          </button>
        </div>
        <div class="row acts">
          <button
            type="button"
            class="act"
            (click)="propose({ op: 'reduce', parts: ids(), share: reduceShare() / 100 })"
          >
            Reduce
          </button>
          <label
            >to
            <yb-number
              [value]="reduceShare()"
              (changed)="reduceShare.set($event)"
              unit="%"
              label="Share of the triangles"
              [min]="0"
              [max]="100"
              [digits]="1"
              [width]="62"
          /></label>
          <button
            type="button"
            class="act"
            (click)="propose({ op: 'reduce', parts: ids(), metres: reduceMm() / 1000 })"
          >
            or within
          </button>
          <yb-number
            [value]="reduceMm()"
            (changed)="reduceMm.set($event)"
            unit="mm"
            label="Error of the reduction"
            [min]="0.001"
            [digits]="3"
            [width]="70"
          />
        </div>
      </section>

      <section>
        <h3>Materials</h3>
        <ul class="materials">
          @for (material of document.materials; track $index; let i = $index) {
            <li>
              <i [style.background]="colour(material.baseColor)"></i>
              <input
                class="text"
                [value]="material.name"
                [attr.aria-label]="'Name of material ' + (i + 1)"
                (change)="renameMaterial(i, $any($event.target).value)"
              />
              <span class="faded figures" [title]="'metalness and roughness, kept as values'"
                >m {{ material.metalness.toFixed(2) }} r {{ material.roughness.toFixed(2)
                }}{{ pictures(material) }}</span
              >
              <button
                type="button"
                class="quiet-button"
                [disabled]="i === 0"
                (click)="raise(i)"
                title="Move up"
                [attr.aria-label]="'Move ' + material.name + ' up'"
              >
                <span class="pi pi-arrow-up"></span>
              </button>
              <button
                type="button"
                class="quiet-button"
                [disabled]="i === 0"
                (click)="propose({ op: 'merge-materials', from: [i], to: i - 1 })"
                [title]="'Merge into the one above'"
                [attr.aria-label]="'Merge ' + material.name + ' into the one above'"
              >
                <span class="pi pi-angle-double-up"></span>
              </button>
              <button
                type="button"
                class="quiet-button"
                [disabled]="none() && !faces()"
                (click)="assign(i)"
                [title]="
                  faces()
                    ? 'Give it to the chosen faces'
                    : none()
                      ? 'Choose parts or faces to give it to'
                      : 'Give it to the chosen parts'
                "
                [attr.aria-label]="'Assign ' + material.name"
              >
                <span class="pi pi-check"></span>
              </button>
            </li>
          } @empty {
            <li class="faded">
              none; <button type="button" class="quiet-button" (click)="assign(0)">make one</button>
            </li>
          }
        </ul>
      </section>

      <section>
        <h3>UVs, against {{ piece()?.yard?.rules?.pixelsPerMetre }} pixels a metre</h3>
        <table>
          @for (row of uvRows(); track row.part) {
            <tr>
              <td>{{ row.name }}</td>
              <td class="number figures">{{ row.density }}</td>
              <td class="number figures">{{ row.stretch }}</td>
            </tr>
          }
        </table>
        <div class="row acts">
          <button
            type="button"
            class="act"
            (click)="propose({ op: 'project-uvs', parts: ids(), metresPerPicture: pictureMetres() })"
          >
            Lay on from six sides
          </button>
          <label
            ><yb-number
              [value]="pictureMetres()"
              (changed)="pictureMetres.set($event)"
              unit="m"
              label="Metres a picture"
              [min]="0.001"
              [width]="66"
            />
            a picture</label
          >
        </div>
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .acts {
        margin-top: 5px;
      }
      .ways {
        display: flex;
        border: 1px solid var(--rule);
        border-radius: var(--corner);
      }
      .ways button {
        flex: 1;
        height: 26px;
        padding: 0 3px;
        font-size: 12px;
        background: var(--card);
        border: 0;
        border-right: 1px solid var(--rule);
        cursor: pointer;
        white-space: nowrap;
      }
      .ways .on {
        color: var(--card);
        background: var(--tide);
      }
      .materials li {
        display: flex;
        align-items: center;
        gap: 5px;
        padding: 2px 0;
        border-bottom: 1px dotted var(--rule);
      }
      i {
        width: 13px;
        height: 13px;
        flex: none;
        border: 1px solid var(--faded);
      }
      .materials .text {
        flex: 1;
        min-width: 40px;
        background: none;
        border-color: transparent;
      }
      .materials .quiet-button {
        padding: 0 3px;
        min-width: 20px;
      }
    `,
  ],
})
export class PartsStep {
  protected readonly store = inject(BenchStore);
  protected readonly operations = inject(Operations);
  protected readonly view = inject(ViewState);
  protected readonly document = toSignal(this.store.document$);
  protected readonly piece = toSignal(this.store.piece$);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly faces = toSignal(this.view.chosen$, { requireSync: true });
  protected readonly ways = CHOOSE_BY;
  protected readonly words = WAYS;
  protected readonly counted = counted;
  private readonly pieceId = computed(() => this.piece()?.id);
  protected readonly chosen = linkedSignal<number | undefined, ReadonlySet<string>>({
    source: this.pieceId,
    computation: () => new Set(),
  });
  protected readonly ids = computed(() => [...this.chosen()]);
  protected readonly none = computed(() => this.chosen().size === 0);
  protected readonly partName = signal('');
  protected readonly smallest = signal(0.01);
  protected readonly closing = signal(true);
  protected readonly weldMm = signal(0.2);
  protected readonly weldCount = signal('');
  protected readonly hardDegrees = signal(30);
  protected readonly reduceShare = signal(50);
  protected readonly reduceMm = signal(5);
  protected readonly pictureMetres = signal(1);
  private readonly uvs = signal<readonly UvReport[]>([]);

  protected readonly areAside = computed(() => {
    const nodes = this.document()?.nodes ?? [];
    return !this.none() && nodes.filter((node) => this.chosen().has(node.id)).every((node) => node.aside);
  });
  protected readonly acting = computed(() =>
    this.none() ? '' : `${counted(this.chosen().size, 'part')} chosen.`,
  );
  protected readonly uvRows = computed(() => {
    const document = this.document();
    const wanted = this.piece()?.yard.rules.pixelsPerMetre ?? 512;
    return this.uvs()
      .slice(0, 8)
      .map(({ part, density, pixels, stretched, uneven }) => ({
        part,
        name: document?.nodes.find((node) => node.id === part)?.name ?? '',
        density:
          density === null
            ? 'no UVs'
            : pixels === null
              ? `${lengthText(1 / Math.max(density, 1e-9))} a picture`
              : `${countText(Math.round(pixels))} px/m, ${Math.round((pixels / wanted) * 100)} %`,
        stretch:
          density === null
            ? ''
            : `${Math.round(stretched * 100)} % stretched, ${Math.round(uneven * 100)} % uneven`,
      }));
  });
  private readonly artIs = computed(() => {
    const document = this.document();
    return document ? artKey(document) : '';
  });

  constructor() {
    effect(() => {
      if (!this.artIs()) return;
      untracked(() => {
        const nodes = this.document()!.nodes;
        this.chosen.update(
          (chosen) => new Set([...chosen].filter((id) => nodes.some((node) => node.id === id))),
        );
        this.weldCount.set('');
        void this.operations.uvs().then((uvs) => this.uvs.set(uvs));
      });
    });
  }

  protected make(operation: Operation): void {
    void this.operations.make(operation);
  }

  protected propose(operation: Operation): void {
    void this.operations.propose(operation);
  }

  protected weld = (): Operation => ({ op: 'weld', parts: this.ids(), metres: this.weldMm() / 1000 });

  /** The count lives with the distance: a larger one can be tried before anything is proposed. */
  protected setWeld(mm: number): void {
    this.weldMm.set(mm);
    this.weldCount.set('…');
    void this.operations
      .count(this.weld())
      .then((says) => this.weldCount.set(/: (.*)\.$/.exec(says ?? '')?.[1] ?? says ?? ''));
  }

  protected chooseBy(way: ChooseBy): void {
    const { choosing, chooseBy } = this.settings();
    this.view.set(choosing && chooseBy === way ? { choosing: false } : { choosing: true, chooseBy: way });
  }

  protected async splitFaces(): Promise<void> {
    const name = this.partName().trim();
    await this.operations.propose({
      op: 'split-faces',
      faces: this.view.chosenByPart(),
      ...(name ? { name } : {}),
    });
    this.partName.set('');
  }

  protected edges(as: 'hard' | 'smooth'): void {
    const [run] = this.operations.lastRun;
    if (run && this.operations.drawnAsItIs())
      this.propose({ op: 'normals', parts: [], degrees: this.hardDegrees(), sides: { ...run, as } });
  }

  protected splitShells(): void {
    this.propose({ op: 'split-shells', part: this.onePart(), smallest: this.smallest() });
  }

  protected splitPlane(): void {
    const cut = this.settings().cut;
    if (!cut) return;
    const { min, max } = artBounds(this.document()!);
    const point = min.map((v, k) => v + (max[k]! - v) * (k === cut.axis ? cut.at : 0.5)) as Vec3;
    const normal = [0, 1, 2].map((k) => (k === cut.axis ? 1 : 0)) as Vec3;
    this.propose({ op: 'split-plane', parts: this.ids(), point, normal, close: this.closing() });
  }

  /** The chosen part, or the largest there is. */
  protected onePart(): string {
    const { nodes, meshes } = this.document()!;
    const parts = nodes.filter((node) => node.mesh !== null && !node.aside);
    const chosen = parts.find((node) => this.chosen().has(node.id));
    const size = (node: (typeof parts)[number]) => meshes[node.mesh!]!.facts.triangles;
    return (chosen ?? parts.reduce((a, b) => (size(b) > size(a) ? b : a))).id;
  }

  protected renameMaterial(material: number, name: string): void {
    if (name.trim()) this.store.apply({ kind: 'rename-material', material, name: name.trim() });
  }

  protected raise(i: number): void {
    const order = this.document()!.materials.map((_, k) => k);
    [order[i - 1], order[i]] = [order[i]!, order[i - 1]!];
    this.make({ op: 'order-materials', order });
  }

  protected assign(material: number): void {
    const faces = this.view.chosenByPart();
    this.make(
      faces.length
        ? { op: 'assign-material', material, faces }
        : { op: 'assign-material', material, parts: this.ids() },
    );
  }

  protected pictures({ pictures }: { pictures: object }): string {
    const count = Object.keys(pictures).length;
    return count ? `, ${counted(count, 'picture')}` : '';
  }

  /** Linear to what a screen shows. */
  protected colour([r, g, b]: readonly number[]): string {
    const shown = (value: number) => Math.round(255 * Math.min(1, Math.max(0, value)) ** (1 / 2.2));
    return `rgb(${shown(r!)}, ${shown(g!)}, ${shown(b!)})`;
  }

  protected key(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey || this.none()) return;
    const key = event.key.toLowerCase();
    if (key === 'a') this.view.set({ alone: this.settings().alone ? null : this.chosen() });
    else if (key === 'h') this.view.set({ hidden: this.settings().hidden.size ? new Set() : this.chosen() });
    else return;
    event.preventDefault();
  }
}
