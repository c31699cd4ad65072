import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  viewChildren,
} from '@angular/core';
import { currentDocument, type PieceDocument, unionOf } from '@yard-brace/core';
import { Api, ApiError } from '../../api/api';
import { sentenceOf } from '../../api/told';
import { ShelfStore } from '../../state/shelf-store';
import { ArtLayer } from '../../viewport/layers/art-layer';
import { PivotLayer } from '../../viewport/layers/pivot-layer';
import { ProxiesLayer } from '../../viewport/layers/proxies-layer';
import { tieViews } from '../../viewport/tied-views';
import { Viewport } from '../../viewport/viewport';
import { Compute } from '../../workers/compute';

/** A state of a piece: one that was saved, or null as it is today. */
export interface StateOfPiece {
  title: string;
  piece: number;
  version: number | null;
}

/** Half see-through, so that art and shapes are both seen. */
const ART_OPACITY = 0.55;

/** Two states side by side, art, shapes and pivot, looked at from one place. */
@Component({
  selector: 'yb-states-beside',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (state of states(); track $index) {
      <figure>
        <figcaption>{{ state.title }}</figcaption>
        <canvas #view tabindex="0" [attr.aria-label]="'View of ' + state.title"></canvas>
        <p class="faded" role="status">{{ says()[$index] }}</p>
      </figure>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 8px;
    }
    figure {
      position: relative;
      margin: 0;
      border: 1px solid var(--rule);
    }
    figcaption {
      padding: 4px 8px;
      border-bottom: 1px solid var(--rule);
      background: var(--card);
    }
    canvas {
      display: block;
      width: 100%;
      height: 300px;
    }
    p {
      position: absolute;
      bottom: 8px;
      left: 8px;
      margin: 0;
    }
  `,
})
export class StatesBeside {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly shelf = inject(ShelfStore);
  readonly states = input.required<readonly [StateOfPiece, StateOfPiece]>();
  private readonly canvases = viewChildren<ElementRef<HTMLCanvasElement>>('view');
  private readonly views = signal<readonly View[]>([]);
  private readonly told = signal<readonly string[]>(['', '']);
  protected readonly says = this.told.asReadonly();
  /** the states by what they are, not by the object they came in */
  private readonly wanted = computed(() => JSON.stringify(this.states()));

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const views = this.canvases().map(({ nativeElement }) => this.viewOn(nativeElement));
      const [a, b] = views.map(({ viewport }) => viewport);
      tieViews(a!, b!);
      this.views.set(views);
      destroy.onDestroy(() => views.forEach(({ viewport }) => viewport.dispose()));
    });
    effect(() => {
      const views = this.views();
      const wanted = this.wanted();
      if (views.length) void this.show(views, wanted);
    });
  }

  private viewOn(canvas: HTMLCanvasElement): View {
    const viewport = new Viewport(canvas, { gridMetres: this.shelf.yard?.rules.gridMetres ?? 4 });
    const redraw = () => viewport.redraw();
    const [art, proxies, pivot] = [new ArtLayer(redraw), new ProxiesLayer(redraw), new PivotLayer(redraw)];
    viewport.add(art, proxies, pivot);
    const { clientWidth, clientHeight } = canvas;
    viewport.resize(clientWidth, clientHeight);
    return { viewport, art, proxies, pivot };
  }

  private async show(views: readonly View[], wanted: string): Promise<void> {
    const states = this.states();
    this.told.set(['Fetching …', 'Fetching …']);
    await Promise.all(
      states.map(async (state, i) => {
        const said = await this.showOne(views[i]!, state).catch((error: unknown) =>
          error instanceof ApiError && error.code === 'not-found'
            ? 'This state is not kept any more.'
            : sentenceOf(error),
        );
        if (wanted === this.wanted())
          this.told.update((told) => told.map((each, k) => (k === i ? said : each)));
      }),
    );
    const bounds = views.flatMap(({ art }) => art.bounds() ?? []);
    if (bounds.length) views[0]!.viewport.rig.fit(bounds.reduce(unionOf));
  }

  /** @returns what there is to say of it */
  private async showOne({ art, proxies, pivot }: View, { piece, version }: StateOfPiece): Promise<string> {
    const history =
      version === null ? (await this.api.piece(piece)).history : await this.api.pieceAt(piece, version);
    const document: PieceDocument = currentDocument(history);
    const drawn = await this.compute.run((jobs, progress) => jobs.draw(document, progress), {
      first: `Drawing ${document.name}`,
      quick: true,
    });
    art.set({ art: drawn, document });
    art.fade(ART_OPACITY);
    proxies.set(document.proxies.map(({ id, shape }, i) => ({ id, number: i + 1, shape })));
    pivot.set(document.pivot);
    return '';
  }
}

interface View {
  viewport: Viewport;
  art: ArtLayer;
  proxies: ProxiesLayer;
  pivot: PivotLayer;
}
