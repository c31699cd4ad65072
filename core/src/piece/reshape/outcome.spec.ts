import { pieceOf } from '../../testing/documents.js';
import { boxMesh, sceneOf } from '../../testing/meshes.js';
import { intentOf } from './intent-of.js';
import { operate } from './operate.js';
import type { Outcome } from './outcome.js';
import { outcomeText } from './outcome-text.js';

/** One outcome of every operation, and the sentence that a person reads. */
const SENTENCES: [Outcome, string][] = [
  [
    { op: 'reparent', part: 'leaf', parent: null, shearBaked: false },
    '“leaf” becomes a child of the root and does not move.',
  ],
  [
    { op: 'reparent', part: 'leaf', parent: 'frame', shearBaked: true },
    '“leaf” becomes a child of “frame” and does not move; its shear is baked into the vertices.',
  ],
  [{ op: 'group', parts: 2, group: 'post' }, '2 parts grouped under “post”.'],
  [{ op: 'delete', parts: 1 }, '1 part deleted.'],
  [{ op: 'duplicate', parts: 3 }, '3 parts duplicated.'],
  [{ op: 'combine', parts: 2, into: 'post' }, '2 parts combined into “post”.'],
  [{ op: 'set-aside', parts: 1, aside: true }, '1 part is set aside and no longer part of the art.'],
  [{ op: 'set-aside', parts: 2, aside: false }, '2 parts are part of the art again.'],
  [
    { op: 'put-back', moved: ['leaf'], metres: 1.5, stayed: 2 },
    '“leaf” is back in place, from up to 1.5000 m away; 2 others are there already.',
  ],
  [{ op: 'put-back', moved: [], metres: 0, stayed: 3 }, 'Every part is where it was delivered from.'],
  [
    { op: 'move', parts: [], metres: 1.5, degrees: 90, scale: [1, 1, 1] },
    'The piece is moved by 1.50 m, rotated by 90.0°.',
  ],
  [
    { op: 'move', parts: ['a', 'b'], metres: 0, degrees: 0, scale: [1, 2, 1] },
    '“a”, “b” are scaled by 1, 2, 1.',
  ],
  [{ op: 'mirror', parts: ['a'], copies: ['a_01'] }, '“a” is mirrored: a_01 is new.'],
  [{ op: 'mirror', parts: [], copies: [] }, 'The piece is mirrored; faces look outward as before.'],
  [{ op: 'repeat', count: 3, metres: 2, asOne: true }, '3 in a row, 2.00 m apart, as one.'],
  [{ op: 'bend', parts: 1, degrees: 90, divisions: 8 }, '1 part bent by 90° in 8 divisions.'],
  [{ op: 'stretch', from: 2, to: 3 }, 'What was 2.00 m long is 3.00 m now; the ends keep their form.'],
  [{ op: 'lay-along', bends: 2, metres: 5 }, 'Laid along 5.00 m with 2 bends.'],
  [{ op: 'trim', parts: 1 }, '1 part cut off at the plane.'],
  [
    { op: 'split-shells', parts: ['a'], shells: 2, specks: 3, made: ['a_01'] },
    '“a” splits into 2 shells: a_01 is new; 3 specks stay with what is nearest.',
  ],
  [
    { op: 'split-materials', parts: ['a'], materials: 6, made: ['a', 'b', 'c', 'd', 'e'] },
    '“a” splits by 6 materials: a, b, c, d, e are new.',
  ],
  [{ op: 'split-faces', made: ['rail'] }, 'The chosen faces become a part: rail is new.'],
  [{ op: 'split-plane', made: ['a', 'b'] }, 'The plane cuts off a, b.'],
  [
    { op: 'weld', metres: 0.0002, before: 1204, after: 8, bordersClosed: 1 },
    'Welding 0.20 mm: 1,204 vertices become 8, 1 border closes.',
  ],
  [{ op: 'fill-holes', holes: 1, faces: 4 }, '1 hole filled with 4 faces.'],
  [
    { op: 'remove-faces', faces: { doubled: 1, specks: 2 }, unusedVertices: 1 },
    '1 duplicate face, 2 loose faces, 1 unused vertex removed.',
  ],
  [{ op: 'delete-faces', faces: 2 }, '2 faces deleted.'],
  [{ op: 'face-outward', faces: 1 }, '1 face flipped to face outward.'],
  [{ op: 'flip', faces: 12 }, '12 faces flipped.'],
  [{ op: 'vertices', before: 24, after: 8 }, '24 vertices become 8; nothing moved.'],
  [{ op: 'join-borders', pairs: 1, faces: 18 }, '1 pair of borders joined with 18 faces.'],
  [{ op: 'normals', degrees: 30 }, 'Normals are recomputed: edges above 30° are hard.'],
  [{ op: 'mark-edges', edges: 2, as: 'hard' }, '2 edges are hard; all other normals stay as they were.'],
  [
    { op: 'reduce', before: 2000, after: 500, metres: 0.0012, skipped: ['a'] },
    '2,000 triangles become 500, at most 1.2 mm off; “a” would be torn open and stays as it is.',
  ],
  [{ op: 'add-material', material: 'tar' }, '“tar” is a new material; no face has it yet.'],
  [{ op: 'remove-materials', materials: 2 }, '2 unused materials removed.'],
  [{ op: 'merge-materials', materials: 1, into: 'oak' }, '1 material merged into “oak”.'],
  [{ op: 'order-materials', names: ['oak', 'iron'] }, 'Materials are ordered oak, iron.'],
  [{ op: 'assign-material', faces: 1, material: 'oak' }, '1 face takes “oak”.'],
  [{ op: 'project-uvs', parts: 1, metresPerPicture: 2 }, '1 part has new UVs at 2.00 m a picture.'],
  [{ op: 'uv-density', parts: 2, perMetre: 0.5 }, 'UVs of 2 parts are at 0.5 picture widths a metre.'],
  [
    { op: 'unwrap', parts: 1, islands: 6, side: 1024 },
    '1 part has a second UV set of 6 islands, for a picture of 1,024 texels a side.',
  ],
  [{ op: 'remove-uvs', parts: 1, set: 1 }, 'UV set 2 removed from 1 part.'],
  [
    { op: 'bake', nodes: 2, mirrored: 1, sheared: 0 },
    '2 nodes baked (1 mirrored, faces flipped); nothing moved.',
  ],
];

describe('what an operation came to', () => {
  it('is one sentence with its figures', () => {
    for (const [outcome, sentence] of SENTENCES) expect(outcomeText(outcome)).toBe(sentence);
  });

  it('is beside the intent it came from, which names parts so that they mean something elsewhere', async () => {
    const { document, meshOf } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const part = document.nodes[0]!;
    const { edit } = await operate(document, { op: 'weld', parts: [part.id], metres: 0.001 }, meshOf);
    expect(edit.op).toBe('weld');
    expect(edit.intent).toEqual({
      op: 'weld',
      parts: { by: 'name', names: [part.name] },
      parameters: { metres: 0.001 },
    });
    expect(
      intentOf(document, { op: 'bake', parts: [], keepPosition: true, keepRotation: false })?.parts,
    ).toEqual({ by: 'all' });
    const faces = [{ part: part.id, faces: Uint32Array.of(1) }];
    expect(intentOf(document, { op: 'delete-faces', faces })).toBeNull();
  });
});
