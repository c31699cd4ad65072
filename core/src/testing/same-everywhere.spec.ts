import { type Shape, shapeVolume } from '../shape/index.js';
import { expectAsInNode, sameEverywhere } from './same-everywhere.js';

const SUMMARY = {
  counts: [1, 2, 3, 4, 5, 6, 8, 10, 11, 12, 15],
  kinds: ['box', 'hull'] as Shape['kind'][],
  volume: 8.375,
};

describe('the same everywhere', () => {
  it('is a ladder with all its shapes, in Node and in the browser', async () => {
    const rungs = await sameEverywhere();
    const last = rungs.at(-1)!;
    // A summary that says what has changed, when something has.
    expect(rungs.map((shapes) => shapes.length)).toEqual(SUMMARY.counts);
    expect([...new Set(last.map(({ kind }) => kind))].sort()).toEqual(SUMMARY.kinds);
    expect(last.reduce((sum, shape) => sum + shapeVolume(shape), 0)).toBeCloseTo(SUMMARY.volume, 3);
    expectAsInNode('ladder', JSON.stringify(rungs));
  });
});
