import type { Proxy } from './document.js';

/** The same proxies, each under an id of its own: a later one that repeats an id is given the next free one. */
export function withDistinctIds(proxies: readonly Proxy[]): Proxy[] {
  const taken = new Set(proxies.map(({ id }) => id));
  const seen = new Set<string>();
  let next = 1;
  const freeId = () => {
    while (taken.has(`s${next}`)) next++;
    taken.add(`s${next}`);
    return `s${next}`;
  };
  return proxies.map((proxy) => {
    if (!seen.has(proxy.id)) {
      seen.add(proxy.id);
      return proxy;
    }
    return { ...proxy, id: freeId() };
  });
}
