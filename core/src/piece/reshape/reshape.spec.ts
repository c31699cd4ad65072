import fc from 'fast-check';
import { applyMatrix, type Quat, shearOf, type Vec3 } from '../../math/index.js';
import { joinMeshes, massOf, type Mesh, plainMesh, reversedFaces, topologyOf } from '../../mesh/index.js';
import { surveyMesh } from '../../solid/index.js';
import { pieceOf } from '../../testing/documents.js';
import { ballMesh, boxMesh, sceneOf, threeParts } from '../../testing/meshes.js';
import {
  after,
  type Piece,
  placedPoints,
  same,
  sorted,
  transform,
  tree,
  turn,
} from '../../testing/reshaped.js';
import { applyEdit, replaceProxies } from '../edits/index.js';
import { artBounds, artMesh, partPivot, placedMatrices } from '../geometry.js';
import { measuredPivot } from '../measured-pivot.js';
import { pivotAt } from '../pivot.js';
import { plainMaterial, plainNode } from '../scene.js';
import { countUp } from './names.js';
import { operate } from './operate.js';
import { ReshapeError } from './operation.js';

describe('baking', () => {
  it('leaves every vertex where it was and every node at 0, 0, 1, for any tree, mirrored and sheared', async () => {
    await fc.assert(
      fc.asyncProperty(tree, async (scene) => {
        const piece = pieceOf(scene);
        const baked = await after(piece, { op: 'bake', parts: [], keepPosition: false, keepRotation: false });
        for (const node of baked.document.nodes)
          expect([node.translation, node.rotation, node.scale]).toEqual([
            [0, 0, 0],
            [0, 0, 0, 1],
            [1, 1, 1],
          ]);
        same(piece, baked);
        expect(baked.document.pivot).toEqual(piece.document.pivot);
        expect(baked.document.whole.insideOutShells).toBe(0);
      }),
      { numRuns: 60 },
    );
  });

  it('keeps position and rotation when asked, and only rids nodes of their scale', async () => {
    await fc.assert(
      fc.asyncProperty(tree, fc.boolean(), async (scene, keepRotation) => {
        const piece = pieceOf(scene);
        const baked = await after(piece, { op: 'bake', parts: [], keepPosition: true, keepRotation });
        same(piece, baked);
        const [before, now] = [placedMatrices(piece.document), placedMatrices(baked.document)];
        now.forEach((matrix, i) => {
          expect(shearOf(matrix)).toBeLessThan(1e-9);
          const came = piece.document.nodes.findIndex(({ id }) => id === baked.document.nodes[i]!.id);
          for (const k of [12, 13, 14]) expect(matrix[k]).toBeCloseTo(before[came]![k]!, 6);
        });
        for (const node of baked.document.nodes) expect(node.scale).toEqual([1, 1, 1]);
      }),
      { numRuns: 40 },
    );
  });

  it('bakes one part with its descendants and leaves the rest as it came', async () => {
    await fc.assert(
      fc.asyncProperty(tree, fc.nat(), async (scene, pick) => {
        const piece = pieceOf(scene);
        const node = piece.document.nodes[pick % piece.document.nodes.length]!;
        const baked = await after(piece, {
          op: 'bake',
          parts: [node.id],
          keepPosition: false,
          keepRotation: false,
        });
        same(piece, baked);
        expect(baked.document.nodes.find(({ id }) => id === node.id)!.scale).toEqual([1, 1, 1]);
      }),
      { numRuns: 40 },
    );
  });

  it('leaves exceptions their transforms, under parents that are baked, and nothing moves', async () => {
    await fc.assert(
      fc.asyncProperty(tree, fc.nat(), async (scene, pick) => {
        const piece = pieceOf(scene);
        const { id } = piece.document.nodes[pick % piece.document.nodes.length]!;
        const operation = {
          op: 'bake',
          parts: [],
          except: [id],
          keepPosition: false,
          keepRotation: false,
        } as const;
        try {
          const baked = await after(piece, { ...operation, parts: [], except: [id] });
          same(piece, baked);
          for (const node of baked.document.nodes) if (node.id !== id) expect(node.scale).toEqual([1, 1, 1]);
        } catch (error) {
          expect((error as Error).message).toContain('is sheared by what is above it');
        }
      }),
      { numRuns: 40 },
    );
  });

  it('takes up unit and placing: the piece is in metres and has not moved', async () => {
    const piece = pieceOf({
      ...sceneOf(boxMesh([100, 50, 20], [300, 0, 0])),
      unit: { metres: 1, stated: false },
    });
    const turned = applyEdit(
      applyEdit(piece.document, {
        kind: 'turn',
        turn: [Math.SQRT1_2, 0, 0, Math.SQRT1_2],
        about: [1, 0, 0],
      }),
      { kind: 'resize', factor: 2, about: [3, 0, 0] },
    );
    const baked = await after(
      { ...piece, document: turned },
      { op: 'bake', parts: [], keepPosition: false, keepRotation: false },
    );
    same({ ...piece, document: turned }, baked);
    expect([baked.document.unit.name, baked.document.placing.factor]).toEqual(['m', 1]);
  });
});

describe('the tree', () => {
  it('reparents a part to any other, and it stays where it stands', async () => {
    await fc.assert(
      fc.asyncProperty(tree, fc.nat(), fc.nat(), async (scene, a, b) => {
        const piece = pieceOf(scene);
        const { nodes } = piece.document;
        const [part, parent] = [nodes[a % nodes.length]!.id, nodes[b % nodes.length]!.id];
        try {
          same(piece, await after(piece, { op: 'reparent', part, parent }));
        } catch (error) {
          expect(error).toBeInstanceOf(ReshapeError);
          expect((error as Error).message).toContain('cannot be a child of itself');
        }
      }),
      { numRuns: 60 },
    );
  });

  it('groups under an empty root, doubles, combines and takes out', async () => {
    let piece: Piece = pieceOf({
      ...sceneOf(boxMesh([1, 1, 1])),
      nodes: [
        plainNode('post', 0),
        { ...plainNode('cap', 0), translation: [0, 3, 0] },
        { ...plainNode('hook', 0, 1), translation: [0, 3, 0] },
      ],
    });
    piece = await after(piece, { op: 'group', parts: ['n1', 'n2', 'n3'], name: 'bollard' });
    const root = piece.document.nodes[0]!;
    expect(piece.document.nodes.map(({ name, parent }) => [name, parent])).toEqual([
      ['bollard', null],
      ['post', 0],
      ['cap', 0],
      ['hook', 2],
    ]);
    piece = await after(piece, { op: 'duplicate', parts: ['n2'] });
    expect(piece.document.nodes.map(({ name }) => name)).toEqual([
      'bollard',
      'post',
      'cap',
      'hook',
      'cap_01',
      'hook_01',
    ]);
    piece = await after(piece, { op: 'combine', parts: ['n1', 'n2'], name: 'lot' });
    expect(piece.document.nodes.map(({ name, mesh }) => [name, mesh !== null])).toEqual([
      ['bollard', false],
      ['lot', true],
      ['cap', false],
      ['hook', true],
      ['cap_01', true],
      ['hook_01', true],
    ]);
    expect(massOf(artMesh(piece.document, piece.meshOf)).volume).toBeCloseTo(8 * 5, 9);
    piece = await after(piece, { op: 'delete', parts: ['n2'] });
    expect(piece.document.nodes.map(({ name }) => name)).toEqual(['bollard', 'lot', 'cap_01', 'hook_01']);
    await expectAsync(
      operate(piece.document, { op: 'delete', parts: [root.id] }, piece.meshOf),
    ).toBeRejectedWithError(ReshapeError, /Nothing would be left/);
    piece = await after(piece, { op: 'set-aside', parts: ['n5'], aside: true });
    expect(artBounds(piece.document).max[1]).toBeCloseTo(4, 9);
  });

  it('swings a part about its hinge with all below it, pivots too', async () => {
    let piece: Piece = pieceOf({
      ...sceneOf(boxMesh([1, 1, 1])),
      nodes: [
        plainNode('frame', 0),
        { ...plainNode('leaf', 0), translation: [5, 0, 0] },
        { ...plainNode('wheel', 0, 1), translation: [3, 0, 0] },
      ],
    });
    const quarter: Quat = [0, Math.SQRT1_2, 0, Math.SQRT1_2];
    piece = await after(piece, { op: 'move', parts: ['n2'], by: [0, 1, 0], turn: quarter, about: [4, 0, 0] });
    const at = (i: number) =>
      applyMatrix(placedMatrices(piece.document)[i]!, [0, 0, 0]).map((v) => Math.round(v * 1e9) / 1e9 + 0);
    expect([at(0), at(1), at(2)]).toEqual([
      [0, 0, 0],
      [4, 1, -1],
      [4, 1, -4],
    ]);
    expect(partPivot(piece.document, 2).position.map((v) => Math.round(v))).toEqual([4, 1, -4]);
  });
});

describe('leaving a swing as it is', () => {
  const quarter: Quat = [0, Math.SQRT1_2, 0, Math.SQRT1_2];
  const gate = () => {
    const piece = pieceOf({
      ...sceneOf(boxMesh([1, 1, 1])),
      nodes: [
        plainNode('frame', 0),
        { ...plainNode('leaf', 0), translation: [5, 0, 0] },
        { ...plainNode('latch', 0, 1), translation: [2, 0, 0] },
      ],
    });
    const hinge = (axis: Vec3) => ({ axis, opens: [0, 90] as [number, number] });
    piece.document = applyEdit(piece.document, {
      kind: 'set-pivots',
      pivots: [{ part: 'n3', pivot: { ...pivotAt('hinge', [6, 0, 0]), hinge: hinge([1, 0, 0]) } }],
    });
    const box = (center: Vec3) => ({
      kind: 'box' as const,
      center,
      halfExtents: [1, 1, 0.5] as Vec3,
      rotation: [0, 0, 0, 1] as Quat,
    });
    piece.document = applyEdit(
      piece.document,
      replaceProxies([
        { id: 'f', shape: box([0, 0, 0]), part: 'n1' },
        { id: 'l', shape: box([5, 0, 0]), part: 'n2' },
        { id: 'w', shape: box([2, 0, 0]) },
      ]),
    );
    return piece;
  };
  const centres = ({ document }: Piece) =>
    document.proxies.map(({ shape }) =>
      'center' in shape ? shape.center.map((v) => Math.round(v * 1e6) / 1e6 + 0) : [],
    );

  it('takes the shapes of the part and the hinges below it along', async () => {
    const piece = await after(gate(), {
      op: 'move',
      parts: ['n2'],
      by: [0, 0, 0],
      turn: quarter,
      about: [4, 0, 0],
    });
    expect(centres(piece)).toEqual([
      [0, 0, 0],
      [4, 0, -1],
      [2, 0, 0],
    ]);
    const latch = partPivot(piece.document, 2);
    expect(latch.hinge!.axis.map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0, 0, -1]);
    expect(latch.position.map((v) => Math.round(v))).toEqual([4, 0, -2]);
  });

  it('turns the whole piece, every root of it and every shape', async () => {
    const piece = await after(gate(), {
      op: 'move',
      parts: [],
      by: [0, 0, 0],
      turn: quarter,
      about: [0, 0, 0],
    });
    expect(centres(piece)).toEqual([
      [0, 0, 0],
      [0, 0, -5],
      [0, 0, -2],
    ]);
    const { min, max } = artBounds(piece.document);
    expect([min[2], max[2]].map((v) => Math.round(v))).toEqual([-8, 1]);
  });

  it('leaves a pivot where its leader had it when the leader goes', async () => {
    let piece = gate();
    piece.document = applyEdit(piece.document, {
      kind: 'set-pivots',
      pivots: [
        { part: 'n1', pivot: { ...pivotAt('numeric', [0, 9, 0]), follows: 'n2' } },
        { part: 'n2', pivot: pivotAt('numeric', [7, 0, 0]) },
      ],
    });
    expect(partPivot(piece.document, 0).position).toEqual([7, 0, 0]);
    piece = await after(piece, { op: 'delete', parts: ['n2'] });
    expect(partPivot(piece.document, 0)).toEqual(jasmine.objectContaining({ position: [7, 0, 0] }));
    expect(piece.document.nodes[0]!.pivot!.follows).toBeUndefined();
  });
});

describe('the centroid of mass', () => {
  it('lies in the solid whichever way faces look, and is none of what is open', () => {
    const box = boxMesh([1, 1, 1], [10, 0, 0]);
    const flipped = { ...box, indices: box.indices.slice() };
    for (const f of [0, 3, 5]) {
      const [b, c] = [flipped.indices[f * 3 + 1]!, flipped.indices[f * 3 + 2]!];
      flipped.indices.set([c, b], f * 3 + 1);
    }
    for (const mesh of [box, flipped]) {
      const found = measuredPivot(mesh, 'centroid')!;
      [10, 0, 0].forEach((v, k) => expect(found[k]).toBeCloseTo(v, 9));
    }
    const open = plainMesh([...box.positions], [...box.indices].slice(6));
    expect(measuredPivot(open, 'centroid')).toBeNull();
  });

  it('counts once what shells share that run through each other, and leaves hollows out', () => {
    const cross = joinMeshes([
      boxMesh([3, 1, 1]),
      boxMesh([1, 1, 1], [2, 0, 0]),
      boxMesh([1, 3, 1], [-2, 2, 0]),
    ]);
    // A bar from -3 to 3, with an arm from -1 to 5 over its left third: a share of 8 beyond the bar.
    const [x, y] = measuredPivot(cross, 'centroid')!;
    const volume = 24 + 8 * 2;
    expect(x).toBeCloseTo((24 * 0 + 16 * -2) / volume, 2);
    expect(y).toBeCloseTo((24 * 0 + 16 * 3) / volume, 2);
    const inner = boxMesh([0.5, 0.5, 0.5], [0.4, 0, 0]);
    const hollow = joinMeshes([boxMesh([1, 1, 1]), { ...inner, indices: reversedFaces(inner.indices) }]);
    expect(measuredPivot(hollow, 'centroid')![0]).toBeCloseTo(-0.4 / 7, 2);
  });
});

describe('splitting', () => {
  it('by shells keeps crumbs with their neighbour and counts the names up', async () => {
    const lump = joinMeshes([
      boxMesh([1, 1, 1]),
      ballMesh(0.4, [3, 0, 0]),
      ballMesh(0.3, [0, 3, 0], 12),
      boxMesh([0.01, 0.01, 0.01], [3, 0.6, 0]),
    ]);
    const piece = pieceOf(sceneOf(lump, 'fender'));
    const split = await after(piece, { op: 'split-shells', parts: ['n1'], smallest: 0.1 });
    expect(split.document.nodes.map(({ name }) => name)).toEqual(['fender', 'fender_01', 'fender_02']);
    expect(split.says).toBe(
      '“fender” splits into 3 shells: fender_01, fender_02 are new; 1 speck stays with what is nearest.',
    );
    expect(sorted(placedPoints(split), 1)).toEqual(sorted(placedPoints(piece), 1));
    const whole = artBounds(split.document);
    expect([whole.min, whole.max]).toEqual([artBounds(piece.document).min, artBounds(piece.document).max]);
  });

  it('by material and by faces keeps what vertices carry', async () => {
    const mesh = threeParts();
    const n = mesh.positions.length / 3;
    mesh.uvs = [Float32Array.from({ length: n * 2 }, (_, i) => i / n)];
    mesh.groups = [
      { material: 0, start: 0, count: 12 },
      { material: 1, start: 12, count: mesh.indices.length / 3 - 12 },
    ];
    const scene = { ...sceneOf(mesh, 'lot'), materials: [plainMaterial('oak'), plainMaterial('tar')] };
    const piece = pieceOf(scene);
    const byMaterial = await after(piece, { op: 'split-materials', parts: ['n1'] });
    expect(byMaterial.document.nodes.map(({ name }) => name)).toEqual(['lot', 'lot_tar']);
    const byFaces = await after(piece, {
      op: 'split-faces',
      faces: [{ part: 'n1', faces: Uint32Array.from({ length: 12 }, (_, i) => i) }],
      name: 'crate',
    });
    expect(byFaces.document.nodes.map(({ name }) => name)).toEqual(['lot', 'crate']);
    for (const split of [byMaterial, byFaces])
      for (const node of split.document.nodes)
        expect(split.meshOf(node.mesh!).uvs[0]!.some((v) => v > 0)).toBeTrue();
    expect(byFaces.meshOf(byFaces.document.nodes[1]!.mesh!).groups).toEqual([
      { material: 0, start: 0, count: 12 },
    ]);
  });

  it('by any plane gives two closed solids of the same volume together, in any node', async () => {
    await fc.assert(
      fc.asyncProperty(
        transform,
        turn,
        fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        async (t, q, off) => {
          const scene = {
            ...sceneOf(ballMesh(1, [0, 0, 0], 12)),
            nodes: [{ ...plainNode('ball', 0), ...t }],
          };
          const piece = pieceOf(scene);
          const normal: Vec3 = [
            2 * (q[0] * q[2] + q[1] * q[3]),
            2 * (q[1] * q[2] - q[0] * q[3]),
            1 - 2 * (q[0] ** 2 + q[1] ** 2),
          ];
          const point = t.translation.map((v, k) => v + normal[k]! * off * 0.2) as Vec3;
          const cut = await after(piece, { op: 'split-plane', parts: [], point, normal, close: true });
          expect(cut.document.nodes.length).toBe(2);
          const whole = artMesh(cut.document, cut.meshOf);
          expect(topologyOf(whole).openEdges).toBe(0);
          expect(massOf(whole).volume / massOf(placedPoints(piece)).volume).toBeCloseTo(1, 6);
        },
      ),
      { numRuns: 30 },
    );
  });
});

describe('mending', () => {
  const soup = () => {
    const box = boxMesh([1, 1, 1]);
    const gap = (i: number) => ((i * 7919) % 13) * 1e-6;
    return plainMesh(
      [...box.indices].flatMap((v, i) => [0, 1, 2].map((k) => box.positions[v * 3 + k]! + gap(i + k))),
      [...box.indices].map((_, i) => i),
    );
  };

  it('welds with its effect said: vertices merge, borders close', async () => {
    const piece = pieceOf(sceneOf(soup()));
    expect(piece.document.whole.closed).toBeFalse();
    const welded = await after(piece, { op: 'weld', parts: [], metres: 0.0001 });
    expect(welded.says).toBe('Welding 0.10 mm: 35 vertices become 8, 12 borders close.');
    expect(welded.document.whole.closed).toBeTrue();
  });

  it('fills flat and curved holes, the volume comes back', async () => {
    const ball = ballMesh(1, [0, 0, 0], 24);
    const open = {
      ...ball,
      indices: ball.indices.slice(60),
      groups: [{ material: -1, start: 0, count: ball.indices.length / 3 - 20 }],
    };
    const box = boxMesh([1, 1, 1], [4, 0, 0]);
    const flat = { ...box, indices: box.indices.slice(6), groups: [{ material: -1, start: 0, count: 10 }] };
    const piece = pieceOf(sceneOf(joinMeshes([open, flat])));
    const filled = await after(piece, { op: 'fill-holes', parts: [] });
    expect(filled.document.whole.closed).toBeTrue();
    expect(filled.document.whole.flippedEdges).toBe(0);
    expect(filled.document.whole.volume).toBeGreaterThan(massOf(ball).volume + 8 - 0.1);
  });

  it('takes out doubled, hidden, flat and loose faces and says how many', async () => {
    const box = boxMesh([1, 1, 1]);
    const dirty = joinMeshes([
      box,
      boxMesh([0.4, 0.4, 0.4]),
      { ...box, indices: box.indices.slice(0, 6), groups: [{ material: -1, start: 0, count: 2 }] },
      boxMesh([0.0005, 0.0005, 0.0005], [0, 2, 0]),
      plainMesh([0, 0, 5, 0, 0, 5, 0, 0, 5], [0, 1, 2]),
    ]);
    const piece = pieceOf(sceneOf(dirty));
    expect(piece.document.whole.hiddenFaces).toBe(12);
    const clean = await after(piece, {
      op: 'remove-faces',
      parts: [],
      which: ['doubled', 'hidden', 'zero-area', 'specks'],
    });
    expect(clean.says).toMatch(/^1 zero-area face, 2 duplicate faces, 12 hidden faces, 12 loose faces/);
    expect(clean.document.whole.triangles).toBe(12);
  });

  it('turns every shell outward and leaves the inside of a hollow looking into it', async () => {
    const reversed = (mesh: Mesh): Mesh => ({ ...mesh, indices: reversedFaces(mesh.indices) });
    const box = boxMesh([1, 1, 1]);
    const mixed = box.indices.slice();
    [mixed[1], mixed[2]] = [mixed[2]!, mixed[1]!];
    const hollow = boxMesh([0.5, 0.5, 0.5]);
    const lump = joinMeshes([
      { ...box, indices: mixed },
      reversed(hollow),
      { ...boxMesh([1, 1, 1], [5, 0, 0]), indices: boxMesh([1, 1, 1]).indices.slice().reverse() },
    ]);
    const piece = pieceOf(sceneOf(lump));
    const turned = await after(piece, { op: 'face-outward', parts: [] });
    expect(turned.document.whole.flippedEdges).toBe(0);
    expect(turned.document.whole.insideOutShells).toBe(0);
    expect(turned.document.whole.volume).toBeCloseTo(8 - 1 + 8, 9);
    await expectAsync(
      operate(turned.document, { op: 'face-outward', parts: [] }, turned.meshOf),
    ).toBeRejectedWithError(/already/);
  });

  it('makes normals by angle: a box keeps its corners, a ball is smooth', async () => {
    const hard = await after(pieceOf(sceneOf(boxMesh([1, 1, 1]))), { op: 'normals', parts: [], degrees: 30 });
    const box = hard.meshOf(hard.document.nodes[0]!.mesh!);
    expect(box.positions.length / 3).toBe(24);
    for (let i = 0; i < 24; i++)
      expect(Math.max(...box.normals!.slice(i * 3, i * 3 + 3).map(Math.abs))).toBeCloseTo(1, 6);
    const soft = await after(pieceOf(sceneOf(ballMesh(1, [0, 0, 0], 32))), {
      op: 'normals',
      parts: [],
      degrees: 40,
    });
    const ball = soft.meshOf(soft.document.nodes[0]!.mesh!);
    expect(ball.positions.length / 3).toBe(surveyMesh(ballMesh(1, [0, 0, 0], 32)).vertices);
    for (let i = 0; i < ball.positions.length; i++)
      expect(ball.normals![i]!).toBeCloseTo(ball.positions[i]!, 1);
  });

  it('reduces within an error, to a share, and stays closed', async () => {
    const piece = pieceOf(sceneOf(ballMesh(1, [0, 0, 0], 96)));
    const less = await after(piece, { op: 'reduce', parts: [], share: 0.1 });
    expect(less.document.whole.triangles).toBeLessThanOrEqual(
      Math.ceil(piece.document.whole.triangles * 0.1),
    );
    expect(less.document.whole.closed).toBeTrue();
    const near = await after(piece, { op: 'reduce', parts: [], metres: 0.01 });
    expect(near.document.whole.triangles).toBeLessThan(piece.document.whole.triangles / 2);
    expect(Math.abs(near.document.whole.volume / piece.document.whole.volume - 1)).toBeLessThan(0.02);
  });

  it('merges, orders and assigns materials, and lays on UVs at real size', async () => {
    const mesh = joinMeshes([
      { ...boxMesh([1, 1, 1]), groups: [{ material: 0, start: 0, count: 12 }] },
      { ...boxMesh([1, 1, 1], [3, 0, 0]), groups: [{ material: 1, start: 0, count: 12 }] },
      { ...boxMesh([1, 1, 1], [6, 0, 0]), groups: [{ material: 2, start: 0, count: 12 }] },
    ]);
    let piece: Piece = pieceOf({ ...sceneOf(mesh), materials: ['oak', 'tar', 'rope'].map(plainMaterial) });
    const groups = () =>
      piece.meshOf(piece.document.nodes[0]!.mesh!).groups.map(({ material, count }) => [material, count]);
    piece = await after(piece, { op: 'order-materials', order: [2, 0, 1] });
    expect([piece.document.materials.map((m) => m.name), groups()]).toEqual([
      ['rope', 'oak', 'tar'],
      [
        [1, 12],
        [2, 12],
        [0, 12],
      ],
    ]);
    piece = await after(piece, { op: 'merge-materials', from: [1], to: 2 });
    expect([piece.document.materials.map((m) => m.name), groups()]).toEqual([
      ['rope', 'tar'],
      [
        [1, 24],
        [0, 12],
      ],
    ]);
    piece = await after(piece, {
      op: 'assign-material',
      material: 0,
      faces: [{ part: 'n1', faces: Uint32Array.of(0, 1) }],
    });
    expect(groups()).toEqual([
      [0, 14],
      [1, 22],
    ]);
    piece = await after(piece, { op: 'project-uvs', parts: [], metresPerPicture: 2 });
    const uv = piece.meshOf(piece.document.nodes[0]!.mesh!).uvs[0]!;
    expect(Math.max(...uv) - Math.min(...uv)).toBeGreaterThan(3);
  });
});

it('names count up', () => {
  const taken = new Set(['fender', 'fender_01', 'post 3']);
  expect([
    countUp('fender', taken),
    countUp('fender_01', taken),
    countUp('post 3', taken),
    countUp('leaf.009', taken),
  ]).toEqual(['fender_02', 'fender_02', 'post 04', 'leaf.010']);
});
