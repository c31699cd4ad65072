import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  artNodes,
  centerOfParts,
  moveTo,
  NO_ROTATION,
  type OperationOf,
  type PartPlace,
  partPlace,
  type PieceDocument,
  quatAbout,
  subtract,
  type Vec3,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { AmountField } from '../../../../ui/amount-field';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';
import { AXES, AxisButtons } from '../proxies/axis-buttons';
import { degreesOf, turnOfDegrees } from '../proxies/shape-turn';
import { chosenParts } from './chosen-parts';

const AXIS_NAMES = ['x', 'y', 'z'] as const;

/** Parts moved, turned and scaled: by numbers, from a point to another, by dragging, or like another part. */
@Component({
  selector: 'yb-place-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, AxisButtons, Check, Choice, NumberField],
  template: `
    <section class="panel">
      <h3>Place of {{ name() }}</h3>
      @if (position(); as position) {
        <div class="row">
          <span class="word">Position</span>
          @for (axis of axes; track axis; let i = $index) {
            <yb-amount
              [value]="position[i]!"
              [label]="'Position ' + axis + ' of ' + (place() ? 'the part' : 'the piece')"
              [width]="74"
              (changed)="moveAxis(i, $event)"
            />
          }
        </div>
      }
      @if (place(); as place) {
        <div class="row">
          <span class="word">Rotation</span>
          @for (axis of axes; track axis; let i = $index) {
            <yb-amount
              [value]="degrees()[i]!"
              unit="°"
              [digits]="2"
              [label]="'Rotation ' + axis + ' of the part'"
              [width]="74"
              (changed)="turnAxis(i, $event)"
            />
          }
        </div>
        <div class="row">
          <span class="word">Scale</span>
          @for (axis of axes; track axis; let i = $index) {
            <yb-number
              [value]="place.scale[i]!"
              [label]="'Scale ' + axis + ' of the part'"
              [digits]="5"
              [width]="74"
              (changed)="scaleAxis(i, $event)"
            />
          }
        </div>
      } @else {
        <p class="faded">Choose one part to type its rotation and scale, too.</p>
      }
      <div class="row">
        <span>Turn by</span>
        <yb-number
          [value]="turnDegrees()"
          (changed)="turnDegrees.set($event)"
          unit="°"
          label="Turn by"
          [digits]="2"
          [width]="66"
        />
        <span>about</span>
        <yb-axis-buttons verb="Turn about" (pressed)="turnAbout($event)" />
      </div>
      <div class="row">
        <span>Scale by</span>
        <yb-number [value]="1" (changed)="scaleBy($event)" label="Scale by" [digits]="5" [width]="66" />
      </div>
      <div class="row">
        <button type="button" class="act" (click)="fromTo()" data-testid="move-from-to">
          Move from … to …
        </button>
        <button
          type="button"
          class="act"
          [attr.aria-pressed]="settings().draggingParts"
          [disabled]="chosen.none()"
          (click)="view.toggle('draggingParts')"
          data-testid="drag-parts"
        >
          {{ settings().draggingParts ? 'Stop dragging' : 'Drag in the view' }}
        </button>
        <button type="button" class="act" [disabled]="chosen.none()" (click)="duplicateAndDrag()">
          Duplicate and drag
        </button>
      </div>
      <div class="row">
        <span>Like</span>
        <yb-choice
          class="grow"
          label="Part whose place is copied"
          [options]="others()"
          [value]="like()"
          placeholder="another part"
          (chosen)="like.set($event)"
        />
        <button type="button" class="act" [disabled]="!place() || like() === null" (click)="copy()">
          Copy its place
        </button>
      </div>
      <yb-check [checked]="!settings().partsAlone" (changed)="view.set({ partsAlone: !$event })"
        >with what hangs below</yb-check
      >
    </section>
  `,
  styles: `
    .word {
      width: 56px;
    }
  `,
})
export class PlacePanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly picking = inject(Picking);
  protected readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly document = toSignal(this.bench.document$);
  protected readonly chosen = chosenParts();
  protected readonly axes = AXIS_NAMES;
  protected readonly turnDegrees = signal(90);
  protected readonly like = signal<string | null>(null);

  /** the one part that is chosen */
  private readonly part = computed(() => (this.chosen.ids().length === 1 ? this.chosen.ids()[0]! : null));
  protected readonly place = computed(() => {
    const [document, part] = [this.document(), this.part()];
    return document && part !== null ? partPlace(document, part) : null;
  });
  /** of the pivot that is typed: the part's, or the piece's while nothing is chosen */
  protected readonly position = computed(
    () => this.place()?.position ?? (this.chosen.none() ? this.document()?.pivot.position : undefined),
  );
  protected readonly degrees = computed(() => degreesOf(this.place()?.rotation ?? NO_ROTATION));
  protected readonly name = computed(() => {
    const part = this.part();
    const node = part === null ? undefined : this.document()?.nodes.find(({ id }) => id === part);
    if (node) return `“${node.name}”`;
    return this.chosen.none() ? 'the piece' : this.chosen.words();
  });
  protected readonly others = computed((): Option<string | null>[] => {
    const document = this.document();
    if (!document) return [];
    const chosen = new Set(this.chosen.ids());
    return artNodes(document.nodes)
      .map((i) => document.nodes[i]!)
      .flatMap(({ id, name }) => (chosen.has(id) ? [] : [{ label: name, value: id }]));
  });

  protected moveAxis(axis: number, metres: number): void {
    this.move((document, parts) => {
      const by: Vec3 = [0, 0, 0];
      by[axis] = metres - centerOfParts(document, parts)[axis]!;
      return { by };
    });
  }

  protected turnAxis(axis: number, degrees: number): void {
    this.moveTo((now) => {
      const next: Vec3 = [...degreesOf(now.rotation)];
      next[axis] = degrees;
      return { rotation: turnOfDegrees(next) };
    });
  }

  protected scaleAxis(axis: number, factor: number): void {
    this.moveTo(({ scale: [...scale] }) => {
      scale[axis] = factor;
      return { scale };
    });
  }

  protected turnAbout(axis: 0 | 1 | 2): void {
    const turn = quatAbout(AXES[axis], (this.turnDegrees() * Math.PI) / 180);
    this.move(() => ({ turn }));
  }

  protected scaleBy(factor: number): void {
    if (factor !== 0 && factor !== 1) this.move(() => ({ scale: [factor, factor, factor] }));
  }

  protected async fromTo(): Promise<void> {
    const from = await this.picking.ask('Pick the point that is moved: a vertex, an edge, a face centre.');
    const to =
      from &&
      (await this.picking.ask('Pick where it goes: on the piece, on one beside it, or on the ground.', {
        ground: true,
      }));
    if (from && to) this.move(() => ({ by: subtract(to.at, from.at) }));
  }

  protected async duplicateAndDrag(): Promise<void> {
    const before = new Set(this.bench.document.nodes.map(({ id }) => id));
    if (!(await this.operations.make({ op: 'duplicate', parts: this.chosen.ids() }))) return;
    const made = this.bench.document.nodes.filter(({ id }) => !before.has(id));
    const ids = new Set(made.map(({ id }) => id));
    const tops = made.filter(
      ({ parent }) => parent === null || !ids.has(this.bench.document.nodes[parent]!.id),
    );
    this.chosen.choose(tops.map(({ id }) => id));
    this.view.set({ draggingParts: true });
  }

  protected copy(): void {
    const like = this.like();
    if (like !== null) this.moveTo((_, document) => partPlace(document, like));
  }

  /** The one part to another place, told from where it is when its turn comes. */
  private moveTo(wanted: (now: PartPlace, document: PieceDocument) => Partial<PartPlace>): void {
    const part = this.part();
    const { partsAlone } = this.settings();
    if (part !== null)
      void this.operations.make((document) =>
        moveTo(document, part, wanted(partPlace(document, part), document), partsAlone),
      );
  }

  /** What is chosen now, moved by what is told when its turn comes. */
  private move(
    how: (
      document: PieceDocument,
      parts: string[],
    ) => Partial<Pick<OperationOf<'move'>, 'by' | 'turn' | 'scale'>>,
  ): void {
    const parts = this.chosen.ids();
    const { partsAlone: alone } = this.settings();
    void this.operations.make((document) => ({
      op: 'move',
      parts,
      by: [0, 0, 0],
      turn: [...NO_ROTATION],
      ...how(document, parts),
      about: centerOfParts(document, parts),
      alone,
    }));
  }
}
