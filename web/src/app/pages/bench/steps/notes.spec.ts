import { applyEdit, PREFIX_TAGS, pivotEdit, replaceProxies } from '@yard-brace/core';
import { postDocument } from '../../../testing/post';
import {
  deliveryNote,
  intakeNote,
  namesNote,
  partsNote,
  pivotNote,
  proxiesNote,
  sizeNote,
  trialNote,
} from './notes';
import type { NoteContext } from './step';

const post = applyEdit(postDocument(2), { kind: 'rename-mesh', name: 'Post_02' });
const box = {
  kind: 'box' as const,
  center: [0, 0, 0] as [number, number, number],
  halfExtents: [1, 1, 1] as [number, number, number],
  rotation: [0, 0, 0, 1] as [number, number, number, number],
};
const boxed = applyEdit(
  post,
  replaceProxies([
    { id: 'a', shape: box },
    { id: 'b', shape: { kind: 'sphere', center: [0, 0, 0], radius: 1 } },
  ]),
);
const of = (document = post, more: Partial<NoteContext> = {}): NoteContext => ({
  document,
  profile: PREFIX_TAGS,
  lastDelivery: null,
  walked: [],
  proposedShapes: null,
  ...more,
});

describe('the notes on the card', () => {
  it('say what there is before anything is done', () => {
    expect(intakeNote(of())).toBe('post.obj, 4 triangles');
    expect(partsNote(of())).toBe('1 part, 0 materials');
    expect(sizeNote(of())).toBe('2.00 × 2.00 × 2.00 m, scale 1');
    const scaled = (scale: [number, number, number]) =>
      sizeNote(of({ ...post, nodes: [{ ...post.nodes[0]!, scale }] }));
    expect(scaled([0.01, 0.01, 0.01])).toContain('scale 0.01');
    expect(scaled([1, 2, 1])).toContain('scale 1, 2, 1');
    expect(pivotNote(of())).toBe('as imported, 1.41 m from the base centre');
    expect(proxiesNote(of())).toBe('no shapes yet');
    expect(namesNote(of())).toBe('Post_02');
    expect(trialNote(of())).toBe('nothing to try yet');
    expect(deliveryNote(of())).toBe('not delivered yet');
  });

  it('and after', () => {
    expect(pivotNote(of(applyEdit(post, pivotEdit('base-centre', [1, 0, 1]))))).toBe('base centre');
    expect(pivotNote(of(applyEdit(post, pivotEdit('centre', [1, 1, 1]))))).toBe('centre of bounds');
    expect(pivotNote(of(applyEdit(post, pivotEdit('bounds', [0, 0, 0]))))).toBe('a point of the bounds');
    expect(pivotNote(of(applyEdit(post, pivotEdit('numeric', [1, 0, 1]))))).toBe(
      'by numbers, at the base centre',
    );
    expect(proxiesNote(of(boxed))).toBe('2 shapes, 8 corners');
    expect(proxiesNote(of(boxed, { proposedShapes: 12 }))).toBe('12 shapes proposed');
    expect(namesNote(of(boxed))).toBe('UBX_Post_02_01 and 1 more');
    expect(trialNote(of(boxed))).toBe('not walked yet');
    expect(trialNote(of(boxed, { walked: ['deckhand', 'gull'] }))).toBe('walked by deckhand, gull');
    const at = new Date().toISOString();
    const left = (agreed: boolean) =>
      deliveryNote(
        of(boxed, {
          lastDelivery: {
            id: 1,
            version: 1,
            target: 'prefix-tags',
            agreed,
            at,
            choices: {},
            inventory: null,
          },
        }),
      );
    expect(left(true)).toMatch(/^delivered \d\d:\d\d, read back as drawn$/);
    expect(left(false)).toContain('read back differently');
  });
});
