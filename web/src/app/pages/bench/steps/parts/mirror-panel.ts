import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { artBounds, boundsOfParts, centreOf, type OperationOf, pivotOf, type Vec3 } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { Picking } from '../../../../state/picking';
import { ShelfStore } from '../../../../state/shelf-store';
import { Choice, type Option } from '../../../../ui/choice';
import { chosenParts } from './chosen-parts';

type Through = 'pivot' | 'middle' | 'own' | 'picked';

const AXES: readonly Option<0 | 1 | 2>[] = [
  { label: 'X, left and right', value: 0 },
  { label: 'Y, top and bottom', value: 1 },
  { label: 'Z, back and front', value: 2 },
];
const THROUGHS: readonly Option<Through>[] = [
  { label: 'the piece’s pivot', value: 'pivot' },
  { label: 'the middle of the piece', value: 'middle' },
  { label: 'its own middle', value: 'own' },
  { label: 'a point that is picked', value: 'picked' },
];

/** A mirrored version of parts, or of the whole piece as a piece of its own. */
@Component({
  selector: 'yb-mirror-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    <section class="panel">
      <h3>Mirror {{ chosen.none() ? 'the piece' : chosen.words() }}</h3>
      <div class="row">
        <span>across</span>
        <yb-choice
          class="grow"
          label="Mirror across"
          [options]="axes"
          [value]="axis()"
          (chosen)="axis.set($event)"
        />
      </div>
      <div class="row">
        <span>through</span>
        <yb-choice
          class="grow"
          label="Mirror through"
          [options]="throughs"
          [value]="through()"
          (chosen)="through.set($event)"
        />
      </div>
      <div class="row">
        <button type="button" class="act" (click)="mirror(false)">
          {{ chosen.none() ? 'Mirror this piece' : 'Mirror in place' }}
        </button>
        @if (chosen.none()) {
          <button type="button" class="act" (click)="asPiece()" data-testid="mirror-as-piece">
            Mirrored version as a new piece
          </button>
        } @else {
          <button type="button" class="act" (click)="mirror(true)">Mirrored copy</button>
        }
      </div>
    </section>
  `,
})
export class MirrorPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly picking = inject(Picking);
  private readonly shelf = inject(ShelfStore);
  private readonly router = inject(Router);
  protected readonly chosen = chosenParts();
  protected readonly axes = AXES;
  protected readonly throughs = THROUGHS;
  protected readonly axis = signal<0 | 1 | 2>(0);
  protected readonly through = signal<Through>('pivot');

  protected async mirror(copy: boolean): Promise<void> {
    const plane = await this.plane();
    if (plane) await this.operations.make({ op: 'mirror', parts: this.chosen.ids(), plane, copy });
  }

  /** The piece stays as it is; its mirror image stands beside it on the shelf and is opened. */
  protected async asPiece(): Promise<void> {
    const plane = await this.plane();
    const id =
      plane && (await this.operations.asPiece({ op: 'mirror', parts: [], plane, copy: false }, 'mirrored'));
    if (!id) return;
    await this.shelf.load(this.bench.piece.yard.id).catch(() => undefined);
    await this.router.navigate(['/pieces', id]);
  }

  private async plane(): Promise<OperationOf<'mirror'>['plane'] | null> {
    const point = await this.point();
    const normal: Vec3 = [0, 0, 0];
    normal[this.axis()] = 1;
    return point && { point, normal };
  }

  private async point(): Promise<Vec3 | null> {
    const { document } = this.bench;
    switch (this.through()) {
      case 'pivot':
        return pivotOf(document, null).position;
      case 'middle':
        return centreOf(artBounds(document));
      case 'own':
        return centreOf(boundsOfParts(document, this.chosen.ids()));
      case 'picked': {
        const picked = await this.picking.ask('Pick a point that the mirror runs through.', { ground: true });
        return picked && picked.at;
      }
    }
  }
}
