import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Operation, UvProjection } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';
import { chosenParts } from './chosen-parts';

const PROJECTIONS: readonly Option<UvProjection>[] = [
  { label: 'from six sides', value: 'box' },
  { label: 'from one side', value: 'planar' },
  { label: 'round an axis', value: 'cylinder' },
];
const AXES: readonly Option<0 | 1 | 2>[] = [
  { label: 'X', value: 0 },
  { label: 'Y', value: 1 },
  { label: 'Z', value: 2 },
];
const SETS: readonly Option<number>[] = [
  { label: 'set 1', value: 0 },
  { label: 'set 2', value: 1 },
];
/** Side of the picture that a pattern is taken to be drawn in, where the piece has none: texels. */
const USUAL_PICTURE_TEXELS = 1024;

/** New UVs at real size, a set brought to a density, and one for baked light. */
@Component({
  selector: 'yb-uv-lay-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, NumberField],
  template: `
    <section class="panel">
      <h3>Lay UVs of {{ chosen.words() }}</h3>
      <div class="row">
        <button type="button" class="act" (click)="project()">Project UVs</button>
        <yb-choice
          label="How UVs are projected"
          [options]="projections"
          [value]="by()"
          (chosen)="by.set($event)"
        />
        @if (by() !== 'box') {
          <yb-choice
            label="Axis of the projection"
            [options]="axes"
            [value]="axis()"
            (chosen)="axis.set($event)"
          />
        }
        <span class="labelled"
          ><yb-number
            [value]="pictureMetres()"
            (changed)="pictureMetres.set($event)"
            unit="m"
            label="Metres a picture"
            [min]="0.001"
            [width]="70"
          />
          a picture</span
        >
      </div>
      <p class="faded">The checker in the view shows the repeat: one picture is eight of its squares wide.</p>
      <div class="row">
        <button type="button" class="act" (click)="density()">Set the density</button>
        <yb-choice
          label="Set whose density is set"
          [options]="sets"
          [value]="set()"
          (chosen)="set.set($event)"
        />
        <span>to</span>
        <yb-number
          [value]="texels()"
          (changed)="texels.set($event)"
          label="Pixels a metre"
          [min]="0.01"
          [digits]="2"
          [width]="70"
        />
        <span>px/m in</span>
        <yb-number
          [value]="picture()"
          (changed)="picture.set($event)"
          unit="px"
          label="Width of the picture"
          [min]="1"
          [digits]="0"
          [width]="80"
        />
      </div>
      <div class="row">
        <button type="button" class="act" (click)="unwrap()" data-testid="unwrap">
          Second set for baked light
        </button>
        <yb-number
          [value]="baked()"
          (changed)="baked.set($event)"
          label="Texels a metre of baked light"
          [min]="0.01"
          [digits]="2"
          [width]="64"
        />
        <span>px/m, islands</span>
        <yb-number
          [value]="padding()"
          (changed)="padding.set($event)"
          unit="px"
          label="Texels between islands"
          [min]="0"
          [max]="64"
          [digits]="0"
          [width]="58"
        />
        <span>apart</span>
      </div>
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'remove-uvs', parts: chosen.ids(), set: set() })"
        >
          Remove set {{ set() + 1 }}
        </button>
      </div>
    </section>
  `,
})
export class UvLayPanel {
  private readonly operations = inject(Operations);
  private readonly view = inject(ViewSettingsStore);
  private readonly piece = toSignal(inject(BenchStore).piece$);
  private readonly document = toSignal(inject(BenchStore).document$);
  protected readonly chosen = chosenParts();
  protected readonly projections = PROJECTIONS;
  protected readonly axes = AXES;
  protected readonly sets = SETS;
  protected readonly by = signal<UvProjection>('box');
  protected readonly axis = signal<0 | 1 | 2>(1);
  protected readonly set = signal(0);
  protected readonly pictureMetres = signal(1);
  protected readonly padding = signal(4);
  private readonly rules = computed(() => this.piece()?.yard.rules);
  protected readonly texels = linkedSignal(() => this.rules()?.pixelsPerMetre ?? 512);
  protected readonly baked = linkedSignal(() => this.rules()?.bakedPixelsPerMetre ?? 20);
  /** the widest picture that the piece has */
  protected readonly picture = linkedSignal(
    () => Math.max(0, ...(this.document()?.pictures ?? []).map(({ width }) => width)) || USUAL_PICTURE_TEXELS,
  );

  protected project(): void {
    this.propose({
      op: 'project-uvs',
      parts: this.chosen.ids(),
      metresPerPicture: this.pictureMetres(),
      by: this.by(),
      axis: this.axis(),
    });
  }

  protected density(): void {
    const perMetre = this.texels() / this.picture();
    this.propose({ op: 'uv-density', parts: this.chosen.ids(), set: this.set(), perMetre });
  }

  protected unwrap(): void {
    this.propose({
      op: 'unwrap',
      parts: this.chosen.ids(),
      texelsPerMetre: this.baked(),
      paddingTexels: this.padding(),
    });
  }

  /** The repeat is seen on the checker, old and new in turn as the proposal is looked at. */
  protected propose(operation: Operation): void {
    this.view.set({ checker: true, uvPaint: null });
    void this.operations.propose(operation);
  }
}
