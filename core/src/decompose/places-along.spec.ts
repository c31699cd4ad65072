import { distance, type Vec3 } from '../math/index.js';
import { changedBy, type Shape } from '../shape/index.js';
import { placesAlong } from './index.js';

const post = (center: Vec3): Extract<Shape, { kind: 'box' }> => ({
  kind: 'box',
  center,
  halfExtents: [0.02, 0.5, 0.05],
  rotation: [0, 0, 0, 1],
});
/** A quarter of a circle of 4 m, rising by 1 m. */
const rail = Array.from({ length: 91 }, (_, i): Vec3 => {
  const angle = (i * Math.PI) / 180;
  return [4 * Math.cos(angle), 1 + i / 90, 4 * Math.sin(angle)];
});

describe('copies along a run', () => {
  it('stand evenly to its far end, upright, turned as the run turns, as far below it as the first', () => {
    const first = post([4, 0.5, 0]);
    const posts = placesAlong(rail, { closed: false, at: first.center, count: 3 }).map((place) =>
      changedBy(first, place),
    );
    const angles = posts.map(({ center: [x, , z] }) => (Math.atan2(z, x) * 180) / Math.PI);
    angles.forEach((angle, i) => expect(angle).toBeCloseTo(30 * (i + 1), 0));
    posts.forEach(({ center, rotation }, i) => {
      expect(Math.hypot(center[0], center[2])).toBeCloseTo(4, 2);
      expect(center[1]).toBeCloseTo(0.5 + (i + 1) / 3, 2);
      expect([rotation[0], rotation[2]]).toEqual([0, 0]);
      // At the end the line says its way from one side only.
      expect(Math.abs((2 * Math.asin(Math.abs(rotation[1])) * 180) / Math.PI - 30 * (i + 1))).toBeLessThan(
        1.5,
      );
    });
    // From the other end they go back.
    const [back] = placesAlong(rail, { closed: false, at: [0, 1.5, 4], count: 1 });
    expect(distance(changedBy(post([0, 1.5, 4]), back!).center, [4, 0.5, 0])).toBeLessThan(0.1);
  });

  it('go round a closed one, and stand at the same height on a straight upright one', () => {
    const square: Vec3[] = [
      [0, 0, 0],
      [2, 0, 0],
      [2, 0, 2],
      [0, 0, 2],
    ];
    const round = placesAlong(square, { closed: true, at: [1, 0, 0], count: 3 }).map(
      (place) => changedBy(post([1, 0, 0]), place).center,
    );
    const wanted: Vec3[] = [
      [2, 0, 1],
      [1, 0, 2],
      [0, 0, 1],
    ];
    round.forEach((center, i) => expect(distance(center, wanted[i]!)).toBeLessThan(1e-6));
    const pole = [0, 1, 2].map((y): Vec3 => [0, y, 0]);
    const [up] = placesAlong(pole, { closed: false, at: [0, 0, 0], count: 1 });
    expect(changedBy(post([0, 0, 0]), up!)).toEqual(post([0, 2, 0]));
  });
});
