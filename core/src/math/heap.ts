/** A binary heap: the item with the greatest key comes out first; of equals which one is always the same. */
export class Heap<T> {
  private readonly keys: number[] = [];
  private readonly items: T[] = [];

  push(key: number, item: T): void {
    const { keys, items } = this;
    let at = keys.length;
    for (let up = (at - 1) >> 1; at > 0 && keys[up]! < key; at = up, up = (at - 1) >> 1) {
      keys[at] = keys[up]!;
      items[at] = items[up]!;
    }
    keys[at] = key;
    items[at] = item;
  }

  /** The item with the greatest key, taken out; undefined when there is none, or none above `least`. */
  pop(least = -Infinity): T | undefined {
    const { keys, items } = this;
    if (!keys.length || keys[0]! <= least) return undefined;
    const first = items[0]!;
    const key = keys.pop()!;
    const item = items.pop()!;
    const count = keys.length;
    if (!count) return first;
    let at = 0;
    for (let down = 1; down < count; down = 2 * at + 1) {
      if (down + 1 < count && keys[down + 1]! > keys[down]!) down++;
      if (keys[down]! <= key) break;
      keys[at] = keys[down]!;
      items[at] = items[down]!;
      at = down;
    }
    keys[at] = key;
    items[at] = item;
    return first;
  }
}
