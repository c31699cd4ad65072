import fc from 'fast-check';
import { ballMesh } from '../testing/meshes.js';
import { roughSurface } from './rough.js';

describe('a rough surface', () => {
  const ball = ballMesh(1, [0, 0, 0], 96);
  const positions = Float32Array.from(ball.positions);
  const all = ball.indices.length / 3;
  const halves = [
    { material: 4, start: 0, count: all / 2 },
    { material: -1, start: all / 2, count: all / 2 },
  ];

  it('has about as many triangles as are wanted, on the same vertices, each material its own', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 100, max: all }), async (wanted) => {
        const { indices, groups } = await roughSurface(positions, { ...ball, groups: halves }, wanted);
        expect(indices.length / 3).toBeLessThanOrEqual(wanted + 2);
        expect(groups.map(({ material }) => material)).toEqual([4, -1]);
        expect(groups[1]!.start).toBe(groups[0]!.count);
        expect(groups[1]!.start + groups[1]!.count).toBe(indices.length / 3);
        const own = new Set(ball.indices.subarray(0, all * 1.5));
        for (const v of indices.subarray(0, groups[0]!.count * 3)) expect(own.has(v)).toBeTrue();
      }),
      { numRuns: 20 },
    );
  });

  it('stays near what it stands for, and is all of what has few', async () => {
    const { indices } = await roughSurface(positions, ball, 1000);
    expect(indices.length / 3).toBeGreaterThan(300);
    // Middles of triangles of a ball lie in it, and not far from its surface.
    for (let i = 0; i < indices.length; i += 3) {
      const middle = [0, 1, 2].map(
        (k) => [0, 1, 2].reduce((sum, c) => sum + positions[indices[i + c]! * 3 + k]!, 0) / 3,
      );
      expect(Math.abs(Math.hypot(...middle) - 1)).toBeLessThan(0.15);
    }
    expect((await roughSurface(positions, ball, all)).indices).toEqual(Uint32Array.from(ball.indices));
  });
});
