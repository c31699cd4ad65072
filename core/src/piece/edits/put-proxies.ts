import * as z from 'zod';
import { counted } from '../../math/figures.js';
import { areaSchema, MAX_PROXIES, type Proxy, proxiesSchema } from '../document.js';
import { editKind } from './edit-kind.js';
import { intentSchema } from './intent.js';

/**
 * What changes of the proxies, never the whole set. `changed` takes the place of those with the same ids and is
 * added where there are none; `removed` names those that go, or says that all others do.
 *
 * @example { kind: 'put-proxies', changed: [{ ...proxy, shape: moved }], removed: [] }
 */
export const putProxies = editKind({
  schema: z.object({
    kind: z.literal('put-proxies'),
    changed: proxiesSchema,
    removed: z.union([z.array(z.string()).max(MAX_PROXIES), z.literal('others')]),
    intent: intentSchema.optional(),
    /** the area they were made for, as it is from now on */
    area: areaSchema.optional(),
  }),
  apply(before, { changed, removed, area }) {
    const document = area
      ? { ...before, areas: [...before.areas.filter(({ id }) => id !== area.id), area] }
      : before;
    if (removed === 'others') return { ...document, proxies: changed };
    return { ...document, proxies: proxiesAfter(document.proxies, { changed, removed }) };
  },
  describe({ changed, removed }) {
    if (changed.length) return counted(changed.length, 'shape');
    return removed === 'others' ? 'remove all shapes' : `remove ${counted(removed.length, 'shape')}`;
  },
});

/** A list of proxies with some put in the place of those with their ids, or added, and some gone. */
export function proxiesAfter(
  proxies: readonly Proxy[],
  { changed, removed }: { changed: readonly Proxy[]; removed: readonly string[] },
): Proxy[] {
  const put = new Map(changed.map((proxy) => [proxy.id, proxy]));
  const gone = new Set(removed);
  const kept = proxies.filter(({ id }) => !gone.has(id) || put.has(id));
  const known = new Set(kept.map(({ id }) => id));
  return [...kept.map((proxy) => put.get(proxy.id) ?? proxy), ...changed.filter(({ id }) => !known.has(id))];
}

export type PutProxies = z.infer<typeof putProxies.schema>;

/** The edit that puts these proxies in the place of all there are. */
export const replaceProxies = (changed: Proxy[]): PutProxies => ({
  kind: 'put-proxies',
  changed,
  removed: 'others',
});

/** The edit that takes away one proxy. */
export const removeProxy = (id: string): PutProxies => ({
  kind: 'put-proxies',
  changed: [],
  removed: [id],
});
