/** The same things, each under an id of its own: a later one that repeats an id is given the next free one. */
export function withDistinctIds<T extends { id?: unknown }>(things: readonly T[]): T[] {
  const taken = new Set(things.map(({ id }) => id));
  const seen = new Set<unknown>();
  let next = 1;
  const freeId = () => {
    while (taken.has(`s${next}`)) next++;
    taken.add(`s${next}`);
    return `s${next}`;
  };
  return things.map((thing) => {
    if (!seen.has(thing.id)) {
      seen.add(thing.id);
      return thing;
    }
    return { ...thing, id: freeId() };
  });
}
