import { type SceneNote, sceneNoteSchema, sceneNoteText } from './scene-note.js';

const NOTES: [SceneNote, RegExp][] = [
  [
    { about: 'picture', picture: 'a.png', material: 'oak', why: 'missing' },
    /“a.png” of material “oak” is not among/,
  ],
  [
    { about: 'picture', picture: 'a.png', material: null, why: 'unreadable' },
    /^Picture “a.png” is no PNG, JPEG or WebP\.$/,
  ],
  [{ about: 'material-library', library: 'a.mtl' }, /“a.mtl” is not among the files/],
  [{ about: 'material-values', material: 'oak' }, /usual ones stand in/],
  [{ about: 'uv-transforms', material: 'oak' }, /all follow the first/],
  [{ about: 'up-axis', axis: 'Z' }, /has Z up; it was rotated to Y up/],
  [{ about: 'unit', metres: 0.0254 }, /unit is 0\.0254 m/],
  [{ about: 'elements-ignored', element: 'edge', count: 1204 }, /^1,204 “edge” ignored\.$/],
  [{ about: 'bytes-ignored', bytes: 1 }, /^1 byte after/],
  [{ about: 'attributes-ignored', triangles: 2 }, /of 2 triangles ignored/],
  [{ about: 'collision-tag', node: 'UBX_a', kind: 'box', found: 'flat' }, /is flat; it was left as art/],
  [{ about: 'collision-tag', node: 'UBX_a', kind: 'box', found: 'other-kind' }, /imported as a hull/],
  [{ about: 'collision-tag', node: 'UCX_a', kind: 'hull', found: 'hollow' }, /its hollow is filled/],
  [{ about: 'collision-tag', node: 'UCX_a', kind: 'hull', found: 'caves-in' }, /kept as a surface/],
  [
    { about: 'orphan-proxies', names: ['a', 'b', 'c', 'd', 'e', 'f'] },
    /^6 proxies belong.*a, b, c, d and 2 more\.$/,
  ],
  [{ about: 'lines-ignored', lines: 1, first: 7 }, /^1 line that does not belong.*line 7\.$/],
  [{ about: 'lines-ignored', lines: 1200, first: 1001 }, /^1,200 lines.*the first is line 1,001\.$/],
  [{ about: 'decimal-commas' }, /decimal commas/],
  [
    { about: 'attribute', mesh: 'a', attribute: 'UVs', wrong: 'too-few' },
    /^UVs of “a” were too few; they were left out/,
  ],
  [{ about: 'orphan-proxies', names: ['a'] }, /^A proxy belongs.*was set aside: a\.$/],
];

describe('what a reader has to say of a file', () => {
  it('is stored as values and read as one sentence each', () => {
    for (const [note, sentence] of NOTES) {
      expect(sceneNoteSchema.parse(JSON.parse(JSON.stringify(note)))).toEqual(note);
      expect(sceneNoteText(note)).toMatch(sentence);
    }
  });

  it('that earlier versions stored as a sentence is that sentence still', () => {
    const old = sceneNoteSchema.parse('Picture “gone.png” is not among the files.');
    expect(old).toEqual({ about: 'text', text: 'Picture “gone.png” is not among the files.' });
    expect(sceneNoteText(old)).toBe('Picture “gone.png” is not among the files.');
    expect(sceneNoteSchema.safeParse({ about: 'weather' }).success).toBeFalse();
  });
});
