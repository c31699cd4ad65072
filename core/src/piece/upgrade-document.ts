/**
 * A stored document of an older format in the form of today's. What it does not know is passed on as it
 * is, for the schema to judge.
 */
export function upgradeDocument(value: unknown): unknown {
  if (!isRecord(value) || value['format'] !== 1 || !Array.isArray(value['nodes'])) return value;
  const { whole } = value;
  const bounds = isRecord(whole) ? { min: whole['min'], max: whole['max'] } : null;
  // Format 1 knew no bounds of single parts: those of the whole stand in until the piece is next worked on.
  const nodes = value['nodes'].map((node: unknown, i) =>
    isRecord(node) ? { ...node, id: `n${i + 1}`, bounds: node['mesh'] === null ? null : bounds } : node,
  );
  return { ...value, format: 2, nodes };
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
