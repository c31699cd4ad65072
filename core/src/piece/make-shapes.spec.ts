import { Comparer, crossingPairs } from '../compare/index.js';
import { type Vec3 } from '../math/index.js';
import { joinMeshes, type Mesh, plainMesh } from '../mesh/index.js';
import { type Shape, shapeBounds, shapeVolume } from '../shape/index.js';
import { pieceOf } from '../testing/documents.js';
import { ballMesh, boxMesh, moved, sceneOf } from '../testing/meshes.js';
import { tube } from '../testing/solids.js';
import { applyEdit } from './edits/index.js';
import { placedArt } from './geometry.js';
import { type Make, makeShapes } from './make-shapes.js';

const OPTIONS = { maxCorners: 32, toleranceMetres: 0.04 };

/** A piece of some meshes, a part each. */
function piece(...meshes: Mesh[]) {
  const scene = sceneOf(meshes[0]!);
  for (const [i, mesh] of meshes.slice(1).entries()) {
    scene.meshes.push({ name: `m${i + 2}`, mesh });
    scene.nodes.push({ ...scene.nodes[0]!, name: `part${i + 2}`, mesh: i + 1 });
  }
  const { document, meshOf } = pieceOf(scene);
  const placed = placedArt(document, meshOf);
  return {
    document,
    placed,
    make: async (make: Make) =>
      applyEdit(document, await makeShapes(document, placed, make, OPTIONS)).proxies,
  };
}
const boxOf = (min: Vec3, max: Vec3) =>
  boxMesh(min.map((v, k) => (max[k]! - v) / 2) as Vec3, min.map((v, k) => (max[k]! + v) / 2) as Vec3);
const crossing = (shapes: readonly Shape[]) =>
  crossingPairs(shapes.map((shape, i) => ({ id: `${i}`, shape, owner: null }))).length;
const refused = (work: Promise<unknown>) =>
  work.then(
    () => '',
    (error: Error) => error.message,
  );
/** Faces of the art that look up. */
const upward = ({ positions: p, indices }: Mesh): Uint32Array<ArrayBuffer> =>
  Uint32Array.from([...Array(indices.length / 3).keys()]).filter((f) => {
    const [a, b, c] = [0, 1, 2].map((k) => indices[f * 3 + k]! * 3) as [number, number, number];
    const [ux, uz, vx, vz] = [p[b]! - p[a]!, p[b + 2]! - p[a + 2]!, p[c]! - p[a]!, p[c + 2]! - p[a + 2]!];
    return uz * vx - ux * vz > 1e-9;
  });

describe('shapes that are made of chosen art', () => {
  it('wrap each part by itself, and belong to it; chosen faces are added beside what is there', async () => {
    const { document, placed, make } = piece(boxMesh([1, 1, 1]), boxMesh([1, 0.2, 1], [5, 0, 0]));
    const each = await make({ make: 'wrap', kind: 'suggested', per: 'part', faces: null });
    expect(each.map(({ part, shape }) => [part, shape.kind])).toEqual([
      [document.nodes[0]!.id, 'box'],
      [document.nodes[1]!.id, 'box'],
    ]);
    const before = applyEdit(document, {
      kind: 'put-proxies',
      changed: [{ id: 's1', shape: each[0]!.shape }],
      removed: 'others',
    });
    const faces = Uint32Array.from([...placed.node.keys()].filter((face) => placed.node[face] === 1));
    const more = applyEdit(
      before,
      await makeShapes(before, placed, { make: 'wrap', kind: 'box', per: 'shell', faces }, OPTIONS),
    );
    expect(more.proxies.map(({ id, part }) => [id, part])).toEqual([
      ['s1', undefined],
      ['s2', document.nodes[1]!.id],
    ]);
    const whole = await make({ make: 'wrap', kind: 'sphere', per: 'piece', faces: null });
    expect(whole.map(({ part, shape }) => [part, shape.kind])).toEqual([[undefined, 'sphere']]);
  });

  it('are a chain along a run, and one along a line that was drawn', async () => {
    const bend = Array.from({ length: 30 }, (_, i): Vec3 => [Math.cos(i / 15) * 3, 0, Math.sin(i / 15) * 3]);
    const { make } = piece(tube(bend, 0.1));
    const chain = await make({ make: 'chain', faces: null, count: 20, tolerance: null });
    expect(chain.length).toBe(20);
    expect(crossing(chain.map(({ shape }) => shape))).toBe(0);
    // Rails side by side get one each, whether they are one part or two; pieces of a hose are one run.
    const rail = (z: number) =>
      moved(
        tube(
          [
            [0, 0, 0],
            [4, 1, 0],
          ],
          0.05,
        ),
        [0, 0, z],
      );
    const ask: Make = { make: 'chain', faces: null, count: 7, tolerance: null };
    for (const rails of [piece(joinMeshes([rail(-1), rail(1)])), piece(rail(-1), rail(1))]) {
      const both = await rails.make(ask);
      const side = ({ min, max }: { min: Vec3; max: Vec3 }) => Math.sign(min[2] + max[2]);
      expect(both.map(({ shape }) => side(shapeBounds(shape)))).toEqual([
        ...Array(7).fill(-1),
        ...Array(7).fill(1),
      ]);
    }
    const owners = (await piece(rail(-1), rail(1)).make(ask)).map(({ part }) => part);
    expect(new Set(owners).size).toBe(2);
    const hose = [0, 1, 2].map((i) =>
      tube(
        [
          [i, 0, 0],
          [i + 1, 0, 0],
        ],
        0.05,
      ),
    );
    expect((await piece(joinMeshes(hose)).make(ask)).length).toBe(7);
    const line: Vec3[] = [
      [0, 0, 0],
      [1, 0, 0],
      [2, 1, 0],
    ];
    const drawn = await make({ make: 'drawn-chain', line, width: 0.1, height: 0.2, closed: false });
    expect(drawn.length).toBe(2);
    const back: Vec3[] = [
      [0, 0, 0],
      [1, 0, 0],
      [0, 0, 0],
    ];
    expect(
      await refused(make({ make: 'drawn-chain', line: back, width: 0.1, height: 0.2, closed: false })),
    ).toMatch(/turns back on itself/);
  });

  it('are slabs below a floor of two rooms, each as large as it is convex', async () => {
    const floor = joinMeshes([boxOf([0, -0.01, 0], [4, 0, 2]), boxOf([0, -0.01, 2], [1, 0, 5])]);
    const { placed, make } = piece(floor);
    const slabs = await make({ make: 'slab', faces: upward(placed.mesh), thickness: 0.3 });
    const shapes = slabs.map(({ shape }) => shape);
    expect(shapes.map(({ kind }) => kind)).toEqual(['box', 'box']);
    expect(shapes.map(shapeVolume).reduce((a, b) => a + b, 0)).toBeCloseTo((8 + 3) * 0.3, 6);
    for (const shape of shapes) expect(shapeBounds(shape).max[1]).toBeCloseTo(0, 9);
    const down = Uint32Array.from([...Array(24).keys()]).filter(
      (face) => !upward(placed.mesh).includes(face),
    );
    expect(await refused(make({ make: 'slab', faces: down, thickness: 0.3 }))).toMatch(/looks up/);
  });

  it('are a container that things fall into, square or round', async () => {
    const { make } = piece(boxMesh([1, 0.5, 0.6]));
    const square = (await make({ make: 'container', faces: null, thickness: 0.05, sides: 12 })).map(
      ({ shape }) => shape,
    );
    expect(square.length).toBe(5);
    expect(crossing(square)).toBe(0);
    expect(square.map(shapeVolume).reduce((a, b) => a + b, 0)).toBeCloseTo(2 * 1 * 1.2 - 1.9 * 0.95 * 1.1, 9);
    expect(await refused(make({ make: 'container', faces: null, thickness: 0.7, sides: 12 }))).toMatch(
      /leave no room inside/,
    );
    const ring = Array.from({ length: 48 }, (_, i) => (i / 24) * Math.PI).flatMap((a) =>
      [0, 1].flatMap((y) => [Math.cos(a), y, Math.sin(a)]),
    );
    const pot = plainMesh(
      ring,
      Array.from({ length: 48 }, (_, i) => {
        const j = (i + 1) % 48;
        return [i * 2, i * 2 + 1, j * 2, j * 2, i * 2 + 1, j * 2 + 1];
      }).flat(),
    );
    const round = (await piece(pot).make({ make: 'container', faces: null, thickness: 0.1, sides: 10 })).map(
      ({ shape }) => shape,
    );
    expect(round.map(({ kind }) => kind).join()).toBe(`cylinder${',hull'.repeat(10)}`);
    expect(crossing(round)).toBe(0);
    // A ball dropped into the middle meets the floor and nothing else.
    expect(round.slice(1).every((shape) => shapeBounds(shape).min[1] > 0.09)).toBeTrue();
  });

  it('are walls along the border of a floor, a slope, a frame, a reduced copy and the art’s own triangles', async () => {
    const floor = plainMesh([0, 0, 0, 4, 0, 0, 4, 0, 2, 0, 0, 2], [0, 2, 1, 0, 3, 2]);
    const walls = await piece(floor).make({
      make: 'walls',
      faces: null,
      height: 0.5,
      thickness: 0.1,
      side: 'outside',
      as: 'hulls',
      ends: true,
    });
    expect(walls.length).toBe(4);
    const steps = joinMeshes([0, 1, 2, 3].map((i) => boxOf([i, 0, 0], [i + 1, (i + 1) * 0.2, 2])));
    const [slope, ...more] = await piece(steps).make({ make: 'slope', faces: null });
    expect([slope!.shape.kind, more.length]).toEqual(['hull', 0]);
    const { document, placed } = piece(steps);
    const opened = {
      ...document,
      clearances: [
        {
          id: 'c1',
          name: 'door',
          center: [0, 1, 0] as Vec3,
          halfExtents: [0.1, 1, 0.5] as Vec3,
          rotation: [0, 0, 0, 1] as [number, number, number, number],
          through: 'x' as const,
        },
      ],
    };
    const frame = (make: Make) => makeShapes(opened, placed, make, OPTIONS);
    const members = (await frame({ make: 'frame', clearance: 'c1', width: 0.2, sill: false })).changed;
    expect(members.map(({ shape }) => shapeBounds(shape).max.map((v) => Math.round(v * 100) / 100))).toEqual([
      [0.1, 2, -0.5],
      [0.1, 2, 0.7],
      [0.1, 2.2, 0.7],
    ]);
    expect(await refused(frame({ make: 'frame', clearance: 'gone', width: 0.2, sill: false }))).toMatch(
      /is gone/,
    );
    const [own] = await piece(steps).make({ make: 'own-triangles', faces: Uint32Array.of(0, 1) });
    expect(own!.shape.kind === 'surface' && own!.shape.indices.length).toBe(6);
    const ball = ballMesh(1, [0, 0, 0], 32);
    const reduced = await piece(ball).make({ make: 'reduced', faces: null, share: 0.2, as: 'surface' });
    expect(reduced.map(({ shape }) => shape.kind)).toEqual(['surface']);
    expect(new Comparer(ball).compare(reduced.map(({ shape }) => shape)).artOutside.max).toBeLessThan(0.1);
  });

  it('are walls along the long sides alone of a floor that is driven along, and a container as thick as the art', async () => {
    const walls = {
      make: 'walls' as const,
      faces: null,
      height: 0.5,
      thickness: 0.1,
      side: 'outside' as const,
      as: 'hulls' as const,
    };
    const lane = plainMesh([0, 0, 0, 12, 0, 0, 12, 0, 3, 0, 0, 3], [0, 2, 1, 0, 3, 2]);
    const along = await piece(lane).make({ ...walls, ends: false });
    expect(
      along.map(({ shape }) => Math.round(shapeBounds(shape).max[0] - shapeBounds(shape).min[0])),
    ).toEqual([12, 12]);
    expect((await piece(lane).make({ ...walls, ends: true })).length).toBe(4);
    const tray = joinMeshes([
      boxOf([0, 0, 0], [2, 0.1, 1]),
      boxOf([0, 0.1, 0], [0.05, 0.5, 1]),
      boxOf([1.95, 0.1, 0], [2, 0.5, 1]),
      boxOf([0.05, 0.1, 0], [1.95, 0.5, 0.05]),
      boxOf([0.05, 0.1, 0.95], [1.95, 0.5, 1]),
    ]);
    const own = await piece(tray).make({ make: 'container', faces: null, thickness: null, sides: 12 });
    const found = new Comparer(tray).compare(own.map(({ shape }) => shape));
    expect(Math.max(found.artOutside.max, found.proxyOutside.max)).toBeLessThan(1e-6);
    expect(
      await refused(piece(lane).make({ make: 'container', faces: null, thickness: null, sides: 12 })),
    ).toMatch(/say how thick/);
  });

  it('are a slope square to the risers, whatever lies beside the treads', async () => {
    // A cheek on one side, its steps twice as deep: the middles of all level faces climb askew.
    const steps = joinMeshes([
      ...[0, 1, 2, 3].map((i) => boxOf([i, 0, 0], [i + 1, (i + 1) * 0.25, 2])),
      ...[0, 1].map((i) => boxOf([i * 2, 0, 2], [i * 2 + 2, (i + 1) * 0.5, 3])),
    ]);
    const [slope] = await piece(steps).make({ make: 'slope', faces: null });
    const { min, max } = shapeBounds(slope!.shape);
    expect([min, max].map((p) => p.map((v) => Math.round(v * 1e6) / 1e6 + 0))).toEqual([
      [0, 0, 0],
      [4, jasmine.any(Number) as never, 3],
    ]);
  });

  it('are refused where a surface would be too dear', async () => {
    const fine = tube(
      Array.from({ length: 1000 }, (_, i): Vec3 => [i, 0, 0]),
      0.1,
      12,
    );
    expect(await refused(piece(fine).make({ make: 'own-triangles', faces: null }))).toMatch(
      /too dear to collide/,
    );
  });

  it('are a body and a ball for each wheel of a vehicle, each on its own part', async () => {
    const bed = boxMesh([1, 0.1, 0.5], [0, 0.6, 0]);
    const rail = boxMesh([1, 0.05, 0.02], [0, 0.9, 0.4]);
    const disc = (x: number, z: number, radius: number, half: number) =>
      tube(
        [
          [x, 0.3, z - half],
          [x, 0.3, z + half],
        ],
        radius,
        24,
      );
    // The hub stands out of the rim to both sides: its hull is no cylinder.
    const wheel = (x: number, z: number) => joinMeshes([disc(x, z, 0.3, 0.03), disc(x, z, 0.05, 0.15)]);
    const { document, make } = piece(bed, rail, wheel(-0.7, 0.5), wheel(0.7, 0.5), wheel(0, -0.5));
    const made = await make({ make: 'vehicle' });
    expect(made.map(({ shape, part }) => [shape.kind, part])).toEqual([
      ['hull', document.nodes[0]!.id],
      ...[2, 3, 4].map((i): [string, string] => ['sphere', document.nodes[i]!.id]),
    ]);
    const balls = made.flatMap(({ shape }) => (shape.kind === 'sphere' ? [shape] : []));
    for (const { radius, center } of balls)
      expect([radius, center[1]].map((v) => v.toFixed(2))).toEqual(['0.30', '0.30']);
    const body = shapeBounds(made[0]!.shape);
    expect([body.min[1], body.max[1]].map((v) => v.toFixed(2))).toEqual(['0.50', '0.95']);
    expect(await refused(piece(bed, rail).make({ make: 'vehicle' }))).toContain('No part is a wheel');
  });

  it('are solid ones in the place of a surface that caves in, and stay with its part', async () => {
    const { document, placed } = piece(boxMesh([1, 1, 1]));
    const corner = joinMeshes([boxOf([0, 0, 0], [2, 0.2, 1]), boxOf([0, 0.2, 0], [0.2, 2, 1])]);
    const surface: Shape = {
      kind: 'surface',
      points: [...corner.positions],
      indices: [...corner.indices],
    };
    const withSurface = (part?: string) =>
      applyEdit(document, {
        kind: 'put-proxies',
        changed: [
          { id: 's1', shape: { kind: 'sphere', center: [9, 0, 0], radius: 1 } },
          { id: 's2', shape: surface, ...(part ? { part } : {}) },
        ],
        removed: 'others',
      });
    const before = withSurface(document.nodes[0]!.id);
    const broken = await makeShapes(before, placed, { make: 'break-up', shape: 's2', maxShapes: 8 }, OPTIONS);
    const after = applyEdit(before, broken).proxies;
    expect(after.map(({ shape, part }) => [shape.kind, part])).toEqual([
      ['sphere', undefined],
      ['box', document.nodes[0]!.id],
      ['box', document.nodes[0]!.id],
    ]);
    const volume = after.slice(1).reduce((sum, { shape }) => sum + shapeVolume(shape), 0);
    expect(volume).toBeCloseTo(0.4 + 0.36, 6);
    const asked = makeShapes(before, placed, { make: 'break-up', shape: 's1', maxShapes: 8 }, OPTIONS);
    expect(await refused(asked)).toContain('no surface of triangles');
  });
});
