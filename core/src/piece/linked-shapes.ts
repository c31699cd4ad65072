import { after, changedBy, inverseOf, type Isometry, NO_CHANGE } from '../shape/index.js';
import type { PieceDocument, Proxy } from './document.js';
import type { PutProxies } from './edits/put-proxies.js';
import { freeIds } from './edits/change-proxies.js';

type Proxies = Pick<PieceDocument, 'proxies'>;

/**
 * The edit that lays copies of shapes elsewhere, linked to what they were made of: what is done to one is done to all,
 * each in its own place, until one is taken out of the link.
 *
 * @param places from the original to each copy
 */
export function linkedCopies(
  { proxies }: Proxies,
  ids: ReadonlySet<string>,
  places: readonly Isometry[],
): PutProxies | null {
  const nextId = freeIds(proxies);
  const groups = new Set(proxies.flatMap(({ link }) => (link ? [link.group] : [])));
  const nextGroup = () => {
    let n = groups.size + 1;
    while (groups.has(`l${n}`)) n++;
    groups.add(`l${n}`);
    return `l${n}`;
  };
  const changed = proxies.flatMap((proxy): Proxy[] => {
    if (!ids.has(proxy.id)) return [];
    const link = proxy.link ?? { group: nextGroup(), frame: NO_CHANGE };
    const copies = places.map((place): Proxy => ({
      ...proxy,
      id: nextId(),
      shape: changedBy(proxy.shape, place),
      link: { group: link.group, frame: after(link.frame, place) },
    }));
    return [{ ...proxy, link }, ...copies];
  });
  return changed.length && places.length ? { kind: 'put-proxies', changed, removed: [] } : null;
}

/** An edit of some shapes with what follows from their links: of those changed in one link, the first one leads. */
export function withLinked({ proxies }: Proxies, edit: PutProxies): PutProxies {
  const before = new Map(proxies.map((proxy) => [proxy.id, proxy]));
  const gone = new Set(edit.removed === 'others' ? [] : edit.removed);
  const changed = new Map(edit.changed.map((proxy) => [proxy.id, proxy]));
  const led = new Set<string>();
  for (const leader of edit.changed) {
    const { link } = leader;
    const known = before.get(leader.id);
    if (!link || known?.link?.group !== link.group || known.shape === leader.shape || led.has(link.group))
      continue;
    led.add(link.group);
    const shape = changedBy(leader.shape, inverseOf(link.frame));
    for (const other of proxies) {
      if (other.id === leader.id || other.link?.group !== link.group || gone.has(other.id)) continue;
      changed.set(other.id, {
        ...(changed.get(other.id) ?? other),
        shape: changedBy(shape, other.link.frame),
      });
    }
  }
  return led.size ? { ...edit, changed: [...changed.values()] } : edit;
}

/** The edit that takes shapes out of their links; one that is left alone in a link is taken out, too. */
export function unlinked({ proxies }: Proxies, ids: ReadonlySet<string>): PutProxies | null {
  const left = new Map<string, number>();
  for (const { id, link } of proxies)
    if (link && !ids.has(id)) left.set(link.group, (left.get(link.group) ?? 0) + 1);
  const changed = proxies.flatMap((proxy): Proxy[] => {
    if (!proxy.link || !(ids.has(proxy.id) || left.get(proxy.link.group) === 1)) return [];
    return [withoutLink(proxy)];
  });
  return changed.length ? { kind: 'put-proxies', changed, removed: [] } : null;
}

export function withoutLink({ link: _link, ...proxy }: Proxy): Proxy {
  return proxy;
}
