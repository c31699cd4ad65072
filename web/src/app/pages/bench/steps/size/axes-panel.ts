import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  applyEdit,
  artBounds,
  artKey,
  baseCentreOf,
  centerOfParts,
  cross,
  type Edit,
  normalized,
  type Quat,
  quatAbout,
  quatFromAxes,
  type Vec3,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { artFigures } from '../../../../state/change-figures';
import { Operations } from '../../../../state/operations';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Check } from '../../../../ui/check';
import { chosenParts } from '../parts/chosen-parts';
import { Proposals } from '../../../../state/proposals';

/** What brings a source axis up to Y, the front kept where it can be. */
const TURNS: { label: string; turn: Quat }[] = [
  { label: 'Z is up', turn: quatFromAxes([1, 0, 0], [0, 0, -1], [0, 1, 0]) },
  { label: '−Z is up', turn: quatFromAxes([1, 0, 0], [0, 0, 1], [0, -1, 0]) },
  { label: 'X is up', turn: quatAbout([0, 0, 1], Math.PI / 2) },
  { label: 'Upside down', turn: quatAbout([1, 0, 0], Math.PI) },
  { label: 'Front 90° left', turn: quatAbout([0, 1, 0], Math.PI / 2) },
  { label: 'Front 180°', turn: quatAbout([0, 1, 0], Math.PI) },
];

/** Quarter turns both ways about each axis. */
const QUARTERS: { label: string; turn: Quat }[] = (
  [
    ['X', [1, 0, 0]],
    ['Y', [0, 1, 0]],
    ['Z', [0, 0, 1]],
  ] as const
).flatMap(([name, axis]) =>
  [1, -1].map((way) => ({
    label: `${name} ${way > 0 ? '+' : '−'}90°`,
    turn: quatAbout([...axis], (way * Math.PI) / 2),
  })),
);

/** The turn that brings a direction up the shortest way; half a turn about x for what is upside down. */
function turnToUp(up: Vec3): Quat {
  if (up[1] === -1) return quatAbout([1, 0, 0], Math.PI);
  return quatAbout(normalized(cross(up, [0, 1, 0])), Math.acos(up[1]));
}

/** The piece turned so that up is up: the piece, no node. */
@Component({
  selector: 'yb-axes-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check],
  template: `
    <section class="panel">
      <h3>Up axis: rotates the piece, not its nodes</h3>
      @if (likely(); as likely) {
        <p data-testid="likely-up">
          {{ likely.says }}
          @if (likely.turn; as turning) {
            <button type="button" class="act" (click)="turn(turning, 'as proposed')">Turn it so</button>
          }
        </p>
      }
      @if (!chosen.none()) {
        <yb-check [checked]="only()" (changed)="only.set($event)"
          >only {{ chosen.words() }}: the rest keeps its axes</yb-check
        >
      }
      <div class="row">
        @for (each of turns; track each.label) {
          <button type="button" class="act" (click)="turn(each.turn, each.label)">{{ each.label }}</button>
        }
      </div>
      <div class="row">
        @for (quarter of quarters; track quarter.label) {
          <button type="button" class="act" (click)="turn(quarter.turn, quarter.label)">
            {{ quarter.label }}
          </button>
        }
      </div>
      <div class="row">
        <span class="faded">The front is +Z here and {{ forward() }} in {{ target() }}.</span>
        <yb-check [checked]="settings().forward" (changed)="view.set({ forward: $event })">show it</yb-check>
      </div>
    </section>
  `,
})
export class AxesPanel {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  private readonly operations = inject(Operations);
  protected readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly document = toSignal(this.bench.document$);
  protected readonly turns = TURNS;
  protected readonly quarters = QUARTERS;
  protected readonly chosen = chosenParts();
  /** parts that were modelled on other axes than the rest are turned by themselves */
  protected readonly only = signal(false);
  private readonly found = signal<Awaited<ReturnType<Operations['likelyAxes']>>>(null);
  private readonly art = computed(() => (this.document() ? artKey(this.document()!) : ''));
  protected readonly target = computed(() => (this.document(), this.bench.profile.name));
  protected readonly forward = computed(
    () => (this.document(), this.bench.profile.space.forward.toUpperCase().replace('-', '−')),
  );
  /** what the art itself says of up, with its reason */
  protected readonly likely = computed(() => {
    const found = this.found();
    if (!found) return null;
    const { up, now, forward } = found;
    const share = (value: number) => `${Math.round(value * 100)} %`;
    const front = forward
      ? ` It is the same to both sides across ${'x z'[forward.mirrored]}, so its front looks along ${forward.mirrored === 0 ? 'z' : 'x'}.`
      : '';
    if (up.up[1] === 1)
      return { says: `It stands on ${share(now.standsOn)} of its surface as it is.${front}`, turn: null };
    const axis = `${up.up.some((v) => v < 0) ? '−' : ''}${'XYZ'[up.up.findIndex((v) => v !== 0)]}`;
    return {
      says: `${axis} is likely up: it would stand on ${share(up.standsOn)} of its surface instead of ${share(now.standsOn)}.`,
      turn: turnToUp(up.up),
    };
  });

  constructor() {
    effect(() => {
      const art = this.art();
      if (art) untracked(() => void this.look(art));
    });
  }

  private async look(art: string): Promise<void> {
    const found = await this.operations.likelyAxes();
    if (art === this.art()) this.found.set(found);
  }

  protected turn(turn: Quat, label: string): void {
    const { document } = this.bench;
    const parts = this.chosen.ids();
    if (this.only() && parts.length) {
      const about = centerOfParts(document, parts);
      void this.operations.propose({ op: 'move', parts, by: [0, 0, 0], turn, about });
      return;
    }
    const edit: Edit = { kind: 'turn', turn, about: baseCentreOf(artBounds(document)) };
    this.proposals.propose({
      source: 'size',
      title: `The piece is rotated (${label}); its nodes keep their transforms.`,
      keepLabel: 'Keep the rotation',
      edit,
      figures: artFigures(document, applyEdit(document, edit)),
    });
  }
}
