import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { inventoryOf, pivotDrifts, placeText, reachFromPivot, type Vec3 } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { momentText } from '../../../../ui/moment';
import { NumberField } from '../../../../ui/number-field';
import { WhosePivot } from './whose-pivot';

/** The pivot by numbers. */
@Component({
  selector: 'yb-position-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NumberField],
  template: `
    <section class="panel">
      <h3>Position in metres</h3>
      <div class="numbers">
        @for (axis of axes; track axis; let i = $index) {
          <span class="labelled"
            ><b [class]="axis">{{ axis }}</b>
            <yb-number
              [value]="whose.pivot().position[i]!"
              (changed)="type(i, $event)"
              [label]="'Pivot ' + axis + ' in metres'"
              [digits]="4"
              [width]="80"
          /></span>
        }
      </div>
      <p class="faded">
        The geometry does not move. From the pivot it reaches from
        <span class="figures">{{ reach().from }}</span> to <span class="figures">{{ reach().to }}</span>.
      </p>
      @if (since(); as since) {
        <div data-testid="pivot-drift">
          @for (says of since.drifts; track says) {
            <p class="drift">
              Since {{ since.at }}, when it was delivered for {{ since.target }}: {{ says }}
            </p>
          } @empty {
            <p class="faded">Where it was delivered for {{ since.target }}, {{ since.at }}.</p>
          }
        </div>
      }
    </section>
  `,
  styles: `
    .numbers {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 8px;
    }
    .drift {
      padding: 2px 10px;
      border-left: 4px solid var(--brass);
    }
    .x {
      color: #b03a26;
    }
    .y {
      color: #3d7634;
    }
    .z {
      color: #2f62b8;
    }
  `,
})
export class PositionPanel {
  protected readonly whose = inject(WhosePivot);
  private readonly choices = inject(DeliveryChoicesStore);
  private readonly delivered = toSignal(inject(BenchStore).delivered$);
  protected readonly axes = ['x', 'y', 'z'];
  protected readonly reach = computed(() => {
    const { from, to } = reachFromPivot(this.whose.document(), this.whose.part());
    return { from: placeText(from), to: placeText(to) };
  });

  /** how the pivots have gone since the newest delivery */
  protected readonly since = computed(() => {
    const last = this.delivered();
    const plan = last && this.choices.planFor(last.target);
    if (!last?.inventory || !plan) return null;
    return {
      at: momentText(last.at),
      target: plan.profile.name,
      drifts: pivotDrifts(last.inventory, inventoryOf(plan)),
    };
  });

  protected type(axis: number, metres: number): void {
    if (this.whose.locked()) return;
    const { position, hinge } = this.whose.pivot();
    const next: Vec3 = [...position];
    next[axis] = metres;
    this.whose.place('numeric', next, { hinge });
  }
}
