import fc from 'fast-check';
import { compareShapes } from '../compare/index.js';
import { convexHull } from '../hull/index.js';
import { type Vec3 } from '../math/index.js';
import { joinMeshes, plainMesh, reduceWhole, takeFaces, topologyOf } from '../mesh/index.js';
import { type Shape, shapeBounds, shapePolygons, shapeVolume } from '../shape/index.js';
import { ballMesh, boxMesh, moved } from '../testing/meshes.js';
import { SOLIDS, tube } from '../testing/solids.js';
import { convexBody, crosses } from '../compare/convex-overlap.js';
import { borderWalls, chainAlong, chainOfRun, DecomposeError, reducedProxy, slopeOf } from './index.js';

const body = (shape: Shape) => {
  const { points, faces } = shapePolygons(shape);
  return convexBody(points, faces);
};
const crossing = (shapes: readonly Shape[]): boolean =>
  shapes.some((a, i) => shapes.some((b, j) => j < i && crosses(body(a), body(b), 1e-6, 1e-9)));
const closedAndConvex = (shape: Shape): void => {
  const { points, faces } = shapePolygons(shape);
  const edges = new Set(faces.flatMap((f) => f.map((v, i) => `${v},${f[(i + 1) % f.length]}`)));
  for (const edge of edges) expect(edges).toContain(edge.split(',').reverse().join());
  const hull = convexHull(points);
  expect(hull.span).toBe('solid');
  if (hull.span === 'solid')
    expect(shapeVolume(shape)).toBeCloseTo(
      shapeVolume({ kind: 'hull', points: [...hull.hull.points], faces: hull.hull.faces }),
      9,
    );
};

describe('chains along a run', () => {
  const bend = (radius: number, angle: number, n = 40) =>
    Array.from({ length: n }, (_, i): Vec3 => {
      const a = (angle * i) / (n - 1);
      return [Math.cos(a) * radius, 0, Math.sin(a) * radius];
    });

  it('finds the line of a bent tube and lays boxes along it that meet, do not cross and are closed', () => {
    const rail = tube(bend(3, 2), 0.1);
    const { run, shapes, places, half } = chainOfRun(rail.positions, rail.indices, { count: 8 });
    expect(chainAlong(places, half, { closed: run.closed })).toEqual(shapes);
    expect(run.closed).toBeFalse();
    expect(Math.abs(run.length - 6)).toBeLessThan(0.1);
    expect(shapes.length).toBe(8);
    shapes.forEach(closedAndConvex);
    expect(crossing(shapes)).toBeFalse();
    const found = compareShapes(rail, shapes);
    expect(found.artOutside.max).toBeLessThan(0.02);
    expect(found.overlap).toBeLessThan(0.02 * found.artVolume);
  });

  it('takes as many boxes as the tolerance asks for, and goes round a ring', () => {
    const rail = tube(bend(3, 2), 0.1);
    const few = chainOfRun(rail.positions, rail.indices, { tolerance: 0.2 }).shapes.length;
    const many = chainOfRun(rail.positions, rail.indices, { tolerance: 0.005 }).shapes.length;
    expect(few).toBeLessThan(many);
    const ring = tube(bend(2, 2 * Math.PI * (47 / 48), 48), 0.15, 12, true);
    const round = chainOfRun(ring.positions, ring.indices, { count: 12 });
    expect(round.run.closed).toBeTrue();
    expect(round.shapes.length).toBe(12);
    expect(crossing(round.shapes)).toBeFalse();
  });

  it('follows any gentle line given by hand', () => {
    const step = fc.tuple(
      fc.double({ min: 0.8, max: 2, noNaN: true }),
      fc.double({ min: -0.4, max: 0.4, noNaN: true }),
      fc.double({ min: -0.4, max: 0.4, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 8 }), (steps) => {
        const line: Vec3[] = [[0, 0, 0]];
        for (const [x, y, z] of steps) {
          const last = line.at(-1)!;
          line.push([last[0] + x, last[1] + y, last[2] + z]);
        }
        const shapes = chainAlong(line, [0.1, 0.05]);
        expect(shapes.length).toBe(steps.length);
        shapes.forEach(closedAndConvex);
        expect(crossing(shapes)).toBeFalse();
      }),
      { numRuns: 60 },
    );
  });

  it('refuses what is no run, and lines that go nowhere or turn back', () => {
    const ball = ballMesh(1);
    expect(() => chainOfRun(ball.positions, ball.indices)).toThrowError(DecomposeError, /no run/);
    expect(() => chainAlong([[0, 0, 0]], [1, 1])).toThrowError(DecomposeError);
    expect(() =>
      chainAlong(
        [
          [0, 0, 0],
          [0, 0, 0],
        ],
        [1, 1],
      ),
    ).toThrowError(DecomposeError, /same/);
    expect(() =>
      chainAlong(
        [
          [0, 0, 0],
          [4, 0, 0],
          [0, 0.1, 0],
        ],
        [0.1, 0.1],
      ),
    ).toThrowError(DecomposeError, /turns back|too sharply/);
  });
});

describe('slopes', () => {
  it('makes one prism of a flight, its top along the nosings', () => {
    const stair = SOLIDS.stair(6);
    const slope = slopeOf(stair);
    closedAndConvex(slope);
    const found = compareShapes(stair, [slope]);
    expect(found.artOutside.max).toBeLessThan(1e-9);
    expect(slope.points.length / 3).toBeLessThanOrEqual(10);
    // Half a tread's box above each step is all that it fills.
    expect(found.overfill).toBeLessThan(6 * 0.3 * 0.18 * 2 * 0.55);
  });

  it('climbs any way the stair is turned, and refuses what is level', () => {
    for (const angle of [0.3, 1.9, 4]) {
      const turned = moved(SOLIDS.stair(8), [5, 1, -3], [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)]);
      const found = compareShapes(turned, [slopeOf(turned)]);
      expect(found.artOutside.max).toBeLessThan(0.03);
      expect(found.overfill).toBeLessThan(0.2 * found.artVolume);
    }
    expect(() => slopeOf(boxMesh([1, 1, 1]))).toThrowError(DecomposeError, /climb nowhere/);
  });
});

describe('walls along a border', () => {
  const floor = plainMesh([0, 0, 0, 4, 0, 0, 4, 0, 3, 0, 0, 3], [0, 2, 1, 0, 3, 2]);

  it('raises mitred walls outside or inside, whichever way the floor faces', () => {
    for (const mesh of [floor, plainMesh(floor.positions, [...floor.indices].reverse())]) {
      const outside = borderWalls(mesh, { height: 1, thickness: 0.2 });
      expect(outside.length).toBe(4);
      outside.forEach(closedAndConvex);
      expect(crossing(outside)).toBeFalse();
      const min = outside.map((shape) => shapeBounds(shape).min[0]);
      expect(Math.min(...min)).toBeCloseTo(-0.2, 9);
      const inside = borderWalls(mesh, { height: 1, thickness: 0.2, side: 'inside', as: 'boxes' });
      expect(Math.min(...inside.map((shape) => shapeBounds(shape).min[0]))).toBeCloseTo(0, 9);
      expect(inside.every(({ kind }) => kind === 'box')).toBeTrue();
    }
  });

  it('follows a border that falls, and leaves a stretched line as one', () => {
    const ramp = plainMesh(
      Array.from({ length: 11 }, (_, i) => [i, -i * 0.3, 0, i, -i * 0.3, 2]).flat(),
      Array.from({ length: 10 }, (_, i) => [2 * i, 2 * i + 1, 2 * i + 3, 2 * i, 2 * i + 3, 2 * i + 2]).flat(),
    );
    const walls = borderWalls(ramp, { height: 0.5, thickness: 0.1 });
    expect(walls.length).toBe(4);
    walls.forEach(closedAndConvex);
    expect(() => borderWalls(boxMesh([1, 1, 1]), { height: 1, thickness: 1 })).toThrowError(
      DecomposeError,
      /no open border/,
    );
    expect(() => borderWalls(floor, { height: 0, thickness: 1 })).toThrowError(DecomposeError, /above 0/);
    // Thicker than the floor they would meet across it, or go on far beyond it.
    for (const side of ['inside', 'outside'] as const) {
      expect(() => borderWalls(floor, { height: 1, thickness: 50, side })).toThrowError(
        DecomposeError,
        /^Walls 50\.00 m thick are too thick for a floor .* wide; make them thinner than/,
      );
    }
  });
});

describe('reduction', () => {
  it('brings art to a share or an error, closed if it was closed', async () => {
    const ball = ballMesh(1, [0, 0, 0], 48);
    const few = await reduceWhole(ball, { share: 0.1 });
    expect(few.closed).toBeTrue();
    expect(few.mesh.indices.length).toBeLessThan(ball.indices.length * 0.15);
    const close = await reduceWhole(ball, { error: 0.01 });
    expect(close.error).toBeLessThanOrEqual(0.01);
    expect(close.mesh.indices.length).toBeLessThan(ball.indices.length);
    const open = await reduceWhole(
      takeFaces(ball, (f) => f > 40),
      { share: 0.2 },
    );
    expect(open.closed).toBeFalse();
  });

  it('keeps many small closed parts closed or takes them away whole', async () => {
    const parts = joinMeshes(
      Array.from({ length: 6 }, (_, i) => ballMesh(i === 0 ? 1 : 0.02, [i * 2, 0, 0], 12)),
    );
    const { mesh } = await reduceWhole(parts, { share: 0.05 });
    expect(topologyOf(mesh).openEdges).toBe(0);
  });

  it('serves as a proxy, as hulls or as a surface', async () => {
    const art = joinMeshes([ballMesh(1), boxMesh([1, 1, 1], [5, 0, 0])]);
    const { shapes } = await reducedProxy(art, { error: 0.05 });
    expect(shapes.map(({ kind }) => kind)).toEqual(['hull', 'hull']);
    const surface = await reducedProxy(art, { error: 0.05, as: 'surface' });
    expect(surface.shapes[0]!.kind).toBe('surface');
  });
});
