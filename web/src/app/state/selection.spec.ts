import { stripArt } from '../testing/strip';
import { shown } from '../testing/shown';
import { Selection } from './selection';

const marks = (bits: string) => Uint8Array.from([...bits].map(Number));
const named = (ids: string[]) => ids.map((id) => ({ id }));
const things = (parts: string[], proxies: string[], clearances: string[] = []) =>
  ({ nodes: named(parts), proxies: named(proxies), clearances: named(clearances) }) as never;

describe('Selection', () => {
  let selection: Selection;
  const faces = () => [...(shown(selection.faces$)?.faces ?? [])].join('');
  beforeEach(() => {
    selection = new Selection();
    selection.setPiece(1, things(['a', 'b'], ['p', 'q']));
    selection.setArt(stripArt());
  });

  it('holds faces, parts and proxies beside each other, for all steps alike', () => {
    selection.chooseFaces(marks('10000000'), 'only');
    selection.chooseFaces(marks('00010000'), 'add');
    selection.chooseParts(new Set(['a']));
    selection.chooseProxies(new Set(['p']));
    expect(faces()).toBe('10010000');
    expect([...selection.selected.parts, ...selection.selected.proxies]).toEqual(['a', 'p']);
    expect(selection.facesByPart()[0]!.faces).toEqual(Uint32Array.of(0, 3));
  });

  it('is cleared at once, and says whether there was anything', () => {
    expect(selection.clear()).toBeFalse();
    selection.chooseParts(new Set(['a']));
    expect(selection.clear()).toBeTrue();
    expect(selection.selected.parts.size).toBe(0);
  });

  it('lets go of what is gone, and of everything when another piece comes', () => {
    selection.chooseParts(new Set(['a', 'b']));
    selection.chooseProxies(new Set(['p', 'q']));
    selection.setPiece(1, things(['a'], ['q']));
    expect([[...selection.selected.parts], [...selection.selected.proxies]]).toEqual([['a'], ['q']]);
    const before = selection.selected;
    selection.setPiece(1, things(['a'], ['q']));
    expect(selection.selected).toBe(before);
    selection.chooseClearance('c1');
    expect(selection.selected.proxies.size).toBe(0);
    selection.setPiece(1, things(['a'], ['q'], ['c1']));
    expect(selection.selected.clearance).toBe('c1');
    selection.setPiece(1, things(['a'], ['q']));
    expect(selection.selected.clearance).toBeNull();
    selection.point('q');
    selection.setPiece(2, things(['a'], ['q']));
    expect(selection.selected.parts.size).toBe(0);
    expect(shown(selection.pointed$)).toBeNull();
  });

  it('lets go of faces when other art is drawn: they have other numbers there', () => {
    selection.chooseFaces(marks('10000000'), 'only');
    selection.chooseRun(marks('01000000'), [{ part: 'a', sides: Uint32Array.of(1) }], 'only');
    expect(selection.lastRun.length).toBe(1);
    selection.setArt(stripArt());
    expect(faces()).toBe('');
    expect(selection.lastRun).toEqual([]);
    selection.setArt(null);
    selection.chooseFaces(marks('1'), 'only');
    expect(faces()).toBe('');
    expect(selection.facesByPart()).toEqual([]);
  });

  it('grows only into what can be chosen', () => {
    selection.chooseFaces(marks('00000100'), 'only');
    selection.changeFaces('grow', marks('11111100'));
    expect(faces()).toBe('00001100');
    selection.changeFaces('invert', marks('11110000'));
    expect(faces()).toBe('11110000');
    selection.clearFaces();
    expect(faces()).toBe('');
  });
});
