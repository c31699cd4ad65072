import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { placeText, reachFromPivot, type Vec3 } from '@yard-brace/core';
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
    </section>
  `,
  styles: `
    .numbers {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 8px;
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
  protected readonly axes = ['x', 'y', 'z'];
  protected readonly reach = computed(() => {
    const { from, to } = reachFromPivot(this.whose.document(), this.whose.part());
    return { from: placeText(from), to: placeText(to) };
  });

  protected type(axis: number, metres: number): void {
    if (this.whose.locked()) return;
    const { position, hinge } = this.whose.pivot();
    const next: Vec3 = [...position];
    next[axis] = metres;
    this.whose.place('numeric', next, { hinge });
  }
}
