import { withDistinctIds } from './proxy-ids.js';

/**
 * A stored document of an older format in the form of today's. What it does not know is passed on as it
 * is, for the schema to judge.
 */
export function upgradeDocument(value: unknown): unknown {
  if (!isRecord(value)) return value;
  const document = { ...value, proxies: withProxyIds(value['proxies']) };
  return value['format'] === 1 ? fromFormat1(document) : document;
}

function fromFormat1(value: Record<string, unknown>): unknown {
  if (!Array.isArray(value['nodes'])) return value;
  const { whole } = value;
  const bounds = isRecord(whole) ? { min: whole['min'], max: whole['max'] } : null;
  // Format 1 knew no bounds of single parts: those of the whole stand in until the piece is next worked on.
  const nodes = value['nodes'].map((node: unknown, i) =>
    isRecord(node) ? { ...node, id: `n${i + 1}`, bounds: node['mesh'] === null ? null : bounds } : node,
  );
  return { ...value, format: 2, nodes };
}

/** Proxies that were stored before ids had to be distinct; anything else is left to the schema. */
export const withProxyIds = (proxies: unknown): unknown =>
  Array.isArray(proxies) && proxies.every(isRecord) ? withDistinctIds(proxies) : proxies;

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
