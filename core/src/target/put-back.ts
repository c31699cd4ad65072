import { type OperationOf, type PieceDocument } from '../piece/index.js';
import type { Manifest } from './manifest.js';

/** How the nodes of a piece come back to where they were when it was delivered. */
export interface PutBack {
  operation: OperationOf<'put-back'>;
  /** names in the manifest that no node has any more */
  missing: string[];
}

/**
 * What brings every part back to where a manifest says that it sat. Nodes are told by their names; of several of one name
 * the first is the first. Null when no name is the same.
 */
export function putBackBy(document: PieceDocument, { hierarchy }: Manifest): PutBack | null {
  const waiting = new Map<string, string[]>();
  for (const { id, name } of document.nodes) waiting.set(name, [...(waiting.get(name) ?? []), id]);
  const missing: string[] = [];
  const places = hierarchy.flatMap(({ name, world, box }) => {
    const part = waiting.get(name)?.shift();
    if (part === undefined) missing.push(name);
    return part === undefined ? [] : [{ part, matrix: [...world], ...(box ? { box } : {}) }];
  });
  return places.length ? { operation: { op: 'put-back', places }, missing } : null;
}
