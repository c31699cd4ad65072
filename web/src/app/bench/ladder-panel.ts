import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { counted, countText, lengthText, volumeText } from '../shell/figures';
import { NumberField } from './number-field';
import { Operations } from './operations';
import { ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { LadderChart } from './ladder-chart';
import { clearanceShapes, figuresOfSet, LadderStore, millimetresOff } from './ladder-store';
import { stepStyles } from './step-styles';

/** Who collides, the run, and the ladder with its chart and figures. */
@Component({
  selector: 'yb-ladder-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, NumberField, LadderChart],
  template: `
    <section class="ask">
      <div class="row">
        <label class="who"
          >Who collides
          <select
            (change)="agentId.set($any($event.target).value)"
            data-testid="agent"
            aria-label="Who collides"
          >
            @for (agent of agents(); track agent.id) {
              <option [value]="agent.id" [selected]="agent.id === agentId()">
                {{ agent.name }}, below {{ lengthText(agent.detail) }} ignored
              </option>
            }
            <option value="" [selected]="agentId() === ''">nobody in particular</option>
          </select></label
        >
      </div>
      <div class="row">
        <label
          >Shapes at most
          <yb-number
            [value]="mostShapes()"
            (changed)="mostShapes.set($event)"
            label="Shapes at most"
            [min]="1"
            [max]="64"
            [digits]="0"
            [width]="46"
        /></label>
        <label
          >corners each
          <yb-number
            [value]="mostVertices()"
            (changed)="mostVertices.set($event)"
            label="Corners of a hull at most"
            [min]="4"
            [max]="255"
            [digits]="0"
            [width]="46"
        /></label>
      </div>
      <div class="row">
        <label
          ><input type="checkbox" [checked]="primitives()" (change)="primitives.set(!primitives())" /> boxes
          and rounds before hulls</label
        >
        <label
          ><input type="checkbox" [checked]="mayCross()" (change)="mayCross.set(!mayCross())" /> may
          cross</label
        >
      </div>
      <div class="row">
        <span class="faded">{{ openings() }}</span>
        <span class="gap"></span>
        <p-button
          [label]="action()"
          size="small"
          [disabled]="working()"
          (onClick)="run()"
          data-testid="break-up"
        />
      </div>
    </section>
    @if (shown(); as shown) {
      <section class="ladder" data-testid="ladder">
        <yb-ladder-chart
          [points]="points()"
          [enough]="shown.agent ? shown.agent.detail * 1000 : null"
          [at]="shown.at"
          (turn)="ladder.turnTo($event)"
        />
        <div class="rungs" role="radiogroup" aria-label="Number of shapes" (keydown)="key($event)">
          @for (point of points(); track $index; let i = $index) {
            <button
              type="button"
              role="radio"
              class="figures"
              [attr.aria-checked]="i === shown.at"
              [attr.tabindex]="i === shown.at ? 0 : -1"
              [class.on]="i === shown.at"
              [class.enough]="i === shown.goodEnough"
              [title]="title(i)"
              (click)="ladder.turnTo(i)"
              [attr.data-rung]="point.shapes"
            >
              {{ point.shapes }}
            </button>
          }
        </div>
        <table>
          <tr>
            <th></th>
            <th class="number">now</th>
            <th class="number">proposed</th>
          </tr>
          @for (row of rows(); track row.name) {
            <tr [attr.data-row]="row.name">
              <td>{{ row.name }}</td>
              <td class="number figures">{{ row.now }}</td>
              <td class="number figures" [class.good]="row.good">{{ row.next }}</td>
            </tr>
          }
        </table>
        @if (shown.specks) {
          <p class="faded">{{ specks() }}</p>
        }
        <div class="row">
          <p-button [label]="keep()" size="small" (onClick)="store.keepProposal()" data-testid="keep" />
          <p-button
            label="Leave"
            size="small"
            [outlined]="true"
            (onClick)="store.leaveProposal()"
            data-testid="leave"
          />
        </div>
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .ask {
        display: grid;
        gap: 8px;
      }
      .who {
        flex: 1;
      }
      .who select {
        flex: 1;
      }
      .rungs {
        display: flex;
        flex-wrap: wrap;
        margin: 2px 0 8px;
        border: 1px solid var(--rule);
        border-right: 0;
        border-bottom: 0;
        border-radius: var(--corner);
      }
      .rungs button {
        flex: 1 0 30px;
        height: 26px;
        padding: 0;
        background: var(--card);
        border: 0;
        border-right: 1px solid var(--rule);
        border-bottom: 1px solid var(--rule);
        cursor: pointer;
      }
      .rungs .enough {
        box-shadow: inset 0 -3px var(--moss);
      }
      .rungs .on {
        color: var(--card);
        background: var(--tide);
      }
      .good {
        color: var(--moss);
      }
      .ladder .row {
        margin-top: 10px;
      }
    `,
  ],
})
export class LadderPanel {
  protected readonly store = inject(BenchStore);
  protected readonly ladder = inject(LadderStore);
  private readonly view = inject(ViewState);
  private readonly operations = inject(Operations);
  private readonly document = toSignal(this.store.document$);
  private readonly piece = toSignal(this.store.piece$);
  private readonly chosen = toSignal(this.view.chosen$, { requireSync: true });
  protected readonly shown = toSignal(this.ladder.ladder$, { requireSync: true });
  protected readonly working = toSignal(this.ladder.working$, { requireSync: true });
  protected readonly agentId = signal('deckhand');
  protected readonly mostShapes = signal(32);
  protected readonly mostVertices = signal(32);
  protected readonly primitives = signal(true);
  protected readonly mayCross = signal(true);
  protected readonly lengthText = lengthText;

  protected readonly agents = computed(() => this.piece()?.yard.rules.agents ?? []);
  protected readonly openings = computed(() => {
    const count = this.document()?.clearances.length ?? 0;
    return count ? `${counted(count, 'opening')} kept free` : 'no openings to keep free';
  });
  protected readonly action = computed(() => {
    const chosen = this.chosen();
    return chosen ? `Break ${counted(chosen.count, 'face')} into shapes` : 'Break into shapes';
  });
  protected readonly points = computed(() =>
    (this.shown()?.rungs ?? []).map((rung) => ({
      shapes: rung.shapes.length,
      millimetres: millimetresOff(rung),
    })),
  );
  protected readonly keep = computed(() => {
    const { rungs, at } = this.shown()!;
    return `Keep ${counted(rungs[at]!.shapes.length, 'shape')}`;
  });
  protected readonly specks = computed(
    () =>
      `${counted(this.shown()!.specks, 'loose crumb')} too small to collide with ${this.shown()!.specks === 1 ? 'has' : 'have'} no shape.`,
  );
  protected readonly rows = computed(() => {
    const [shown, document] = [this.shown(), this.document()];
    if (!shown || !document) return [];
    const clearances = clearanceShapes(document);
    const { shapes, figures } = shown.rungs[shown.at]!;
    const next = figuresOfSet(shapes, figures, clearances);
    const now =
      shown.now &&
      figuresOfSet(
        document.proxies.map(({ shape }) => shape),
        shown.now,
        clearances,
      );
    const detail = shown.agent?.detail ?? 0;
    const open = (free: number) => `${free} of ${clearances.length}`;
    return [
      row('Shapes', now && countText(now.shapes), countText(next.shapes)),
      row('Corners', now && countText(now.corners), countText(next.corners)),
      row(
        'Stands out, at most',
        now && lengthText(now.proxyOutside),
        lengthText(next.proxyOutside),
        next.proxyOutside <= detail,
      ),
      row(
        'Art stands out, at most',
        now && lengthText(now.artOutside),
        lengthText(next.artOutside),
        next.artOutside <= detail,
      ),
      row('Filled that is empty', now && volumeText(now.overfill), volumeText(next.overfill)),
      row('Shapes share', now ? volumeText(shown.now!.overlap) : null, volumeText(figures.overlap)),
      ...(clearances.length
        ? [row('Openings kept free', now && open(now.open), open(next.open), next.open === clearances.length)]
        : []),
    ];
  });

  protected title(i: number): string {
    const { rungs, goodEnough, agent } = this.shown()!;
    const said = `${counted(rungs[i]!.shapes.length, 'shape')}, ${lengthText(millimetresOff(rungs[i]!) / 1000)} off`;
    return i === goodEnough ? `${said}: good enough for the ${agent!.name}` : said;
  }

  protected key(event: KeyboardEvent): void {
    const { at, rungs } = this.shown()!;
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: rungs.length - 1 }[event.key];
    if (to === undefined || !rungs[to]) return;
    event.preventDefault();
    event.stopPropagation();
    this.ladder.turnTo(to);
    const buttons = (event.currentTarget as HTMLElement).querySelectorAll('button');
    buttons[to]?.focus();
  }

  protected run(): void {
    const agent = this.agents().find(({ id }) => id === this.agentId()) ?? null;
    const faces = this.chosen()?.faces;
    if (faces && !this.operations.drawnAsItIs()) return;
    void this.ladder.run(
      {
        mostShapes: this.mostShapes(),
        mostVertices: this.mostVertices(),
        primitives: this.primitives(),
        mayCross: this.mayCross(),
        ...(faces ? { faces: Uint32Array.from([...faces.keys()].filter((f) => faces[f])) } : {}),
      },
      agent,
    );
  }
}

const row = (name: string, now: string | null, next: string, good = false) => ({
  name,
  now: now ?? '—',
  next,
  good,
});
