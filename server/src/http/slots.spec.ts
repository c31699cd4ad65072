import { Slots } from './slots.js';

describe('slots', () => {
  it('let so many in at a time, the others in the order they came', async () => {
    const slots = new Slots(2);
    const log: string[] = [];
    const gates: (() => void)[] = [];
    const visit = async (name: string) => {
      const leave = await slots.take();
      log.push(`${name} in`);
      await new Promise<void>((resolve) => gates.push(resolve));
      log.push(`${name} out`);
      leave();
      leave();
    };
    const visits = ['a', 'b', 'c', 'd'].map(visit);
    const settle = () => new Promise((resolve) => setTimeout(resolve));
    await settle();
    expect(log).toEqual(['a in', 'b in']);
    gates.shift()!();
    await settle();
    expect(log.slice(2)).toEqual(['a out', 'c in']);
    while (gates.length) {
      gates.shift()!();
      await settle();
    }
    await Promise.all(visits);
    expect(log.filter((line) => line.endsWith('in'))).toEqual(['a in', 'b in', 'c in', 'd in']);
  });
});
