import {
  addClearance,
  cornerHandles,
  replaceProxies,
  type Shape,
  shapeHandles,
  type Vec3,
} from '@yard-brace/core';
import { ShapeEditor } from '../../../state/shape-editor';
import { type TestBench, testBench } from '../../../testing/bench';
import { shown } from '../../../testing/shown';
import type { PointerAt } from '../../../viewport/tool';
import {
  cornerDrag,
  type DragView,
  faceDrag,
  moveDrag,
  protractorOf,
  turnAxis,
  turnDrag,
} from './shape-drags';
import { withDraggedOpenings } from './shown-marks';

const box = (x: number): Shape => ({
  kind: 'box',
  center: [x, 0.5, 0.5],
  halfExtents: [0.5, 0.5, 0.5],
  rotation: [0, 0, 0, 1],
});
/** A pixel is a hundredth of a metre, looked at from above or from the front. */
const view = (looking: Vec3 | null): DragView => ({
  sightline: ([x, y]) =>
    looking
      ? { origin: [x / 100, -y / 100, 9], direction: [0, 0, -1] }
      : { origin: [x / 100, 9, y / 100], direction: [0, -1, 0] },
  metresPerPixel: () => 0.01,
  feature: ([x]) => (x === 97 ? { at: [0.8, 3, 3], name: 'vertex' } : null),
  looking,
  towards: () => (looking ? [0, 0, 1] : [0, 1, 0]),
  gridMetres: 0.25,
});
const at = (x: number, y: number, over: Partial<PointerAt> = {}): PointerAt => ({
  at: [x, y],
  pressed: true,
  still: false,
  shift: false,
  alt: false,
  ...over,
});

describe('dragging a shape', () => {
  let bench: TestBench;
  let editor: ShapeEditor;
  const kept = (i: number) => bench.store.document.proxies[i]!.shape as Extract<Shape, { kind: 'box' }>;
  const said = () => shown(editor.drag$)?.said;
  beforeEach(async () => {
    bench = await testBench();
    editor = bench.get(ShapeEditor);
    bench.store.apply(
      replaceProxies([
        { id: 'a', shape: box(0) },
        { id: 'b', shape: box(2.13) },
      ]),
    );
    editor.choose('a');
  });
  const face = (id: string) => {
    const [proxy] = editor.chosen;
    return faceDrag(
      { view: view(null), hand: editor },
      proxy!,
      shapeHandles(proxy!.shape).find((each) => each.id === id)!,
    );
  };

  it('by a face makes it as large as the pointer went, and says how far it is to the next face', () => {
    const drag = face('+x');
    drag.down(at(60, 50));
    drag.move(at(90, 80, { alt: true }));
    expect(said()).toBe('1.30 × 1.00 × 1.00 m, +300.0 mm, 830.0 mm to face of 2');
    drag.up();
    expect([kept(0).center[0], kept(0).halfExtents[0]]).toEqual([jasmine.any(Number), jasmine.any(Number)]);
    expect(kept(0).center[0] - kept(0).halfExtents[0]).toBeCloseTo(-0.5, 9);
    expect(kept(0).halfExtents[0]).toBeCloseTo(0.65, 9);
  });

  it('by a face goes as far as the vertex or edge of the art that the pointer is on, unless Alt is held', () => {
    const drag = face('+x');
    drag.down(at(50, 50));
    drag.move(at(97, 50));
    expect(said()).toBe('1.30 × 1.00 × 1.00 m, +300.0 mm, vertex');
    drag.move(at(97, 50, { alt: true }));
    expect(said()).toContain('+470.0 mm');
  });

  it('by a face is caught by the neighbour’s, named, and by the grid where nothing else is', () => {
    const drag = face('+x');
    drag.down(at(50, 50));
    drag.move(at(165, 50));
    expect(said()).toContain('face of 2');
    drag.move(at(126, 50));
    expect(said()).toContain('grid 250.0 mm');
    drag.move(at(165, 50));
    drag.up();
    // They meet exactly.
    expect(kept(0).center[0] + kept(0).halfExtents[0]).toBeCloseTo(1.63, 12);
  });

  it('that is left with Escape, or a press that does not move, changes nothing', () => {
    const before = kept(0);
    const drag = face('+x');
    drag.down(at(50, 50));
    drag.move(at(90, 50));
    expect(drag.key({ key: 'a' })).toBeFalse();
    expect(drag.key({ key: 'Escape' })).toBeTrue();
    drag.move(at(120, 50));
    drag.up();
    drag.down(at(50, 50));
    drag.move(at(51, 50, { still: true }));
    drag.up();
    expect([kept(0), shown(editor.drag$), drag.key({ key: 'Escape' })]).toEqual([before, null, false]);
  });

  it('by its tag moves it over the ground, and its sides are caught', () => {
    const drag = moveDrag({ view: view(null), hand: editor }, editor.chosen);
    drag.down(at(0, 0));
    drag.move(at(110, 33, { alt: true }));
    expect(said()).toMatch(/^1\.148[45] m$/);
    drag.move(at(110, 33));
    expect(said()).toContain('face of 2');
    drag.up();
    expect(kept(0).center.map((v) => Number(v.toFixed(6)))).toEqual([
      1.13,
      0.5,
      jasmine.any(Number) as never,
    ]);
    expect(kept(0).center[0] + 0.5).toBeCloseTo(1.63, 12);
  });

  it('from the front moves it in that plane, and all that are chosen alike', () => {
    editor.choose('b', { more: true });
    const drag = moveDrag({ view: view([0, 0, -1]), hand: editor }, editor.chosen);
    drag.down(at(0, 0));
    drag.move(at(40, -30, { alt: true }));
    drag.up();
    expect([0, 1].map((i) => kept(i).center.map((v) => Number(v.toFixed(6))))).toEqual([
      [0.4, 0.8, 0.5],
      [2.53, 0.8, 0.5],
    ]);
    bench.store.undo();
    expect(kept(1).center).toEqual([2.13, 0.5, 0.5]);
  });

  it('by its protractor turns it about the upright axis, caught square to the art and at steps', () => {
    spyOn(editor, 'anglesAcross').and.returnValue([20]);
    const drag = turnDrag({ view: view(null), hand: editor }, editor.chosen);
    // About (0, 0.5): from the way along x, a quarter turn's share towards z is a turn the other way about y.
    const on = (degrees: number, over: Partial<PointerAt> = {}) => {
      const angle = (-degrees * Math.PI) / 180;
      return at(200 * Math.cos(angle), 50 + 200 * Math.sin(angle), over);
    };
    drag.down(on(0));
    drag.move(on(21));
    expect(said()).toBe('+20.0°, square to the art');
    drag.move(on(44));
    expect(said()).toBe('+45.0°, every 15°');
    drag.move(on(-100));
    expect(said()).toBe('−100.0°');
    drag.move(on(44, { alt: true }));
    expect([said(), shown(editor.drag$)!.turned!.toFixed(6)]).toEqual(['+44.0°', '44.000000']);
    drag.up();
    const { center, rotation } = kept(0);
    expect(center).toEqual([0, 0.5, 0.5]);
    expect(rotation[1]).toBeCloseTo(Math.sin((22 * Math.PI) / 180), 9);
    expect(turnAxis([0, 0, -1])).toEqual([0, 0, 1]);
    expect(turnAxis([0.6, 0, 0.8])).toEqual([0, 1, 0]);
  });

  it('by a corner grows it in the plane that is looked at, the corner across stays, and faces catch it', () => {
    const [proxy] = editor.chosen;
    const corner = cornerHandles(proxy!.shape).find(({ id }) => id === 'corner+++')!;
    const drag = cornerDrag({ view: view(null), hand: editor }, proxy!, corner);
    drag.down(at(50, 100));
    drag.move(at(165, 133, { alt: true }));
    expect(said()).toBe('2.15 × 1.00 × 1.33 m');
    drag.move(at(165, 133));
    expect(said()).toBe('2.13 × 1.00 × 1.33 m, face of 2');
    drag.up();
    const { center, halfExtents } = kept(0);
    expect([0, 1, 2].map((k) => center[k]! - halfExtents[k]!)).toEqual([-0.5, 0, 0]);
    expect(center[0] + halfExtents[0]).toBeCloseTo(1.63, 9);
  });

  it('shows a protractor at its foot, none where turning changes nothing', () => {
    const still = { drag: null, parts: null };
    const found = protractorOf({ shape: { ...kept(0), halfExtents: [3, 1, 4] }, ...still }, [0, 1, 0])!;
    expect(found.center).toEqual([0, -0.5, 0.5]);
    expect(found.radius).toBeCloseTo(5 * 1.08, 9);
    const ball: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
    expect(protractorOf({ shape: ball, ...still }, [0, 1, 0])).toBeNull();
  });

  it('is an opening as well: its sides, its place and its turn change by hand, one step each', () => {
    bench.store.apply(
      addClearance(bench.store.document, {
        center: [0, 1, 3],
        halfExtents: [0.5, 1, 0.2],
        rotation: [0, 0, 0, 1],
        through: 'z',
      }),
    );
    const { id } = bench.store.document.clearances[0]!;
    bench.selection.chooseClearance(id);
    expect(editor.chosen).toEqual([]);
    const held = () => shown(editor.held$)!;
    const opening = () => bench.store.document.clearances[0]!;
    const side = faceDrag({ view: view(null), hand: editor }, held(), shapeHandles(held().shape)[0]!);
    side.down(at(50, 300));
    side.move(at(80, 300, { alt: true }));
    expect(
      withDraggedOpenings(bench.store.document, shown(editor.drag$)!.shapes)!.clearances[0]!.halfExtents[0],
    ).toBeCloseTo(0.65, 9);
    expect(opening().halfExtents[0]).toBe(0.5);
    side.up();
    expect([opening().halfExtents[0], opening().center[0]].map((v) => v.toFixed(3))).toEqual([
      '0.650',
      '0.150',
    ]);
    const move = moveDrag({ view: view(null), hand: editor }, [held()]);
    move.down(at(0, 0));
    move.move(at(100, 0, { alt: true }));
    move.up();
    expect(opening().center[0]).toBeCloseTo(1.15, 9);
    bench.store.undo();
    expect(opening().center[0]).toBeCloseTo(0.15, 9);
    editor.choose('b');
    expect(bench.selection.selected.clearance).toBeNull();
  });
});
