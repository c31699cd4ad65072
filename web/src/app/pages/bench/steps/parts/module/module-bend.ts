import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MAX_DIVISIONS } from '@yard-brace/core';
import { NumberField } from '../../../../../ui/number-field';
import { ModuleHeld } from './module-held';
import { ModuleRun } from './module-run';

/** A module bent by an angle in a number of divisions, its ends kept true. */
@Component({
  selector: 'yb-module-bend',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NumberField, ModuleHeld],
  template: `
    <div class="row">
      <span>by</span>
      <yb-number
        [value]="degrees()"
        (changed)="degrees.set($event)"
        unit="°"
        label="Bend by"
        [min]="-360"
        [max]="360"
        [digits]="2"
        [width]="70"
      />
      <span>in</span>
      <yb-number
        [value]="divisions()"
        (changed)="setDivisions($event)"
        label="Divisions of the bend"
        [min]="1"
        [max]="maxDivisions"
        [digits]="0"
        [width]="58"
      />
      <span>divisions</span>
    </div>
    <yb-module-held>
      <button type="button" class="act" (click)="bend()" data-testid="bend">Bend</button>
    </yb-module-held>
  `,
})
export class ModuleBend {
  private readonly run = inject(ModuleRun);
  protected readonly maxDivisions = MAX_DIVISIONS;
  protected readonly degrees = signal(90);
  protected readonly divisions = signal(8);

  protected setDivisions(divisions: number): void {
    this.divisions.set(Math.min(MAX_DIVISIONS, Math.max(1, Math.round(divisions))));
  }

  protected bend(): void {
    this.run.propose({
      op: 'bend',
      parts: this.run.chosen.ids(),
      module: this.run.between(...this.run.reach()),
      degrees: this.degrees(),
      divisions: this.divisions(),
      held: this.run.held(),
    });
  }
}
