import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { idsBelow } from '@yard-brace/core';
import { PrimeTemplate, TreeDragDropService, type TreeNode } from 'primeng/api';
import { Tree, type TreeNodeDropEvent } from 'primeng/tree';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Selection } from '../../../../state/selection';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type PartRow, rowsOf, treeRows } from './tree-rows';

const ROW_PIXELS = 28;
/** As many rows are drawn at once; a longer tree is scrolled through. */
const ROWS_SHOWN = 9;

/** The tree of a piece: chosen by click or keys, renamed in place, given other parents by dragging, hidden, shown alone. */
@Component({
  selector: 'yb-parts-tree',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Tree, PrimeTemplate],
  providers: [TreeDragDropService],
  host: { '(keydown.f2)': 'renameChosen()' },
  template: `
    <p-tree
      [value]="rows()"
      selectionMode="multiple"
      [metaKeySelection]="true"
      [selection]="chosen()"
      (selectionChange)="choose($event)"
      [draggableNodes]="true"
      [droppableNodes]="true"
      draggableScope="parts"
      droppableScope="parts"
      [validateDrop]="true"
      (onNodeDrop)="drop($event)"
      (onNodeExpand)="setClosed($event.node.key!, false)"
      (onNodeCollapse)="setClosed($event.node.key!, true)"
      [virtualScroll]="long()"
      [virtualScrollItemSize]="rowPixels"
      [scrollHeight]="height"
      ariaLabel="Parts"
      [pt]="{ nodeToggleButton: { 'aria-label': 'Open or close' } }"
    >
      <ng-template let-node pTemplate="default">
        <span
          class="row"
          [attr.data-part]="node.data.name"
          [class.aside]="node.data.aside"
          (dblclick)="renaming.set(node.key)"
        >
          @if (renaming() === node.key) {
            <input
              class="name"
              [value]="node.data.name"
              aria-label="Name of the part"
              (keydown)="typed($event, node.data)"
              (blur)="rename(node.data, $any($event.target).value)"
              (click)="$event.stopPropagation()"
              #field
            />{{ focus(field) }}
          } @else {
            <span class="name" [class.group]="node.data.group" [title]="node.data.name">{{
              node.data.name
            }}</span>
          }
          <span class="figures faded">{{ node.data.triangles }}</span>
          <button
            type="button"
            class="quiet-button"
            tabindex="-1"
            [class.on]="isAlone(node.key)"
            title="Show this one alone (A)"
            [attr.aria-label]="'Show ' + node.data.name + ' alone'"
            (click)="alone(node.key, $event)"
          >
            <span class="pi pi-search-plus" aria-hidden="true"></span>
          </button>
          <button
            type="button"
            class="quiet-button"
            tabindex="-1"
            [title]="isHidden(node.key) ? 'Show (H)' : 'Hide (H); what is hidden is delivered all the same'"
            [attr.aria-label]="(isHidden(node.key) ? 'Show ' : 'Hide ') + node.data.name"
            (click)="hide(node.key, $event)"
          >
            <span
              class="pi"
              aria-hidden="true"
              [class.pi-eye]="!isHidden(node.key)"
              [class.pi-eye-slash]="isHidden(node.key)"
            ></span>
          </button>
        </span>
      </ng-template>
    </p-tree>
  `,
  styleUrl: './parts-tree.css',
})
export class PartsTree {
  private readonly bench = inject(BenchStore);
  private readonly selection = inject(Selection);
  private readonly operations = inject(Operations);
  private readonly view = inject(ViewSettingsStore);
  private readonly document = toSignal(this.bench.document$);
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly parts = toSignal(this.selection.parts$, { requireSync: true });
  private readonly closed = signal<ReadonlySet<string>>(new Set());
  protected readonly renaming = signal<string | null>(null);
  protected readonly rowPixels = ROW_PIXELS;
  protected readonly height = `${ROW_PIXELS * ROWS_SHOWN}px`;
  protected readonly long = computed(() => (this.document()?.nodes.length ?? 0) > ROWS_SHOWN);
  protected readonly rows = computed(() => {
    const document = this.document();
    return document ? treeRows(document, this.closed()) : [];
  });
  protected readonly chosen = computed(() => rowsOf(this.rows(), this.parts()));

  protected choose(rows: TreeNode<PartRow> | TreeNode<PartRow>[] | null | undefined): void {
    const list = Array.isArray(rows) ? rows : rows ? [rows] : [];
    this.selection.chooseParts(new Set(list.map(({ key }) => key!)));
  }

  protected setClosed(id: string, closed: boolean): void {
    const next = new Set(this.closed());
    if (closed) next.add(id);
    else next.delete(id);
    this.closed.set(next);
  }

  /** The document makes the tree: what is dropped changes it, and the tree follows. */
  protected drop({ dragNode, dropNode, originalEvent }: TreeNodeDropEvent): void {
    const part = dragNode?.key;
    // Between two rows the part gets the parent that they have, on a row that one.
    const onRow = (originalEvent?.target as HTMLElement | null)?.closest('[data-part]') !== null;
    const parent = (onRow ? dropNode?.key : dropNode?.parent?.key) ?? null;
    if (part && part !== parent) void this.operations.make({ op: 'reparent', part, parent });
  }

  protected renameChosen(): void {
    const [first] = this.parts();
    if (first) this.renaming.set(first);
  }

  protected typed(event: KeyboardEvent, row: PartRow): void {
    // The tree has its own use for arrows and letters.
    event.stopPropagation();
    if (event.key === 'Enter') this.rename(row, (event.target as HTMLInputElement).value);
    else if (event.key === 'Escape') this.renaming.set(null);
  }

  protected rename({ id, name: before }: PartRow, typed: string): void {
    if (this.renaming() !== id) return;
    this.renaming.set(null);
    const name = typed.trim();
    if (name && name !== before) this.bench.apply({ kind: 'rename-parts', names: [{ part: id, name }] });
  }

  protected focus(field: HTMLInputElement): '' {
    if (document.activeElement !== field) queueMicrotask(() => field.select());
    return '';
  }

  protected isAlone = (id: string): boolean => this.settings().alone?.has(id) ?? false;
  protected isHidden = (id: string): boolean => this.settings().hidden.has(id);

  protected alone(id: string, event: Event): void {
    event.stopPropagation();
    this.view.toggleAlone(idsBelow(this.bench.document, [id]));
  }

  protected hide(id: string, event: Event): void {
    event.stopPropagation();
    this.view.toggleHidden(idsBelow(this.bench.document, [id]));
  }
}
