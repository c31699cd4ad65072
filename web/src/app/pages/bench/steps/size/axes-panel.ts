import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import {
  applyEdit,
  artBounds,
  baseCentreOf,
  type Edit,
  type Quat,
  quatAbout,
  quatFromAxes,
} from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { artFigures } from '../../../../state/change-figures';
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

/** The piece turned so that up is up: the piece, no node. */
@Component({
  selector: 'yb-axes-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel">
      <h3>Up axis: rotates the piece, not its nodes</h3>
      <div class="row">
        @for (each of turns; track each.label) {
          <button type="button" class="act" (click)="turn(each.turn, each.label)">{{ each.label }}</button>
        }
      </div>
    </section>
  `,
})
export class AxesPanel {
  private readonly bench = inject(BenchStore);
  private readonly proposals = inject(Proposals);
  protected readonly turns = TURNS;

  protected turn(turn: Quat, label: string): void {
    const { document } = this.bench;
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
