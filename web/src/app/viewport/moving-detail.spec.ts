import { MovingDetail } from './moving-detail';

describe('MovingDetail', () => {
  const drawn = (...frames: [triangles: number, milliseconds: number][]) => {
    const detail = new MovingDetail();
    for (const [triangles, milliseconds] of frames) detail.drew(triangles, milliseconds);
    return detail.now;
  };

  it('is whole while frames are in time, and after one that was not', () => {
    const whole = { pixels: 1, inked: true };
    expect(drawn()).toEqual(whole);
    expect(drawn([9, 16], [9, 120], [9, 49], [9, 51])).toEqual(whole);
  });

  it('goes down by steps where frames go on being late, and no further than the last', () => {
    const late = (count: number) => drawn(...Array.from({ length: count }, (): [number, number] => [9, 80]));
    expect([2, 3, 4, 50].map((count) => late(count))).toEqual([
      { pixels: 0.5, inked: true },
      { pixels: 0.5, inked: true },
      { pixels: 0.5, inked: false },
      { pixels: 0.5, inked: false },
    ]);
    expect(drawn([9, 80], [9, 80], [9, 20], [9, 20])).toEqual({ pixels: 0.5, inked: true });
  });

  it('begins anew when there is something else to draw', () => {
    expect(drawn([9, 80], [9, 80], [10, 20])).toEqual({ pixels: 1, inked: true });
  });
});
