import { MovingDetail } from './moving-detail';

describe('MovingDetail', () => {
  const WHOLE = { pixels: 1, inked: true };
  const HALF = { pixels: 1 / 2, inked: true };
  const BARE = { pixels: 1 / 2, inked: false };
  const LEAST = { pixels: 1 / 3, inked: false };
  const drawn = (...frames: [triangles: number, milliseconds: number][]) => {
    const detail = new MovingDetail();
    for (const [triangles, milliseconds] of frames) detail.drew(triangles, milliseconds);
    return detail.now;
  };
  const late = (count: number) => drawn(...Array.from({ length: count }, (): [number, number] => [9, 80]));

  it('is whole while frames are in time, and after one that was not', () => {
    expect(drawn()).toEqual(WHOLE);
    expect(drawn([9, 16], [9, 120], [9, 32], [9, 34])).toEqual(WHOLE);
  });

  it('goes down by steps where frames go on being late, and no further than the last', () => {
    expect([2, 3, 4, 6, 50].map(late)).toEqual([HALF, HALF, BARE, LEAST, LEAST]);
    expect(drawn([9, 80], [9, 80], [9, 20], [9, 20])).toEqual(HALF);
  });

  it('begins anew when there is something else to draw', () => {
    expect(drawn([9, 80], [9, 80], [10, 20])).toEqual(WHOLE);
  });

  it('knows from what rested how long it takes, and keeps what it learnt', () => {
    const detail = new MovingDetail();
    const after = (milliseconds: number) => {
      detail.rested(9, milliseconds);
      return detail.now;
    };
    expect([20, 40, 90, 20].map(after)).toEqual([WHOLE, HALF, BARE, BARE]);
    detail.rested(10, 20);
    expect(detail.now).toEqual(WHOLE);
  });

  it('goes up again where there is time to spare, and not to where frames came late', () => {
    const detail = new MovingDetail();
    const move = (frames: number, milliseconds: number) => {
      for (let i = 0; i < frames; i++) detail.drew(9, milliseconds);
      return detail.now;
    };
    detail.rested(9, 300);
    expect([detail.now, move(19, 17), move(1, 17), move(20, 17)]).toEqual([BARE, BARE, HALF, WHOLE]);
    detail.rested(9, 300);
    expect([move(2, 40), move(100, 17)]).toEqual([LEAST, LEAST]);
  });
});
