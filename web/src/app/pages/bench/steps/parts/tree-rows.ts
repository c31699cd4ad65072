import { countText, type PieceDocument } from '@yard-brace/core';
import type { TreeNode } from 'primeng/api';

/** What a row of the tree shows of a node. */
export interface PartRow {
  id: string;
  name: string;
  /** of its own mesh; empty for a group */
  triangles: string;
  aside: boolean;
  group: boolean;
}

/** The nodes of a piece as a tree, all open but those that were closed. */
export function treeRows(
  { nodes, meshes }: Pick<PieceDocument, 'nodes' | 'meshes'>,
  closed: ReadonlySet<string>,
): TreeNode<PartRow>[] {
  const made: TreeNode<PartRow>[] = [];
  const roots: TreeNode<PartRow>[] = [];
  // Parents stand before their children.
  nodes.forEach(({ id, name, mesh, parent, aside }) => {
    const triangles = mesh === null ? '' : countText(meshes[mesh]!.facts.triangles);
    const row: TreeNode<PartRow> = {
      key: id,
      label: name,
      data: { id, name, triangles, aside, group: mesh === null },
      expanded: !closed.has(id),
      children: [],
    };
    made.push(row);
    (parent === null ? roots : made[parent]!.children!).push(row);
  });
  return roots;
}

/** The rows of some nodes, wherever they are in the tree. */
export function rowsOf(rows: readonly TreeNode<PartRow>[], ids: ReadonlySet<string>): TreeNode<PartRow>[] {
  const found: TreeNode<PartRow>[] = [];
  const waiting = [...rows];
  for (let row = waiting.pop(); row; row = waiting.pop()) {
    if (ids.has(row.key!)) found.push(row);
    waiting.push(...(row.children as TreeNode<PartRow>[]));
  }
  return found;
}
