import fc from 'fast-check';
import { boundsOf, diagonalOf, quatAbout, rotate, type Vec3 } from '../math/index.js';
import { farthestOutside } from '../hull/index.js';
import { type Shape, shapePolygons, shapeTriangles, shapeVolume } from '../shape/index.js';
import { ballMesh, boxMesh, moved } from '../testing/meshes.js';
import {
  axisAlignedBox,
  boxAlong,
  capsuleAlong,
  cylinderAlong,
  DIRECTION_COUNTS,
  directedHull,
  freeCapsule,
  freeCylinder,
  minVolumeBox,
  pointsOfFaces,
  smallestSphere,
  suggestShape,
  uprightBox,
} from './index.js';

const number = fc.double({ min: -100, max: 100, noNaN: true });
const cloud = fc
  .array(fc.tuple(number, number, number), { minLength: 1, maxLength: 40 })
  .map((p) => p.flat());
const skew = quatAbout([1, 2, 3], 0.7);

/** How far the farthest point is outside a shape, exactly for its kind. */
function outsideBy(shape: Shape, points: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < points.length; i += 3) {
    const p: Vec3 = [points[i]!, points[i + 1]!, points[i + 2]!];
    if (shape.kind === 'hull' || shape.kind === 'surface') {
      return farthestOutside(shapePolygons(shape), points);
    }
    const off = p.map((v, k) => v - shape.center[k]!) as Vec3;
    if (shape.kind === 'sphere') {
      most = Math.max(most, Math.hypot(...off) - shape.radius);
      continue;
    }
    const [x, y, z, w] = shape.rotation;
    const [px, py, pz] = rotate([-x, -y, -z, w], off);
    const aside = Math.hypot(px, pz);
    if (shape.kind === 'box') {
      const [hx, hy, hz] = shape.halfExtents;
      most = Math.max(most, Math.abs(px) - hx, Math.abs(py) - hy, Math.abs(pz) - hz);
    } else if (shape.kind === 'capsule') {
      most = Math.max(most, Math.hypot(aside, Math.max(0, Math.abs(py) - shape.halfLength)) - shape.radius);
    } else {
      const t = (py + shape.halfHeight) / (2 * shape.halfHeight);
      most = Math.max(
        most,
        Math.abs(py) - shape.halfHeight,
        aside - (shape.bottomRadius + (shape.topRadius - shape.bottomRadius) * t),
      );
    }
  }
  return most;
}

const FITS: Record<string, (points: number[]) => Shape> = {
  'smallest sphere': smallestSphere,
  'axis-aligned box': axisAlignedBox,
  'upright box': (p) => uprightBox(p),
  'smallest box': (p) => minVolumeBox(p),
  'upright cylinder': (p) => cylinderAlong(p, [0, 1, 0]),
  'upright tapered cylinder': (p) => cylinderAlong(p, [0, 1, 0], { tapered: true }),
  'free cylinder': (p) => freeCylinder(p),
  'free tapered cylinder': (p) => freeCylinder(p, { tapered: true }),
  'upright capsule': (p) => capsuleAlong(p, [0, 1, 0]),
  'free capsule': freeCapsule,
  ...Object.fromEntries(
    DIRECTION_COUNTS.map((count) => [`hull of ${count} directions`, (p: number[]) => directedHull(p, count)]),
  ),
};

describe('fits', () => {
  for (const [name, fit] of Object.entries(FITS)) {
    it(`${name}: holds all points to a billionth of the size, whatever they are`, () => {
      fc.assert(
        fc.property(cloud, (points) => {
          const size = Math.max(diagonalOf(boundsOf(points)), 1e-3);
          expect(outsideBy(fit(points), points)).toBeLessThan(size * 1e-9);
        }),
        { numRuns: 40 },
      );
    });
  }

  it('the sphere is the smallest: no smaller one round any four of its points', () => {
    // The cube's corners, and a point well inside that must not matter.
    const cube = [...boxMesh([1, 2, 3]).positions, 0.2, 0.1, 0];
    expect(smallestSphere(cube).radius).toBeCloseTo(Math.sqrt(14), 12);
    fc.assert(
      fc.property(cloud, (points) => {
        const sphere = smallestSphere(points);
        // Its middle is in the hull of the points on it: nudging it to any side lets one of them out.
        const touching: Vec3[] = [];
        // Points that are almost on one line leave the middle uncertain by a hundred-millionth.
        for (let i = 0; i < points.length; i += 3) {
          const d = [0, 1, 2].map((k) => points[i + k]! - sphere.center[k]!) as Vec3;
          if (Math.hypot(...d) > sphere.radius * (1 - 1e-7)) touching.push(d);
        }
        if (sphere.radius < 0.01) return;
        for (const way of [
          [1, 0, 0],
          [-1, 0, 0],
          [0, 1, 0],
          [0, -1, 0],
          [0, 0, 1],
          [0, 0, -1],
        ] as Vec3[])
          expect(
            Math.min(...touching.map((d) => d[0] * way[0] + d[1] * way[1] + d[2] * way[2])),
          ).toBeLessThan(sphere.radius * 1e-4);
      }),
      { numRuns: 60 },
    );
  });

  it('the smallest box is within 1 % of an exhaustive search', () => {
    let seed = 7;
    const random = () => (seed = (Math.imul(seed, 1103515245) + 12345) >>> 0) / 2 ** 32;
    for (let round = 0; round < 6; round++) {
      const points = Array.from({ length: 36 }, (_, i) => (random() - 0.5) * (1 + (i % 3)));
      let least = Infinity;
      for (let a = 0; a < 90; a++)
        for (let b = 0; b < 45; b++) {
          const [up, round] = [(a / 90) * Math.PI, (b / 45) * Math.PI];
          const axis: Vec3 = [Math.sin(up) * Math.cos(round), Math.cos(up), Math.sin(up) * Math.sin(round)];
          least = Math.min(least, shapeVolume(boxAlong(axis, points)));
        }
      expect(shapeVolume(minVolumeBox(points, { worthTurning: 0 }))).toBeLessThan(least * 1.01);
    }
  });

  it('finds a turned box, cylinder, cone and capsule again', () => {
    const box = moved(boxMesh([1, 2, 0.5]), [3, 4, 5], skew);
    expect(shapeVolume(minVolumeBox(box.positions))).toBeCloseTo(8, 9);
    const turned = <S extends Shape>(shape: S) => shapeTriangles(shape, { segments: 64 }).points;
    const common = { center: [3, 4, 5] as Vec3, rotation: skew };
    const cylinder = { kind: 'cylinder' as const, ...common, halfHeight: 2, bottomRadius: 1, topRadius: 1 };
    expect(shapeVolume(freeCylinder(turned(cylinder))) / shapeVolume(cylinder)).toBeCloseTo(1, 3);
    const cone = { ...cylinder, topRadius: 0.4 };
    const found = freeCylinder(turned(cone), { tapered: true });
    expect(shapeVolume(found) / shapeVolume(cone)).toBeCloseTo(1, 2);
    expect(Math.min(found.bottomRadius, found.topRadius)).toBeCloseTo(0.4, 2);
    const capsule = { kind: 'capsule' as const, ...common, halfLength: 2, radius: 0.5 };
    expect(shapeVolume(freeCapsule(turned(capsule))) / shapeVolume(capsule)).toBeCloseTo(1, 2);
  });

  it('an upright box turns about the up axis only', () => {
    const tilted = moved(boxMesh([2, 1, 0.5]), [0, 0, 0], quatAbout([0, 1, 0], 0.5));
    const box = uprightBox(tilted.positions);
    expect(shapeVolume(box)).toBeCloseTo(8, 9);
    expect(rotate(box.rotation, [0, 1, 0])[1]).toBeCloseTo(1, 12);
  });

  it('hulls of directions are closed and convex', () => {
    fc.assert(
      fc.property(cloud, fc.constantFrom(...DIRECTION_COUNTS), (points, count) => {
        const hull = directedHull(points, count);
        const size = Math.max(diagonalOf(boundsOf(points)), 1e-3);
        const edges = hull.faces.flatMap((f) => f.map((v, i) => `${v},${f[(i + 1) % f.length]}`));
        expect(new Set(edges).size).toBe(edges.length);
        for (const edge of edges) expect(edges).toContain(edge.split(',').reverse().join());
        expect(hull.points.length / 3 - edges.length / 2 + hull.faces.length).toBe(2);
        expect(farthestOutside(shapePolygons(hull), hull.points)).toBeLessThan(size * 1e-8);
      }),
      { numRuns: 60 },
    );
  });

  it('more directions never make a larger hull, and six are the bounds', () => {
    const points = ballMesh(1).positions;
    const volumes = DIRECTION_COUNTS.map((count) => shapeVolume(directedHull(points, count)));
    expect(volumes[0]).toBeCloseTo(8, 6);
    for (const [few, many] of [
      [0, 1],
      [0, 2],
      [1, 4],
      [2, 4],
      [3, 4],
    ] as const)
      expect(volumes[many]!).toBeLessThanOrEqual(volumes[few]! + 1e-9);
    expect(volumes[4]! / ((4 / 3) * Math.PI)).toBeLessThan(1.2);
  });
});

describe('suggestShape', () => {
  const kinds = (points: ArrayLike<number>) => suggestShape(points).map(({ shape }) => shape.kind);

  it('puts first what serves best, with what it costs and how far it stands off', () => {
    expect(kinds(moved(boxMesh([1, 0.3, 2]), [0, 0, 0], skew).positions)[0]).toBe('box');
    expect(kinds(ballMesh(1, [0, 0, 0], 48).positions)[0]).toBe('sphere');
    const capsule = {
      kind: 'capsule' as const,
      center: [0, 0, 0] as Vec3,
      rotation: skew,
      halfLength: 1,
      radius: 0.3,
    };
    expect(kinds(shapeTriangles(capsule, { segments: 48 }).points)[0]).toBe('capsule');
    const cone = {
      kind: 'cylinder' as const,
      center: [0, 0, 0] as Vec3,
      rotation: skew,
      halfHeight: 1,
      bottomRadius: 1,
      topRadius: 0.5,
    };
    const [best] = suggestShape(shapeTriangles(cone, { segments: 48 }).points);
    expect(best!.shape.kind).toBe('cylinder');
    expect(best!.deviation).toBeLessThan(0.01);
    const wedge = [0, 0, 0, 2, 0, 0, 0, 1, 0, 0, 0, 1, 2, 0, 1, 0, 1, 1];
    expect(kinds(wedge)[0]).toBe('hull');
  });

  it('serves chosen faces alone', () => {
    const mesh = boxMesh([1, 1, 1]);
    const top = [...Array(12).keys()].filter((f) =>
      [0, 1, 2].every((k) => mesh.positions[mesh.indices[f * 3 + k]! * 3 + 1]! > 0),
    );
    const [flat] = suggestShape(pointsOfFaces(mesh, top));
    expect(flat!.shape).toEqual(jasmine.objectContaining({ kind: 'box' }));
    expect(flat!.volume).toBeLessThan(0.0041);
  });
});
