import { multiplyQuats, type Quat, rotate, type Vec3 } from '@yard-brace/core';
import { degreesOf, turnBetween, turnOfDegrees } from './shape-turn';

const near = (a: Quat, b: Quat) => Math.abs(Math.abs(a.reduce((sum, v, k) => sum + v * b[k]!, 0)) - 1);

describe('a rotation in degrees', () => {
  it('comes back as it was written, away from straight up', () => {
    for (const degrees of [
      [0, 0, 0],
      [30, -40, 100],
      [-170, 80, -20],
      [90, 0, 0],
    ] as Vec3[])
      degreesOf(turnOfDegrees(degrees)).forEach((v, k) => expect(v).toBeCloseTo(degrees[k]!, 9));
  });

  it('is the same turn again wherever it looks, straight up too', () => {
    for (let a = -180; a <= 180; a += 30)
      for (let b = -90; b <= 90; b += 15)
        for (const c of [-120, 0, 45]) {
          const turn = turnOfDegrees([a, b, c]);
          expect(near(turnOfDegrees(degreesOf(turn)), turn))
            .withContext(`${a} ${b} ${c}`)
            .toBeLessThan(1e-9);
        }
    expect(rotate(turnOfDegrees([0, 90, 0]), [1, 0, 0]).map((v) => Math.round(v))).toEqual([0, 0, -1]);
  });

  it('leads from one to the other', () => {
    const [from, to] = [turnOfDegrees([10, 20, 30]), turnOfDegrees([-50, 5, 80])];
    expect(near(multiplyQuats(turnBetween(from, to), from), to)).toBeLessThan(1e-12);
  });
});
