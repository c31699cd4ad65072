import { shown } from '../testing/shown';
import { type Picked, Picking } from './picking';

const picked = (x: number): Picked => ({
  kind: 'vertex',
  at: [x, 2, 3],
  normal: [0, 1, 0],
  edge: [
    [0, 0, 0],
    [1, 0, 0],
  ],
  part: 'n1',
});

describe('Picking', () => {
  let picking: Picking;
  beforeEach(() => (picking = new Picking()));

  it('asks for one thing at a time, and answers who asked', async () => {
    const first = picking.ask('Pick this.');
    const second = picking.ask('Pick that.');
    expect(await first).toBeNull();
    expect(shown(picking.asked$)).toBe('Pick that.');
    picking.pick(picked(1));
    expect((await second)!.at).toEqual([1, 2, 3]);
    expect(picking.asked).toBeNull();
  });

  it('asks for two points, and for no second one when the first is cancelled', async () => {
    const two = picking.askTwo('One.', 'Other.');
    picking.pick(picked(1));
    await Promise.resolve();
    await Promise.resolve();
    expect(picking.asked).toBe('Other.');
    picking.pick(picked(2));
    expect((await two)!.map(({ at }) => at[0])).toEqual([1, 2]);
    const none = picking.askTwo('One.', 'Other.');
    expect(picking.cancel()).toBeTrue();
    expect(await none).toBeNull();
    expect([picking.asked, picking.cancel()]).toEqual([null, false]);
  });

  it('shows the point that a click would take, as long as it asks', () => {
    void picking.ask('Pick this.');
    picking.hover([1, 1, 1]);
    expect(shown(picking.point$)).toEqual([1, 1, 1]);
    picking.pick(picked(1));
    expect(shown(picking.point$)).toBeNull();
    picking.pick(picked(2));
    expect(picking.asked).toBeNull();
  });
});
