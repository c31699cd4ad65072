import fc from 'fast-check';
import { convexHull, type ConvexHull, farthestOutside, hullVolume } from './convex-hull.js';
import { halfSpaceCorners } from './half-spaces.js';
import { type BudgetSide, withVertexBudget } from './vertex-budget.js';

/** A box with corners rounded in many small steps: smooth to the eye. */
function roundedBox(count: number, radius = 0.1): number[] {
  const points: number[] = [];
  for (let i = 0; i < count; i++) {
    const y = 1 - (2 * i + 1) / count;
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    const d = [Math.cos(turn) * Math.sqrt(1 - y * y), y, Math.sin(turn) * Math.sqrt(1 - y * y)];
    points.push(...d.map((v) => v * radius + Math.sign(v)));
  }
  return points;
}

function solidOf(points: ArrayLike<number>): ConvexHull {
  const result = convexHull(points);
  if (result.span !== 'solid') throw new Error('flat');
  return result.hull;
}

function expectClosedAndConvex(hull: ConvexHull): void {
  const again = solidOf(hull.points);
  expect(again.points.length).toBe(hull.points.length);
  expect(Math.abs(hullVolume(again) / hullVolume(hull) - 1)).toBeLessThan(1e-9);
  const edges = new Set(hull.faces.flatMap((f) => f.map((v, i) => `${v},${f[(i + 1) % f.length]}`)));
  for (const edge of edges) expect(edges).toContain(edge.split(',').reverse().join());
}

describe('withVertexBudget', () => {
  const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -50, max: 50, noNaN: true })));

  it('never has more vertices, stays convex and closed, and keeps to its side', () => {
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 12, maxLength: 60 }),
        fc.integer({ min: 4, max: 20 }),
        fc.constantFrom<BudgetSide>('outside', 'inside', 'between'),
        (places, budget, side) => {
          const result = convexHull(places.flat());
          if (result.span !== 'solid' || hullVolume(result.hull) < 1) return;
          const few = withVertexBudget(result.hull, budget, side);
          expect(few.points.length / 3).toBeLessThanOrEqual(budget);
          expectClosedAndConvex(few);
          const size = 200;
          if (side === 'outside') expect(farthestOutside(few, result.hull.points)).toBeLessThan(size * 1e-9);
          if (side === 'inside') expect(farthestOutside(result.hull, few.points)).toBeLessThan(size * 1e-9);
          if (side === 'between')
            expect(Math.abs(hullVolume(few) / hullVolume(result.hull) - 1)).toBeLessThan(1e-9);
        },
      ),
      { numRuns: 80 },
    );
  });

  it('takes a rounded box from 500 vertices to 32 with the volume changed by under 3 %', () => {
    const hull = solidOf(roundedBox(500));
    expect(hull.points.length / 3).toBeGreaterThan(480);
    for (const side of ['outside', 'inside', 'between'] as const) {
      const few = withVertexBudget(hull, 32, side);
      expect(few.points.length / 3).toBeLessThanOrEqual(32);
      expect(Math.abs(hullVolume(few) / hullVolume(hull) - 1)).toBeLessThan(0.03);
    }
  });

  it('leaves alone what is within the budget', () => {
    const hull = solidOf(roundedBox(20));
    expect(withVertexBudget(hull, 32)).toBe(hull);
  });
});

describe('halfSpaceCorners', () => {
  it('gives back a hull from its planes', () => {
    const cube = [1, 0, 0, 1, -1, 0, 0, 1, 0, 1, 0, 2, 0, -1, 0, 2, 0, 0, 1, 3, 0, 0, -1, 3];
    const corners = halfSpaceCorners(cube, [0.2, 0.1, -0.3]);
    expect(corners.length).toBe(24);
    expect(hullVolume(solidOf(corners))).toBeCloseTo(48, 9);
    expect(halfSpaceCorners(cube, [5, 0, 0]).length).toBe(0);
  });
});
