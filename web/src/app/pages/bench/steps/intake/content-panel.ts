import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artNodes, counted, countText, type PieceDocument } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { type Fact, FactTable } from '../../../../ui/fact-table';

/** What a piece is made of, in figures. */
export function contentFacts({ whole, nodes, materials, pictures }: PieceDocument): Fact[] {
  return [
    { name: 'Triangles', text: countText(whole.triangles) },
    {
      name: 'Vertices, distinct vertices',
      text: `${countText(whole.vertices)}, ${countText(whole.vertices - whole.doubledVertices)}`,
    },
    {
      name: 'Nodes, parts, shells',
      text: [nodes.length, artNodes(nodes).length, whole.shells].map(countText).join(', '),
    },
    { name: 'Materials, pictures', text: `${countText(materials.length)}, ${countText(pictures.length)}` },
    { name: 'Surface', text: whole.closed ? 'closed' : counted(whole.borders, 'open border') },
    {
      name: 'UV sets, vertex colours',
      text: `${whole.uvSets || 'none'}, ${whole.colors ? 'yes' : 'none'}`,
    },
  ];
}

@Component({
  selector: 'yb-content-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FactTable],
  template: `
    <section class="panel">
      <h3>Content</h3>
      <yb-facts [facts]="facts()" />
    </section>
  `,
})
export class ContentPanel {
  private readonly document = toSignal(inject(BenchStore).document$);
  protected readonly facts = computed(() => (this.document() ? contentFacts(this.document()!) : []));
}
