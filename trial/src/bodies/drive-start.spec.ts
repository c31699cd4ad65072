import { startOfDrive } from './drive-start.js';

describe('where a drive starts', () => {
  /** A floor at 0.4 between two sills at 0.1, along x. */
  const positions = Float64Array.from([-4, 0.1, 0, -3, 0.4, 0, 3, 0.4, 0, 4, 0.1, 0]);
  const bounds = {
    min: [-4, 0.1, -1] as [number, number, number],
    max: [4, 0.4, 1] as [number, number, number],
  };

  it('is set in from the end by a part of the wheelbase, over the floor there, either way', () => {
    for (const side of [1, -1] as const) {
      const { at, length } = startOfDrive(positions, bounds, [side, 0], 1.6);
      expect(at[0]).toBeCloseTo(-2.8 * side, 9);
      expect(at[1]).toBeCloseTo(0.42, 9);
      expect(at[2]).toBeCloseTo(0, 9);
      expect(length).toBeCloseTo(5.6, 9);
    }
  });
});
