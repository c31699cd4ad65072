import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { TableModule } from 'primeng/table';

/** A name with what there is to say of it. */
export interface Fact {
  name: string;
  text: string;
  /** what it is compared with, in the column before */
  now?: string;
  /** within what is wanted */
  good?: boolean;
  /** what stands in the way */
  bad?: boolean;
}

/** A few names with their figures; with headings when they are compared. */
@Component({
  selector: 'yb-facts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [TableModule],
  template: `
    <p-table [value]="items()" size="small">
      @if (heads(); as heads) {
        <ng-template #header>
          <tr>
            <th scope="col">{{ heads[0] }}</th>
            <th scope="col" class="number">{{ heads[1] }}</th>
            @if (heads[2]) {
              <th scope="col" class="number">{{ heads[2] }}</th>
            }
          </tr>
        </ng-template>
      }
      <ng-template #body let-fact>
        <tr [attr.data-row]="fact.name" [class.bad]="fact.bad">
          <td [class]="nameWidth()">{{ fact.name }}</td>
          @if (heads()?.[2]) {
            <td class="number figures" [class.wraps]="wraps()">{{ fact.now }}</td>
          }
          <td class="number figures" [class.good]="fact.good" [class.wraps]="wraps()">{{ fact.text }}</td>
        </tr>
      </ng-template>
    </p-table>
  `,
  styles: `
    .number {
      padding-left: 10px;
      text-align: right;
      white-space: nowrap;
    }
    .half {
      width: 52%;
    }
    .third {
      width: 34%;
    }
    .number.wraps {
      white-space: normal;
      overflow-wrap: anywhere;
    }
    .good {
      color: var(--moss);
    }
    .bad td {
      color: var(--vermilion);
      font-weight: 600;
    }
  `,
})
export class FactTable {
  readonly facts = input.required<readonly Fact[]>();
  /** of the columns: name, now and next, or name and value */
  readonly heads = input<readonly string[] | null>(null);
  readonly wraps = input(false);
  protected readonly items = computed(() => [...this.facts()]);
  /** what wraps shares the width evenly */
  protected readonly nameWidth = computed(() => (this.wraps() ? (this.heads()?.[2] ? 'third' : 'half') : ''));
}
