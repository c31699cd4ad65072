import { computed, inject, Injectable, linkedSignal, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { boundsOfParts, lengthText, type OperationOf, sizeOf, type Vec3 } from '@yard-brace/core';
import { BenchStore } from '../../../../../state/bench-store';
import { Operations } from '../../../../../state/operations';
import { AXES } from '../../proxies/axis-buttons';
import { chosenParts } from '../chosen-parts';

export type Held = OperationOf<'bend'>['held'];

/** The direction a module runs along and how far it reaches, for all that is done to it. Places in metres from the pivot. */
@Injectable()
export class ModuleRun {
  private readonly operations = inject(Operations);
  private readonly document = toSignal(inject(BenchStore).document$);
  readonly chosen = chosenParts();
  private readonly bounds = computed(() => {
    const document = this.document();
    return document ? boundsOfParts(document, this.chosen.ids()) : null;
  });
  /** the longer level side when the piece came to the bench: what is cut shorter than it is deep still runs as it ran */
  readonly axis = signal(untracked(() => this.longerSide()));
  readonly origin = computed((): Vec3 => this.document()?.pivot.position ?? [0, 0, 0]);
  /** where it begins and ends along its direction */
  readonly reach = computed((): [number, number] => {
    const [bounds, axis] = [this.bounds(), this.axis()];
    if (!bounds) return [0, 0];
    return [bounds.min[axis] - this.origin()[axis]!, bounds.max[axis] - this.origin()[axis]!];
  });
  readonly length = computed(() => this.reach()[1] - this.reach()[0]);
  readonly reachText = computed(() => {
    const [from, to] = this.reach();
    return `${lengthText(from)} to ${lengthText(to)} from the pivot`;
  });
  /** which end stays where it is when the length changes or the module is bent */
  readonly held = signal<Held>('from');

  /** A place at a share of the length, until another one is typed. */
  at = (share: number) => linkedSignal(() => this.reach()[0] + this.length() * share);

  along = (): Vec3 => [...AXES[this.axis()]];

  /** The stretch of the module between two places. */
  between = (from: number, to: number): OperationOf<'bend'>['module'] => ({
    origin: this.origin(),
    along: this.along(),
    from,
    to,
  });

  propose(operation: Parameters<Operations['propose']>[0]): void {
    void this.operations.propose(operation);
  }

  private longerSide(): 0 | 1 | 2 {
    const bounds = this.bounds();
    const [x, , z] = bounds ? sizeOf(bounds) : [1, 0, 0];
    return z > x ? 2 : 0;
  }
}
