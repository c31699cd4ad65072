import { groundGrid } from './ground-grid';

describe('the drawn ground', () => {
  const ends = (radius: number, step: number) => {
    const { geometry } = groundGrid(radius, step);
    const [at, color] = ['position', 'color'].map((name) => geometry.getAttribute(name));
    return Array.from({ length: at!.count }, (_, i) => ({
      x: at!.getX(i),
      z: at!.getZ(i),
      tone: color!.getX(i).toFixed(4),
    }));
  };

  it('has a line every metre, to where it fades out, in pieces', () => {
    const found = ends(7, 4);
    for (const { x, z } of found) expect(Math.hypot(x, z)).toBeLessThan(7 + 1e-6);
    const columns = new Set(found.filter((_, i) => i % 4 < 2).map(({ x }) => x));
    expect([...columns].sort((a, b) => a - b)).toEqual([-6, -5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5, 6]);
    // Together the pieces are as long as the chords of the circle, in both directions.
    let length = 0;
    for (let i = 0; i < found.length; i += 2)
      length += Math.hypot(found[i]!.x - found[i + 1]!.x, found[i]!.z - found[i + 1]!.z);
    const chords = [...columns].reduce((sum, x) => sum + 2 * Math.sqrt(49 - x * x), 0);
    expect(length).toBeCloseTo(2 * chords, 3);
  });

  it('has a heavier line at each step', () => {
    const toneOf = (line: number) =>
      new Set(
        ends(7, 4)
          .filter(({ x }, i) => i % 4 < 2 && x === line)
          .map(({ tone }) => tone),
      );
    expect([...toneOf(0)]).toEqual([...toneOf(4)]);
    expect([...toneOf(1)]).toEqual([...toneOf(3)]);
    expect([...toneOf(1)]).not.toEqual([...toneOf(4)]);
  });
});
