import { proxyKey, type Quat, replaceProxies, type Vec3 } from '@yard-brace/core';
import { type TestBench, testBench } from '../testing/bench';
import { gate } from '../testing/stand-in-worker';
import { settle } from '../testing/hand-clock';
import { shown } from '../testing/shown';
import { ProxyMeasure } from './proxy-measure';

const sphere = (radius: number) =>
  replaceProxies([{ id: 'a', shape: { kind: 'sphere', center: [0, 0, 0], radius } }]);
const figures = (bench: TestBench, max: number) => ({
  key: bench.store.setKeyOf(bench.store.document),
  uncovered: { max },
  excess: { max: 2 * max },
});

describe('ProxyMeasure', () => {
  let bench: TestBench;
  beforeEach(async () => {
    bench = await testBench();
    bench.get(ProxyMeasure);
    bench.jobs['judgeShapes']!.and.callFake(async () => figures(bench, 0.01));
  });
  const asked = () => bench.jobs['judgeShapes']!.calls.count();
  const measured = () => shown(bench.store.measured$);

  it('measures the shapes when they rest, and keeps what it found with the piece', async () => {
    bench.store.apply(sphere(1));
    bench.store.apply(sphere(2));
    await bench.clock.move(1000);
    expect(asked()).toBe(1);
    expect(measured()).toEqual(
      jasmine.objectContaining({
        key: proxyKey(bench.store.document),
        artOutside: 0.01,
        proxyOutside: 0.02,
      }),
    );
    bench.store.apply({ kind: 'rename-mesh', name: 'Other' });
    await bench.clock.move(1000);
    expect(asked()).toBe(1);
    bench.store.apply(sphere(3));
    await bench.clock.move(1000);
    expect(asked()).toBe(2);
  });

  it('judges again when an opening is laid, and what was measured before sets were judged', async () => {
    bench.store.apply(sphere(1));
    await bench.clock.move(1000);
    const { center, rotation } = { center: [9, 0, 0] as Vec3, rotation: [0, 0, 0, 1] as Quat };
    bench.store.apply({
      kind: 'set-clearances',
      clearances: [{ id: 'c', name: 'hatch', center, halfExtents: [1, 1, 1], rotation, through: 'z' }],
    });
    await bench.clock.move(1000);
    expect(asked()).toBe(2);
    await bench.store.measured({ key: proxyKey(bench.store.document), artOutside: 0, proxyOutside: 0 });
    bench.store.apply(sphere(1.5));
    await bench.clock.move(1000);
    expect(asked()).toBe(3);
  });

  it('has nothing to measure without shapes', async () => {
    await bench.clock.move(1000);
    bench.store.apply({ kind: 'rename-mesh', name: 'Other' });
    await bench.clock.move(1000);
    expect(asked()).toBe(0);
  });

  it('drops what was found on shapes of before', async () => {
    const slow = gate();
    bench.jobs['judgeShapes']!.and.returnValue(slow.opened.then(() => figures(bench, 9)));
    bench.store.apply(sphere(1));
    await bench.clock.move(1000);
    bench.store.apply(sphere(2));
    slow.open();
    await settle();
    expect(measured()).toBeNull();
  });

  it('measures again what was dropped, when it is there again', async () => {
    const slow = gate();
    const facts = figures(bench, 9);
    bench.jobs['judgeShapes']!.and.returnValue(slow.opened.then(() => facts));
    bench.store.apply(sphere(1));
    await bench.clock.move(1000);
    bench.store.apply(replaceProxies([]));
    await bench.clock.move(1000);
    slow.open();
    await settle();
    bench.jobs['judgeShapes']!.and.callFake(async () => figures(bench, 0.01));
    bench.store.undo();
    await bench.clock.move(1000);
    expect([asked(), measured()?.artOutside]).toEqual([2, 0.01]);
  });

  it('does not try again what cannot be measured, until it changes', async () => {
    spyOn(console, 'warn');
    bench.jobs['judgeShapes']!.and.rejectWith(new Error('no'));
    bench.store.apply(sphere(1));
    await bench.clock.move(1000);
    bench.store.apply({ kind: 'rename-mesh', name: 'Other' });
    await bench.clock.move(1000);
    expect(asked()).toBe(1);
    bench.store.apply(sphere(2));
    await bench.clock.move(1000);
    expect(asked()).toBe(2);
  });

  it('says what a change of the art has left until somebody has looked', async () => {
    const judged = (art: string, max: number) => ({
      ...figures(bench, max),
      art,
      shapes: [{ id: 'a', excess: { max, at: null } }],
      bare: [],
    });
    bench.jobs['judgeShapes']!.and.callFake(async () => judged('before', 0.01));
    bench.store.apply(sphere(1));
    await bench.clock.move(1000);
    bench.jobs['judgeShapes']!.and.callFake(async () => judged('after', 0.5));
    bench.store.apply(sphere(2));
    await bench.clock.move(1000);
    expect(measured()!.judged!.left).toEqual({ shapes: [{ id: 'a', before: 0.01 }], bareArea: null });
    await bench.store.lookedAt();
    expect(measured()!.judged!.left).toBeUndefined();
    expect(measured()!.judged!.excess.max).toBe(1);
  });
});
