import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Plan, ShapeKind } from '@yard-brace/core';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { Selection } from '../../../../state/selection';
import { Choice } from '../../../../ui/choice';
import { ShapeGlyph } from '../proxies/shape-glyph';

/** A node of a delivered file with its shapes opposite. */
interface Owner {
  file: string;
  name: string;
  /** how deep it hangs */
  depth: number;
  art: boolean;
  shapes: { ids: readonly string[]; name: string; kind: ShapeKind; changed: boolean }[];
  /** the target that it is compared with names it otherwise, or not at all */
  changed: boolean;
}

/** Tree and names letter for letter as they will stand in a target's files: art on the left, its shapes opposite. */
@Component({
  selector: 'yb-target-names-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, ShapeGlyph],
  template: `
    @if (choices.shown(); as target) {
      <section class="panel">
        <div class="row">
          <h3 class="grow">What the target reads</h3>
          @if (tabs().length > 1) {
            <yb-choice
              label="Target"
              [options]="tabs()"
              [value]="target.id"
              (chosen)="choices.show($event!)"
            />
          }
        </div>
        <div class="names" data-testid="names">
          @for (owner of owners(); track $index) {
            @if (owner.file && owner.file !== owners()[$index - 1]?.file) {
              <p class="file faded figures">{{ owner.file }}</p>
            }
            <div class="art" [style.padding-left.px]="owner.depth * 10">
              <code class="figures" [class.changed]="owner.changed" [class.faded]="!owner.art">{{
                owner.name
              }}</code>
            </div>
            <ul>
              @for (shape of owner.shapes; track $index) {
                <li
                  [class.lit]="shape.ids.includes(lit() ?? '')"
                  (pointerenter)="selection.point(shape.ids[0]!)"
                  (pointerleave)="selection.point(null)"
                >
                  <yb-shape-glyph [kind]="shape.kind" />
                  <code class="figures" [class.changed]="shape.changed">{{ shape.name }}</code>
                </li>
              }
            </ul>
          }
        </div>
        @if (first(); as other) {
          <p class="faded">Underlined: otherwise for {{ other.name }}.</p>
        }
        <p class="faded">{{ target.help.says }}</p>
      </section>
    }
  `,
  styles: `
    .names {
      display: grid;
      grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
      gap: 0 8px;
      margin: 4px 0 8px;
    }
    .file {
      grid-column: 1 / -1;
      margin: 6px 0 2px;
      border-bottom: 1px solid var(--rule);
    }
    .art,
    li {
      padding: 3px 4px;
      border-bottom: 1px dotted var(--rule);
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    .lit {
      background: #17616e17;
    }
    code {
      overflow-wrap: anywhere;
    }
    .changed {
      text-decoration: underline dotted var(--brass);
      text-underline-offset: 3px;
    }
  `,
})
export class TargetNamesPanel {
  protected readonly choices = inject(DeliveryChoicesStore);
  protected readonly selection = inject(Selection);
  protected readonly lit = toSignal(this.selection.pointed$);
  protected readonly tabs = computed(() =>
    this.choices.targets().map(({ id, name }) => ({ label: name, value: id })),
  );
  /** what is shown is compared with the yard's default target; null while that is shown */
  protected readonly first = computed(() => {
    const [first] = this.choices.targets();
    return first && first.id !== this.choices.shown()?.id ? first : null;
  });
  protected readonly owners = computed((): Owner[] => {
    const [plan, other] = [
      this.choices.planFor(this.choices.shown()?.id ?? ''),
      this.choices.planFor(this.first()?.id ?? ''),
    ];
    if (!plan) return [];
    const known = other && namesIn(other);
    const changed = (name: string) => (known ? !known.has(name) : false);
    return plan.files.flatMap(({ stem, nodes }) =>
      nodes.map((node) => ({
        file: plan.files.length > 1 ? stem : '',
        name: node.name,
        depth: depthOf(nodes, nodes.indexOf(node)),
        art: node.parts.length > 0,
        changed: changed(node.name),
        shapes: [...new Set(node.shapes.map(({ name }) => name))].map((name) => {
          const same = node.shapes.filter((shape) => shape.name === name);
          return { ids: same.map(({ id }) => id), name, kind: same[0]!.kind, changed: changed(name) };
        }),
      })),
    );
  });
}

const namesIn = ({ files }: Plan): Set<string> =>
  new Set(
    files.flatMap(({ nodes }) => nodes.flatMap(({ name, shapes }) => [name, ...shapes.map((s) => s.name)])),
  );

function depthOf(nodes: Plan['files'][number]['nodes'], node: number): number {
  let depth = 0;
  for (let up = nodes[node]!.parent; up !== null; up = nodes[up]!.parent) depth++;
  return depth;
}
