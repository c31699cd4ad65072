import fc from 'fast-check';
import { type Vec3 } from '../math/index.js';
import { joinMeshes, plainMesh, takeFaces } from '../mesh/index.js';
import { type Shape, shapeTriangles, shapeVolume } from '../shape/index.js';
import { ballMesh, boxMesh, moved } from '../testing/meshes.js';
import { SOLIDS } from '../testing/solids.js';
import { turn } from '../testing/shapes.js';
import { Comparer, compareShapes, costOf, judgeShape, proxyFits } from './index.js';

const box = (half: Vec3, center: Vec3 = [0, 0, 0]): Shape => ({
  kind: 'box',
  center,
  halfExtents: half,
  rotation: [0, 0, 0, 1],
});

/** An upright L of two boxes that touch. */
const elbow = () => {
  const p = [0, 0, 2, 0, 2, 1, 1, 1, 1, 3, 0, 3];
  const points = [0, 1].flatMap((z) => p.flatMap((v, i) => (i % 2 ? [v, z] : [v])));
  const side = [0, 1, 2, 0, 2, 3, 0, 3, 5, 3, 4, 5];
  const indices = [...side.map((v) => v + 6), ...side.map((_, i) => side[i - (i % 3) + 2 - (i % 3)]!)];
  for (let i = 0; i < 6; i++) {
    const j = (i + 1) % 6;
    indices.push(i, j, j + 6, i, j + 6, i + 6);
  }
  return plainMesh(points, indices);
};

describe('comparing', () => {
  it('finds no fault with a shape that is the art', () => {
    const found = compareShapes(moved(boxMesh([1, 2, 3]), [40, 5, -7]), [box([1, 2, 3], [40, 5, -7])]);
    expect(found.artOutside.max).toBeLessThan(1e-9);
    expect(found.proxyOutside.max).toBeLessThan(1e-9);
    expect(found.artVolume).toBeCloseTo(48, 4);
    expect(found.overfill + found.underfill + found.overlap).toBeLessThan(1e-4);
    expect(found.uncovered).toEqual([]);
  });

  it('tells how far one shape stands off alone, as it does among others that do not hide it', () => {
    const comparer = new Comparer(elbow());
    const shape = box([1, 1.5, 0.5], [1, 1.5, 0.5]);
    expect(comparer.excess(shape)).toBe(comparer.compare([shape]).proxyOutside.max);
    expect(comparer.excess(box([0.5, 1.5, 0.5], [0.5, 1.5, 0.5]))).toBeLessThan(1e-9);
  });

  it('measures what a box round an L fills, and how far it stands off', () => {
    const found = compareShapes(elbow(), [box([1, 1.5, 0.5], [1, 1.5, 0.5])]);
    expect(found.artVolume).toBeCloseTo(4, 1);
    expect(Math.abs(found.overfill - 2)).toBeLessThan(0.02);
    expect(found.underfill).toBeLessThan(1e-6);
    // The corner of the box is 1 from the upper leg and 2 above the lower one.
    expect(found.proxyOutside.max).toBeCloseTo(1, 2);
    expect(found.proxyOutside.at![0]).toBeCloseTo(2, 1);
    expect(found.accuracy).toBeLessThan(0.01);
  });

  it('measures overlap once for each shape beyond the first, and what is left bare', () => {
    const art = boxMesh([2, 1, 1]);
    const found = compareShapes(art, [box([1, 1, 1], [-1, 0, 0]), box([1, 1, 1], [-0.5, 0, 0])]);
    expect(Math.abs(found.overlap - 6)).toBeLessThan(0.06);
    expect(Math.abs(found.underfill - 6)).toBeLessThan(0.06);
    expect(found.artOutside.max).toBeCloseTo(1.5, 9);
    expect(found.artOutside.at![0]).toBeCloseTo(2, 9);
    expect(found.uncovered.length).toBe(1);
    const bare = found.uncovered[0]!.every((f) =>
      [0, 1, 2].some((k) => art.positions[art.indices[f * 3 + k]! * 3]! > 0),
    );
    expect(bare).toBeTrue();
    const v = [...found.vertices.keys()].find((i) => art.positions[i * 3]! > 0)!;
    expect(found.vertices[v]!).toBeCloseTo(1.5, 6);
  });

  it('gives vertices that proxies cover the depth they lie at, as a negative value', () => {
    const found = compareShapes(boxMesh([1, 1, 1]), [box([1.25, 1.25, 1.25])]);
    for (const value of found.vertices) expect(value).toBeCloseTo(-0.25, 6);
  });

  it('measures one of several equal shapes in one place, and faces that lie in one plane', () => {
    const one = compareShapes(boxMesh([1, 1, 1]), [box([1.5, 1.5, 1.5])]);
    const twin = box([1.5, 1.5, 1.5]);
    for (const two of [
      [box([1.5, 1.5, 1.5]), twin],
      [twin, twin],
    ]) {
      const found = compareShapes(boxMesh([1, 1, 1]), two);
      expect(found.proxyOutside.max).toBeCloseTo(one.proxyOutside.max, 9);
      expect(found.proxyOutside.mean).toBeCloseTo(one.proxyOutside.mean, 9);
    }
    // A second box that ends in the same plane above leaves the top to one of them, not to neither.
    const flush = compareShapes(boxMesh([1, 1, 1]), [box([1, 1.4, 1]), box([0.5, 1.2, 0.5], [0, 0.2, 0])]);
    expect(flush.proxyOutside.max).toBeCloseTo(0.4, 6);
    // Two that meet back to back have no surface between them.
    const halves = compareShapes(boxMesh([1, 1, 1]), [
      box([0.5, 1, 1], [-0.5, 0, 0]),
      box([0.5, 1, 1], [0.5, 0, 0]),
    ]);
    expect(halves.proxyOutside.max).toBeLessThan(1e-9);
  });

  it('paints a hollow that is filled by how deep it is, not by the wall behind it', () => {
    // A tray: floor and four walls 0.02 thick, 1 wide, 0.5 high inside.
    const tray = joinMeshes([
      boxMesh([0.52, 0.01, 0.52], [0, -0.01, 0]),
      ...[-1, 1].flatMap((side) => [
        boxMesh([0.01, 0.25, 0.52], [side * 0.51, 0.25, 0]),
        boxMesh([0.5, 0.25, 0.01], [0, 0.25, side * 0.51]),
      ]),
    ]);
    const { vertices } = compareShapes(tray, [box([0.52, 0.26, 0.52], [0, 0.24, 0])]);
    const floor = [...vertices.keys()].filter((v) => tray.positions[v * 3 + 1] === 0 && v < 8);
    expect(floor.length).toBeGreaterThan(0);
    for (const v of floor) expect(vertices[v]!).toBeLessThan(-0.4);
    // Parted shapes fill it all the same.
    const parted = compareShapes(tray, [
      box([0.26, 0.26, 0.52], [-0.26, 0.24, 0]),
      box([0.26, 0.26, 0.52], [0.26, 0.24, 0]),
    ]);
    for (const v of floor) expect(parted.vertices[v]!).toBeLessThan(-0.4);
    // What follows the art closely stays pale.
    const close = compareShapes(boxMesh([1, 1, 1]), [box([1.001, 1.001, 1.001])]);
    for (const value of close.vertices) expect(value).toBeCloseTo(-0.001, 5);
  });

  it('is right to 1 % of the art for boxes anywhere in a ball', () => {
    const ball = ballMesh(1, [0, 0, 0], 48);
    const comparer = new Comparer(ball);
    const part = fc.double({ min: 0.1, max: 0.4, noNaN: true });
    const place = fc.double({ min: -0.3, max: 0.3, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(part, part, part), fc.tuple(place, place, place), (half, center) => {
        const inside = box(half, center);
        const found = comparer.compare([inside]);
        expect(Math.abs(found.proxyVolume - shapeVolume(inside))).toBeLessThan(0.01 * found.artVolume);
        expect(Math.abs(found.underfill + found.proxyVolume - found.overfill - found.artVolume)).toBeLessThan(
          1e-9,
        );
      }),
      { numRuns: 40 },
    );
  });

  it('reads dirty art as a solid: inside out, twice, overlapping, and a box with its lid off', () => {
    const clean = boxMesh([1, 1, 1]);
    const reversed = plainMesh(clean.positions, [...clean.indices].reverse());
    const lidless = takeFaces(clean, (f) => f > 1);
    for (const art of [
      reversed,
      joinMeshes([clean, clean]),
      joinMeshes([clean, boxMesh([0.5, 1, 1])]),
      lidless,
    ])
      expect(compareShapes(art, [box([1, 1, 1])]).artVolume).toBeCloseTo(8, 2);
    const hollow = joinMeshes([
      clean,
      plainMesh(boxMesh([0.5, 0.5, 0.5]).positions, [...boxMesh([1, 1, 1]).indices].reverse()),
    ]);
    expect(compareShapes(hollow, [box([1, 1, 1])]).overfill).toBeCloseTo(1, 1);
  });

  it('counts what a set costs', () => {
    const ball: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
    expect(costOf([box([1, 1, 1]), box([1, 1, 1]), ball])).toEqual({
      shapes: 3,
      vertices: 16,
      faces: 12,
      kinds: { box: 2, sphere: 1 },
      cost: 2.5,
    });
  });

  it('tells the same of a changed set, in every detail, as if it had never seen the one before', () => {
    const at = fc.double({ min: -0.5, max: 4.5, noNaN: true });
    const half = fc.double({ min: 0.05, max: 1.5, noNaN: true });
    const boxes = fc
      .record({
        center: fc.tuple(at, at, at),
        halfExtents: fc.tuple(half, half, half),
        rotation: turn,
      })
      .map((given) => ({ kind: 'box' as const, ...given }));
    const art = SOLIDS.tray();
    fc.assert(
      fc.property(
        fc.array(boxes, { minLength: 1, maxLength: 4 }),
        fc.array(fc.tuple(fc.nat(3), fc.option(boxes)), { minLength: 1, maxLength: 4 }),
        (start, changes) => {
          const kept = new Comparer(art);
          let shapes: Shape[] = start;
          kept.inDetail(shapes);
          for (const [at, to] of changes) {
            shapes = shapes.filter((_, i) => i !== at % shapes.length).concat(to ?? []);
            expect(kept.inDetail(shapes)).toEqual(new Comparer(art).inDetail(shapes));
          }
        },
      ),
      { numRuns: 25, seed: 15 },
    );
  });

  it('answers for no shapes at all and for art without faces', () => {
    const none = compareShapes(boxMesh([1, 1, 1]), []);
    expect(none.artOutside.max).toBe(Infinity);
    expect(none.underfill).toBeCloseTo(8, 4);
    const empty = compareShapes(plainMesh([], []), [box([1, 1, 1])]);
    expect(empty.artVolume).toBe(0);
  });
});

describe('proxyFits', () => {
  const pair = (at: number) => joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], [at, 0, 0])]);
  const proxies = [box([1, 1, 1]), box([1, 1, 1], [5, 0, 0])];

  it('names the proxy whose art moved, and leaves the other alone', () => {
    const [first, second] = proxyFits(pair(5), pair(5.3), proxies, 0.002);
    expect([first!.fits, second!.fits]).toEqual([true, false]);
    expect(second!.artOutside).toEqual({ before: 0, after: jasmine.any(Number) as never });
    expect(second!.artOutside.after).toBeCloseTo(0.3, 6);
    expect(second!.proxyOutside.after).toBeCloseTo(0.3, 2);
    expect(first!.proxyOutside.after).toBeLessThan(1e-9);
  });

  it('lets pass what changed within the tolerance, and what was rough before', () => {
    expect(proxyFits(pair(5), pair(5.001), proxies, 0.002).every(({ fits }) => fits)).toBeTrue();
    const loose = [box([1.5, 1.5, 1.5]), proxies[1]!];
    expect(proxyFits(pair(5), pair(5), loose, 0.002).every(({ fits }) => fits)).toBeTrue();
    expect(proxyFits(pair(5), pair(5), [], 0.002)).toEqual([]);
  });
});

describe('judgeShape', () => {
  it('passes closed convex shapes', () => {
    for (const shape of [box([1, 2, 3]), { kind: 'sphere', center: [0, 0, 0], radius: 1 } as Shape]) {
      const { points, indices } = shapeTriangles(shape);
      expect(judgeShape(plainMesh(points, indices))).toEqual(
        jasmine.objectContaining({ closed: true, convex: true, cavesIn: [] }),
      );
    }
  });

  it('says where a shape caves in and how much an importer would fill', () => {
    const mesh = elbow();
    const found = judgeShape(mesh);
    expect(found.convex).toBeFalse();
    expect(found.closed).toBeTrue();
    expect(found.volume).toBeCloseTo(4, 9);
    expect(found.filled).toBeCloseTo(1, 9);
    // The two faces of the inner corner, and the side faces that reach into it.
    for (const f of found.cavesIn)
      expect([0, 1, 2].some((k) => [3, 9].includes(mesh.indices[f * 3 + k]!))).toBeTrue();
    expect(found.cavesIn.length).toBeGreaterThan(3);
  });

  it('judges open, flat and empty meshes without fuss', () => {
    expect(judgeShape(takeFaces(boxMesh([1, 1, 1]), (f) => f > 0))).toEqual(
      jasmine.objectContaining({ closed: false, openEdges: 3, convex: true }),
    );
    expect(judgeShape(plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2])).convex).toBeFalse();
    expect(judgeShape(plainMesh([], [])).hullVolume).toBe(0);
  });
});

describe('comparing a long set', () => {
  it('says so shape by shape, and stops when told, with nothing half known', () => {
    let told = 0;
    let left = Infinity;
    const comparer = new Comparer(ballMesh(1), {
      progress: () => {
        told++;
        if (--left < 0) throw new Error('stop');
      },
    });
    const set = Array.from({ length: 9 }, (_, i) => box([0.3, 0.3, 0.3], [i / 9 - 0.5, 0, 0]));
    left = 5;
    expect(() => comparer.compare(set)).toThrowError('stop');
    left = Infinity;
    told = 0;
    const after = comparer.compare(set);
    expect(told).toBeGreaterThanOrEqual(set.length);
    expect(after).toEqual(new Comparer(ballMesh(1)).compare(set));
  });
});
