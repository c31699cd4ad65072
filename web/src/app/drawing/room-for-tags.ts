import type { PlaceOnScreen } from './place-on-screen';

/** How large a tag is with some air round it, in CSS pixels. */
const WIDE_PIXELS = 26;
const HIGH_PIXELS = 20;

/**
 * Which tags have room: those that are wanted always, the others where none lies over another. The rest are dots.
 *
 * @param wanted ids of those that are pointed at or chosen
 * @param wideOf how wide each is, CSS pixels; two keep half of both widths apart. Default: a number of a shape
 */
export function roomForTags(
  tags: readonly Pick<PlaceOnScreen, 'id' | 'x' | 'y' | 'behind'>[],
  wanted: ReadonlySet<string>,
  wideOf: (id: string) => number = () => WIDE_PIXELS,
): Set<string> {
  const shown: Pick<PlaceOnScreen, 'id' | 'x' | 'y'>[] = [];
  const free = (tag: { id: string; x: number; y: number }) =>
    shown.every(
      (other) =>
        Math.abs(other.x - tag.x) >= (wideOf(other.id) + wideOf(tag.id)) / 2 ||
        Math.abs(other.y - tag.y) >= HIGH_PIXELS,
    );
  const seen = tags.filter(({ behind }) => !behind);
  shown.push(...seen.filter(({ id }) => wanted.has(id)));
  for (const tag of seen) if (!wanted.has(tag.id) && free(tag)) shown.push(tag);
  return new Set(shown.map(({ id }) => id));
}
