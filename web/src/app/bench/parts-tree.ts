import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { PieceDocument } from '@yard-brace/core';
import { countText } from '../shell/figures';
import { ViewState } from '../view/view-state';

interface Row {
  id: string;
  name: string;
  depth: number;
  triangles: string;
  aside: boolean;
  group: boolean;
}

/** Most rows that are drawn; the rest is counted. */
const MOST_ROWS = 400;

/** The tree of a piece: chosen by click, renamed in place, hung elsewhere by dragging, hidden or shown alone. */
@Component({
  selector: 'yb-parts-tree',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul
      role="tree"
      aria-label="Parts"
      aria-multiselectable="true"
      (dragover)="$event.preventDefault()"
      (drop)="drop($event, null)"
    >
      @for (row of rows(); track row.id) {
        <li
          role="treeitem"
          tabindex="0"
          [attr.aria-selected]="chosen().has(row.id)"
          [attr.data-part]="row.name"
          [class.chosen]="chosen().has(row.id)"
          [class.over]="over() === row.id"
          [class.aside]="row.aside"
          [style.padding-left.px]="4 + row.depth * 13"
          draggable="true"
          (click)="choose(row.id, $event)"
          (keydown.enter)="choose(row.id, $event)"
          (keydown.f2)="renaming.set(row.id)"
          (dblclick)="renaming.set(row.id)"
          (dragstart)="dragged = row.id"
          (dragover)="$event.preventDefault(); over.set(row.id)"
          (dragleave)="over.set(null)"
          (drop)="drop($event, row.id)"
        >
          @if (renaming() === row.id) {
            <input
              [value]="row.name"
              aria-label="Name of the part"
              (keydown.enter)="rename(row, $any($event.target).value)"
              (keydown.escape)="renaming.set(null)"
              (blur)="rename(row, $any($event.target).value)"
              (click)="$event.stopPropagation()"
              #field
            />{{ focus(field) }}
          } @else {
            <span class="name" [class.group]="row.group">{{ row.name }}</span>
          }
          <span class="figures faded">{{ row.triangles }}</span>
          <button
            type="button"
            class="quiet-button"
            [class.on]="isAlone(row.id)"
            title="Show this one alone (A)"
            [attr.aria-label]="'Show ' + row.name + ' alone'"
            (click)="alone(row.id, $event)"
          >
            <span class="pi pi-search-plus"></span>
          </button>
          <button
            type="button"
            class="quiet-button"
            [title]="isHidden(row.id) ? 'Show (H)' : 'Hide (H); what is hidden is delivered all the same'"
            [attr.aria-label]="(isHidden(row.id) ? 'Show ' : 'Hide ') + row.name"
            (click)="hide(row.id, $event)"
          >
            <span
              class="pi"
              [class.pi-eye]="!isHidden(row.id)"
              [class.pi-eye-slash]="isHidden(row.id)"
            ></span>
          </button>
        </li>
      }
    </ul>
    @if (more(); as count) {
      <p class="faded">and {{ count }} more; join parts to see them all</p>
    }
  `,
  styles: `
    ul {
      max-height: 236px;
      overflow: auto;
      border: 1px solid var(--rule);
      background: var(--paper);
    }
    li {
      display: flex;
      align-items: center;
      gap: 4px;
      min-height: 24px;
      padding-right: 2px;
      border-bottom: 1px dotted var(--rule);
      cursor: default;
      user-select: none;
    }
    li:focus-visible {
      outline-offset: -2px;
    }
    li.chosen {
      background: color-mix(in srgb, var(--tide) 16%, var(--card));
    }
    li.over {
      box-shadow: inset 0 -2px var(--tide);
    }
    li.aside .name {
      text-decoration: line-through;
      color: var(--faded);
    }
    .name {
      flex: 1;
      min-width: 0;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .group {
      font-style: italic;
    }
    input {
      flex: 1;
      min-width: 0;
      height: 20px;
    }
    button {
      min-width: 22px;
      padding: 0 3px;
      color: var(--faded);
    }
    button.on {
      color: var(--tide);
    }
  `,
})
export class PartsTree {
  private readonly view = inject(ViewState);
  readonly document = input.required<PieceDocument>();
  readonly chosen = input.required<ReadonlySet<string>>();
  readonly chosenChange = output<ReadonlySet<string>>();
  readonly renamed = output<{ part: string; name: string }>();
  readonly hung = output<{ part: string; parent: string | null }>();
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly renaming = signal<string | null>(null);
  protected readonly over = signal<string | null>(null);
  protected dragged: string | null = null;

  private readonly all = computed((): Row[] => {
    const { nodes, meshes } = this.document();
    const children = new Map<number | null, number[]>();
    nodes.forEach(({ parent }, i) => {
      const known = children.get(parent);
      if (known) known.push(i);
      else children.set(parent, [i]);
    });
    const rows: Row[] = [];
    const waiting = (children.get(null) ?? []).map((node) => ({ node, depth: 0 })).reverse();
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      const { id, name, mesh, aside } = nodes[next.node]!;
      const triangles = mesh === null ? '' : countText(meshes[mesh]!.facts.triangles);
      rows.push({ id, name, depth: Math.min(next.depth, 10), triangles, aside, group: mesh === null });
      const { depth } = next;
      waiting.push(
        ...[...(children.get(next.node) ?? [])].reverse().map((node) => ({ node, depth: depth + 1 })),
      );
    }
    return rows;
  });
  protected readonly rows = computed(() => this.all().slice(0, MOST_ROWS));
  protected readonly more = computed(() => Math.max(0, this.all().length - MOST_ROWS));

  protected choose(id: string, event: Event): void {
    const { shiftKey, ctrlKey, metaKey } = event as MouseEvent;
    const next = new Set(shiftKey || ctrlKey || metaKey ? this.chosen() : []);
    if (next.has(id)) next.delete(id);
    else next.add(id);
    this.chosenChange.emit(next);
  }

  protected rename(row: Row, name: string): void {
    if (this.renaming() !== row.id) return;
    this.renaming.set(null);
    if (name.trim() && name !== row.name) this.renamed.emit({ part: row.id, name: name.trim() });
  }

  protected focus(field: HTMLInputElement): '' {
    if (document.activeElement !== field) queueMicrotask(() => field.select());
    return '';
  }

  protected drop(event: DragEvent, parent: string | null): void {
    event.preventDefault();
    event.stopPropagation();
    this.over.set(null);
    const part = this.dragged;
    this.dragged = null;
    if (part && part !== parent) this.hung.emit({ part, parent });
  }

  protected isAlone = (id: string): boolean => this.settings().alone?.has(id) ?? false;
  protected isHidden = (id: string): boolean => this.settings().hidden.has(id);

  protected alone(id: string, event: Event): void {
    event.stopPropagation();
    this.view.set({ alone: this.isAlone(id) ? null : new Set(this.withBelow(id)) });
  }

  protected hide(id: string, event: Event): void {
    event.stopPropagation();
    const hidden = new Set(this.settings().hidden);
    const hides = !hidden.has(id);
    for (const each of this.withBelow(id)) {
      if (hides) hidden.add(each);
      else hidden.delete(each);
    }
    this.view.set({ hidden });
  }

  private withBelow(id: string): string[] {
    const { nodes } = this.document();
    const within = new Set<number>();
    nodes.forEach((node, i) => {
      if (node.id === id || (node.parent !== null && within.has(node.parent))) within.add(i);
    });
    return [...within].map((i) => nodes[i]!.id);
  }
}
