import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { boxMesh, moved } from '../testing/meshes.js';
import { place } from '../testing/shapes.js';
import { blocks } from '../testing/solids.js';
import { matchingShift } from './matching-shift.js';
import { seamBetween } from './seams.js';

describe('seams between neighbours', () => {
  const left = boxMesh([1, 1, 0.25], [1, 1, 0]);
  const beside = (gap: number) => boxMesh([1, 1, 0.25], [3 + gap, 1, 0]);

  it('are listed vertex by vertex, with gap or overlap', () => {
    const open = seamBetween(left, beside(0.0004), 0.005);
    expect(open.pairs.length).toBe(4);
    for (const { gap } of open.pairs) expect(gap).toBeCloseTo(0.0004, 12);
    const over = seamBetween(left, beside(-0.0003), 0.005);
    for (const { gap } of over.pairs) expect(gap).toBeCloseTo(-0.0003, 12);
    expect(seamBetween(left, beside(0), 0.005).pairs.map(({ gap }) => gap)).toEqual([0, 0, 0, 0]);
    expect(seamBetween(left, beside(1), 0.005)).toEqual({ pairs: [], unmatched: 0 });
  });

  it('say the worst first, and which vertices meet none', () => {
    const askew = beside(0);
    for (let i = 0; i < askew.positions.length; i += 3)
      if (askew.positions[i] === 2 && askew.positions[i + 1] === 2) askew.positions[i + 1] = 2.002;
    const { pairs } = seamBetween(left, askew, 0.005);
    expect(pairs.map(({ apart }) => Math.round(apart * 1e4) / 10)).toEqual([2, 2, 0, 0]);
    const close = boxMesh([1, 1, 0.25], [1, 1, 0]);
    const two = moved(boxMesh([0.001, 1, 0.25]), [2.001, 1, 0]);
    expect(seamBetween(two, close, 0.005).unmatched).toBe(4);
  });
});

describe('art that is the same', () => {
  const bed = blocks([
    [0, 0, 0, 3, 0.4, 0.6],
    [0, 0.4, 0, 3, 0.5, 0.5],
  ]);
  const taller = blocks([
    [0, 0, 0, 3, 0.4, 0.6],
    [0, 0.4, 0, 3, 0.9, 0.3],
  ]);

  it('says how a variant lies to another, though their bounds differ', () => {
    fc.assert(
      fc.property(place, (by) => {
        const found = matchingShift(bed, moved(taller, by), 0.001)!;
        for (let k = 0; k < 3; k++) expect(found.shift[k]).toBeCloseTo(by[k]!, 9);
        expect(found.share).toBeGreaterThanOrEqual(0.5);
      }),
      { numRuns: 40 },
    );
  });

  it('is none where nothing agrees', () => {
    const odd = boxMesh([0.11, 0.23, 0.37], [0, 0, 0], [0.1, 0.2, 0.3, Math.sqrt(0.86)]);
    const found = matchingShift(boxMesh([5, 6, 7]), odd, 1e-6);
    expect(found === null || found.share < 0.5).toBeTrue();
    expect(matchingShift(bed, bed, 0.001)!.shift).toEqual([0, 0, 0] satisfies Vec3);
  });
});
