import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { counted, lengthText } from '@yard-brace/core';
import { SelectButton } from 'primeng/selectbutton';
import { LadderStore } from '../../../../state/ladder-store';
import { millimetresOff, type ShownLadder } from '../../../../state/rung-figures';
import { Segments } from '../../../../ui/segments';
import { LadderChart } from './ladder-chart';

/** What a rung is, in a line: how many shapes, how far off, whether that is good enough. */
export function rungTitle({ rungs, goodEnough, agent }: ShownLadder, at: number): string {
  const rung = rungs[at]!;
  const said = `${counted(rung.shapes.length, 'shape')}, ${lengthText(millimetresOff(rung) / 1000)} off`;
  return at === goodEnough ? `${said}: good enough for the ${agent!.name}` : said;
}

/** What small loose pieces were left without a shape; empty when none was. */
export const specksText = (specks: number): string =>
  specks
    ? `${counted(specks, 'speck')} too small to collide with ${specks === 1 ? 'has' : 'have'} no shape.`
    : '';

/** The ladder of one run: a chart of what each further shape buys, and every rung. Figures are on the proposal. */
@Component({
  selector: 'yb-rungs-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, SelectButton, Segments, LadderChart],
  template: `
    @if (ladder(); as shown) {
      <section class="panel" data-testid="ladder">
        <yb-ladder-chart
          [points]="points()"
          [enough]="shown.agent ? shown.agent.detail * 1000 : null"
          [at]="shown.at"
          (turn)="store.turnTo($event)"
        />
        <div class="rungs" (keydown)="key($event)">
          <p-selectbutton
            size="small"
            [options]="rungs()"
            optionValue="at"
            optionLabel="label"
            [ngModel]="shown.at"
            (ngModelChange)="store.turnTo($event)"
            [allowEmpty]="false"
            role="group"
            aria-label="Number of shapes"
          >
            <ng-template #item let-rung
              ><span
                class="figures"
                [class.enough]="rung.at === shown.goodEnough"
                [class.on]="rung.at === shown.at"
                [title]="rung.title"
                [attr.data-rung]="rung.label"
                >{{ rung.label }}</span
              ></ng-template
            >
          </p-selectbutton>
        </div>
        @if (specks()) {
          <p class="faded">{{ specks() }}</p>
        }
      </section>
    } @else if (look(); as first) {
      <section class="panel" data-testid="first-look">
        <p class="faded">A first look, cut straight across and not measured. The ladder follows.</p>
        <yb-segments
          label="Number of shapes"
          [options]="looks()"
          [value]="first.at"
          (chosen)="store.turnLookTo($event!)"
        />
      </section>
    }
  `,
  styles: `
    .enough {
      text-decoration: underline;
      text-decoration-thickness: 2px;
      text-underline-offset: 3px;
      font-weight: 700;
    }
  `,
})
export class RungsPanel {
  protected readonly store = inject(LadderStore);
  protected readonly ladder = toSignal(this.store.ladder$, { requireSync: true });
  protected readonly look = toSignal(this.store.firstLook$, { requireSync: true });
  protected readonly looks = computed(() =>
    (this.look()?.sets ?? []).map((set, at) => ({ value: at, label: String(set.length) })),
  );
  protected readonly points = computed(() =>
    (this.ladder()?.rungs ?? []).map((rung) => ({
      shapes: rung.shapes.length,
      millimetres: millimetresOff(rung),
    })),
  );
  protected readonly rungs = computed(() => {
    const ladder = this.ladder();
    return (ladder?.rungs ?? []).map(({ shapes }, at) => ({
      at,
      label: String(shapes.length),
      title: rungTitle(ladder!, at),
    }));
  });
  protected readonly specks = computed(() => specksText(this.ladder()?.specks ?? 0));

  /** Arrows walk along the ladder, and the view with them. */
  protected key(event: KeyboardEvent): void {
    const { at, rungs } = this.ladder()!;
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: rungs.length - 1 }[event.key];
    if (to === undefined || !rungs[to]) return;
    event.preventDefault();
    event.stopPropagation();
    this.store.turnTo(to);
    const host = event.currentTarget as HTMLElement;
    host.querySelectorAll<HTMLElement>('p-togglebutton')[to]?.focus();
  }
}
