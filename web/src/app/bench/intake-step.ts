import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { routes } from '@yard-brace/contract';
import { likelyUnit, sizeOf, type UnitName, UNITS } from '@yard-brace/core';
import { bytesText, counted, countText, sizeText } from '../shell/figures';
import { BenchStore } from './bench-store';
import { FindingList } from './finding-list';
import { stepStyles } from './step-styles';

const UNIT_WORDS: Record<UnitName, string> = {
  m: 'metres',
  cm: 'centimetres',
  mm: 'millimetres',
  in: 'inches',
  ft: 'feet',
};

/** What came in: files, true size, account, tree, materials, faults. */
@Component({
  selector: 'yb-intake-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingList],
  template: `
    @if (document(); as document) {
      <section>
        <h3>
          {{
            document.unit.stated
              ? 'The format states metres'
              : document.unit.confirmed
                ? 'Unit of the file, confirmed'
                : 'Unit of the file, to confirm'
          }}
        </h3>
        <table>
          @for (row of units(); track row.unit) {
            <tr [class.taken]="row.taken">
              <td>{{ row.unit }}{{ row.likely ? ', likely' : '' }}</td>
              <td class="number figures">{{ row.size }}</td>
              <td class="number">
                @if (!document.unit.stated) {
                  @if (row.taken && document.unit.confirmed) {
                    <b>taken</b>
                  } @else {
                    <button
                      type="button"
                      class="quiet-button"
                      [attr.aria-label]="'Read the file in ' + row.words"
                      (click)="store.apply({ kind: 'set-unit', unit: row.unit })"
                    >
                      {{ row.taken ? 'Confirm' : 'Take' }}
                    </button>
                  }
                }
              </td>
            </tr>
          }
        </table>
      </section>
      <yb-finding-list step="intake" />
      <section>
        <h3>What is in it</h3>
        <table>
          <tr>
            <td>Triangles</td>
            <td class="number figures">{{ countText(document.whole.triangles) }}</td>
          </tr>
          <tr>
            <td>Vertices, at separate places</td>
            <td class="number figures">
              {{ countText(document.whole.vertices) }},
              {{ countText(document.whole.vertices - document.whole.doubledVertices) }}
            </td>
          </tr>
          <tr>
            <td>Connected parts</td>
            <td class="number figures">{{ countText(document.whole.parts) }}</td>
          </tr>
          <tr>
            <td>Surface</td>
            <td class="number">{{ document.whole.closed ? 'closed' : 'open' }}</td>
          </tr>
          <tr>
            <td>UV sets, vertex colours</td>
            <td class="number">
              {{ document.whole.uvSets || 'none' }}, {{ document.whole.colors ? 'yes' : 'none' }}
            </td>
          </tr>
        </table>
      </section>
      <section>
        <h3>Tree</h3>
        <ul class="tree">
          @for (node of tree(); track $index) {
            <li [style.padding-left.px]="node.depth * 14">
              <span class="name">{{ node.name }}</span>
              <span class="figures faded">{{ node.triangles }}</span>
            </li>
          }
        </ul>
      </section>
      @if (document.materials.length) {
        <section>
          <h3>Materials</h3>
          <ul class="materials">
            @for (material of document.materials; track $index) {
              <li>
                <i [style.background]="colour(material.baseColor)"></i>
                <span class="name">{{ material.name }}</span>
                <span class="faded figures"
                  >m {{ material.metalness.toFixed(2) }} r {{ material.roughness.toFixed(2)
                  }}{{ pictureCount(material) }}</span
                >
              </li>
            }
          </ul>
        </section>
      }
      <section>
        <h3>As it came</h3>
        <ul>
          @for (file of document.source.files; track file.blob) {
            <li class="file">
              <a [href]="blob(file.blob)" [attr.download]="file.name">{{ file.name }}</a>
              <span class="figures faded">{{ bytesText(file.bytes) }}</span>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: [
    stepStyles,
    `
      .taken td {
        font-weight: 600;
      }
      .tree li,
      .materials li,
      .file {
        display: flex;
        align-items: center;
        gap: 8px;
        padding: 2px 0;
        border-bottom: 1px dotted var(--rule);
      }
      .name {
        flex: 1;
        overflow-wrap: anywhere;
      }
      i {
        width: 13px;
        height: 13px;
        border: 1px solid var(--faded);
      }
      .file {
        justify-content: space-between;
      }
      .file a {
        overflow-wrap: anywhere;
      }
    `,
  ],
})
export class IntakeStep {
  protected readonly store = inject(BenchStore);
  protected readonly document = toSignal(this.store.document$);
  protected readonly countText = countText;
  protected readonly bytesText = bytesText;
  protected readonly blob = routes.blob;

  protected readonly units = computed(() => {
    const document = this.document();
    if (!document) return [];
    const size = sizeOf(document.whole);
    const likely = likelyUnit(Math.max(...size));
    const names = document.unit.stated ? [document.unit.name] : (Object.keys(UNITS) as UnitName[]);
    return names.map((unit) => ({
      unit,
      words: UNIT_WORDS[unit],
      likely: !document.unit.stated && unit === likely,
      taken: unit === document.unit.name,
      size: sizeText(size.map((value) => value * UNITS[unit])),
    }));
  });

  protected readonly tree = computed(() => {
    const document = this.document();
    if (!document) return [];
    const depth: number[] = [];
    return document.nodes.map((node, i) => {
      depth[i] = node.parent === null ? 0 : depth[node.parent]! + 1;
      const triangles =
        node.mesh === null ? '' : counted(document.meshes[node.mesh]!.facts.triangles, 'triangle');
      return { name: node.name, depth: depth[i]!, triangles };
    });
  });

  /** Linear to what a screen shows. */
  protected colour([r, g, b]: readonly number[]): string {
    const shown = (value: number) => Math.round(255 * Math.min(1, Math.max(0, value)) ** (1 / 2.2));
    return `rgb(${shown(r!)}, ${shown(g!)}, ${shown(b!)})`;
  }

  protected pictureCount({ pictures }: { pictures: object }): string {
    const count = Object.keys(pictures).length;
    return count ? `, ${counted(count, 'picture')}` : '';
  }
}
