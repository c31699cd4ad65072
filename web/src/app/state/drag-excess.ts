import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Shape } from '@yard-brace/core';
import { BehaviorSubject, type Subscription } from 'rxjs';
import { Compute } from '../workers/compute';
import { BenchStore } from './bench-store';
import { Clock } from './clock';
import { type ShapeDrag, ShapeEditor } from './shape-editor';

/** Figures that change faster than this are not read, and every question costs the page a moment. */
const PAUSE_MS = 80;

/** How far the one shape that is dragged stands off the art: asked for its last place, several times a second. */
@Injectable()
export class DragExcess implements OnDestroy {
  private readonly bench = inject(BenchStore);
  private readonly compute = inject(Compute);
  private readonly clock = inject(Clock);
  private readonly found$ = new BehaviorSubject<number | null>(null);
  /** metres; null while nothing is dragged, or several shapes, or an opening */
  readonly excess$ = this.found$.asObservable();
  private wanted: Shape | null = null;
  private asking = false;
  private readonly subscription: Subscription;

  constructor() {
    this.subscription = inject(ShapeEditor).drag$.subscribe((drag) => this.follow(drag));
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
  }

  private follow(drag: ShapeDrag | null): void {
    const [only, ...more] = drag?.shapes ?? [];
    const isShape = only && this.bench.document.proxies.some(({ id }) => id === only[0]);
    this.wanted = isShape && !more.length ? only[1] : null;
    if (!this.wanted) {
      if (this.found$.value !== null) this.found$.next(null);
    } else if (!this.asking) void this.ask();
  }

  private async ask(): Promise<void> {
    this.asking = true;
    // The art is named by the document; its shapes need not cross to the worker at every move.
    const document = { ...this.bench.document, proxies: [], sets: [] };
    try {
      for (let shape = this.wanted; shape; shape = this.wanted === shape ? null : this.wanted) {
        const asked = shape;
        const excess = await this.compute.run(
          (jobs, progress) => jobs.shapeExcess(document, this.bench.profile, asked, progress),
          { quick: true, silent: true },
        );
        if (this.wanted) this.found$.next(excess);
        await new Promise<void>((go) => this.clock.after(PAUSE_MS, go));
      }
    } catch (error) {
      // The judgement after the drag says it all the same.
      console.warn('not measured:', error);
    } finally {
      this.asking = false;
    }
  }
}
