import { rotate, type Vec3 } from '../math/index.js';
import { joinMeshes, plainMesh } from '../mesh/index.js';
import { boxMesh } from '../testing/meshes.js';
import { type FoundOpening, findOpenings } from './index.js';

/** A wall 4 wide, 3 high and 0.4 thick with a doorway 1 wide and 2 high, and a window 0.8 by 0.6 beside it. */
const wall = () =>
  joinMeshes([
    boxMesh([0.25, 1.5, 0.2], [-1.75, 1.5, 0]),
    boxMesh([0.4, 0.5, 0.2], [-1.1, 0.5, 0]),
    boxMesh([0.4, 0.7, 0.2], [-1.1, 2.3, 0]),
    boxMesh([0.1, 1.5, 0.2], [-0.6, 1.5, 0]),
    boxMesh([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
    boxMesh([0.5, 0.5, 0.2], [0, 2.5, 0]),
  ]);

const turned = (mesh: ReturnType<typeof wall>, degrees: number) => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const p = Float64Array.from(mesh.positions);
  for (let i = 0; i < p.length; i += 3) {
    const [x, z] = [p[i]!, p[i + 2]!];
    p[i] = c * x + s * z + 7;
    p[i + 2] = c * z - s * x - 3;
  }
  return plainMesh(p, mesh.indices);
};
const sizeOf = ({ halfExtents }: FoundOpening) => halfExtents.map((v) => 2 * v) as Vec3;
const near = (a: readonly number[], b: readonly number[], digits = 6) =>
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, digits));

describe('openings that are found', () => {
  it('are the doorway and the window of a wall, to the edges of the art and through all of it', () => {
    const [door, window, ...more] = findOpenings(wall());
    expect(more).toEqual([]);
    near(sizeOf(door!), [1, 2, 0.4]);
    near(door!.center, [0, 1, 0]);
    expect(door!.toFloor).toBeTrue();
    near(sizeOf(window!), [0.8, 0.6, 0.4]);
    near(window!.center, [-1.1, 1.3, 0]);
    expect(window!.toFloor).toBeFalse();
  });

  it('are found in a wall that stands askew', () => {
    for (const degrees of [17, 45, 90, 163]) {
      const [door, window] = findOpenings(turned(wall(), degrees));
      near(sizeOf(door!), [1, 2, 0.4], 4);
      near(sizeOf(window!), [0.8, 0.6, 0.4], 4);
      near(door!.center, [7, 1, -3], 4);
    }
  });

  it('are both ways under a table, and none in what is closed', () => {
    const legs = [-1, 1].flatMap((x) => [-1, 1].map((z) => boxMesh([0.05, 0.4, 0.05], [x, 0.4, z * 0.5])));
    const table = joinMeshes([boxMesh([1.1, 0.05, 0.6], [0, 0.85, 0]), ...legs]);
    const sizes = findOpenings(table).map(sizeOf);
    expect(sizes.length).toBe(2);
    near(sizes[0]!, [1.9, 0.8, 1.2], 4);
    near(sizes[1]!, [0.9, 0.8, 2.2], 4);
    expect(findOpenings(boxMesh([1, 1, 1]))).toEqual([]);
    expect(findOpenings(plainMesh([], []))).toEqual([]);
    expect(findOpenings(wall(), { minMetres: 0.7 }).length).toBe(1);
  });

  it('are holes in a deck, seen from above, with the depth of the deck, and none that are open to a side', () => {
    const deck = joinMeshes([
      boxMesh([0.5, 0.1, 2], [-1.5, 3, 0]),
      boxMesh([0.5, 0.1, 2], [1.5, 3, 0]),
      boxMesh([1, 0.1, 0.75], [0, 3, -1.25]),
      boxMesh([1, 0.1, 0.9], [0, 3, 1.1]),
    ]);
    const [hatch, ...more] = findOpenings(deck).filter(
      ({ rotation }) => rotate(rotation, [0, 0, 1])[1] > 0.9,
    );
    expect(more).toEqual([]);
    const [width, length, depth] = sizeOf(hatch!);
    near([width, length].sort(), [0.7, 2], 6);
    expect(depth).toBeCloseTo(0.2, 6);
    near(hatch!.center, [0, 3, -0.15], 6);
    expect(hatch!.toFloor).toBeFalse();
    const shaped = joinMeshes([boxMesh([0.5, 0.1, 2], [-1.5, 3, 0]), boxMesh([1, 0.1, 0.75], [0, 3, -1.25])]);
    expect(findOpenings(shaped)).toEqual([]);
  });
});
