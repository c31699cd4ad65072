import type { PieceDocument, PieceNode } from './document.js';
import { artNodes } from './geometry.js';
import { turnDegrees } from './pivot-rules.js';

type Tree = Pick<PieceDocument, 'nodes'>;

/** [n]: 1 for the nodes named and all below them. Parents stand before their children. */
export function nodesBelow({ nodes }: Tree, ids: readonly string[]): Uint8Array {
  const marks = new Uint8Array(nodes.length);
  const roots = new Set(ids);
  nodes.forEach(({ id, parent }, i) => {
    if (roots.has(id) || (parent !== null && marks[parent])) marks[i] = 1;
  });
  return marks;
}

/** Ids of the nodes named and all below them. */
export function idsBelow(document: Tree, ids: readonly string[]): string[] {
  const marks = nodesBelow(document, ids);
  return document.nodes.flatMap(({ id }, i) => (marks[i] ? [id] : []));
}

/** Numbers of the parts named, or of all art when none is; groups stand for the parts below them. */
export function partsNamed({ nodes }: Tree, ids: readonly string[]): number[] {
  if (ids.length === 0) return artNodes(nodes);
  const named = new Set(ids);
  const groups = nodes.flatMap(({ id, mesh }) => (mesh === null && named.has(id) ? [id] : []));
  const below = nodesBelow({ nodes }, groups);
  return nodes.flatMap(({ id, mesh }, i) => (mesh !== null && (below[i] || named.has(id)) ? [i] : []));
}

/** The id of the part of the art with the most triangles. */
export function largestPart({ nodes, meshes }: Pick<PieceDocument, 'nodes' | 'meshes'>): string | null {
  let largest: PieceNode | null = null;
  const size = ({ mesh }: PieceNode) => meshes[mesh!]!.facts.triangles;
  for (const node of nodes)
    if (node.mesh !== null && !node.aside && (!largest || size(node) > size(largest))) largest = node;
  return largest?.id ?? null;
}

const NOT_IDENTITY = 1e-6;

/** The nodes whose transform is not the identity: moved, turned or scaled against their parent. */
export function transformedNodes({ nodes }: Tree): PieceNode[] {
  const off = (v: readonly number[], at: number) => v.some((x) => Math.abs(x - at) > NOT_IDENTITY);
  return nodes.filter(
    ({ translation, rotation, scale }) =>
      off(translation, 0) || off(scale, 1) || turnDegrees(rotation) > 1e-4,
  );
}
