import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { JobsLine } from './jobs-line';

/** The places of a yard, one click away. */
@Component({
  selector: 'yb-yard-places',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [JobsLine, RouterLink],
  template: `
    <nav aria-label="Places of the yard">
      @for (place of places(); track place.id) {
        <a [routerLink]="place.link" [attr.aria-current]="place.id === here() ? 'page' : null">{{
          place.name
        }}</a>
      }
    </nav>
    <yb-jobs-line [yardId]="yardId()" />
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 14px;
    }
    nav {
      display: flex;
      gap: 2px;
    }
    a {
      display: inline-flex;
      align-items: center;
      min-height: 28px;
      padding: 0 9px;
      border-bottom: 2px solid transparent;
      color: var(--faded);
      text-decoration: none;
    }
    a:hover {
      color: var(--ink);
    }
    a[aria-current] {
      border-bottom-color: var(--tide);
      color: var(--ink);
    }
  `,
})
export class YardPlaces {
  readonly yardId = input.required<number>();
  readonly here = input<'shelf' | 'set-out' | 'deliveries' | 'rules' | null>(null);
  protected readonly places = computed(() => [
    { id: 'shelf', name: 'Shelf', link: `/yards/${this.yardId()}` },
    { id: 'set-out', name: 'Set-out', link: `/yards/${this.yardId()}/set-out` },
    { id: 'deliveries', name: 'Deliveries', link: `/yards/${this.yardId()}/deliveries` },
    { id: 'rules', name: 'Rules', link: `/yards/${this.yardId()}/rules` },
  ]);
}
