import { applyMatrix, boundsOfParts, type Operation, placeMatrix, type Vec3 } from '@yard-brace/core';
import { type TestBench, testBench } from '../testing/bench';
import { postPiece, threeParts } from '../testing/post';
import { shown } from '../testing/shown';
import { type DragView, faceDrag, growDrag, turnDrag } from '../pages/bench/view/shape-drags';
import type { PointerAt } from '../viewport/tool';
import { InHand, type InTheHand } from './in-hand';
import { PartDrag } from './part-drag';
import { ViewSettingsStore } from './view-settings';

/** Looked at from above; a pixel is a hundredth of a metre. */
const view: DragView = {
  sightline: ([x, y]) => ({ origin: [x / 100, 9, y / 100], direction: [0, -1, 0] }),
  metresPerPixel: () => 0.01,
  feature: () => null,
  looking: null,
  towards: () => [0, 1, 0],
  gridMetres: 4,
};
const at = (x: number, y: number, over: Partial<PointerAt> = {}): PointerAt => ({
  at: [x, y],
  pressed: true,
  still: false,
  shift: false,
  alt: false,
  ...over,
});

describe('dragging parts', () => {
  let bench: TestBench;
  let drag: PartDrag;
  const last = () => bench.jobs['operate']!.calls.mostRecent().args[1] as Extract<Operation, { op: 'move' }>;
  const inHand = () => shown(bench.get(InHand).inHand$) as InTheHand;
  beforeEach(async () => {
    bench = await testBench(postPiece(threeParts()));
    bench.jobs['operate']!.and.rejectWith(new Error('enough'));
    drag = bench.get(PartDrag);
  });
  const hold = () => {
    bench.selection.chooseParts(new Set(['n2']));
    bench.get(ViewSettingsStore).set({ draggingParts: true });
    return { view, hand: drag };
  };

  it('land with the grabbed point on what is caught, in the open by steps, one operation a drag', async () => {
    bench.selection.chooseParts(new Set(['n2']));
    drag.move([0, 0, 0], { at: [1.03, 0, 0], caught: null }, false);
    // A tenth of the yard's grid of four metres.
    expect(shown(drag.shift$)!.by).toEqual([1.2, 0, 0]);
    drag.move([0, 0, 0], { at: [1.03, 0, 0], caught: null }, true);
    expect(shown(drag.shift$)!.by).toEqual([1.03, 0, 0]);
    drag.move([0, 0, 0], { at: [1.03, 0.2, 0], caught: 'Coping 02, vertex' }, false);
    expect(shown(drag.shift$)!.said).toBe('1.05 m, Coping 02, vertex');
    bench.jobs['operate']!.and.rejectWith(new Error('enough'));
    await drag.drop();
    expect(last()).toEqual(jasmine.objectContaining({ op: 'move', parts: ['n2'], by: [1.03, 0.2, 0] }));
    expect(shown(drag.shift$)).toBeNull();
    drag.move([0, 0, 0], { at: [0, 0, 0], caught: 'vertex' }, false);
    const before = bench.jobs['operate']!.calls.count();
    await drag.drop();
    expect(bench.jobs['operate']!.calls.count()).toBe(before);
  });

  it('have tabs round them only while they are dragged, and no shape is in the hand then', () => {
    expect(shown(bench.get(InHand).inHand$)).toBeNull();
    hold();
    const { min, max } = boundsOfParts(bench.store.document, ['n2']);
    const { shape, handles, corners, hand } = inHand();
    expect([handles.length, corners.length, hand]).toEqual([6, 8, drag]);
    expect(shape).toEqual(
      jasmine.objectContaining({ kind: 'box', halfExtents: max.map((v, k) => (v - min[k]!) / 2) }),
    );
    bench.selection.chooseParts(new Set());
    expect(shown(bench.get(InHand).inHand$)).toBeNull();
  });

  it('turn about their pivot by the protractor, and are drawn so meanwhile', async () => {
    const dragging = hold();
    const { held, parts } = inHand();
    const [x, , z] = parts!.about.map((v) => v * 100) as Vec3;
    const tool = turnDrag(dragging, [held], parts!.about);
    tool.down(at(x + 200, z));
    tool.move(at(x, z - 200));
    const shift = shown(drag.shift$)!;
    expect(inHand().drag!.said).toMatch(/^\+90.0°/);
    const now = applyMatrix(placeMatrix(shift), parts!.about);
    expect(now.map((v, k) => Math.abs(v - parts!.about[k]!) < 1e-12)).toEqual([true, true, true]);
    tool.up();
    await bench.get(PartDrag).drop();
    expect(last()).toEqual(
      jasmine.objectContaining({ op: 'move', parts: ['n2'], by: [0, 0, 0], about: parts!.about }),
    );
    expect(last().turn[1]).toBeCloseTo(Math.SQRT1_2, 9);
    expect([shown(drag.shift$), inHand().drag]).toEqual([null, null]);
  });

  it('grow by a side from the side across, by a corner alike in all directions', () => {
    const dragging = hold();
    const { min, max } = boundsOfParts(bench.store.document, ['n2']);
    const { held, handles, corners } = inHand();
    const side = faceDrag(
      dragging,
      held,
      handles.find(({ id }) => id === '+x')!,
    );
    side.down(at(max[0] * 100, 0));
    side.move(at(max[0] * 100 + (max[0] - min[0]) * 50, 0, { alt: true }));
    const grown = shown(drag.shift$)!;
    expect(grown.scale!.map((s) => Number(s.toFixed(6)))).toEqual([1.5, 1, 1]);
    expect(applyMatrix(placeMatrix(grown), min).map((v, k) => Number((v - min[k]!).toFixed(9)))).toEqual([
      0, 0, 0,
    ]);
    side.key({ key: 'Escape' });
    expect(shown(drag.shift$)).toBeNull();
    const corner = corners.find(({ id }) => id === 'corner+++')!;
    const grow = growDrag(dragging, held, corner);
    grow.down(at(max[0] * 100, max[2] * 100));
    const far = 300;
    grow.move(at(max[0] * 100 + far, max[2] * 100 + far));
    const alike = shown(drag.shift$)!;
    const [factor] = alike.scale!;
    expect(alike.scale!.map((s) => Number((s - factor!).toFixed(9)))).toEqual([0, 0, 0]);
    // Whole twentieths, and never through nothing.
    expect(Number(((factor! * 20) % 1).toFixed(6)) % 1).toBe(0);
    expect(factor).toBeGreaterThan(1);
    expect(applyMatrix(placeMatrix(alike), min).map((v, k) => Number((v - min[k]!).toFixed(9)))).toEqual([
      0, 0, 0,
    ]);
    grow.move(at(max[0] * 100 - 9000, max[2] * 100 - 9000));
    expect(shown(drag.shift$)!.scale![0]).toBeCloseTo(0.05, 9);
    grow.leave();
  });

  it('leave what hangs below where it is, when they are placed alone', async () => {
    bench.selection.chooseParts(new Set(['n1']));
    bench.get(ViewSettingsStore).set({ partsAlone: true });
    drag.move([0, 0, 0], { at: [1, 0, 0], caught: 'vertex' }, false);
    await drag.drop();
    expect(last()).toEqual(jasmine.objectContaining({ parts: ['n1'], alone: true }));
  });
});
