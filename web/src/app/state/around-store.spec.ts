import { replaceProxies, type Shape, type ShapeAround } from '@yard-brace/core';
import { type TestBench, testBench } from '../testing/bench';
import { shown } from '../testing/shown';
import { stripArt } from '../testing/strip';
import { AroundStore } from './around-store';
import { ShapeEditor } from './shape-editor';

const box: Shape = { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] };
const ball: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
const FOUND: ShapeAround[] = [
  { kind: 'box', shape: box, volume: 8, deviation: 0.4 },
  { kind: 'sphere', shape: ball, volume: 4.2, deviation: 0.01 },
];

describe('shapes of every kind around something', () => {
  let bench: TestBench;
  let around: AroundStore;
  const kept = () => bench.store.document.proxies.map(({ id, shape }) => `${id} ${shape.kind}`);
  beforeEach(async () => {
    bench = await testBench();
    around = bench.get(AroundStore);
    bench.jobs['shapesAround']!.and.resolveTo(FOUND);
    bench.store.apply(replaceProxies([{ id: 'a', shape: box }]));
  });

  it('are asked for the one shape in the hand, and one takes its place', async () => {
    bench.get(ShapeEditor).choose('a');
    await around.ask();
    const [, request] = bench.jobs['shapesAround']!.calls.mostRecent().args;
    expect(request).toEqual(jasmine.objectContaining({ shape: box }));
    expect(shown(around.around$)!.closest).toBe('sphere');
    around.take('capsule');
    expect(kept()).toEqual(['a box']);
    around.take('sphere');
    expect(kept()).toEqual(['a sphere']);
    // It was asked for a box that is there no more.
    expect(shown(around.around$)).toBeNull();
  });

  it('are asked for chosen faces, and one is added and in the hand', async () => {
    bench.selection.setArt(stripArt());
    bench.selection.chooseFaces(Uint8Array.from([0, 1, 0, 1, 0, 0, 0, 0]), 'only');
    await around.ask();
    const [, request] = bench.jobs['shapesAround']!.calls.mostRecent().args;
    expect([...request.faces]).toEqual([1, 3]);
    around.take('box');
    expect(kept().length).toBe(2);
    expect(bench.get(ShapeEditor).chosen.map(({ shape }) => shape)).toEqual([box]);
  });

  it('are none for nothing, for several shapes, or for what has changed meanwhile', async () => {
    await around.ask();
    expect(bench.jobs['shapesAround']!).not.toHaveBeenCalled();
    let answer: (found: ShapeAround[]) => void = () => undefined;
    bench.jobs['shapesAround']!.and.returnValue(new Promise((resolve) => (answer = resolve)));
    bench.get(ShapeEditor).choose('a');
    const asked = around.ask();
    expect(shown(around.working$)).toBeTrue();
    bench.get(ShapeEditor).choose(null);
    answer(FOUND);
    await asked;
    expect([shown(around.around$), shown(around.working$)]).toEqual([null, false]);
    bench.jobs['shapesAround']!.and.rejectWith(new Error('no'));
    bench.get(ShapeEditor).choose('a');
    await around.ask();
    expect(bench.said()).not.toBe('');
  });
});
