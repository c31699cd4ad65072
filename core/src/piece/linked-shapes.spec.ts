import fc from 'fast-check';
import { quatAbout } from '../math/index.js';
import {
  changedBy,
  mirroredOver,
  moveShape,
  type Shape,
  shapeBounds,
  shapeVolume,
  shifted,
} from '../shape/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { anyShape, place } from '../testing/shapes.js';
import { pieceDocumentSchema } from './document.js';
import { applyEdit, changeProxies, replaceProxies, useProxies } from './edits/index.js';
import { placedArt } from './geometry.js';
import { makeShapes } from './make-shapes.js';
import { linkedCopies, unlinked, withLinked } from './linked-shapes.js';

const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
const across = (k: 0 | 2) => mirroredOver({ point: [0, 0, 0], normal: k === 0 ? [1, 0, 0] : [0, 0, 1] });
/** One leg mirrored to four. */
const four = (leg: Shape) => {
  const one = applyEdit(document, replaceProxies([{ id: 's1', shape: leg }]));
  const two = applyEdit(one, linkedCopies(one, new Set(['s1']), [across(0)])!);
  return applyEdit(two, linkedCopies(two, new Set(two.proxies.map(({ id }) => id)), [across(2)])!);
};
const middles = (shapes: readonly Shape[]) =>
  shapes.map((shape) => {
    const { min, max } = shapeBounds(shape);
    return min.map((v, k) => (v + max[k]!) / 2);
  });

describe('linked copies', () => {
  it('follow each other, each in its own place, whichever of them is changed', () => {
    fc.assert(
      fc.property(anyShape, place, fc.integer({ min: 0, max: 3 }), (leg, by, which) => {
        const legs = four(leg);
        expect(new Set(legs.proxies.map(({ link }) => link!.group)).size).toBe(1);
        const id = legs.proxies[which]!.id;
        const edit = changeProxies(legs, new Set([id]), (shape) => [moveShape(shape, by)])!;
        const moved = applyEdit(legs, withLinked(legs, edit)).proxies;
        const [first] = middles([moved[0]!.shape]);
        const signs = [
          [1, 1],
          [-1, 1],
          [1, -1],
          [-1, -1],
        ];
        // The four stand symmetrically about the pivot still.
        const places = middles(moved.map(({ shape }) => shape)).map(([x, , z]) => [x!, z!]);
        for (const [i, [x, z]] of places.entries())
          expect(signs.some(([a, b]) => Math.hypot(x! - a! * first![0]!, z! - b! * first![2]!) < 1e-6))
            .withContext(`${i}`)
            .toBeTrue();
      }),
    );
  });

  it('of a shape round a sheared part are true mirror images: shapes stand in the piece, not in the part', async () => {
    const scene = sceneOf(boxMesh([1, 0.2, 0.3]));
    scene.nodes.unshift({
      ...scene.nodes[0]!,
      name: 'stretched',
      mesh: null,
      parent: null,
      scale: [1, 3, 1],
    });
    scene.nodes[1] = {
      ...scene.nodes[1]!,
      parent: 0,
      rotation: quatAbout([0, 0, 1], 0.6),
      translation: [3, 1, 0],
    };
    const sheared = pieceOf(scene);
    const placed = placedArt(sheared.document, sheared.meshOf);
    const made = await makeShapes(
      sheared.document,
      placed,
      { make: 'wrap', kind: 'hull', per: 'part', faces: null },
      { maxCorners: 32, toleranceMetres: 0 },
    );
    const one = applyEdit(sheared.document, made);
    const two = applyEdit(one, linkedCopies(one, new Set([one.proxies[0]!.id]), [across(0)])!);
    const [from, to] = two.proxies.map(({ shape }) => shape);
    expect(shapeVolume(from!)).toBeCloseTo(2 * 0.4 * 0.6 * 3, 9);
    expect(shapeVolume(to!)).toBeCloseTo(shapeVolume(from!), 9);
    expect(shapeBounds(to!).min[0]).toBeCloseTo(-shapeBounds(from!).max[0], 9);
    expect(pieceDocumentSchema.safeParse(two).success).toBeTrue();
    expect(two.proxies.map(({ part }) => part)).toEqual([one.proxies[0]!.part, one.proxies[0]!.part]);
  });

  it('end with one that is taken out, that falls into several, or when the piece is turned', () => {
    const legs = four({ kind: 'sphere', center: [2, 0, 1], radius: 0.5 });
    const alone = applyEdit(legs, unlinked(legs, new Set(['s1']))!);
    expect(alone.proxies.map(({ link }) => link !== undefined)).toEqual([false, true, true, true]);
    const pair = { ...legs, proxies: legs.proxies.slice(0, 2) };
    expect(unlinked(pair, new Set(['s1']))!.changed.length).toBe(2);
    const split = changeProxies(legs, new Set(['s1']), (shape) => [shape, shape])!;
    expect(split.changed.map(({ link }) => link)).toEqual([undefined, undefined]);
    const grown = applyEdit(legs, { kind: 'resize', factor: 2, about: [0, 0, 0] });
    expect(grown.proxies.some(({ link }) => link)).toBeFalse();
    const stored = JSON.parse(JSON.stringify(legs));
    expect(pieceDocumentSchema.parse(stored)).toEqual(stored);
  });

  it('do not follow what is only said of one, nor one of another link', () => {
    const legs = four({ kind: 'sphere', center: [2, 0, 1], radius: 0.5 });
    const role = useProxies(legs, new Set(['s1']), { role: 'simulated', density: 700 })!;
    expect(withLinked(legs, role)).toBe(role);
    const after = applyEdit(legs, role);
    expect(useProxies(after, new Set(['s1']), { role: 'simulated' })).toBeNull();
    expect(
      applyEdit(after, useProxies(after, new Set(['s1']), { role: null })!).proxies[0]!.role,
    ).toBeUndefined();
    const row = linkedCopies(document, new Set(['none']), [shifted([1, 0, 0])]);
    expect(row).toBeNull();
    expect(changedBy(legs.proxies[0]!.shape, shifted([1, 0, 0]))).toEqual({
      kind: 'sphere',
      center: [3, 0, 1],
      radius: 0.5,
    });
  });
});
