import fc from 'fast-check';
import { Heap } from './heap.js';

describe('Heap', () => {
  it('gives back what was put in, the greatest first', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 50 })), (keys) => {
        const heap = new Heap<number>();
        keys.forEach((key) => heap.push(key, key));
        const out = keys.map(() => heap.pop());
        expect(out).toEqual([...keys].sort((a, b) => b - a));
        expect(heap.pop()).toBeUndefined();
      }),
    );
  });

  it('holds back what does not lie above a limit', () => {
    const heap = new Heap<string>();
    heap.push(1, 'low');
    heap.push(2, 'high');
    expect(heap.pop(1)).toBe('high');
    expect(heap.pop(1)).toBeUndefined();
    expect(heap.pop()).toBe('low');
  });
});
