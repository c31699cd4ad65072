import { ballMesh, boxMesh, moved } from '../testing/meshes.js';
import { tube } from '../testing/solids.js';
import { joinMeshes } from './join-meshes.js';
import { massOf } from './mass.js';
import { type Mesh, plainMesh } from './mesh.js';
import { topologyOf } from './topology.js';
import { unwrap } from './unwrap.js';
import { measureUvs, projectedUvs } from './uv.js';
import { uvLayout } from './uv-layout.js';

/** A square of the picture on a square metre. */
const tile = (u: number, v: number, size: number, x = 0): Mesh => ({
  ...plainMesh([x, 0, 0, x + 1, 0, 0, x + 1, 1, 0, x, 1, 0], [0, 1, 2, 0, 2, 3]),
  uvs: [Float32Array.of(u, v, u + size, v, u + size, v + size, u, v + size)],
});

describe('how a UV set lies in its square', () => {
  it('tells fill, overlap and the texels between islands', () => {
    const apart = joinMeshes([tile(0, 0, 0.25), tile(0.5, 0, 0.25, 2)]);
    const found = uvLayout(apart, 0, 256)!;
    expect([found.islands, found.fill, found.overlap, found.border]).toEqual([2, 0.125, 0, 64]);
    // Told for a larger picture, the gap has as many times more texels.
    expect(uvLayout(apart, 0, 4096)!.border).toBe(1024);
    const over = uvLayout(joinMeshes([tile(0, 0, 0.5), tile(0.25, 0, 0.5, 2)]), 0, 128)!;
    expect(over.overlap).toBeCloseTo(1 / 3, 2);
    expect(over.border).toBeNull();
  });

  it('tells what lies outside, is empty or missing', () => {
    const far = uvLayout(joinMeshes([tile(0, 0, 0.5), tile(3, 0, 0.5, 2)]), 0, 64)!;
    expect([far.outside, far.empty]).toEqual([0.5, 0]);
    const flat = uvLayout({ ...tile(0, 0, 1), uvs: [new Float32Array(8)] }, 0, 64)!;
    expect([flat.empty, flat.fill, flat.islands > 0]).toEqual([1, 0, true]);
    expect(uvLayout(tile(0, 0, 1), 1, 64)).toBeNull();
    expect(uvLayout({ ...tile(0, 0, 1), indices: new Uint32Array() }, 0, 64)).toBeNull();
  });
});

describe('UVs at real size', () => {
  it('come to one density from six sides, from one, and round an axis', () => {
    const box = projectedUvs(boxMesh([1, 1, 1]), 2);
    expect(measureUvs(box)!.density).toBeCloseTo(0.5, 6);
    const floor = projectedUvs(tile(0, 0, 1), 4, { by: 'planar', axis: 2 });
    expect(measureUvs(floor)!.density).toBeCloseTo(0.25, 6);
    const pipe = tube(
      [
        [0, 0, 0],
        [0, 2, 0],
      ],
      1,
      48,
    );
    const side = projectedUvs(pipe, 1, { by: 'cylinder', axis: 1 });
    expect(measureUvs(side)!.density).toBeCloseTo(1, 1);
    expect(measureUvs(side)!.stretched).toBeLessThan(0.4);
  });

  it('of another set leave the first one and its tangents', () => {
    const mesh = { ...tile(0, 0, 0.5), tangents: new Float32Array(16).fill(1) };
    const more = projectedUvs(mesh, 1, { set: 1 });
    expect(more.uvs.length).toBe(2);
    expect(measureUvs(more, 0)!.density).toBeCloseTo(0.5, 6);
    expect(more.tangents).toBeDefined();
  });
});

describe('a set for baked light', () => {
  it('has no overlaps, room between its islands, the density that is wanted, and changes no surface', async () => {
    for (const mesh of [
      boxMesh([1, 1, 1]),
      moved(ballMesh(1), [9, 0, 0]),
      tube(
        [
          [0, 0, 0],
          [0, 2, 0],
        ],
        0.4,
        16,
      ),
    ]) {
      const done = await unwrap(mesh, { set: 1, texelsPerUnit: 32, padding: 4 });
      const layout = uvLayout(done.mesh, 1, done.side)!;
      expect(layout.overlap).toBeLessThan(0.002);
      expect(layout.outside).toBe(0);
      expect(layout.border ?? 4).toBeGreaterThanOrEqual(3);
      expect(measureUvs(done.mesh, 1)!.density * done.side).toBeGreaterThan(32 * 0.7);
      expect(massOf(done.mesh).area).toBeCloseTo(massOf(mesh).area, 9);
      expect(topologyOf(done.mesh).closed).toBeTrue();
      expect(Math.log2(done.side) % 1).toBe(0);
    }
  });

  it('is the same whenever it is made', async () => {
    const make = () => unwrap(ballMesh(1), { set: 0, texelsPerUnit: 16, padding: 2 });
    const [a, b] = [await make(), await make()];
    expect(a.mesh.uvs[0]).toEqual(b.mesh.uvs[0]!);
  });
});
