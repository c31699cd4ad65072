import { StepLoop } from './step-loop';

describe('steps of time', () => {
  let tick: ((now: number) => void) | null;
  let pace: number | null;
  let asked: number[];
  let answer: () => void;
  let loop: StepLoop;

  beforeEach(() => {
    tick = null;
    pace = 1;
    asked = [];
    spyOn(performance, 'now').and.returnValue(0);
    spyOn(globalThis, 'requestAnimationFrame').and.callFake((work) => {
      tick = work;
      return 1;
    });
    spyOn(globalThis, 'cancelAnimationFrame').and.callFake(() => (tick = null));
    loop = new StepLoop(
      () => pace,
      (steps) => {
        asked.push(steps);
        return new Promise((resolve) => (answer = resolve));
      },
    );
  });
  const frameAt = async (ms: number) => {
    const now = tick!;
    tick = null;
    now(ms);
    await Promise.resolve();
  };
  const answered = async () => {
    answer();
    await new Promise((resolve) => setTimeout(resolve));
  };

  it('fall due sixty a second, one lot after the other; what is owed is kept', async () => {
    loop.start();
    await frameAt(50);
    expect(asked).toEqual([3]);
    await frameAt(60);
    // The first lot is not answered yet.
    expect(asked).toEqual([3]);
    await answered();
    await frameAt(84);
    expect(asked).toEqual([3, 2]);
  });

  it('are fewer at a slower pace, and never caught up by a page that was away', async () => {
    pace = 0.25;
    loop.start();
    await frameAt(50);
    expect(asked).toEqual([]);
    await frameAt(70);
    expect(asked).toEqual([1]);
    await answered();
    await frameAt(60_000);
    expect(asked).toEqual([1, 6]);
  });

  it('stop where time stands still, and are asked for no more when they are stopped', async () => {
    loop.start();
    pace = null;
    await frameAt(50);
    expect([asked, tick]).toEqual([[], null]);
    pace = 1;
    loop.start();
    loop.stop();
    expect(tick).toBeNull();
  });
});
