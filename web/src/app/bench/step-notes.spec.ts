import { applyEdit, PREFIX_TAGS } from '@yard-brace/core';
import { postDocument } from '../testing/post';
import { figuresOf } from './set-figures';
import { stepNote } from './step-notes';

const post = applyEdit(postDocument(2), { kind: 'rename-mesh', name: 'Post_02' });
const box = {
  kind: 'box' as const,
  center: [0, 0, 0] as [number, number, number],
  halfExtents: [1, 1, 1] as [number, number, number],
  rotation: [0, 0, 0, 1] as [number, number, number, number],
};
const boxed = applyEdit(post, {
  kind: 'set-proxies',
  proxies: [
    { id: 'a', shape: box },
    { id: 'b', shape: { kind: 'sphere', center: [0, 0, 0], radius: 1 } },
  ],
});
const note = (
  step: Parameters<typeof stepNote>[0],
  document = post,
  delivery: Parameters<typeof stepNote>[3] = null,
  proposed: number | null = null,
) => stepNote(step, document, PREFIX_TAGS, delivery, proposed);

describe('the notes on the card', () => {
  it('say what there is before anything is done', () => {
    expect(note('intake')).toBe('post.obj, 4 triangles');
    expect(note('parts')).toBe('1 part, 0 materials');
    expect(note('size')).toBe('2.00 × 2.00 × 2.00 m, scale 1');
    const scaled = {
      ...post,
      nodes: [{ ...post.nodes[0]!, scale: [0.01, 0.01, 0.01] as [number, number, number] }],
    };
    expect(note('size', scaled)).toContain('scale 0.01');
    expect(note('pivot')).toBe('as it came, 1.41 m from the base centre');
    expect(note('proxies')).toBe('no shapes yet');
    expect(note('names')).toBe('Post_02');
    expect(note('delivery')).toBe('not delivered yet');
  });

  it('and after', () => {
    expect(
      note('pivot', applyEdit(post, { kind: 'set-pivot', anchor: 'base-centre', position: [1, 0, 1] })),
    ).toBe('base centre');
    expect(
      note('pivot', applyEdit(post, { kind: 'set-pivot', anchor: 'numeric', position: [1, 0, 1] })),
    ).toBe('by numbers, at the base centre');
    expect(note('proxies', boxed)).toBe('2 shapes, 8 corners');
    expect(note('proxies', boxed, null, 12)).toBe('12 shapes proposed');
    expect(note('names', boxed)).toBe('UBX_Post_02_01 … 02');
    const at = new Date().toISOString();
    expect(note('delivery', boxed, { id: 1, version: 1, agreed: true, at })).toMatch(
      /^left \d\d:\d\d, read back as drawn$/,
    );
    expect(note('delivery', boxed, { id: 1, version: 1, agreed: false, at })).toContain(
      'read back differently',
    );
  });
});

describe('the figures of a set', () => {
  it('add up shapes, corners and volumes, beside the art when it is closed', () => {
    const figures = figuresOf(boxed, boxed.proxies);
    expect([figures.shapes, figures.corners]).toEqual([2, 8]);
    expect(figures.volume).toBeCloseTo(8 + (4 / 3) * Math.PI, 9);
    expect(figures.artVolume).toBeCloseTo(8 / 6, 9);
    expect(figuresOf({ ...boxed, whole: { ...boxed.whole, openEdges: 3 } }, []).artVolume).toBeNull();
  });
});
