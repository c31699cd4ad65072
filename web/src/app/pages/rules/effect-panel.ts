import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { counted, STEPS, type Tally } from '@yard-brace/core';
import { RulesDraft } from '../../state/rules-draft';

const WORDS: Record<string, string> = {
  clear: 'clear',
  look: 'look here',
  stopped: 'stopped',
  none: 'not begun',
};

/** Which pieces a change of the rules touches, and how their stamps move. */
@Component({
  selector: 'yb-effect-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (rules.changed() && rules.rules()) {
      <h2>What it does to the pieces</h2>
      @if (moved(); as moved) {
        @if (moved.length) {
          <p>{{ touched() }}</p>
          <ul data-testid="effect">
            @for (piece of moved; track piece.id) {
              <li>
                <b>{{ piece.name }}</b>&ngsp;<span class="faded">{{ piece.says }}</span>
              </li>
            }
          </ul>
        } @else {
          <p>No stamp of any piece moves.</p>
        }
      } @else {
        <p class="faded" role="status">Being worked out …</p>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    li {
      padding: 2px 0;
      border-bottom: 1px dotted var(--rule);
    }
  `,
})
export class EffectPanel {
  protected readonly rules = inject(RulesDraft);
  protected readonly moved = computed(
    () =>
      this.rules
        .effect()
        ?.map(({ id, name, before, after }) => ({ id, name, says: movesOf(before, after) })) ?? null,
  );
  protected readonly touched = computed(() => `Stamps of ${counted(this.moved()!.length, 'piece')} move:`);
}

const movesOf = (before: Tally, after: Tally): string =>
  STEPS.flatMap((step) => {
    const [from, to] = [before[step as keyof Tally], after[step as keyof Tally]];
    return from === to ? [] : [`${step}: ${WORDS[from] ?? from} → ${WORDS[to] ?? to}`];
  }).join(', ');
