import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { counted, type ReadBack, sizeText, subtract, volumeText } from '@yard-brace/core';

/** What a level would get of some files. */
@Component({
  selector: 'yb-read-back-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>{{ summary() }}</p>
    @for (remark of remarks(); track $index) {
      <p class="remark">
        <span class="figures">{{ remark.name }}</span>: {{ remark.text }}
      </p>
    }
    <table>
      <thead>
        <tr>
          <th scope="col">Node</th>
          <th scope="col">Below</th>
          <th scope="col">What it is</th>
          <th scope="col">Size</th>
        </tr>
      </thead>
      <tbody>
        @for (mesh of report().meshes; track $index) {
          <tr>
            <td class="figures">{{ mesh.name }}</td>
            <td class="figures faded">{{ mesh.parent ?? '' }}</td>
            <td>
              mesh, {{ counted(mesh.triangles, 'triangle') }}, slots {{ mesh.slots.join(', ') || 'none' }}
            </td>
            <td class="figures">{{ size(mesh) }}</td>
          </tr>
        }
        @for (shape of report().shapes; track $index) {
          <tr>
            <td class="figures">{{ shape.name }}</td>
            <td class="figures faded">{{ shape.owner }}</td>
            <td>{{ shape.kind }}{{ shape.volume ? ', ' + volumeText(shape.volume) : '' }}</td>
            <td class="figures">{{ size(shape) }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: grid;
      align-content: start;
      gap: 6px;
    }
    table {
      border-collapse: collapse;
    }
    th,
    td {
      padding: 3px 12px 3px 0;
      border-bottom: 1px dotted var(--rule);
      text-align: left;
      overflow-wrap: anywhere;
    }
    .remark {
      padding: 2px 8px;
      border-left: 3px solid var(--brass);
    }
  `,
})
export class ReadBackPanel {
  readonly report = input.required<ReadBack>();
  protected readonly counted = counted;
  protected readonly volumeText = volumeText;
  protected readonly size = ({ min, max }: ReadBack['shapes'][number] | ReadBack['meshes'][number]) =>
    sizeText(subtract(max, min));
  protected readonly remarks = computed(() => [
    ...this.report().changed.map(({ name, how }) => ({ name, text: how })),
    ...this.report().ignored.map(({ name, why }) => ({ name, text: why })),
  ]);
  protected readonly summary = computed(() => {
    const { meshes, shapes, bodies } = this.report();
    const madeUp = meshes.filter(({ madeUpBox }) => madeUpBox).length;
    return [
      counted(meshes.length, 'mesh', 'meshes'),
      counted(shapes.length, 'shape'),
      ...(bodies.length ? [counted(bodies.length, 'moving body', 'moving bodies')] : []),
      ...(madeUp ? [`${counted(madeUp, 'box', 'boxes')} made up`] : []),
    ].join(', ');
  });
}
