import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { type Agent, sizeText } from '@yard-brace/core';
import { shownUnit } from '../../state/shown-unit';
import { RulesDraft } from '../../state/rules-draft';

const PIXELS_PER_METRE = 58;
const HEIGHT = 230;
const DOOR = { width: 0.9, height: 2.1 };

/** The agents of the yard in their true sizes beside a door of 0.9 by 2.1 metres. */
@Component({
  selector: 'yb-agent-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Beside a door of {{ doorSize() }}</h2>
    <svg [attr.viewBox]="'0 0 ' + width() + ' ' + height" role="img" aria-label="The agents beside a door">
      <line x1="0" [attr.x2]="width()" [attr.y1]="ground" [attr.y2]="ground" stroke="var(--ink)" />
      <rect
        x="6"
        [attr.y]="ground - door.height"
        [attr.width]="door.width"
        [attr.height]="door.height"
        fill="none"
        stroke="var(--ink)"
        stroke-dasharray="4 3"
      />
      @for (figure of figures(); track $index) {
        <rect
          [attr.x]="figure.x"
          [attr.y]="ground - figure.height"
          [attr.width]="figure.width"
          [attr.height]="figure.height"
          [attr.rx]="figure.width / 2"
          fill="#17616e22"
          stroke="var(--tide)"
        />
        <text [attr.x]="figure.x + figure.width / 2" [attr.y]="ground + 14" text-anchor="middle">
          {{ figure.name }}
        </text>
      }
    </svg>
  `,
  styles: `
    svg {
      width: 100%;
    }
    text {
      font-size: 11px;
      fill: var(--ink);
    }
  `,
})
export class AgentPicture {
  protected readonly doorSize = () => (shownUnit(), sizeText([DOOR.width, DOOR.height]));
  private readonly rules = inject(RulesDraft);
  protected readonly height = HEIGHT;
  protected readonly ground = HEIGHT - 24;
  protected readonly door = { width: DOOR.width * PIXELS_PER_METRE, height: DOOR.height * PIXELS_PER_METRE };
  protected readonly figures = computed(() => {
    let x = this.door.width + 30;
    return ((this.rules.at(['agents']) ?? []) as Agent[]).map(({ name, height, radius }) => {
      const width = Math.max(4, radius * 2 * PIXELS_PER_METRE || 0);
      const figure = { name, x, width, height: Math.max(4, height * PIXELS_PER_METRE || 0) };
      x += Math.max(width, name.length * 6) + 18;
      return figure;
    });
  });
  protected readonly width = computed(() => {
    const last = this.figures().at(-1);
    return Math.max(280, last ? last.x + last.width + 30 : 0);
  });
}
