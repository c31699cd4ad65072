import { replaceProxies, applyEdit, type Shape } from '@yard-brace/core';
import type { ChosenFaces } from '../../../drawing/face-selection';
import { boxRound } from '../../../testing/crate';
import { postDocument } from '../../../testing/post';
import { readingOf, standingOf } from './reading';

const document = postDocument(2);
const nothing = { hit: null, faces: null, pointed: null, document };
const hit = { part: 0, face: 0, material: -1, at: [1, 0.5, 0.25] as [number, number, number] };
const faces: ChosenFaces = {
  faces: new Uint8Array(4),
  count: 1204,
  area: 2.5,
  min: [0, 0, 0],
  max: [1, 2, 3],
};
const texts = (over: object) => readingOf({ ...nothing, ...over }).map(({ text }) => text);

describe('the reading line', () => {
  it('names what is under the pointer, a shape before the art', () => {
    expect(texts({})).toEqual(['Nothing under the pointer']);
    expect(texts({ hit })).toEqual(['Post', '1.000, 0.500, 0.250 m']);
    const pointed = { id: 'a', number: 3, shape: boxRound([0, 0, 0], 0.2) };
    expect(texts({ hit, faces, pointed })).toEqual(['Shape 3, box', '0.40 × 0.40 × 0.40 m']);
  });

  it('says what is chosen beside it, and alone', () => {
    const chosen = ['1,204 faces chosen', '1.00 × 2.00 × 3.00 m, 2.50 m²'];
    expect(texts({ faces })).toEqual(chosen);
    expect(texts({ hit, faces })).toEqual(['Post', '1.000, 0.500, 0.250 m', ...chosen]);
  });

  it('measures a shape along its own axes', () => {
    const turned = { ...boxRound([5, 5, 5], 1), rotation: [0, 0.38, 0, 0.92] } as Shape;
    expect(texts({ pointed: { id: 'a', number: 3, shape: turned } })[1]).toBe('2.00 × 2.00 × 2.00 m');
    const ball: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
    expect(texts({ pointed: { id: 'a', number: 3, shape: ball } })[1]).toBe('2.00 × 2.00 × 2.00 m');
  });

  it('sums the piece up', () => {
    const one = applyEdit(document, replaceProxies([{ id: 'a', shape: boxRound([0, 0, 0], 1) }]));
    expect([standingOf(document), standingOf(one)]).toEqual([
      '4 triangles, 0 shapes',
      '4 triangles, 1 shape',
    ]);
  });
});
