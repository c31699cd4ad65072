import { type Mesh } from '../mesh/index.js';
import type { PieceDocument } from './document.js';
import { artNodes } from './geometry.js';

/** Who has a material. */
export interface MaterialUse {
  faces: number;
  /** ids of the parts that have it */
  parts: string[];
}

/** Who has each material of a piece, in their order, and how many faces have none. */
export function materialUses(
  document: Pick<PieceDocument, 'nodes' | 'materials'>,
  meshOf: (id: string) => Mesh,
): { uses: MaterialUse[]; none: number } {
  const uses = document.materials.map((): MaterialUse => ({ faces: 0, parts: [] }));
  let none = 0;
  for (const i of artNodes(document.nodes)) {
    const { id, mesh } = document.nodes[i]!;
    for (const { material, count } of meshOf(mesh!).groups) {
      const use = uses[material];
      if (!use) none += count;
      else if (count > 0) {
        use.faces += count;
        if (use.parts.at(-1) !== id) use.parts.push(id);
      }
    }
  }
  return { uses, none };
}
