import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artKey,
  distance,
  dot,
  measuredText,
  normalized,
  ownSides,
  sizeText,
  subtract,
  type Vec3,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { type Tape, ViewMarks } from '../../../../state/view-marks';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Check } from '../../../../ui/check';
import { Keymap } from '../../../../ui/keymap';

/** So many readings stay. */
const MAX_READINGS = 6;

/** Lengths between two points, along a direction, and angles. */
@Component({
  selector: 'yb-tape-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check],
  template: `
    <section class="panel">
      <h3>Measure</h3>
      <div class="row">
        <button type="button" class="act" (click)="measure()" title="M" data-testid="tape">
          Between two points …
        </button>
        <button type="button" class="act" (click)="along('edge')">Along an edge …</button>
        <button type="button" class="act" (click)="along('face')">Square to a face …</button>
        <button type="button" class="act" (click)="angle()">Angle …</button>
      </div>
      <div class="row">
        <yb-check [checked]="settings().dimensions" (changed)="view.set({ dimensions: $event })"
          >dimensions on the piece</yb-check
        >
      </div>
      <p class="faded">
        In its own axes <span class="figures" data-testid="own-sides">{{ own() }}</span>
      </p>
      @for (reading of readings(); track $index) {
        <p class="figures" data-testid="reading">{{ reading }}</p>
      }
      @if (tapes().length) {
        <ul class="list">
          @for (tape of tapes(); track $index; let i = $index) {
            <li>
              <span class="figures">{{ long(tape) }}</span>
              <span class="figures faded grow">{{ across(tape) }}</span>
              <button
                type="button"
                class="quiet-button"
                (click)="marks.removeTape(i)"
                [attr.aria-label]="'Remove measurement ' + (i + 1)"
              >
                <span class="pi pi-times" aria-hidden="true"></span>
              </button>
            </li>
          }
        </ul>
      }
    </section>
  `,
})
export class TapePanel {
  private readonly picking = inject(Picking);
  private readonly operations = inject(Operations);
  private readonly bench = inject(BenchStore);
  private readonly document = toSignal(this.bench.document$);
  /** what was read off the piece last; other art, other readings */
  protected readonly readings = linkedSignal<unknown, readonly string[]>({
    source: () => this.document() && artKey(this.document()!),
    computation: () => [],
  });
  protected readonly own = computed(() => (this.document() ? sizeText(ownSides(this.document()!)) : ''));
  protected readonly view = inject(ViewSettingsStore);
  protected readonly marks = inject(ViewMarks);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  protected readonly tapes = toSignal(this.marks.tapes$, { requireSync: true });

  constructor() {
    inject(Keymap).bind([
      { keys: ['M'], help: 'measure between two points, in the size step', act: () => void this.measure() },
    ]);
  }

  protected async measure(): Promise<void> {
    const ends = await this.picking.askTwo('Pick the first point.', 'Pick the other point.');
    if (ends) this.marks.addTape([ends[0].at, ends[1].at], [ends[0].part, ends[1].part]);
  }

  /** How far the piece reaches along an edge, or square to a face. */
  protected async along(what: 'edge' | 'face'): Promise<void> {
    const picked = await this.picking.ask(
      what === 'edge'
        ? 'Pick the edge along which is measured.'
        : 'Pick the face that is measured square to.',
    );
    if (!picked) return;
    const [a, b] = picked.feature ?? picked.edge;
    const metres = await this.operations.extent(what === 'edge' ? subtract(b, a) : picked.normal);
    if (metres !== null)
      this.read(`${measuredText(metres)} ${what === 'edge' ? 'along that edge' : 'square to that face'}`);
  }

  /** Between two edges, or two faces: whatever was pointed at. */
  protected async angle(): Promise<void> {
    const picked = await this.picking.askTwo('Pick an edge or a face.', 'Pick the other edge or face.');
    if (!picked) return;
    const ways = picked.map((each) => {
      const [a, b] = each.feature ?? each.edge;
      return each.kind.startsWith('edge') ? normalized(subtract(b, a)) : each.normal;
    }) as [Vec3, Vec3];
    const degrees = (Math.acos(Math.min(1, Math.max(-1, dot(...ways)))) * 180) / Math.PI;
    const faces = picked.every(({ kind }) => !kind.startsWith('edge'));
    // Edges have no direction; faces that look the same way are at 0°.
    this.read(`${(faces ? degrees : Math.min(degrees, 180 - degrees)).toFixed(2)}° between them`);
  }

  private read(reading: string): void {
    this.readings.set([...this.readings(), reading].slice(-MAX_READINGS));
  }

  protected long = ([a, b]: Tape): string => measuredText(distance(a, b));
  protected across = ([a, b]: Tape): string => sizeText(a.map((v, k) => Math.abs(v - b[k]!)));
}
