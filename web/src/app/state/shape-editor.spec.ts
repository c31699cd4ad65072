import { moveShape, replaceProxies, type Shape } from '@yard-brace/core';
import { type TestBench, testBench } from '../testing/bench';
import { settle } from '../testing/hand-clock';
import { shown } from '../testing/shown';
import { gate } from '../testing/stand-in-worker';
import { DragExcess } from './drag-excess';
import { InHand } from './in-hand';
import { ShapeEditor } from './shape-editor';

const box = (x: number): Shape => ({
  kind: 'box',
  center: [x, 0.5, 0.5],
  halfExtents: [0.5, 0.5, 0.5],
  rotation: [0, 0, 0, 1],
});
const up = (shape: Shape) => [moveShape(shape, [0, 1, 0])];

describe('shapes changed by hand', () => {
  let bench: TestBench;
  let editor: ShapeEditor;
  const tabs = () => shown(bench.get(InHand).inHand$)?.handles ?? [];
  const kept = () => bench.store.document.proxies;
  const heights = () => kept().map(({ shape }) => 'center' in shape && shape.center[1]);
  const chosen = () => editor.chosen.map(({ id }) => id);
  beforeEach(async () => {
    bench = await testBench();
    editor = bench.get(ShapeEditor);
    bench.store.apply(replaceProxies(['a', 'b', 'c'].map((id, i) => ({ id, shape: box(i * 2) }))));
  });

  it('are chosen one instead of the other, one more with Shift, and none beside them', () => {
    editor.choose('a');
    editor.choose('b');
    expect(chosen()).toEqual(['b']);
    editor.choose('c', { more: true });
    expect(chosen()).toEqual(['b', 'c']);
    editor.choose('b', { more: true });
    expect(chosen()).toEqual(['c']);
    editor.choose(null, { more: true });
    expect(chosen()).toEqual(['c']);
    editor.choose(null);
    expect(chosen()).toEqual([]);
  });

  it('change alone, and one step undoes it', () => {
    editor.choose('b');
    editor.change(up);
    expect(heights()).toEqual([0.5, 1.5, 0.5]);
    bench.store.undo();
    expect(heights()).toEqual([0.5, 0.5, 0.5]);
  });

  it('are copied, and the copies are chosen', () => {
    editor.choose('a');
    editor.choose('c', { more: true });
    editor.copy(up);
    expect(kept().length).toBe(5);
    expect(chosen()).toEqual(
      kept()
        .slice(3)
        .map(({ id }) => id),
    );
    expect(heights().slice(3)).toEqual([1.5, 1.5]);
  });

  it('are all chosen when one falls into several, so that the next cut goes through all of them', () => {
    editor.choose('b');
    for (const count of [2, 4, 8]) {
      editor.change((shape) => [shape, ...up(shape)]);
      expect(chosen().length).toBe(count);
    }
    expect(chosen()).not.toContain('a');
  });

  it('are joined into the hull round them, within the corners that the target takes', () => {
    editor.choose('a');
    editor.choose('b', { more: true });
    editor.join();
    expect(kept().map(({ id }) => id)).toEqual(['a', 'c']);
    const { shape } = kept()[0]!;
    expect(shape.kind === 'hull' && shape.points.length / 3).toBe(8);
  });

  it('are dragged in one step, and Escape takes it back', () => {
    editor.choose('a');
    const before = kept();
    editor.show({ shapes: new Map([['a', up(box(0))[0]!]]), handle: '+y', said: '1.00 m' });
    expect([kept(), shown(editor.drag$)?.said]).toEqual([before, '1.00 m']);
    // Tabs go with what is dragged.
    expect(tabs().find(({ id }) => id === '+y')!.at[1]).toBe(2);
    editor.cancel();
    expect([kept(), shown(editor.drag$)]).toEqual([before, null]);
    editor.drop();
    expect(kept()).toEqual(before);
    editor.show({ shapes: new Map([['a', up(box(0))[0]!]]), handle: '+y', said: '' });
    editor.drop();
    expect([heights(), shown(editor.drag$)]).toEqual([[1.5, 0.5, 0.5], null]);
    bench.store.undo();
    expect(heights()).toEqual([0.5, 0.5, 0.5]);
  });

  it('are not in the hand while something is proposed, or once they are gone', () => {
    editor.choose('a');
    expect(tabs().length).toBe(6);
    editor.choose('b', { more: true });
    expect(tabs()).toEqual([]);
    bench.proposals.propose({ title: 'Other', edit: replaceProxies([]), source: 'ladder' });
    expect([editor.chosen, shown(editor.chosen$)]).toEqual([[], []]);
    editor.remove();
    bench.proposals.discard();
    expect(kept().length).toBe(3);
    editor.remove();
    expect([kept().map(({ id }) => id), chosen()]).toEqual([['c'], []]);
  });

  it('stay as they were when the piece could not be stored, with a word', () => {
    const before = kept();
    editor.choose('a');
    editor.copy((shape) => Array.from({ length: 1022 }, () => shape));
    expect(bench.said()).toBe('A piece has at most 1,024 shapes, and this would make 1,025; make fewer.');
    editor.change((shape) => [moveShape(shape, [NaN, 0, 0])]);
    expect(bench.said()).toContain('without size or place');
    expect(kept()).toBe(before);
    editor.copy((shape) => Array.from({ length: 1021 }, () => shape));
    expect(kept().length).toBe(1024);
  });

  it('are caught by the faces of the others, by their numbers, not by their own', () => {
    const names = editor.planesAcross([1, 0, 0], new Set(['a'])).map(({ name }) => name);
    expect(names).toEqual(['face of 2', 'face of 2', 'face of 3', 'face of 3']);
  });

  it('are measured while one is dragged: the last place asked for, nothing beside it, and nothing after', async () => {
    const figures = bench.get(DragExcess);
    const excess = () => shown(figures.excess$);
    const first = gate();
    bench.jobs['shapeExcess']!.and.returnValues(
      first.opened.then(() => 0.1),
      Promise.resolve(0.3),
    );
    const at = (x: number) => editor.show({ shapes: new Map([['a', box(x)]]), handle: null, said: '' });
    at(1);
    at(2);
    at(3);
    first.open();
    await settle();
    await bench.clock.move(100);
    const asked = bench.jobs['shapeExcess']!.calls.allArgs().map(
      ([, , shape]) => (shape as { center: number[] }).center[0],
    );
    expect([asked, excess()]).toEqual([[1, 3], 0.3]);
    editor.show({
      shapes: new Map([
        ['a', box(1)],
        ['b', box(2)],
      ]),
      handle: null,
      said: '',
    });
    expect(excess()).toBeNull();
    editor.show({ shapes: new Map([['opening c1', box(1)]]), handle: null, said: '' });
    await bench.clock.move(1000);
    expect([bench.jobs['shapeExcess']!.calls.count(), excess()]).toEqual([2, null]);
  });
});
