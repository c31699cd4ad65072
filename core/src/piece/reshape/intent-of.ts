import type { PieceDocument } from '../document.js';
import { nodeById } from '../geometry.js';
import type { Intent, PartSelector } from '../edits/intent.js';
import type { Operation } from './operation.js';

/**
 * An operation said so that it can be done to another piece: parts by name instead of by id. Null where it names
 * single faces or sides, which mean nothing elsewhere.
 */
export function intentOf(document: PieceDocument, operation: Operation): Intent | null {
  const { op, ...options } = operation as Operation & Record<string, unknown>;
  if (['faces', 'edges'].some((key) => options[key] !== undefined)) return null;
  const { parts, part, parent, ...parameters } = options as Record<string, unknown>;
  const nameOf = (id: unknown) => document.nodes[nodeById(document, String(id))]?.name;
  const ids = Array.isArray(parts) ? parts : part === undefined || part === null ? [] : [part];
  const selector: PartSelector = ids.length
    ? { by: 'name', names: ids.flatMap((id) => nameOf(id) ?? []) }
    : { by: 'all' };
  const under = parent === undefined ? {} : { parent: parent === null ? null : (nameOf(parent) ?? null) };
  return {
    op,
    parts: selector,
    parameters: JSON.parse(JSON.stringify({ ...parameters, ...under })) as Intent['parameters'],
  };
}
