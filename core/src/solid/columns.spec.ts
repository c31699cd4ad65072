import fc from 'fast-check';
import { type Bounds, sizeOf } from '../math/index.js';
import { joinMeshes, type Mesh, meshBounds, plainMesh } from '../mesh/index.js';
import { ballMesh, boxMesh, inverted } from '../testing/meshes.js';
import { columnGrid, crossingsOf, insideRuns } from './columns.js';

const AXES = [0, 1, 2] as const;
/** Volume by the runs inside, along an axis. */
function volumeAlong(mesh: Mesh, axis: 0 | 1 | 2, cells = 40): number {
  const grid = columnGrid(meshBounds(mesh), axis, cells);
  const { ends } = insideRuns(crossingsOf(grid, mesh.positions, mesh.indices));
  let length = 0;
  for (let r = 0; r < ends.length; r += 2) length += ends[r + 1]! - ends[r]!;
  return length * grid.cell[0] * grid.cell[1];
}

describe('rays through a solid', () => {
  it('stand one in each cell, inside it, squarely over the box', () => {
    const bounds: Bounds = { min: [0, 0, 0], max: [4, 2, 0] };
    const grid = columnGrid(bounds, 2, 20);
    expect([grid.wide >= grid.high, grid.wide * grid.cell[0], grid.high * grid.cell[1]]).toEqual([
      true,
      4,
      2,
    ]);
    for (const place of [...grid.s, ...grid.t]) expect(place >= 0 && place < 1).toBeTrue();
    expect(new Set(grid.s).size).toBe(grid.s.length);
    // A flat box gets a few, and a size that is nothing no cell of nothing.
    const flat = columnGrid(bounds, 0, 20);
    expect([flat.high >= 6, flat.cell[1]]).toEqual([true, 1]);
    expect(new Set(columnGrid(bounds, 2, 20, true).s)).toEqual(new Set([0.5]));
  });

  it('measure boxes exactly and balls nearly, along every axis', () => {
    for (const axis of AXES) {
      expect(volumeAlong(boxMesh([1, 2, 0.5]), axis)).toBeCloseTo(8, 6);
      expect(volumeAlong(ballMesh(1, [3, 0, 0], 64), axis) / ((4 / 3) * Math.PI)).toBeCloseTo(1, 1);
    }
  });

  it('do not count twice where solids overlap, nor a hollow', () => {
    const two = joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], [1, 0, 0])]);
    const hollow = joinMeshes([boxMesh([1, 1, 1]), inverted(boxMesh([0.5, 0.5, 0.5]))]);
    for (const axis of AXES) {
      expect(Math.abs(volumeAlong(two, axis) - 12)).toBeLessThan(0.2);
      expect(Math.abs(volumeAlong(hollow, axis) - 7)).toBeLessThan(0.2);
    }
  });

  it('cross a shared edge once: a closed surface is left as often as it is entered, wherever the rays are', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 4, max: 30 }),
        fc.constantFrom(...AXES),
        fc.boolean(),
        (cells, axis, centred) => {
          const mesh = ballMesh(1, [0, 0, 0], 12);
          const grid = columnGrid(meshBounds(mesh), axis, cells, centred);
          const { start, way, at } = crossingsOf(grid, mesh.positions, mesh.indices);
          for (let ray = 0; ray + 1 < start.length; ray++) {
            let sum = 0;
            for (let k = start[ray]!; k < start[ray + 1]!; k++) {
              sum += way[k]!;
              expect(sum === 0 || sum === 1).toBeTrue();
              if (k > start[ray]!) expect(at[k]!).toBeGreaterThanOrEqual(at[k - 1]!);
            }
            expect(sum).toBe(0);
          }
        },
      ),
      { numRuns: 40 },
    ));

  it('ask only the triangles that count, and find nothing in what has no extent', () => {
    const box = boxMesh([1, 1, 1]);
    const grid = columnGrid(meshBounds(box), 1, 8);
    const all = crossingsOf(grid, box.positions, box.indices);
    expect(new Set(all.face).size).toBe(4);
    expect(crossingsOf(grid, box.positions, box.indices, () => false).at.length).toBe(0);
    const line = plainMesh([0, 0, 0, 1, 1, 1, 2, 2, 2], [0, 1, 2]);
    expect(crossingsOf(columnGrid(meshBounds(line), 1, 8), line.positions, line.indices).at.length).toBe(0);
    expect(sizeOf(meshBounds(line))).toEqual([2, 2, 2]);
  });
});
