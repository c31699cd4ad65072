import fc from 'fast-check';
import { compareShapes, crossingPairs, shapeDistance } from '../compare/index.js';
import { quatAbout, rotate, type Vec3 } from '../math/index.js';
import { plainMesh } from '../mesh/index.js';
import { type HullShape, prismGrowth } from '../shape/index.js';
import { boxMesh } from '../testing/meshes.js';
import { stackedRounds } from './stacked-rounds.js';

/** A body turned about an upright axis: radius and height of its outline from below. */
function turned(outline: readonly [number, number][], { sides = 48, to = (p: Vec3) => p } = {}) {
  const positions = outline.flatMap(([radius, height]) =>
    Array.from({ length: sides }, (_, i) => {
      const angle = (i / sides) * 2 * Math.PI;
      return to([Math.cos(angle) * radius, height, Math.sin(angle) * radius]);
    }).flat(),
  );
  const indices = outline.slice(1).flatMap((_, j) =>
    Array.from({ length: sides }, (_, i) => {
      const [a, b] = [j * sides + i, j * sides + ((i + 1) % sides)];
      return [a, a + sides, b + sides, a, b + sides, b];
    }).flat(),
  );
  return plainMesh(positions, indices);
}

const POST: [number, number][] = [
  [0, 0],
  [0.4, 0],
  [0.4, 0.1],
  [0.2, 0.1],
  [0.2, 0.5],
  [0.3, 0.6],
  [0.3, 0.7],
  [0, 0.7],
];
const around = (mesh: ReturnType<typeof turned>, options = {}): HullShape[] =>
  stackedRounds(mesh.positions, mesh.indices, { toleranceMetres: 0.01, maxCorners: 255, ...options });
const members = (shapes: HullShape[]) => shapes.map((shape, i) => ({ id: String(i), shape, owner: null }));

describe('rounds on each other', () => {
  it('part a post at its plate and below its head, and meet there', () => {
    const post = turned(POST);
    const rounds = around(post);
    expect(rounds.length).toBe(3);
    expect(rounds.every(({ points }) => points.length / 3 <= 36)).toBeTrue();
    expect(crossingPairs(members(rounds))).toEqual([]);
    const { artOutside, proxyOutside } = compareShapes(post, rounds);
    // Twelve corners for a circle: half of what they differ stands out, half falls short.
    expect(artOutside.max).toBeLessThan(0.4 * (1 - prismGrowth(12) * Math.cos(Math.PI / 12)) + 1e-3);
    expect(proxyOutside.max).toBeLessThan(0.4 * (prismGrowth(12) - 1) + 1e-3);
  });

  it('make one round with a ring of a belly, and two of a waist', () => {
    const belly = around(
      turned([
        [0.2, 0],
        [0.3, 0.5],
        [0.2, 1],
      ]),
    );
    expect(belly.map(({ points }) => points.length / 3)).toEqual([36]);
    const waist = around(
      turned([
        [0.3, 0],
        [0.2, 0.5],
        [0.3, 1],
      ]),
    );
    expect(waist.map(({ points }) => points.length / 3)).toEqual([24, 24]);
  });

  it('are the closest of so many, with so many corners', () => {
    const post = turned(POST);
    const two = around(post, { maxRounds: 2, maxCorners: 24, sides: 8 });
    expect(two.length).toBe(2);
    expect(two.every(({ points }) => points.length / 3 <= 24)).toBeTrue();
    const one = around(post, { maxRounds: 1 });
    const gap = (rounds: HullShape[]) => compareShapes(post, rounds).proxyOutside.max;
    expect(gap(two)).toBeLessThan(gap(one) + 1e-6);
  });

  it('part where few corners leave no rings between, rather than lose the art', () => {
    const head = turned([
      [0.2, 0],
      [0.5, 0.3],
      [0.2, 0.6],
      [0, 0.6],
    ]);
    const rounds = around(head, { maxCorners: 24 });
    expect(rounds.length).toBe(2);
    expect(compareShapes(head, rounds).artOutside.max).toBeLessThan(0.02);
  });

  it('are not flatter than what is felt', () => {
    const stepped = turned([
      [0, 0],
      [0.4, 0],
      [0.4, 0.1],
      [0.3, 0.101],
      [0.2, 0.102],
      [0.2, 0.5],
      [0, 0.5],
    ]);
    for (const { points } of around(stepped, { toleranceMetres: 0.02, maxCorners: 24 })) {
      const heights = points.filter((_, i) => i % 3 === 1);
      expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.005);
    }
  });

  it('find the axis wherever it points, however large the body is', () => {
    fc.assert(
      fc.property(
        fc.tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })),
        fc.constantFrom(0.02, 1, 1e4),
        ([a, b], scale) => {
          const turn = quatAbout([1, 0, 0], a * 3);
          const lean = quatAbout([0, 0, 1], b * 3);
          const to = (p: Vec3) => rotate(turn, rotate(lean, p)).map((v) => v * scale + 7 * scale) as Vec3;
          const post = turned(POST, { to });
          const rounds = around(post, { toleranceMetres: 0.01 * scale, sides: 24 });
          expect(rounds.length).toBe(3);
          const distances = rounds.map(shapeDistance);
          for (let v = 0; v < post.positions.length; v += 3) {
            const [x, y, z] = post.positions.slice(v, v + 3);
            expect(Math.min(...distances.map((distance) => distance(x!, y!, z!)))).toBeLessThan(0.02 * scale);
          }
        },
      ),
      { numRuns: 12 },
    );
  });

  it('say so when faces are not round', () => {
    expect(() => around(boxMesh([1, 1, 3]))).toThrowError(/not round about an axis/);
    expect(() => around(plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]))).toThrowError(/not round/);
    expect(() => around(plainMesh([], []))).toThrowError(/not round/);
  });
});
