import { alongLine, onPlane } from './along-line';

describe('a ray beside a line', () => {
  it('passes it where both are nearest', () => {
    const ray = { origin: [3, 5, 0], direction: [0, -1, 0] } as const;
    expect(alongLine(ray, [1, 0, 0], [1, 0, 0])).toBeCloseTo(2, 12);
    expect(alongLine({ origin: [-4, 5, 9], direction: [0, -1, 0] }, [1, 0, 0], [1, 0, 0])).toBeCloseTo(
      -5,
      12,
    );
    expect(alongLine({ origin: [0, 0, 0], direction: [1, 0, 0] }, [1, 0, 0], [1, 0, 0])).toBeNull();
  });

  it('meets a plane ahead of it, and none beside or behind', () => {
    const down = { origin: [1, 4, 2], direction: [0, -1, 0] } as const;
    expect(onPlane(down, [0, 1, 0], [0, 1, 0])).toEqual([1, 1, 2]);
    expect(onPlane(down, [0, 9, 0], [0, 1, 0])).toBeNull();
    expect(onPlane(down, [0, 0, 0], [1, 0, 0])).toBeNull();
  });
});
