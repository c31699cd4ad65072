import { inject, Injectable, type OnDestroy } from '@angular/core';
import { closestAround, type ShapeAround, type WrapKind } from '@yard-brace/core';
import { BehaviorSubject, merge, type Subscription } from 'rxjs';
import { Compute, Stopped } from '../workers/compute';
import { BenchStore } from './bench-store';
import { LadderStore } from './ladder-store';
import { Notices } from './notices';
import { Selection } from './selection';
import { ShapeEditor } from './shape-editor';

/** Shapes of every kind round something, for one to be chosen. */
export interface Around {
  shapes: readonly ShapeAround[];
  closest: WrapKind;
  /** the shape whose place the chosen one takes; null when it is added */
  replaces: string | null;
}

/** Every kind of shape round chosen faces, or round the art of the shape in the hand, with its figures. */
@Injectable()
export class AroundStore implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly editor = inject(ShapeEditor);
  private readonly selection = inject(Selection);
  private readonly compute = inject(Compute);
  private readonly ladder = inject(LadderStore);
  private readonly notices = inject(Notices);
  private readonly now$ = new BehaviorSubject<Around | null>(null);
  private readonly busy$ = new BehaviorSubject(false);
  readonly around$ = this.now$.asObservable();
  readonly working$ = this.busy$.asObservable();
  private readonly subscription: Subscription;
  private asked = 0;

  constructor() {
    // What it was asked for is no longer what is chosen, or no longer as it was.
    this.subscription = merge(this.bench.document$, this.selection.selected$).subscribe(() => this.forget());
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  /** Ask for shapes round the chosen faces, which are added, or else in the place of the one chosen shape. */
  async ask(): Promise<void> {
    const chosen = this.selection.selected.faces;
    const [proxy, ...more] = this.editor.chosen;
    if (!chosen && (!proxy || more.length)) return;
    const { document } = this.bench;
    const { maxCorners } = this.ladder;
    const request = chosen
      ? { faces: numbersOf(chosen.faces), maxCorners }
      : { faces: new Uint32Array(), shape: proxy!.shape, maxCorners };
    this.forget();
    const asked = ++this.asked;
    this.busy$.next(true);
    try {
      const shapes = await this.compute.run(
        (jobs, progress) => jobs.shapesAround(document, request, progress),
        {
          first: 'Fitting shapes',
        },
      );
      const closest = closestAround(shapes);
      if (asked === this.asked && closest)
        this.now$.next({ shapes, closest: closest.kind, replaces: chosen ? null : proxy!.id });
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    } finally {
      this.busy$.next(false);
    }
  }

  take(kind: WrapKind): void {
    const around = this.now$.value;
    const found = around?.shapes.find((each) => each.kind === kind);
    if (!around || !found) return;
    if (around.replaces === null) {
      const parts = new Set(this.selection.facesByPart().map(({ part }) => part));
      this.editor.add(
        [found.shape],
        parts.size === 1 && this.bench.document.nodes.length > 1 ? [...parts][0] : undefined,
      );
    } else this.editor.change((shape, { id }) => [id === around.replaces ? found.shape : shape]);
  }

  private forget(): void {
    this.asked++;
    if (this.now$.value) this.now$.next(null);
  }
}

/** Numbers of the faces that are marked. */
const numbersOf = (marks: Uint8Array): Uint32Array<ArrayBuffer> => {
  const numbers: number[] = [];
  marks.forEach((mark, face) => mark && numbers.push(face));
  return Uint32Array.from(numbers);
};
