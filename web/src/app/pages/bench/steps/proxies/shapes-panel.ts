import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artNodes,
  counted,
  ownFrame,
  removeProxy,
  replaceProxies,
  type Shape,
  shapeCorners,
  shapeVolume,
  sizeText,
  useProxies,
  volumeText,
} from '@yard-brace/core';
import { ArtStore } from '../../../../state/art-store';
import { BenchStore } from '../../../../state/bench-store';
import { Proposals } from '../../../../state/proposals';
import { Selection } from '../../../../state/selection';
import { ShapeEditor } from '../../../../state/shape-editor';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { tintOf } from '../../../../drawing/tints';
import { ShapeGlyph } from './shape-glyph';

/** What a hull costs: the other kinds have no corners to be counted. */
export const costText = (shape: Shape): string =>
  shape.kind === 'hull' ? counted(shapeCorners(shape), 'corner') : shape.kind;

/** The shapes, kept or proposed, one by one. */
@Component({
  selector: 'yb-shapes-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ShapeGlyph],
  template: `
    @if (list().length) {
      <section class="panel">
        <div class="row">
          <h3 class="grow">{{ proposed() ? 'Proposed shapes' : 'Shapes' }}</h3>
          @if (!proposed()) {
            <button
              type="button"
              class="quiet-button"
              [attr.aria-pressed]="settings().boxingShapes"
              title="Drag a box in the view; Shift adds"
              (click)="view.set({ boxingShapes: !settings().boxingShapes })"
            >
              Choose by box
            </button>
          }
        </div>
        @if (!proposed() && (chosen().size || settings().shapesHidden.size || settings().shapesLocked.size)) {
          <div class="row" data-testid="shape-looks">
            @if (chosen().size) {
              <button type="button" class="act" (click)="view.toggleShapes('shapesHidden', ids())">
                Hide
              </button>
              <button type="button" class="act" (click)="alone()">Alone</button>
              <button type="button" class="act" (click)="view.toggleShapes('shapesLocked', ids())">
                Lock
              </button>
            }
            @if (settings().shapesHidden.size) {
              <button type="button" class="act" (click)="view.set({ shapesHidden: none })">
                Show all ({{ settings().shapesHidden.size }} hidden)
              </button>
            }
            @if (settings().shapesLocked.size) {
              <button type="button" class="act" (click)="view.set({ shapesLocked: none })">
                Unlock all ({{ settings().shapesLocked.size }})
              </button>
            }
          </div>
        }
        <ul class="list">
          @for (entry of list(); track entry.id) {
            @if (entry.heading) {
              <li
                class="owner faded"
                [class.over]="over() === entry.owner && dragged()"
                [attr.data-owner]="entry.owner ?? ''"
                (dragover)="overOwner(entry.owner, $event)"
                (dragleave)="over.set(undefined)"
                (drop)="giveTo(entry.owner, $event)"
              >
                {{ entry.heading }}
              </li>
            }
            <li
              [draggable]="!proposed() && several()"
              (dragstart)="drag(entry.id, $event)"
              (dragend)="dragged.set(null)"
              (dragover)="overOwner(entry.owner, $event)"
              (drop)="giveTo(entry.owner, $event)"
              [class.lit]="entry.id === pointed()"
              [class.chosen]="chosen().has(entry.id)"
              [class.away]="settings().shapesHidden.has(entry.id)"
              (pointerenter)="selection.point(entry.id)"
              (pointerleave)="selection.point(null)"
              [attr.data-shape]="entry.number"
              [attr.data-kind]="entry.kind"
            >
              <button
                type="button"
                class="tag figures"
                [style.border-color]="entry.tint"
                [disabled]="proposed()"
                [attr.aria-pressed]="chosen().has(entry.id)"
                [attr.aria-label]="'Choose shape ' + entry.number"
                title="Choose; Shift adds"
                (click)="editor.choose(entry.id, { more: $event.shiftKey || $event.ctrlKey })"
              >
                {{ entry.number }}
              </button>
              <yb-shape-glyph [kind]="entry.kind" [style.color]="entry.tint" />
              <span class="figures" [title]="entry.volume">{{ entry.size }}</span>
              @if (settings().shapesLocked.has(entry.id)) {
                <span class="pi pi-lock faded" title="Locked" aria-label="locked"></span>
              }
              @if (entry.linked) {
                <span class="pi pi-link faded" title="Follows its copies" aria-label="linked"></span>
              }
              <span class="figures faded cost" [title]="entry.cost">{{ entry.cost }}</span>
              @if (!proposed()) {
                <button
                  type="button"
                  class="quiet-button"
                  [attr.aria-label]="'Remove shape ' + entry.number"
                  title="Remove this shape"
                  (click)="remove(entry.id)"
                  (focus)="selection.point(entry.id)"
                  (blur)="selection.point(null)"
                >
                  <span class="pi pi-times" aria-hidden="true"></span>
                </button>
              }
            </li>
          }
          @if (dragged()) {
            @for (part of bareParts(); track part.id) {
              <li
                class="owner faded"
                [class.over]="over() === part.id"
                [attr.data-owner]="part.id ?? ''"
                (dragover)="overOwner(part.id, $event)"
                (dragleave)="over.set(undefined)"
                (drop)="giveTo(part.id, $event)"
              >
                {{ part.name }}
              </li>
            }
          }
        </ul>
        @if (!proposed() && list().length > 1) {
          <button type="button" class="quiet-button danger" (click)="removeAll()">
            Remove all {{ list().length }} shapes
          </button>
        }
      </section>
    }
  `,
  styles: `
    li {
      gap: 6px;
      padding: 0 4px;
      min-width: 0;
    }
    li .figures {
      font-size: 10.5px;
    }
    .owner {
      margin-top: 4px;
      font-size: 11px;
      border: 0;
    }
    .owner.over {
      color: var(--ink);
      background: #17616e17;
      box-shadow: inset 3px 0 0 var(--tide);
    }
    .away {
      opacity: 0.5;
    }
    .lit {
      background: #17616e17;
    }
    .chosen {
      box-shadow: inset 3px 0 0 var(--tide);
    }
    .figures {
      white-space: nowrap;
    }
    .cost {
      flex: 1;
      min-width: 0;
      overflow: hidden;
      text-align: right;
      text-overflow: ellipsis;
    }
    .tag {
      min-width: 28px;
      padding: 0 3px;
      color: inherit;
      font-size: inherit;
      text-align: center;
      border: 1px solid;
      border-left-width: 4px;
      background: var(--card);
      cursor: pointer;
    }
    button {
      flex: none;
      min-width: 24px;
      min-height: 24px;
      justify-content: center;
    }
    .danger {
      color: #a8341f;
      justify-self: start;
    }
  `,
})
export class ShapesPanel {
  private readonly bench = inject(BenchStore);
  protected readonly selection = inject(Selection);
  protected readonly editor = inject(ShapeEditor);
  private readonly selected = toSignal(this.selection.selected$, { requireSync: true });
  protected readonly chosen = computed(() => this.selected().proxies);
  private readonly shown = toSignal(inject(ArtStore).shown$, { initialValue: null });
  private readonly proposal = toSignal(inject(Proposals).proposal$, { requireSync: true });
  protected readonly pointed = toSignal(this.selection.pointed$, { requireSync: true });
  protected readonly proposed = computed(() => this.proposal() !== null);
  protected readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly none: ReadonlySet<string> = new Set();
  protected readonly ids = computed(() => [...this.chosen()]);
  /** under the part that each belongs to, where some belong to parts; numbers stay those of the set */
  protected readonly list = computed(() => {
    const document = this.shown();
    const proxies = (document?.proxies ?? []).map((proxy, i) => ({ ...proxy, number: i + 1 }));
    const owners = [...new Set(proxies.map(({ part }) => part))];
    const grouped = owners.some((owner) => owner !== undefined);
    const names = new Map(document?.nodes.map(({ id, name }) => [id, name]));
    return owners.flatMap((owner) =>
      proxies
        .filter(({ part }) => part === owner)
        .map(({ id, shape, number, link }, i) => ({
          id,
          number,
          owner: owner ?? null,
          heading:
            grouped && i === 0 ? (owner === undefined ? 'The whole piece' : (names.get(owner) ?? owner)) : '',
          tint: tintOf(number),
          kind: shape.kind,
          linked: link !== undefined,
          size: sizeText(ownFrame(shape).size),
          cost: costText(shape),
          volume: volumeText(shapeVolume(shape)),
        })),
    );
  });

  /** ids of the shapes that are dragged to another owner */
  protected readonly dragged = signal<readonly string[] | null>(null);
  /** the part that they are dragged over, null for the piece */
  protected readonly over = signal<string | null | undefined>(undefined);
  protected readonly several = computed(() => (this.shown()?.nodes.length ?? 0) > 1);
  /** what owns no shape yet: it shows while shapes are dragged */
  protected readonly bareParts = computed(() => {
    const document = this.shown();
    const taken = new Set(this.list().map(({ owner }) => owner));
    const parts = document
      ? artNodes(document.nodes).map((i) => ({
          id: document.nodes[i]!.id as string | null,
          name: document.nodes[i]!.name,
        }))
      : [];
    const piece = taken.size > 1 || !taken.has(null) ? [{ id: null, name: 'The whole piece' }] : [];
    return [...piece, ...parts].filter(({ id }) => !taken.has(id));
  });

  /** A shape is dragged alone, or with all that are chosen beside it. */
  protected drag(id: string, event: DragEvent): void {
    const chosen = this.chosen();
    event.dataTransfer?.setData('text/plain', id);
    // Rows must not move under a drag that has only just begun: the browser would end it.
    setTimeout(() => this.dragged.set(chosen.has(id) ? [...chosen] : [id]));
  }

  protected overOwner(owner: string | null, event: DragEvent): void {
    if (!this.dragged()) return;
    event.preventDefault();
    this.over.set(owner);
  }

  protected giveTo(owner: string | null, event: DragEvent): void {
    const ids = this.dragged();
    if (!ids) return;
    event.preventDefault();
    this.dragged.set(null);
    this.over.set(undefined);
    const edit = useProxies(this.bench.document, new Set(ids), { part: owner });
    if (edit) this.bench.apply(edit);
  }

  /** Only the chosen shapes are drawn. */
  protected alone(): void {
    const chosen = this.chosen();
    const others = this.bench.document.proxies.flatMap(({ id }) => (chosen.has(id) ? [] : [id]));
    this.view.set({ shapesHidden: new Set(others) });
  }

  protected remove(id: string): void {
    this.selection.point(null);
    this.bench.apply(removeProxy(id));
  }

  protected removeAll(): void {
    this.bench.apply(replaceProxies([]));
  }
}
