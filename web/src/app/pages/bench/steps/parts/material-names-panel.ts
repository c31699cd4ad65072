import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { listText, type MaterialUse, type YardRules } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { BenchRules } from '../../../../state/bench-rules';
import { BenchStore } from '../../../../state/bench-store';
import { chosenParts } from './chosen-parts';

/** So many parts are named; the others are counted. */
const NAMED_PARTS = 3;

/**
 * What each slot of the piece is called in the target, part by part that has it: kept in the rules of the yard, so that
 * no piece makes the same material twice there.
 */
@Component({
  selector: 'yb-material-names-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText],
  template: `
    @if (rows().length) {
      <section class="panel">
        <h3>Names of the slots in {{ target().name }}</h3>
        <ul class="list">
          @for (row of rows(); track row.key) {
            <li>
              <span class="slot"
                >{{ row.slot }}<span class="faded">{{ row.parts }}</span></span
              >
              <input
                pInputText
                pSize="small"
                class="figures"
                maxlength="255"
                [value]="row.own"
                [placeholder]="row.slot"
                [attr.aria-label]="
                  'Name of ' + row.slot + (row.part ? ' of ' + row.part : '') + ' in ' + target().name
                "
                (change)="name(row, $any($event.target).value)"
              />
            </li>
          }
        </ul>
        @if (own(); as own) {
          <p class="faded">
            After these comes “{{ own.name }}”, a slot of the shapes’ own: not drawn, physics only.
          </p>
        }
        <p class="faded">
          Kept in the rules of the yard, for every piece with a slot of that name. Choose a part to name its
          slots by themselves.
        </p>
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 14px;
    }
    .slot {
      flex: 1;
      min-width: 0;
      display: grid;
      overflow-wrap: anywhere;
    }
    .slot .faded {
      font-size: 11px;
    }
    input {
      width: 150px;
    }
    .list li {
      gap: 6px;
    }
  `,
})
export class MaterialNamesPanel {
  private readonly bench = inject(BenchStore);
  private readonly rules = inject(BenchRules);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly chosen = chosenParts();
  /** who has each slot, once it was counted */
  readonly uses = input<readonly MaterialUse[]>([]);
  protected readonly target = computed(() => (this.piece(), this.bench.profile));
  /** the slot that the target gives to shapes, where it has one */
  protected readonly own = computed(() => {
    const { collision } = this.target();
    return collision.by === 'child-node' ? collision.slot : null;
  });
  protected readonly rows = computed((): SlotRow[] => {
    const document = this.document();
    if (!document) return [];
    const names = new Map(document.nodes.map(({ id, name }) => [id, name]));
    const kept =
      this.piece()?.yard.rules.materialNames.filter(({ target }) => target === this.target().id) ?? [];
    const ownOf = (slot: string, part: string) =>
      kept.find((each) => each.slot === slot && (each.part ?? '') === part)?.own ?? '';
    const chosen = new Set(this.chosen.ids());
    return document.materials.flatMap(({ name: slot }, i) => {
      const parts = [...new Set(this.uses()[i]?.parts.map((id) => names.get(id) ?? '') ?? [])];
      const asked = new Set(
        this.uses()[i]?.parts.flatMap((id) => (chosen.has(id) ? [names.get(id)!] : [])) ?? [],
      );
      const own = parts.filter((part) => asked.has(part) || ownOf(slot, part));
      return [
        { key: slot, slot, part: '', parts: partsText(parts), own: ownOf(slot, '') },
        ...own.map((part) => ({
          key: `${slot} of ${part}`,
          slot,
          part,
          parts: `on ${part} only`,
          own: ownOf(slot, part),
        })),
      ];
    });
  });

  /** An empty field, or the slot's own name, takes the entry away. */
  protected name({ slot, part }: Pick<SlotRow, 'slot' | 'part'>, typed: string): void {
    const own = typed.trim();
    const target = this.target().id;
    const others = (rules: YardRules) =>
      rules.materialNames.filter(
        (each) => each.slot !== slot || each.target !== target || (each.part ?? '') !== part,
      );
    const entry = { slot, target, own, ...(part ? { part } : {}) };
    void this.rules.change((rules) => ({
      ...rules,
      materialNames: [...others(rules), ...(own && (own !== slot || part) ? [entry] : [])],
    }));
  }
}

/** A slot on every part that has it, or on one part. */
interface SlotRow {
  key: string;
  slot: string;
  /** name of the part; empty for every part */
  part: string;
  /** what is said of the parts */
  parts: string;
  own: string;
}

const partsText = (parts: readonly string[]): string =>
  parts.length > NAMED_PARTS
    ? `${parts.slice(0, NAMED_PARTS).join(', ')} and ${parts.length - NAMED_PARTS} more`
    : listText(parts);
