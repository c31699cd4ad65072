import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Area, areaStands, counted } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { ChosenAreas } from '../../../../state/chosen-areas';
import { LadderStore } from '../../../../state/ladder-store';
import { Selection } from '../../../../state/selection';

/** Areas that were broken up by themselves: run again, each replaces what it made and nothing else. */
@Component({
  selector: 'yb-areas-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (rows().length) {
      <section class="panel" data-testid="areas">
        <h3>Areas with an agent of their own</h3>
        <ul class="list">
          @for (row of rows(); track row.area.id) {
            <li [attr.data-area]="row.area.id">
              <button
                type="button"
                class="quiet-button grow"
                title="Choose its faces"
                [disabled]="!row.stands"
                (click)="areas.choose(row.area)"
              >
                {{ row.area.name }}
              </button>
              <span class="faded">{{ row.says }}</span>
              @if (row.stands) {
                <button type="button" class="act" [disabled]="working()" (click)="again(row.area)">
                  Run again
                </button>
              }
              <button
                type="button"
                class="quiet-button"
                [attr.aria-label]="'Forget ' + row.area.name"
                title="Forget the area; its shapes stay"
                (click)="forget(row.area)"
              >
                <span class="pi pi-times" aria-hidden="true"></span>
              </button>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    li {
      gap: 6px;
      padding: 0 4px;
    }
    .grow {
      flex: 1;
      justify-content: flex-start;
      min-width: 0;
    }
  `,
})
export class AreasPanel {
  private readonly bench = inject(BenchStore);
  protected readonly areas = inject(ChosenAreas);
  private readonly ladder = inject(LadderStore);
  private readonly selection = inject(Selection);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  protected readonly working = toSignal(this.ladder.working$, { requireSync: true });
  protected readonly rows = computed(() => {
    const document = this.document();
    const agents = this.piece()?.yard.rules.agents ?? [];
    return (document?.areas ?? []).map((area) => {
      const stands = areaStands(document!, area);
      const who = agents.find(({ id }) => id === area.agent)?.name ?? 'full detail';
      const shapes = document!.proxies.filter((proxy) => proxy.area === area.id).length;
      return {
        area,
        stands,
        says: stands ? `${who}, ${counted(shapes, 'shape')}` : 'its art has changed; choose its faces anew',
      };
    });
  });

  protected again(area: Area): void {
    if (!this.areas.choose(area)) return;
    const faces = this.selection.selected.faces!.faces;
    const { agent, maxShapes, maxVertices, primitives, mayCross } = area;
    this.ladder.setInputs({ agent, maxShapes, maxVertices, primitives, mayCross });
    void this.ladder.run(
      {
        maxShapes,
        maxVertices,
        primitives,
        mayCross,
        faces: Uint32Array.from([...faces.keys()].filter((face) => faces[face])),
      },
      this.piece()?.yard.rules.agents.find(({ id }) => id === agent) ?? null,
    );
  }

  protected forget({ id }: Area): void {
    this.bench.apply({
      kind: 'set-areas',
      areas: this.bench.document.areas.filter((area) => area.id !== id),
    });
  }
}
