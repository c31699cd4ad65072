import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

export type Cell = [-1 | 0 | 1, -1 | 0 | 1, -1 | 0 | 1];

interface Spot {
  cell: Cell;
  x: number;
  y: number;
  name: string;
  hidden: boolean;
}

const WORDS = [
  ['left', '', 'right'],
  ['bottom', '', 'top'],
  ['back', '', 'front'],
] as const;

/** Corners, edge middles, face centres and the middle of the bounds on one small cube, seen from front, right and above. */
const SPOTS: Spot[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) =>
    [-1, 0, 1].map((z): Spot => {
      const cell = [x, y, z] as Cell;
      const words = cell.map((c, k) => WORDS[k]![c + 1]).filter(Boolean);
      return {
        cell,
        x: 78 + x * 40 - z * 22,
        y: 68 - y * 38 + z * 17,
        name: words.length ? words.join(' ') : 'middle',
        hidden: x < 1 && y < 1 && z < 1,
      };
    }),
  ),
);

@Component({
  selector: 'yb-pivot-cube',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 156 136" role="radiogroup" aria-label="Pivot at a point of the bounds">
      @for (edge of edges; track $index) {
        <line
          [attr.x1]="edge[0].x"
          [attr.y1]="edge[0].y"
          [attr.x2]="edge[1].x"
          [attr.y2]="edge[1].y"
          [class.back]="edge[0].hidden || edge[1].hidden"
        />
      }
      @for (spot of spots; track spot.name) {
        <circle
          role="radio"
          tabindex="0"
          [attr.aria-checked]="is(spot)"
          [attr.aria-label]="spot.name"
          [attr.cx]="spot.x"
          [attr.cy]="spot.y"
          [attr.r]="is(spot) ? 6 : spot.hidden ? 3 : 4.2"
          [class.taken]="is(spot)"
          [class.back]="spot.hidden"
          (click)="picked.emit(spot.cell)"
          (keydown.enter)="picked.emit(spot.cell)"
          (keydown.space)="$event.preventDefault(); picked.emit(spot.cell)"
        >
          <title>{{ spot.name }}</title>
        </circle>
      }
    </svg>
  `,
  styles: `
    svg {
      width: 156px;
      height: 136px;
    }
    line {
      stroke: var(--faded);
      stroke-width: 1;
    }
    line.back {
      stroke: var(--rule);
      stroke-dasharray: 2 2;
    }
    circle {
      fill: var(--card);
      stroke: var(--ink);
      cursor: pointer;
    }
    circle.back {
      stroke: var(--faded);
    }
    circle:hover {
      fill: var(--paper);
      stroke: var(--brass);
      stroke-width: 2;
    }
    circle.taken {
      fill: var(--brass);
      stroke: var(--brass);
    }
  `,
})
export class PivotCube {
  readonly cell = input<readonly number[] | null>(null);
  readonly picked = output<Cell>();
  protected readonly spots = SPOTS;
  /** the twelve edges of the cube */
  protected readonly edges = SPOTS.filter(({ cell }) => cell.every((c) => c !== 0)).flatMap((a, _, corners) =>
    corners
      .filter(
        (b) => b.cell.filter((c, k) => c !== a.cell[k]).length === 1 && b.cell.some((c, k) => c > a.cell[k]!),
      )
      .map((b) => [a, b] as const),
  );

  protected is = (spot: Spot): boolean => !!this.cell()?.every((c, k) => c === spot.cell[k]);
}
