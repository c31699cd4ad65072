import { shapeDistance } from '../compare/index.js';
import { joinMeshes, plainMesh, shellsOf, weld } from '../mesh/index.js';
import { shapeCorners, shapeVolume } from '../shape/index.js';
import { ballMesh, boxMesh, moved, threeParts } from '../testing/meshes.js';
import { MAX_SHAPES, wrap, WrapError } from './wrap.js';

describe('wrap', () => {
  it('puts one shape round everything or one round each part', () => {
    expect(wrap(threeParts(), { kind: 'box' }).shapes.length).toBe(1);
    expect(
      wrap(threeParts(), { kind: 'hull', per: 'shell', maxCorners: 500 })
        .shapes.map(shapeVolume)
        .map((v) => v.toFixed(3)),
    ).toEqual([
      '8.000',
      '0.240',
      wrap(ballMesh(0.7), { kind: 'hull', maxCorners: 500 }).shapes.map(shapeVolume)[0]!.toFixed(3),
    ]);
  });

  it('turns boxes to lie on a turned part', () => {
    const turned = moved(
      boxMesh([2, 0.1, 0.1]),
      [0, 0, 0],
      [0, 0, Math.SQRT1_2 / Math.SQRT2, Math.sqrt(0.75)],
    );
    const [box] = wrap(turned, { kind: 'smallest-box', per: 'shell' }).shapes;
    expect(shapeVolume(box!)).toBeCloseTo(8 * 0.02, 6);
  });

  it('keeps hulls to a number of corners, and holds the art all the same', () => {
    const ball = ballMesh(1, [0, 0, 0], 32);
    const [hull] = wrap(ball, { kind: 'hull', maxCorners: 40 }).shapes;
    expect(shapeCorners(hull!)).toBeLessThanOrEqual(40);
    const off = shapeDistance(hull!);
    for (let i = 0; i < ball.positions.length; i += 3)
      expect(off(ball.positions[i]!, ball.positions[i + 1]!, ball.positions[i + 2]!)).toBeLessThan(1e-6);
  });

  it('wraps groups of faces, each with a face that says whose it is, and suggests a kind for each', () => {
    const mesh = threeParts();
    const shells = shellsOf(mesh, weld(mesh.positions));
    const ofFace = shells.ofTriangle.map((shell) => (shell === 1 ? 9 : shell));
    const { shapes, faces } = wrap(mesh, { kind: 'suggested', per: { count: 3, ofFace } });
    expect(shapes.map(({ kind }) => kind)).toEqual(['box', 'sphere']);
    expect(faces.map((face) => shells.ofTriangle[face])).toEqual([0, 2]);
  });

  it('gives a flat part a thin box instead of a flat hull', () => {
    const sheet = plainMesh([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], [0, 1, 2, 0, 2, 3]);
    expect(wrap(sheet, { kind: 'hull' }).shapes[0]).toEqual(
      jasmine.objectContaining({ kind: 'box', halfExtents: [0.5, 0.5, 0.0005] }),
    );
  });

  it('refuses nothing at all, and a heap of crumbs', () => {
    expect(() => wrap(plainMesh([], []), { kind: 'box' })).toThrowError(WrapError, /no triangles/);
    const crumbs = joinMeshes(
      Array.from({ length: MAX_SHAPES + 1 }, (_, i) => boxMesh([0.1, 0.1, 0.1], [i, 0, 0])),
    );
    expect(() => wrap(crumbs, { kind: 'box', per: 'shell' })).toThrowError(WrapError, /513 shells/);
  });
});
