import { CdkAccordionItem } from '@angular/cdk/accordion';
import { ChangeDetectionStrategy, Component, input, signal } from '@angular/core';

/** A line that opens what there is more to say. */
@Component({
  selector: 'yb-disclosure',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkAccordionItem],
  template: `
    <div cdkAccordionItem #item="cdkAccordionItem" (expandedChange)="open.set($event)">
      <button
        type="button"
        [attr.aria-expanded]="item.expanded"
        [attr.aria-controls]="item.expanded ? item.id + '-more' : null"
        (click)="item.toggle()"
      >
        {{ label() }}
        @if (more()) {
          <span>{{ more() }}</span>
        }
      </button>
      @if (item.expanded) {
        <div [id]="item.id + '-more'"><ng-content /></div>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
    }
    button {
      min-height: 24px;
      padding: 0;
      border: 0;
      background: none;
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    span {
      color: var(--tide);
      text-decoration: underline dotted;
    }
  `,
})
export class Disclosure {
  readonly label = input('');
  /** what it is opened for, underlined after the label */
  readonly more = input('');
  /** for content that is only worked out while it is seen */
  readonly open = signal(false);
}
