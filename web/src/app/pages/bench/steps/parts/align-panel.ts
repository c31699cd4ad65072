import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { alignTo, artBounds, boundsOfParts, nodeById, partBounds, type Side, sideOf } from '@yard-brace/core';
import { ArtStore } from '../../../../state/art-store';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Choice, type Option } from '../../../../ui/choice';
import { chosenParts } from './chosen-parts';

type Axis = 0 | 1 | 2;

/** Sides in words, by axis and side. */
const SIDES: readonly { axis: Axis; side: Side; label: string }[] = [
  { axis: 0, side: -1, label: 'left' },
  { axis: 0, side: 0, label: 'middle, across' },
  { axis: 0, side: 1, label: 'right' },
  { axis: 1, side: -1, label: 'bottom' },
  { axis: 1, side: 0, label: 'middle, upright' },
  { axis: 1, side: 1, label: 'top' },
  { axis: 2, side: -1, label: 'back' },
  { axis: 2, side: 0, label: 'middle, in depth' },
  { axis: 2, side: 1, label: 'front' },
];
const NUMBERED: readonly Option<number>[] = SIDES.map(({ label }, value) => ({ label, value }));

/** Parts shifted along one axis until a side of theirs meets a side of something else. */
@Component({
  selector: 'yb-align-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    <section class="panel">
      <h3>Align {{ chosen.none() ? 'the piece' : chosen.words() }}</h3>
      <div class="row">
        <yb-choice label="Side that is aligned" [options]="sides" [value]="own()" (chosen)="take($event)" />
        <span>to the</span>
        <yb-choice
          label="Side that it meets"
          [options]="met()"
          [value]="other()"
          (chosen)="other.set($event)"
        />
        <span>of</span>
        <yb-choice
          class="grow"
          label="What it is aligned to"
          [options]="targets()"
          [value]="target()"
          (chosen)="target.set($event)"
        />
        <button type="button" class="act" (click)="align()" data-testid="align">Align</button>
      </div>
    </section>
  `,
})
export class AlignPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly document = toSignal(this.bench.document$);
  private readonly beside = toSignal(inject(ArtStore).beside$, { requireSync: true });
  protected readonly chosen = chosenParts();
  protected readonly sides = NUMBERED;
  protected readonly own = signal(3);
  protected readonly other = signal(3);
  protected readonly target = signal('ground');
  protected readonly met = computed(() =>
    NUMBERED.filter(({ value }) => SIDES[value]!.axis === SIDES[this.own()]!.axis),
  );
  protected readonly targets = computed((): Option<string>[] => {
    const chosen = new Set(this.chosen.ids());
    return [
      { label: 'the ground, at 0', value: 'ground' },
      { label: 'the nearest line of the grid', value: 'grid' },
      { label: 'the piece', value: 'piece' },
      ...(this.document()?.nodes ?? []).flatMap(({ id, name, mesh }) =>
        mesh === null || chosen.has(id) ? [] : [{ label: name, value: `part ${id}` }],
      ),
      ...this.beside().map(({ document }, i) => ({
        label: `${document.name}, beside`,
        value: `beside ${i}`,
      })),
    ];
  });

  protected take(own: number): void {
    this.own.set(own);
    this.other.set(own);
  }

  protected align(): void {
    const parts = this.chosen.ids();
    const { axis, side } = SIDES[this.own()]!;
    const at = this.place(axis);
    if (at !== null) void this.operations.make((document) => alignTo(document, parts, { axis, side, at }));
  }

  private place(axis: Axis): number | null {
    const { document } = this.bench;
    const { side } = SIDES[this.other()]!;
    const [kind, id = ''] = this.target().split(' ');
    switch (kind) {
      case 'ground':
        return 0;
      case 'grid': {
        const step = this.bench.piece.yard.rules.gridMetres;
        const own = SIDES[this.own()]!;
        return Math.round(sideOf(boundsOfParts(document, this.chosen.ids()), axis, own.side) / step) * step;
      }
      case 'piece':
        return sideOf(artBounds(document), axis, side);
      case 'part': {
        const node = nodeById(document, id);
        return node < 0 ? null : sideOf(partBounds(document, node), axis, side);
      }
      default: {
        const piece = this.beside()[Number(id)];
        return piece ? sideOf(artBounds(piece.document), axis, side) : null;
      }
    }
  }
}
