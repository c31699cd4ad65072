import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { idsBelow, nodesBelow, type Operation } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Choice, type Option } from '../../../../ui/choice';
import { Keymap } from '../../../../ui/keymap';
import { chosenParts } from './chosen-parts';
import { PartsTree } from './parts-tree';

const ROOT: Option<string | null> = { label: 'the root', value: null };

/** The tree, and what is done to whole parts. */
@Component({
  selector: 'yb-tree-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PartsTree, Choice],
  template: `
    <section class="panel">
      <h3>Tree</h3>
      <yb-parts-tree />
      <div class="row">
        @for (act of acts(); track act.label) {
          <button type="button" class="act" [disabled]="act.disabled" (click)="make(act.operation)">
            {{ act.label }}
          </button>
        }
      </div>
      @if (!chosen.none()) {
        <div class="row">
          <span>Parent of {{ chosen.words() }}</span>
          <yb-choice
            class="grow"
            label="Parent"
            [options]="parents()"
            [value]="parent()"
            placeholder="several"
            (chosen)="reparent($event)"
            data-testid="parent"
          />
        </div>
      }
      <p class="faded">Drag a part onto another to make it its child; F2 or a double-click renames.</p>
    </section>
  `,
})
export class TreePanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly view = inject(ViewSettingsStore);
  protected readonly chosen = chosenParts();
  private readonly document = toSignal(this.bench.document$);

  private readonly areAside = computed(() => {
    const ids = new Set(this.chosen.ids());
    const nodes = this.document()?.nodes.filter(({ id }) => ids.has(id)) ?? [];
    return nodes.length > 0 && nodes.every(({ aside }) => aside);
  });
  protected readonly acts = computed(() => {
    const [parts, none] = [this.chosen.ids(), this.chosen.none()];
    const act = (label: string, operation: Operation, disabled = none) => ({ label, operation, disabled });
    const aside = !this.areAside();
    return [
      act('Group', { op: 'group', parts, name: this.document()?.name ?? 'group' }),
      act('Combine', { op: 'combine', parts }, parts.length < 2),
      act('Duplicate', { op: 'duplicate', parts }),
      act(aside ? 'Set aside' : 'Make part of the art', { op: 'set-aside', parts, aside }),
      act('Delete', { op: 'delete', parts }),
    ];
  });
  protected readonly parents = computed((): Option<string | null>[] => {
    const document = this.document();
    if (!document) return [ROOT];
    const below = nodesBelow(document, this.chosen.ids());
    return [
      ROOT,
      ...document.nodes.flatMap(({ id, name }, i) => (below[i] ? [] : [{ label: name, value: id }])),
    ];
  });
  protected readonly parent = computed(() => {
    const nodes = this.document()?.nodes ?? [];
    const ids = new Set(this.chosen.ids());
    const parents = new Set(nodes.filter(({ id }) => ids.has(id)).map(({ parent }) => parent));
    const [only] = parents;
    if (parents.size !== 1 || only === undefined) return undefined as unknown as null;
    return only === null ? null : nodes[only]!.id;
  });

  constructor() {
    const below = () => idsBelow(this.bench.document, this.chosen.ids());
    inject(Keymap).bind([
      {
        keys: ['A'],
        label: 'A H',
        help: 'chosen parts alone, chosen parts hidden',
        act: () => this.chosen.none() || this.view.toggleAlone(below()),
      },
      { keys: ['H'], help: '', act: () => this.chosen.none() || this.view.toggleHidden(below()) },
    ]);
  }

  protected make(operation: Operation): void {
    void this.operations.make(operation);
  }

  protected async reparent(parent: string | null): Promise<void> {
    for (const part of this.chosen.ids()) await this.operations.make({ op: 'reparent', part, parent });
  }
}
