import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { coordinatesText, counted, distance, lengthText, subtract, type Vec3 } from '@yard-brace/core';
import { SetOutLookStore } from '../../state/set-out-look';
import { SetOutDrag } from '../../state/set-out-drag';
import { SetOutSelection } from '../../state/set-out-selection';
import { SetOutStore } from '../../state/set-out-store';
import { Choice } from '../../ui/choice';

/** Under the view: what is in the hand or dragged and what it catches, what is chosen, how much there is. */
@Component({
  selector: 'yb-set-out-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    <div aria-live="off" data-testid="set-out-line">
      <span>{{ says() }}</span>
      @if (caught()) {
        <span class="caught">{{ caught() }}</span>
      }
      <span class="gap"></span>
      <span class="faded">{{ total() }}</span>
      <span>grid</span>
      <yb-choice
        label="Grid that pivots snap to"
        [options]="grids()"
        [value]="grid()"
        (chosen)="looks.set({ gridMetres: $event })"
      />
    </div>
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 2px 18px;
      min-height: 28px;
      padding: 0 12px;
      background: var(--card);
      border-top: 1px solid var(--rule);
      white-space: nowrap;
    }
    yb-choice {
      width: 92px;
    }
    .gap {
      flex: 1;
    }
    .caught::before {
      display: inline-block;
      width: 8px;
      height: 8px;
      margin-right: 6px;
      border-radius: 50%;
      background: var(--brass);
      content: '';
    }
  `,
})
export class SetOutLine {
  private readonly store = inject(SetOutStore);
  private readonly selection = inject(SetOutSelection);
  private readonly drag = inject(SetOutDrag);
  private readonly open = toSignal(this.store.open$, { requireSync: true });
  private readonly setOut = toSignal(this.store.setOut$, { initialValue: null });
  private readonly names = toSignal(this.store.names$, { initialValue: new Map<string, string>() });
  private readonly chosen = toSignal(this.selection.chosen$, { initialValue: [] });
  private readonly pointed = toSignal(this.selection.pointed$, { initialValue: null });
  private readonly dragged = toSignal(this.drag.dragged$, { requireSync: true });
  private readonly hand = toSignal(this.drag.inHand$, { requireSync: true });
  protected readonly caught = toSignal(this.drag.caught$, { requireSync: true });
  protected readonly looks = inject(SetOutLookStore);
  private readonly look = toSignal(this.looks.look$, { requireSync: true });
  private readonly yardGrid = computed(() => this.open()?.yard.rules.gridMetres ?? 1);
  protected readonly grid = computed(() => this.look().gridMetres ?? this.yardGrid());
  protected readonly grids = computed(() => {
    const yard = this.yardGrid();
    const steps = [yard, yard / 2, yard / 4, yard / 8, 0.1, 0.01];
    return [
      ...[...new Set(steps)].sort((a, b) => b - a).map((value) => ({ label: lengthText(value), value })),
      { label: 'none', value: 0 },
    ];
  });
  protected readonly total = computed(() => counted(this.setOut()?.placements.length ?? 0, 'piece'));
  protected readonly says = computed(() => {
    const hand = this.hand();
    if (hand)
      return `${hand.document.name} in the hand at ${coordinatesText(hand.placement.position, 2)}: click puts, R turns, Esc lets go`;
    const by = this.dragged()?.by;
    if (by) return `moved ${lengthText(distance(by, [0, 0, 0]))} (${coordinatesText(by)})`;
    const pointed = this.pointed();
    const chosen = this.chosen();
    if (pointed !== null) return this.names().get(pointed) ?? '';
    const [a, b, ...more] = chosen;
    if (a && b && !more.length) return `2 pieces, pivots ${apart(a.position, b.position)} apart`;
    if (a) return chosen.length === 1 ? this.names().get(a.id)! : counted(chosen.length, 'piece');
    return '';
  });
}

const apart = (a: Vec3, b: Vec3): string => lengthText(distance(subtract(b, a), [0, 0, 0]));
