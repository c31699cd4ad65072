import {
  add,
  artBounds,
  centreOf,
  DecomposeError,
  moveShape,
  ownFrame,
  replaceProxies,
  type Shape,
  shapeVolume,
  shifted,
  subtract,
} from '@yard-brace/core';
import { CopiesAlong } from '../../../../state/copies-along';
import { MakeStore } from '../../../../state/make-store';
import { Picking } from '../../../../state/picking';
import { ShapeEditor } from '../../../../state/shape-editor';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type TestBench, testBench } from '../../../../testing/bench';
import { postDocument, postPiece } from '../../../../testing/post';
import { AroundPanel } from './around-panel';
import { ShapeActionsPanel } from './shape-actions-panel';
import { ShapeCopiesPanel } from './shape-copies-panel';
import { ShapeNumbersPanel } from './shape-numbers-panel';
import { ShapeUsePanel } from './shape-use-panel';
import { ShapesPanel } from './shapes-panel';

const box = (x: number): Shape => ({
  kind: 'box',
  center: [x, 0.5, 0.5],
  halfExtents: [0.5, 0.5, 0.5],
  rotation: [0, 0, 0, 1],
});

describe('a shape in the hand', () => {
  let bench: TestBench;
  let editor: ShapeEditor;
  const shapes = () => bench.store.document.proxies.map(({ shape }) => shape);
  beforeEach(async () => {
    bench = await testBench();
    editor = bench.get(ShapeEditor);
    const ball: Shape = { kind: 'sphere', center: [5, 0, 0], radius: 0.5 };
    bench.store.apply(
      replaceProxies([
        { id: 'a', shape: box(2) },
        { id: 'b', shape: ball },
      ]),
    );
  });
  const type = async (page: Awaited<ReturnType<typeof bench.show>>, label: string, text: string) => {
    const field = page.one<HTMLInputElement>(`input[aria-label="${label}"]`);
    field.value = text;
    field.dispatchEvent(new Event('change', { bubbles: true }));
    await new Promise((resolve) => setTimeout(resolve));
    await page.rest();
    return field.value;
  };

  it('is given to a part by dragging it there in the list, and back to the piece', async () => {
    const document = postDocument();
    const [part] = document.nodes;
    bench = await testBench(
      postPiece({ ...document, nodes: [part!, { ...part!, id: 'lid', name: 'Lid', parent: null }] }),
    );
    editor = bench.get(ShapeEditor);
    bench.store.apply(replaceProxies(['a', 'b'].map((id) => ({ id, shape: box(2) }))));
    const list = await bench.show(ShapesPanel);
    const owners = () => bench.store.document.proxies.map(({ part }) => part);
    const dragTo = async (number: number, owner: string) => {
      list.one(`[data-shape="${number}"]`).dispatchEvent(new DragEvent('dragstart'));
      await new Promise((resolve) => setTimeout(resolve));
      await list.rest();
      const target = list.one(`[data-owner="${owner}"]`);
      target.dispatchEvent(new DragEvent('dragover', { cancelable: true }));
      target.dispatchEvent(new DragEvent('drop', { cancelable: true }));
      await list.rest();
    };
    const id = 'lid';
    await dragTo(2, id);
    expect(owners()).toEqual([undefined, id]);
    expect(list.all('.owner').length).toBe(2);
    // All that are chosen go together.
    editor.chooseAll(['a', 'b']);
    await dragTo(1, id);
    expect(owners()).toEqual([id, id]);
    await dragTo(1, '');
    expect(owners()).toEqual([undefined, undefined]);
    bench.store.undo();
    expect(owners()).toEqual([id, id]);
  });

  it('is chosen in the list, one or several', async () => {
    const list = await bench.show(ShapesPanel);
    const press = (n: number, shiftKey = false) => {
      list
        .one(`[aria-label="Choose shape ${n}"]`)
        .dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey }));
      return list.rest();
    };
    await press(1);
    await press(2, true);
    expect(list.all('[aria-pressed=true]').length).toBe(2);
    await press(2);
    expect(editor.chosen.map(({ id }) => id)).toEqual(['b']);
  });

  it('is a prism of some sides, and a hull of fewer corners, in one step each', async () => {
    const cylinder: Shape = {
      kind: 'cylinder',
      center: [0, 0, 0],
      rotation: [0, 0, 0, 1],
      halfHeight: 1,
      bottomRadius: 0.5,
      topRadius: 0.4,
    };
    bench.store.apply(replaceProxies([{ id: 'a', shape: cylinder }]));
    editor.choose('a');
    const page = await bench.show(ShapeActionsPanel);
    await page.press('Make a prism');
    const corners = () => shapes().map((shape) => (shape.kind === 'hull' ? shape.points.length / 3 : 0));
    expect([corners(), page.text.includes('24 corners')]).toEqual([[24], true]);
    expect(shapeVolume(shapes()[0]!)).toBeCloseTo(shapeVolume(cylinder), 6);
    await page.press('Reduce');
    expect(corners()[0]).toBeLessThanOrEqual(16);
    bench.store.undo();
    expect(corners()).toEqual([24]);
  });

  it('is mirrored over a face that is clicked, and copied along the run of chosen faces', async () => {
    editor.choose('a');
    const page = await bench.show(ShapeCopiesPanel);
    page.one<HTMLButtonElement>('[title^="Over the plane"]').click();
    const at: [number, number, number] = [4, 0, 0];
    bench.get(Picking).pick({ kind: 'face', at, normal: [1, 0, 0], edge: [at, at], part: 'n1' });
    await page.rest();
    expect(shapes().map((shape) => ownFrame(shape).center[0])).toEqual([2, 5, 6]);
    bench.store.undo();
    editor.choose('a');
    spyOnProperty(bench.get(MakeStore), 'faces').and.returnValue(Uint32Array.of(3));
    bench.jobs['runPlaces']!.and.rejectWith(new DecomposeError('These faces are no run.'));
    await bench.get(CopiesAlong).copy(2);
    expect(bench.said()).toContain('no run');
    bench.jobs['runPlaces']!.and.resolveTo([shifted([0, 0, 3]), shifted([0, 0, 6])]);
    await bench.get(CopiesAlong).copy(2);
    expect(bench.jobs['runPlaces']!.calls.mostRecent().args.slice(1, 3)).toEqual([
      Uint32Array.of(3),
      { at: [2, 0.5, 0.5], count: 2 },
    ]);
    expect(shapes().map((shape) => ownFrame(shape).center[2])).toEqual([0.5, 0, 3.5, 6.5]);
    expect(bench.store.document.proxies.filter(({ link }) => link).length).toBe(3);
  });

  it('has its numbers: sums and units are understood, and what is none says so', async () => {
    const page = await bench.show(ShapeNumbersPanel);
    expect(page.text).toBe('');
    editor.choose('a');
    await page.rest();
    expect(await type(page, 'Size x', '0.4+0.02')).toBe('0.42 m');
    expect(await type(page, 'Position y', '750 mm')).toBe('0.75 m');
    expect(await type(page, 'Rotation z', '30')).toBe('30°');
    const [shape] = shapes();
    expect(ownFrame(shape!).size[0]).toBeCloseTo(0.42, 12);
    expect(ownFrame(shape!).center).toEqual([2, 0.75, 0.5]);
    expect(await type(page, 'Size y', 'tall')).toBe('1 m');
    expect(bench.said()).toBe('“tall” is no number; type one, or a sum like 0.4+0.02.');
    expect(await type(page, 'Size y', '-3')).toBe('0.001 m');
    // A ball has no rotation, and two shapes have no numbers.
    editor.choose('b');
    await page.rest();
    expect(page.has('input[aria-label="Rotation x"]')).toBeFalse();
    editor.choose('a', { more: true });
    await page.rest();
    expect(page.has('input')).toBeFalse();
  });

  it('is duplicated, mirrored over the pivot, repeated side by side', async () => {
    editor.choose('a');
    const page = await bench.show(ShapeCopiesPanel);
    const press = async (label: string) => {
      page.one(`[aria-label="${label}"]`).click();
      await page.rest();
    };
    await page.press('Duplicate');
    expect(ownFrame(shapes()[2]!).center).toEqual([3, 0.5, 0.5]);
    bench.store.undo();
    editor.choose('a');
    await page.rest();
    await page.press('Pivot');
    await press('Mirror along x');
    const pivot = bench.store.document.pivot.position[0];
    expect(ownFrame(shapes()[2]!).center[0]).toBeCloseTo(2 * pivot - 2, 12);
    bench.store.undo();
    editor.choose('a');
    await page.rest();
    await page.type('Copies', '3');
    await press('Repeat along z');
    expect(
      shapes()
        .slice(2)
        .map((shape) => ownFrame(shape).center[2]),
    ).toEqual([1.5, 2.5, 3.5]);
  });

  it('is mirrored to four, which follow each other until one is taken out of the link', async () => {
    const middle = centreOf(artBounds(bench.store.document));
    bench.store.apply(
      replaceProxies([{ id: 'leg', shape: { kind: 'sphere', center: add(middle, [2, 0, 1]), radius: 0.1 } }]),
    );
    editor.choose('leg');
    const page = await bench.show(ShapeCopiesPanel);
    for (const label of ['Mirror along x', 'Mirror along z']) {
      page.one(`[aria-label="${label}"]`).click();
      await page.rest();
    }
    const places = () =>
      shapes().map((shape) =>
        subtract(ownFrame(shape).center, middle).map((v) => Math.round(v * 1e6) / 1e6 + 0),
      );
    expect(
      places()
        .map(([x, , z]) => `${x} ${z}`)
        .sort(),
    ).toEqual(['-2 -1', '-2 1', '2 -1', '2 1']);
    editor.choose('leg');
    editor.change((shape) => [moveShape(shape, [0, 0.5, 0])]);
    expect(places().map(([, y]) => y)).toEqual([0.5, 0.5, 0.5, 0.5]);
    await page.rest();
    await page.press('Unlink');
    editor.change((shape) => [moveShape(shape, [0, 0.5, 0])]);
    expect(places().map(([, y]) => y)).toEqual([1, 0.5, 0.5, 0.5]);
    // As many as asked round the axis.
    await page.type('Copies', '2');
    page.one('[aria-label="Repeat about y"]').click();
    await page.rest();
    const [leg, ...more] = [places()[0]!, ...places().slice(4)];
    expect(more.map(([x, , z]) => Math.hypot(x! - leg![0]!, z! - leg![2]!).toFixed(4))).toEqual([
      Math.sqrt(15).toFixed(4),
      Math.sqrt(15).toFixed(4),
    ]);
    bench.jobs['fixShapes']!.and.resolveTo(null);
    await page.press('Refit each to its own art');
    expect(bench.jobs['fixShapes']!.calls.mostRecent().args[2].fix).toBe('refit');
  });

  it('is given to a part and to the physics; hidden, locked and chosen by a box', async () => {
    const page = await bench.show(ShapesPanel);
    const view = bench.get(ViewSettingsStore);
    editor.chooseAll(['a', 'b']);
    await page.rest();
    const use = await bench.show(ShapeUsePanel);
    await use.choose('Moved by', 'The physics: simulated');
    await use.type('Density', '700');
    expect(bench.store.document.proxies.map(({ role, density }) => [role, density])).toEqual([
      ['simulated', 700],
      ['simulated', 700],
    ]);
    const part = bench.store.document.nodes[0]!;
    editor.choose('b');
    await use.rest();
    await use.choose('Belongs to', part.name);
    await page.rest();
    expect(page.all('.owner').map((each) => each.textContent!.trim())).toEqual([
      'The whole piece',
      part.name,
    ]);
    await page.press('Lock');
    // Locked, it is passed by: nothing is done to it.
    editor.remove();
    expect(bench.store.document.proxies.length).toBe(2);
    editor.choose('a');
    await page.rest();
    await page.press('Alone');
    expect([...view.settings.shapesHidden]).toEqual(['b']);
    await page.press('Show all');
    expect(view.settings.shapesHidden.size).toBe(0);
    await page.press('Choose by box');
    expect(view.settings.boxingShapes).toBeTrue();
    editor.chooseAll(['b'], 'add');
    expect(bench.selection.selected.proxies.size).toBe(2);
    editor.chooseAll(['b'], 'take');
    expect([...bench.selection.selected.proxies]).toEqual(['a']);
  });

  it('touches as one of the yard’s surfaces, weighs by it, and keeps a name that the rules do not have', async () => {
    const piece = postPiece();
    const rules = {
      ...piece.yard.rules,
      surfaces: [{ name: 'wet oak', friction: 0.4, restitution: 0, density: 700 }],
      responses: ['blocks deckhands'],
    };
    bench = await testBench({ ...piece, yard: { ...piece.yard, rules } });
    editor = bench.get(ShapeEditor);
    bench.store.apply(
      replaceProxies([{ id: 'a', shape: box(2), role: 'simulated', response: 'old response' }]),
    );
    editor.choose('a');
    const page = await bench.show(ShapeUsePanel);
    await page.choose('Surface of contact', 'wet oak');
    expect(page.text).toContain('700 by its surface');
    await page.choose('Response', 'blocks deckhands');
    const [shape] = bench.store.document.proxies;
    expect([shape!.surface, shape!.response, shape!.density]).toEqual([
      'wet oak',
      'blocks deckhands',
      undefined,
    ]);
    bench.store.undo();
    await page.rest();
    expect(page.one('[title="old response, not in the rules"]')).toBeTruthy();
    await page.choose('Surface of contact', 'None');
    expect(bench.store.document.proxies[0]!.surface).toBeUndefined();
  });

  it('is cut in two, grown, shrunk, joined and removed', async () => {
    editor.choose('a');
    const page = await bench.show(ShapeActionsPanel);
    page.one('[aria-label="Cut across y"]').click();
    await page.rest();
    expect(shapes().length).toBe(3);
    expect(shapeVolume(shapes()[0]!)).toBeCloseTo(0.5, 12);
    await page.press('Grow');
    expect(ownFrame(shapes()[0]!).size[0]).toBeCloseTo(1.02, 12);
    bench.store.undo();
    await page.rest();
    await type(page, 'Grow by', '2 m');
    await page.press('Shrink');
    expect(bench.said()).toBe('2 shapes would vanish, and stayed as they were; shrink by less.');
    const [first, , third] = bench.store.document.proxies.map(({ id }) => id);
    editor.choose(first!);
    editor.choose(third!, { more: true });
    await page.rest();
    await page.press('Join 2 in a hull');
    expect(shapes().length).toBe(2);
    expect(shapeVolume(shapes()[0]!)).toBeCloseTo(1, 9);
    await page.press('Remove');
    expect(shapes().length).toBe(1);
    expect(page.text.trim()).toBe('');
  });

  it('that would be too thin when cut stays whole, with a word', async () => {
    const thin: Shape = {
      kind: 'box',
      center: [2, 0, 0],
      halfExtents: [1, 0.0006, 1],
      rotation: [0, 0, 0, 1],
    };
    bench.store.apply(replaceProxies([{ id: 'a', shape: thin }]));
    editor.choose('a');
    const page = await bench.show(ShapeActionsPanel);
    page.one('[aria-label="Cut across y"]').click();
    await page.rest();
    expect([shapes(), bench.said()]).toEqual([
      [thin],
      '1 shape would be too thin when cut there, and stayed whole.',
    ]);
  });

  it('is shown every kind with its figures, the closest marked, and takes the one that is pressed', async () => {
    const ball: Shape = { kind: 'sphere', center: [2, 0.5, 0.5], radius: 0.5 };
    bench.jobs['shapesAround']!.and.resolveTo([
      { kind: 'smallest-box', shape: box(2), volume: 1, deviation: 0.0125 },
      { kind: 'sphere', shape: ball, volume: 0.52, deviation: 0.001 },
    ]);
    const page = await bench.show(AroundPanel);
    expect(page.has('[data-testid=ask-around]')).toBeFalse();
    editor.choose('a');
    await page.rest();
    await page.press('Other kinds for the chosen shape');
    expect(page.all('[data-around]').map((row) => row.textContent!.replace(/\s+/g, ' ').trim())).toEqual([
      jasmine.stringMatching(/Smallest box 12\.5 mm off$/),
      jasmine.stringMatching(/Sphere closest ?1\.0 mm off$/),
    ]);
    await page.press('Sphere');
    expect(shapes()[0]).toEqual(ball);
    expect(page.has('[data-around]')).toBeFalse();
  });

  it('gets a belly in one hull, or a waist in two; a ball has none', async () => {
    editor.choose('a');
    const page = await bench.show(ShapeActionsPanel);
    await page.press('Belly');
    expect(shapes().map(({ kind }) => kind)).toEqual(['hull', 'sphere']);
    expect(shapeVolume(shapes()[0]!)).toBeGreaterThan(1);
    bench.store.undo();
    await page.type('Ring scaled to', '60');
    await page.press('Waist, in two');
    expect(shapes().length).toBe(3);
    bench.store.undo();
    editor.choose('b');
    await page.rest();
    await page.press('Waist');
    expect(shapes().map(({ kind }) => kind)).toEqual(['box', 'sphere']);
    expect(bench.said()).toContain('A ring lies across a cylinder, a box or a hull');
  });
});
