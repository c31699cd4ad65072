import fc from 'fast-check';
import { massOf, plainMesh } from '../../mesh/index.js';
import { text } from '../../testing/meshes.js';
import { memoryFile } from '../input-file.js';
import { readFile } from '../read-files.js';
import { triangulate } from '../../mesh/index.js';

/** A star-shaped polygon round the origin: any radii, corners in turning order. */
const star = fc
  .array(fc.double({ min: 0.2, max: 5, noNaN: true }), { minLength: 3, maxLength: 40 })
  .map((radii) =>
    radii.map((r, i): [number, number] => {
      const angle = (i / radii.length) * 2 * Math.PI;
      return [r * Math.cos(angle), r * Math.sin(angle)];
    }),
  );

const shoelace = (points: [number, number][]) =>
  points.reduce((sum, [x, y], i) => {
    const [u, v] = points[(i + 1) % points.length]!;
    return sum + (x * v - u * y) / 2;
  }, 0);

describe('triangulate', () => {
  it('covers a hollow polygon exactly, in any plane, without turning a triangle over', () => {
    fc.assert(
      fc.property(star, fc.constantFrom(0, 1, 2), (points, axis) => {
        const flat = points.map(([x, y]) => {
          const p = [0, 0, 0];
          p[(axis + 1) % 3] = x;
          p[(axis + 2) % 3] = y;
          p[axis] = 7;
          return p;
        });
        const positions = Float64Array.from(flat.flat());
        const indices: number[] = [];
        triangulate(
          positions,
          points.map((_, i) => i),
          (a, b, c) => indices.push(a, b, c),
        );
        expect(indices.length).toBe((points.length - 2) * 3);
        expect(massOf(plainMesh(positions, indices)).area).toBeCloseTo(shoelace(points), 6);
      }),
      { numRuns: 200 },
    );
  });
});

describe('an OBJ that is hard on its reader', () => {
  const read = (content: string) => readFile(memoryFile('hard.obj', text(content)));

  it('with a material change at every face is read in one go, a group a material', async () => {
    const lines = ['v 0 0 0', 'v 1 0 0', 'v 0 1 0'];
    for (let i = 0; i < 60_000; i++) lines.push(`usemtl m${i % 5000}`, 'f 1 2 3');
    const scene = await read(`${lines.join('\n')}\n`);
    expect(scene.materials.length).toBe(5000);
    const { groups } = scene.meshes[0]!.mesh;
    expect(groups.length).toBe(5000);
    expect(groups.every((group) => group.count === 12)).toBeTrue();
  });

  it('with one polygon of many corners keeps its area', async () => {
    const n = 3000;
    const lines = Array.from({ length: n }, (_, i) => {
      const angle = (i / n) * 2 * Math.PI;
      const r = i % 2 ? 1 : 2;
      return `v ${r * Math.cos(angle)} ${r * Math.sin(angle)} 0`;
    });
    lines.push(`f ${Array.from({ length: n }, (_, i) => i + 1).join(' ')}`);
    const { mesh } = (await read(lines.join('\n'))).meshes[0]!;
    expect(mesh.indices.length / 3).toBe(n - 2);
    expect(massOf(mesh).area).toBeCloseTo((n / 2) * 2 * Math.sin((2 * Math.PI) / n), 6);
  });

  it('a micron or ten kilometres across keeps its shape', async () => {
    for (const size of [1e-6, 1e4]) {
      const scene = await read(
        `v 0 0 0\nv ${size} 0 0\nv 0 ${size} 0\nv 0 0 ${size}\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n`,
      );
      expect(massOf(scene.meshes[0]!.mesh).volume / size ** 3).toBeCloseTo(1 / 6, 9);
    }
  });

  it('roughness comes from what is stated, or from the shininess', async () => {
    const obj = memoryFile(
      'a.obj',
      text(
        'mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl a\nf 1 2 3\nusemtl b\nf 1 3 2\nusemtl c\nf 2 3 1\n',
      ),
    );
    const mtl = memoryFile(
      'a.mtl',
      text('newmtl a\nNs 98\nnewmtl b\nPr 0.3\nNs 98\nnewmtl c\nd 0.5\nKd 1 0\n'),
    );
    const scene = await readFile(obj, [mtl]);
    expect(scene.materials.map((m) => Number(m.roughness.toFixed(6)))).toEqual([0.141421, 0.3, 0.9]);
    expect(scene.materials[2]).toEqual(
      jasmine.objectContaining({ alpha: 'blend', baseColor: [1, 0, 1, 0.5] }),
    );
    await expectAsync(readFile(obj, [memoryFile('a.mtl', text('newmtl a\nKd red\n'))])).toBeRejectedWithError(
      /a\.mtl, line 2: “Kd” has a value that is not a number/,
    );
  });
});
