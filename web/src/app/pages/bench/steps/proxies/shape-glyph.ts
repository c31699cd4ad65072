import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { ShapeKind } from '@yard-brace/core';

/** The kind of a shape as a small drawn sign. */
@Component({
  selector: 'yb-shape-glyph',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      stroke-width="1.2"
      role="img"
      [attr.aria-label]="kind()"
    >
      <title>{{ kind() }}</title>
      @switch (kind()) {
        @case ('box') {
          <path d="M2 5.5 8 2.5l6 3v6l-6 3-6-3zM2 5.5l6 3 6-3M8 8.500v6" />
        }
        @case ('sphere') {
          <circle cx="8" cy="8" r="6" />
          <path d="M2 8c3 2.6 9 2.6 12 0" />
        }
        @case ('capsule') {
          <path d="M4.500 6a3.500 3.500 0 0 1 7 0v4a3.500 3.500 0 0 1-7 0z" />
        }
        @case ('cylinder') {
          <ellipse cx="8" cy="4" rx="5" ry="1.800" />
          <path d="M3 4v8c0 1 2.200 1.800 5 1.800s5-.8 5-1.800V4" />
        }
        @case ('hull') {
          <path
            d="m8 1.800 5.500 3.400.7 5.800-5.600 3.300-6.200-3L2 5zM8 1.800l-1 6.500-5-3.300M7 8.300l7.200 2.700M7 8.300l1.600 6"
          />
        }
        @case ('surface') {
          <path d="m1.500 11 4-5 4 3 5-5M1.500 14l4-3 4 2 5-3" />
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: inline-flex;
      width: 16px;
      height: 16px;
      flex: none;
    }
  `,
})
export class ShapeGlyph {
  readonly kind = input.required<ShapeKind>();
}
