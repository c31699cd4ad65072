import { gate, type StandIn, standInWorker } from '../testing/stand-in-worker';
import { Stopped, WorkerHost } from './worker-host';

interface Jobs {
  answer(value: number): Promise<number>;
}

describe('WorkerHost', () => {
  let workers: StandIn[];
  let begun: number[];
  let gates: Map<number, ReturnType<typeof gate>>;
  let host: WorkerHost<Jobs>;

  beforeEach(() => {
    workers = [];
    begun = [];
    gates = new Map();
    host = new WorkerHost<Jobs>(() => {
      const worker = standInWorker({
        answer: async (value: number) => {
          begun.push(value);
          await gates.get(value)?.opened;
          if (value < 0) throw new Error('less than nothing');
          return value * 2;
        },
      });
      workers.push(worker);
      return worker;
    });
  });

  const ask = (value: number, gated = false) => {
    if (gated) gates.set(value, gate());
    return host.run((jobs) => jobs.answer(value));
  };
  const has = async (value: number) => {
    while (!begun.includes(value)) await new Promise((resolve) => setTimeout(resolve));
  };

  it('starts no worker before there is work, and one for all of it', async () => {
    expect(workers.length).toBe(0);
    expect(await Promise.all([ask(1).result, ask(2).result, ask(3).result])).toEqual([2, 4, 6]);
    expect([workers.length, host.length]).toEqual([1, 0]);
  });

  it('does one task after the other, and goes on after one that fails', async () => {
    const first = ask(1, true);
    const second = ask(-1);
    const third = ask(3);
    await has(1);
    expect([begun, host.length]).toEqual([[1], 3]);
    gates.get(1)!.open();
    await expectAsync(second.result).toBeRejectedWithError(/less than nothing/);
    expect([await first.result, await third.result]).toEqual([2, 6]);
    expect(begun).toEqual([1, -1, 3]);
  });

  it('stops the task that runs and no other: the next ones get a fresh worker', async () => {
    const first = ask(1, true);
    const second = ask(2);
    await has(1);
    first.stop();
    await expectAsync(first.result).toBeRejectedWithError(Stopped);
    expect(await second.result).toBe(4);
    expect(workers.map(({ gone }) => gone)).toEqual([true, false]);
  });

  it('takes a task that waits off the line, and the one that runs goes on', async () => {
    const first = ask(1, true);
    const second = ask(2);
    await has(1);
    second.stop();
    await expectAsync(second.result).toBeRejectedWithError(Stopped);
    gates.get(1)!.open();
    expect(await first.result).toBe(2);
    expect(begun).toEqual([1]);
    expect(workers.map(({ gone }) => gone)).toEqual([false]);
  });

  it('does nothing when a task is stopped that is over', async () => {
    const first = ask(1);
    await first.result;
    first.stop();
    expect(await ask(2).result).toBe(4);
    expect(workers.length).toBe(1);
  });

  it('says that a worker broke, and mends it for the next task', async () => {
    const first = ask(1, true);
    const second = ask(2);
    await has(1);
    workers[0]!.crash();
    await expectAsync(first.result).toBeRejectedWithError(/broke off in the browser/);
    expect(await second.result).toBe(4);
    expect(await ask(5).result).toBe(10);
    expect(workers.map(({ gone }) => gone)).toEqual([true, false]);
  });
});
