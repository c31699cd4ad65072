import { stripArt } from '../testing/strip';
import type { ArtOfPiece } from './art-to-draw';
import {
  changedSelection,
  choosableFaces,
  type ChooseBy,
  combined,
  facesByPart,
  facesFromClick,
  measured,
  onlyWhere,
} from './face-selection';

const { art, document } = stripArt();
const text = (faces: Uint8Array) => [...faces].join('');
const marks = (bits: string) => Uint8Array.from([...bits].map(Number));
const all = { hidden: new Set<string>(), alone: null, cut: null };

describe('choosing faces', () => {
  it('takes a face, its shell, its flat region or its material', () => {
    const by = (way: ChooseBy, face = 0) => text(facesFromClick(art, face, way, 10));
    expect([by('face', 3), by('shell'), by('flat'), by('material', 7)]).toEqual([
      '00010000',
      '11111111',
      '11110000',
      '00000011',
    ]);
    expect(text(facesFromClick(art, 0, 'flat', 100))).toBe('11111111');
  });

  it('adds to what was chosen, takes from it, or takes its place', () => {
    const [before, faces] = [marks('11000000'), marks('01100000')];
    expect(text(combined(before, faces, 'add'))).toBe('11100000');
    expect(text(combined(before, faces, 'take'))).toBe('10000000');
    expect(text(combined(before, faces, 'only'))).toBe('01100000');
    expect(text(combined(null, faces, 'add'))).toBe('01100000');
    expect(text(combined(null, faces, 'take'))).toBe('00000000');
  });

  it('grows, shrinks and inverts', () => {
    expect(text(changedSelection(art, marks('00000100'), 'grow'))).toBe('00001110');
    expect(text(changedSelection(art, marks('00001110'), 'shrink'))).toBe('00000100');
    expect(text(changedSelection(art, marks('00000100'), 'invert'))).toBe('11111011');
    expect(text(changedSelection(art, null, 'invert'))).toBe('11111111');
  });

  it('never takes what is hidden, faint or cut away', () => {
    const piece: ArtOfPiece = {
      art: { ...art, part: Uint32Array.of(0, 0, 0, 0, 1, 1, 1, 1) },
      document: { ...document, nodes: [document.nodes[0]!, { ...document.nodes[0]!, id: 'n2' }] },
    };
    expect(choosableFaces(piece, all)).toBeNull();
    expect(text(choosableFaces(piece, { ...all, hidden: new Set(['n2']) })!)).toBe('11110000');
    expect(text(choosableFaces(piece, { ...all, alone: new Set(['n2']) })!)).toBe('00001111');
    // Kept is what lies beyond x = 11: the strip begins at 10.
    const cut = { normal: [1, 0, 0] as [number, number, number], offset: 11 };
    expect(text(choosableFaces(piece, { ...all, cut })!)).toBe('00111111');
    expect(text(onlyWhere(marks('11111111'), choosableFaces(piece, { ...all, cut })))).toBe('00111111');
    expect(text(onlyWhere(marks('10101010'), null))).toBe('10101010');
  });

  it('measures what is chosen where it stands', () => {
    expect(measured(art, marks('11110000'))).toEqual({
      faces: marks('11110000'),
      count: 4,
      area: 2,
      min: [10, 0, 0],
      max: [12, 0, 1],
    });
    expect(measured(art, marks('00000000'))).toBeNull();
  });

  it('names faces by part, as operations take them', () => {
    expect(facesByPart(art, document, marks('01000001'))).toEqual([
      { part: document.nodes[0]!.id, faces: Uint32Array.of(1, 7) },
    ]);
    expect(facesByPart(art, document, marks('00000000'))).toEqual([]);
  });
});
