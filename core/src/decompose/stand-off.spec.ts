import fc from 'fast-check';
import { convexHull } from '../hull/index.js';
import { diagonalOf, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { boundsOfFaces, DistanceBound, SolidDistance } from '../solid/index.js';
import { SOLIDS } from '../testing/solids.js';
import { bowl } from '../testing/turned.js';
import { hullStandOff } from './stand-off.js';

const artOf = (mesh: Mesh) => {
  const art = new SolidDistance(mesh);
  return { art, bound: new DistanceBound(art), size: diagonalOf(boundsOfFaces(art.solid)) };
};

/** The most that places spread over the faces stand off. */
function sampled(points: Float64Array, faces: readonly number[][], art: SolidDistance): number {
  let most = 0;
  const place = (v: number): Vec3 => [points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!];
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++) {
      const [a, b, c] = [place(face[0]!), place(face[i]!), place(face[i + 1]!)];
      for (let s = 0; s <= 12; s++)
        for (let t = 0; t <= 12 - s; t++) {
          const at = [0, 1, 2].map((k) => a[k]! + ((b[k]! - a[k]!) * s + (c[k]! - a[k]!) * t) / 12) as Vec3;
          most = Math.max(most, art.signed(at));
        }
    }
  return most;
}

describe('how far a hull stands off', () => {
  const meshes = { table: SOLIDS.table(), tray: SOLIDS.tray(), bowl: bowl(24) };

  it('is found to within what is promised, for hulls of any of the art and of none of it', () => {
    for (const [name, mesh] of Object.entries(meshes)) {
      const context = artOf(mesh);
      const { min, max } = boundsOfFaces(context.art.solid);
      const within = fc.tuple(
        ...[0, 1, 2].map((k) => fc.double({ min: min[k]! - 0.1, max: max[k]! + 0.1, noNaN: true })),
      );
      const corner = fc
        .nat({ max: mesh.positions.length / 3 - 1 })
        .map((v) => [...mesh.positions.subarray(v * 3, v * 3 + 3)]);
      fc.assert(
        fc.property(fc.array(fc.oneof(corner, within), { minLength: 4, maxLength: 24 }), (places) => {
          const found = convexHull(Float64Array.from(places.flat()));
          if (found.span !== 'solid') return;
          const told = hullStandOff(found.hull, context);
          const most = sampled(found.hull.points, found.hull.faces, context.art);
          expect(told)
            .withContext(name)
            .toBeGreaterThanOrEqual(most / 1.16 - context.size / 30);
          // What is told was measured at some place of the hull: none stands off more than its farthest corner.
          const corners = sampled(found.hull.points, found.hull.faces, context.art) + context.size / 12;
          expect(told).withContext(name).toBeLessThanOrEqual(corners);
        }),
        { numRuns: 25, seed: 15 },
      );
    }
  });

  it('is the same, and asked less, when it is known how far the hulls stand off that one was joined of', () => {
    const context = artOf(bowl(24));
    const { positions } = bowl(24);
    const hullOf = (points: Float64Array) => {
      const found = convexHull(points);
      if (found.span !== 'solid') throw new Error('a bowl has no flat parts');
      return found.hull;
    };
    const side = (sign: number) => hullOf(positions.filter((_, i) => sign * positions[i - (i % 3)]! >= 0.1));
    const held = [side(1), side(-1)].map((hull) => ({
      points: hull.points,
      standOff: hullStandOff(hull, context),
    }));
    const whole = hullOf(Float64Array.from(held.flatMap(({ points }) => [...points])));
    const asked = spyOn(context.art, 'distance').and.callThrough();
    const alone = hullStandOff(whole, context);
    const before = asked.calls.count();
    const told = hullStandOff(whole, context, { held });
    expect(told / alone).toBeGreaterThan(1 / 1.16);
    expect(told / alone).toBeLessThan(1.16);
    expect(asked.calls.count() - before).toBeLessThan(before);
  });

  it('says that it goes on, and ends when it is told to', () => {
    const context = artOf(meshes.bowl);
    const hull = convexHull(meshes.bowl.positions);
    if (hull.span !== 'solid') throw new Error('flat');
    let words = 0;
    const off = hullStandOff(hull.hull, { ...context, progress: () => words++ });
    expect(off).toBe(hullStandOff(hull.hull, context));
    expect(words).toBeGreaterThan(0);
    const stop = () => {
      throw new Error('stopped');
    };
    expect(() => hullStandOff(hull.hull, { ...context, progress: stop })).toThrowError('stopped');
  });

  it('asks little where a hull lies against large faces', () => {
    const context = artOf(SOLIDS.table());
    const box = convexHull(Float64Array.from(SOLIDS.table().positions.subarray(0, 24)));
    if (box.span !== 'solid') throw new Error('a table has no flat parts');
    hullStandOff(box.hull, context);
    const asked = spyOn(context.art, 'distance').and.callThrough();
    expect(hullStandOff(box.hull, context)).toBeLessThan(context.size * 1e-6);
    expect(asked.calls.count()).toBeLessThan(200);
  });
});
