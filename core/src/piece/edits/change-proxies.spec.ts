import { cutShape } from '../../edit-shape/index.js';
import { moveShape, type Shape } from '../../shape/index.js';
import { boxMesh, sceneOf } from '../../testing/meshes.js';
import { pieceOf } from '../../testing/documents.js';
import { applyEdit, replaceProxies } from '../index.js';
import { addProxies, changeProxies, mergeProxies } from './change-proxies.js';

const box = (x: number): Shape => ({
  kind: 'box',
  center: [x, 0, 0],
  halfExtents: [1, 1, 1],
  rotation: [0, 0, 0, 1],
});
const piece = () => {
  const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
  const part = document.nodes[0]!.id;
  // Two of a part, one of the piece; “s4” is taken already.
  const proxies = [
    { id: 's4', shape: box(0), part },
    { id: 'b', shape: box(5), part },
    { id: 'c', shape: box(9) },
  ];
  return { part, document: applyEdit(document, replaceProxies(proxies)) };
};

describe('proxies changed by hand', () => {
  it('are only those that were meant, and only what is new is said', () => {
    const { document } = piece();
    const edit = changeProxies(document, new Set(['b']), (shape) => [moveShape(shape, [0, 1, 0])])!;
    expect([edit.changed.map(({ id }) => id), edit.removed]).toEqual([['b'], []]);
    expect(applyEdit(document, edit).proxies.map(({ shape }) => 'center' in shape && shape.center)).toEqual([
      [0, 0, 0],
      [5, 1, 0],
      [9, 0, 0],
    ]);
    expect(changeProxies(document, new Set(['b', 'nobody']), (shape) => [shape])).toBeNull();
  });

  it('fall into more of the same part, with ids that nothing has', () => {
    const { document, part } = piece();
    const edit = changeProxies(document, new Set(['s4', 'c']), (shape) => {
      const { below, above } = cutShape(shape, { point: [0, 0, 0], normal: [0, 1, 0] });
      return [below!, above!];
    })!;
    const { proxies } = applyEdit(document, edit);
    expect(proxies.map(({ id }) => id)).toEqual(['s4', 'b', 'c', 's5', 's6']);
    expect(proxies.map((proxy) => proxy.part)).toEqual([part, part, undefined, part, undefined]);
  });

  it('go when nothing is put in their place, and are added beside the others', () => {
    const { document, part } = piece();
    const gone = changeProxies(document, new Set(['c']), () => [])!;
    expect(applyEdit(document, gone).proxies.map(({ id }) => id)).toEqual(['s4', 'b']);
    const added = applyEdit(document, addProxies(document, [box(20), box(30)], part));
    expect(added.proxies.slice(3).map(({ id, part: owner }) => [id, owner])).toEqual([
      ['s5', part],
      ['s6', part],
    ]);
  });

  it('become one that belongs where all of them did', () => {
    const { document, part } = piece();
    const owner = (...ids: string[]) => {
      const { proxies } = applyEdit(document, mergeProxies(document, new Set(ids), box(1))!);
      expect(proxies.length).toBe(document.proxies.length - ids.length + 1);
      return proxies.find(({ id }) => id === ids[0])!.part;
    };
    expect([owner('s4', 'b'), owner('s4', 'c')]).toEqual([part, undefined]);
    expect(mergeProxies(document, new Set(['nobody']), box(1))).toBeNull();
  });
});
