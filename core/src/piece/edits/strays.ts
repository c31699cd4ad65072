import type { PieceDocument } from '../document.js';
import { nodeById, partPivot } from '../geometry.js';
import { eachSet } from './change-sets.js';

/** A pivot whose leader is gone stays where the leader had it. */
export function leaderless(before: PieceDocument, nodes: PieceDocument['nodes']): PieceDocument['nodes'] {
  const ids = new Set(nodes.map(({ id }) => id));
  return nodes.map((node) => {
    if (node.pivot?.follows === undefined || ids.has(node.pivot.follows)) return node;
    const old = nodeById(before, node.id);
    const { follows: _follows, ...pivot } = old < 0 ? node.pivot : partPivot(before, old);
    return { ...node, pivot };
  });
}

/** Proxies of parts that are gone belong to the piece. */
export function withoutStrays(document: PieceDocument): PieceDocument {
  const ids = new Set(document.nodes.map((node) => node.id));
  return {
    ...document,
    ...eachSet(document, (proxies) =>
      proxies.map(({ part, ...proxy }) => (part !== undefined && ids.has(part) ? { ...proxy, part } : proxy)),
    ),
  };
}
