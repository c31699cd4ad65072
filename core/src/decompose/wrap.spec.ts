import { joinMeshes, plainMesh } from '../mesh/index.js';
import { shapeVolume } from '../shape/index.js';
import { ballMesh, boxMesh, moved, threeParts } from '../testing/meshes.js';
import { MOST_SHAPES, wrap, WrapError } from './wrap.js';

describe('wrap', () => {
  it('puts one shape round everything or one round each part', () => {
    expect(wrap(threeParts(), { kind: 'box' }).length).toBe(1);
    expect(wrap(threeParts(), { kind: 'hull', per: 'part' }).map(shapeVolume).map((v) => v.toFixed(3))).toEqual(['8.000', '0.240', wrap(ballMesh(0.7), { kind: 'hull' }).map(shapeVolume)[0]!.toFixed(3)]);
  });

  it('turns boxes to lie on a turned part', () => {
    const turned = moved(boxMesh([2, 0.1, 0.1]), [0, 0, 0], [0, 0, Math.SQRT1_2 / Math.SQRT2, Math.sqrt(0.75)]);
    const [box] = wrap(turned, { kind: 'box', per: 'part' });
    expect(shapeVolume(box!)).toBeCloseTo(8 * 0.02, 6);
  });

  it('gives a flat part a thin box instead of a flat hull', () => {
    const sheet = plainMesh([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], [0, 1, 2, 0, 2, 3]);
    expect(wrap(sheet, { kind: 'hull' })[0]).toEqual(jasmine.objectContaining({ kind: 'box', halfExtents: [0.5, 0.5, 0.0005] }));
  });

  it('refuses nothing at all, and a heap of crumbs', () => {
    expect(() => wrap(plainMesh([], []), { kind: 'box' })).toThrowError(WrapError, /no triangles/);
    const crumbs = joinMeshes(Array.from({ length: MOST_SHAPES + 1 }, (_, i) => boxMesh([0.1, 0.1, 0.1], [i, 0, 0])));
    expect(() => wrap(crumbs, { kind: 'box', per: 'part' })).toThrowError(WrapError, /513 connected parts/);
  });
});
