import { inSteps } from './in-steps';

describe('Progress in steps', () => {
  it('is told at the first word, at every hundredth, and when nothing was told for a while', () => {
    let time = 0;
    const told: number[] = [];
    const progress = inSteps(
      (share) => told.push(share),
      () => time,
    );
    const words: [number, number][] = [
      [0, 0],
      [10, 0.005],
      [20, 0.012],
      [30, 0.013],
      [99, 0.014],
      [101, 0.014],
      [150, 0.014],
      [160, 0.03],
    ];
    for (const [at, share] of words) {
      time = at;
      progress(share);
    }
    expect(told).toEqual([0, 0.012, 0.014, 0.03]);
  });
});
