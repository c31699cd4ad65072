import type { Shape } from '../../shape/index.js';
import type { PieceDocument, Proxy } from '../document.js';
import type { PutProxies } from './put-proxies.js';

/** What becomes of one shape: other ones in its place, the first of which it is from then on; none takes it away. */
export type ShapeChange = (shape: Shape, proxy: Proxy) => readonly Shape[];

/**
 * The edit that changes some proxies of a piece by hand. What a shape falls into belongs to the same part, under ids of
 * its own. Null when nothing changes.
 *
 * @example changeProxies(document, chosen, (shape) => [moveShape(shape, [0, 0.02, 0])])
 */
export function changeProxies(
  { proxies }: Pick<PieceDocument, 'proxies'>,
  ids: ReadonlySet<string>,
  change: ShapeChange,
): PutProxies | null {
  const nextId = freeIds(proxies);
  const changed: Proxy[] = [];
  const removed: string[] = [];
  for (const proxy of proxies) {
    if (!ids.has(proxy.id)) continue;
    const [first, ...more] = change(proxy.shape, proxy);
    // What falls into several is no longer like those it was linked to.
    const { link: _link, ...alone } = proxy;
    if (!first) removed.push(proxy.id);
    else if (more.length) changed.push({ ...alone, shape: first });
    else if (first !== proxy.shape) changed.push({ ...proxy, shape: first });
    changed.push(...more.map((shape) => ({ ...alone, id: nextId(), shape })));
  }
  return changed.length || removed.length ? { kind: 'put-proxies', changed, removed } : null;
}

/** The edit that adds shapes to those that are there, of one part or the piece. */
export function addProxies(
  { proxies }: Pick<PieceDocument, 'proxies'>,
  shapes: readonly Shape[],
  part?: string,
): PutProxies {
  const nextId = freeIds(proxies);
  const owner = part === undefined ? {} : { part };
  return {
    kind: 'put-proxies',
    changed: shapes.map((shape) => ({ id: nextId(), shape, ...owner })),
    removed: [],
  };
}

/** The edit that puts one shape in the place of several; it belongs to the part that all of them belong to, if any. */
export function mergeProxies(
  { proxies }: Pick<PieceDocument, 'proxies'>,
  ids: ReadonlySet<string>,
  shape: Shape,
): PutProxies | null {
  const [first, ...others] = proxies.filter(({ id }) => ids.has(id));
  if (!first) return null;
  const { part, ...bare } = first;
  const shared = others.every((other) => other.part === part);
  return {
    kind: 'put-proxies',
    changed: [{ ...bare, shape, ...(shared && part !== undefined ? { part } : {}) }],
    removed: others.map(({ id }) => id),
  };
}

/** What a shape does, as far as that can be given to several at once. */
export type ProxyUse = Pick<Proxy, 'part' | 'role' | 'surface' | 'response' | 'density' | 'acceptedExcess'>;

/** The edit that gives shapes to a part or says what they do; null takes a field away. Null when nothing changes. */
export function useProxies(
  { proxies }: Pick<PieceDocument, 'proxies'>,
  ids: ReadonlySet<string>,
  use: { [Field in keyof ProxyUse]?: ProxyUse[Field] | null },
): PutProxies | null {
  const fields = Object.entries(use).filter(([, value]) => value !== undefined);
  const changed = proxies.flatMap((proxy): Proxy[] => {
    if (!ids.has(proxy.id)) return [];
    const next: Record<string, unknown> = { ...proxy };
    for (const [field, value] of fields) {
      if (value === null) delete next[field];
      else next[field] = value;
    }
    return fields.some(([field, value]) => (proxy[field as keyof Proxy] ?? null) !== value)
      ? [next as Proxy]
      : [];
  });
  return changed.length ? { kind: 'put-proxies', changed, removed: [] } : null;
}

/** The edit that makes one list of proxies of another; null when they are the same. */
export function proxiesBetween(before: readonly Proxy[], after: readonly Proxy[]): PutProxies | null {
  const known = new Map(before.map((proxy) => [proxy.id, proxy]));
  const left = new Set(after.map(({ id }) => id));
  const changed = after.filter((proxy) => known.get(proxy.id) !== proxy);
  const removed = before.flatMap(({ id }) => (left.has(id) ? [] : [id]));
  return changed.length || removed.length ? { kind: 'put-proxies', changed, removed } : null;
}

/** Ids that no proxy has, one after the other. */
export function freeIds(proxies: readonly Proxy[]): () => string {
  const taken = new Set(proxies.map(({ id }) => id));
  let next = proxies.length;
  return () => {
    do next++;
    while (taken.has(`s${next}`));
    return `s${next}`;
  };
}
