import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule, type NgModel } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { showAgain } from './show-again';

let last = 0;

/** A check box with its words. What it shows is what is, also when a change was refused. */
@Component({
  selector: 'yb-check',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Checkbox],
  template: `
    <p-checkbox
      [binary]="true"
      size="small"
      [inputId]="id"
      [ngModel]="checked()"
      (ngModelChange)="take($event, model)"
      #model="ngModel"
      [disabled]="disabled()"
      [ariaLabel]="label() || undefined"
    />
    <label [for]="id"><ng-content /></label>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      min-height: 24px;
    }
    label:empty {
      display: none;
    }
  `,
})
export class Check {
  readonly checked = input.required<boolean>();
  readonly disabled = input(false);
  /** for a box without words beside it */
  readonly label = input('');
  readonly changed = output<boolean>();
  protected readonly id = `check-${++last}`;

  protected take(checked: boolean, model: NgModel): void {
    this.changed.emit(checked);
    showAgain(model, this.checked);
  }
}
