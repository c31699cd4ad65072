import { MovingDetail } from './moving-detail';

describe('MovingDetail', () => {
  const WHOLE = { pixels: 1, inked: true, rough: false };
  const HALF = { pixels: 1 / 2, inked: true, rough: false };
  const BARE = { pixels: 1 / 2, inked: false, rough: false };
  const ROUGH = { pixels: 1 / 2, inked: false, rough: true };
  const LEAST = { pixels: 1 / 3, inked: false, rough: true };
  const drawn = (...frames: number[]) => {
    const detail = new MovingDetail();
    for (const milliseconds of frames) detail.drew(milliseconds);
    return detail.now;
  };
  const late = (count: number) => drawn(...Array.from({ length: count }, () => 80));

  it('is whole while frames are in time, and after one that was not', () => {
    expect(drawn()).toEqual(WHOLE);
    expect(drawn(16, 120, 32, 34)).toEqual(WHOLE);
  });

  it('goes down by steps where frames go on being late, and no further than the last', () => {
    expect([2, 3, 4, 6, 8, 50].map(late)).toEqual([HALF, HALF, BARE, ROUGH, LEAST, LEAST]);
    expect(drawn(80, 80, 20, 20)).toEqual(HALF);
  });

  it('knows from what rested how long it takes, keeps what it learnt, and begins anew with other art', () => {
    const detail = new MovingDetail();
    const after = (milliseconds: number) => {
      detail.rested(9, milliseconds);
      return detail.now;
    };
    // The first may have taken long for what was made ready in it.
    expect([400, 40, 90, 80, 20, 400, 400].map(after)).toEqual([WHOLE, HALF, HALF, BARE, BARE, BARE, ROUGH]);
    detail.rested(10, 20);
    expect(detail.now).toEqual(WHOLE);
  });

  it('goes up again where there is time to spare, and not to where frames came late', () => {
    const detail = new MovingDetail();
    const move = (frames: number, milliseconds: number) => {
      for (let i = 0; i < frames; i++) detail.drew(milliseconds);
      return detail.now;
    };
    const rest = () => [100, 100].forEach((milliseconds) => detail.rested(9, milliseconds));
    rest();
    expect([detail.now, move(19, 17), move(1, 17), move(20, 17)]).toEqual([BARE, BARE, HALF, WHOLE]);
    rest();
    expect([move(2, 40), move(100, 17)]).toEqual([ROUGH, ROUGH]);
  });
});
