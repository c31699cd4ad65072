import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Choice, type Option } from '../../../../../ui/choice';
import { type Held, ModuleRun } from './module-run';

const ENDS: readonly Option<Held>[] = [
  { label: 'the end it begins with', value: 'from' },
  { label: 'the other end', value: 'to' },
];

/** Which end of a module stays where it is. */
@Component({
  selector: 'yb-module-held',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    <div class="row">
      <span>held at</span>
      <yb-choice
        class="grow"
        label="Held at"
        [options]="ends"
        [value]="run.held()"
        (chosen)="run.held.set($event)"
      />
      <ng-content />
    </div>
  `,
})
export class ModuleHeld {
  protected readonly run = inject(ModuleRun);
  protected readonly ends = ENDS;
}
