import type { PieceDocument } from '../document.js';
import type { Intent, PartSelector } from '../edits/intent.js';
import { nodeById } from '../geometry.js';
import type { Operation } from './operation.js';

/** Parameters that name materials by their numbers. */
const MATERIALS = ['from', 'to', 'material', 'materials'] as const;

/**
 * An operation said so that it can be done to another piece: parts and materials by name instead of by id and number.
 * Null where it names single faces, sides or places in the tree, which mean nothing elsewhere.
 */
export function intentOf(document: PieceDocument, operation: Operation): Intent | null {
  const { op, ...options } = operation as Operation & Record<string, unknown>;
  if (['faces', 'edges', 'places', 'order'].some((key) => options[key] !== undefined)) return null;
  const { parts, part, parent, except, ...parameters } = options as Record<string, unknown>;
  const nameOf = (id: unknown) => document.nodes[nodeById(document, String(id))]?.name;
  const ids = Array.isArray(parts) ? parts : part === undefined || part === null ? [] : [part];
  const selector: PartSelector = ids.length ? { by: 'name', names: namesOf(ids, nameOf) } : { by: 'all' };
  const under = parent === undefined ? {} : { parent: parent === null ? null : (nameOf(parent) ?? null) };
  const left = Array.isArray(except) && except.length ? { except: namesOf(except, nameOf) } : {};
  const stated = { ...parameters, ...materialNames(document, op, parameters), ...under, ...left };
  return { op, parts: selector, parameters: JSON.parse(JSON.stringify(stated)) as Intent['parameters'] };
}

const namesOf = (ids: readonly unknown[], nameOf: (id: unknown) => string | undefined): string[] => [
  ...new Set(ids.flatMap((id) => nameOf(id) ?? [])),
];

function materialNames(
  { materials }: PieceDocument,
  op: string,
  parameters: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  if (!op.endsWith('material') && !op.endsWith('materials')) return {};
  const nameOf = (number: unknown) => materials[number as number]?.name ?? `material ${Number(number) + 1}`;
  return Object.fromEntries(
    MATERIALS.flatMap((key): [string, unknown][] => {
      const value = parameters[key];
      if (typeof value === 'number') return [[key, nameOf(value)]];
      return Array.isArray(value) ? [[key, value.map(nameOf)]] : [];
    }),
  );
}
