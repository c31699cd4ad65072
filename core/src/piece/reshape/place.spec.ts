import fc from 'fast-check';
import {
  applyMatrix,
  composeMatrix,
  determinant3,
  distance,
  inverseQuat,
  type Matrix,
  NO_ROTATION,
  type Quat,
  type Vec3,
} from '../../math/index.js';
import { massOf, transformMesh } from '../../mesh/index.js';
import { boxMesh, sceneOf } from '../../testing/meshes.js';
import { pieceOf } from '../../testing/documents.js';
import { after, type Piece, same, transform, tree, turn } from '../../testing/reshaped.js';
import { applyEdit, replaceProxies } from '../edits/index.js';
import { artMesh, nodeById, placedMatrices } from '../geometry.js';
import { pivotAt } from '../pivot.js';
import { plainNode } from '../scene.js';
import { idsBelow } from '../nodes.js';
import { mirrorMatrix, placeMatrix } from './place.js';

const number = fc.double({ min: -3, max: 3, noNaN: true });
const point = fc.tuple(number, number, number) as fc.Arbitrary<Vec3>;
const grows = fc.double({ min: 0.3, max: 2, noNaN: true });
const none = [...NO_ROTATION] as Quat;

/** Where each vertex of each part stands, by the part's id, sorted: a mirror numbers faces another way. */
const standing = ({ document, meshOf }: Piece, id: string): Vec3[] => {
  const i = nodeById(document, id);
  const { positions } = transformMesh(meshOf(document.nodes[i]!.mesh!), placedMatrices(document)[i]!);
  return Array.from(
    { length: positions.length / 3 },
    (_, v) => [...positions.slice(v * 3, v * 3 + 3)] as Vec3,
  );
};

/** Each part that moves stands where the matrix brings it, every other one where it stood. */
function expectMoved(before: Piece, now: Piece, matrix: Matrix, moves: ReadonlySet<string>): void {
  for (const { id, mesh } of before.document.nodes) {
    if (mesh === null) continue;
    const wanted = standing(before, id).map((p) => (moves.has(id) ? applyMatrix(matrix, p) : p));
    const found = standing(now, id);
    const size = Math.max(1, ...wanted.flat().map(Math.abs));
    wanted.forEach((p, v) => expect(distance(p, found[v]!)).toBeLessThan(size * 1e-6));
  }
}

const idsOf = ({ document }: Piece, ids: readonly string[]) =>
  new Set(ids.length ? idsBelow(document, ids) : document.nodes.map(({ id }) => id));

describe('moving parts', () => {
  it('brings them and all below them where they were sent, turned and grown, and nothing else anywhere', async () => {
    await fc.assert(
      fc.asyncProperty(
        tree,
        fc.array(fc.nat(), { maxLength: 2 }),
        fc.record({ by: point, turn, about: point, scale: fc.tuple(grows, grows, grows), axes: turn }),
        async (scene, picks, how) => {
          const piece = pieceOf(scene);
          const parts = [
            ...new Set(picks.map((n) => piece.document.nodes[n % piece.document.nodes.length]!.id)),
          ];
          const now = await after(piece, { op: 'move', parts, ...how });
          expectMoved(piece, now, placeMatrix(how), idsOf(piece, parts));
        },
      ),
      { numRuns: 50 },
    );
  });

  it('alone leaves what hangs below them where it stands', async () => {
    await fc.assert(
      fc.asyncProperty(tree, fc.nat(), point, turn, async (scene, pick, by, q) => {
        const piece = pieceOf(scene);
        const { id } = piece.document.nodes[pick % piece.document.nodes.length]!;
        const how = { by, turn: q, about: [1, 0, 0] as Vec3 };
        const now = await after(piece, { op: 'move', parts: [id], alone: true, ...how });
        expectMoved(piece, now, placeMatrix(how), new Set([id]));
      }),
      { numRuns: 50 },
    );
  });

  it('and moving them back gives back every place, and undo the same document', async () => {
    await fc.assert(
      fc.asyncProperty(tree, point, turn, async (scene, by, q) => {
        const piece = pieceOf(scene);
        const before = JSON.stringify(piece.document);
        const there = await after(piece, { op: 'move', parts: ['n2'], by, turn: q, about: [0, 0, 0] });
        const back = await after(there, {
          op: 'move',
          parts: ['n2'],
          by: by.map((v) => -v) as Vec3,
          turn: inverseQuat(q),
          about: by,
        });
        same(piece, back);
        expect(JSON.stringify(piece.document)).toBe(before);
      }),
      { numRuns: 30 },
    );
  });

  it('refuses to flatten', async () => {
    const piece = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const flat = {
      op: 'move',
      parts: [],
      by: [0, 0, 0],
      turn: none,
      about: [0, 0, 0],
      scale: [1, 0, 1],
    } as const;
    await expectAsync(after(piece, flat as never)).toBeRejectedWithError(/flattens/);
  });
});

describe('mirroring', () => {
  const planes = fc.record({ point, normal: point.filter((n) => Math.hypot(...n) > 0.2) });

  it('puts every vertex on the other side, faces outward, with no scale below zero, in any tree', async () => {
    await fc.assert(
      fc.asyncProperty(tree, planes, fc.boolean(), async (scene, plane, whole) => {
        const piece = pieceOf(scene);
        const parts = whole ? [] : ['n1'];
        const now = await after(piece, { op: 'mirror', parts, plane, copy: false });
        expectMoved(piece, now, mirrorMatrix(plane), idsOf(piece, parts));
        const [a, b] = [piece, now].map((each) => massOf(artMesh(each.document, each.meshOf)).volume);
        expect(b! / a!).toBeCloseTo(1, 6);
        const mirrored = ({ document }: Piece, i: number) => determinant3(placedMatrices(document)[i]!) < 0;
        piece.document.nodes.forEach(({ id }, i) =>
          expect(mirrored(now, nodeById(now.document, id))).toBe(mirrored(piece, i)),
        );
      }),
      { numRuns: 50 },
    );
  });

  it('twice is as before, to the bit, where numbers are round', async () => {
    const piece = pieceOf(sceneOf(boxMesh([1, 2, 3], [5, 0, 0])));
    const plane = { point: [2, 0, 0] as Vec3, normal: [1, 0, 0] as Vec3 };
    const twice = await after(await after(piece, { op: 'mirror', parts: [], plane, copy: false }), {
      op: 'mirror',
      parts: [],
      plane,
      copy: false,
    });
    expect(twice.document.nodes[0]!.mesh).toBe(piece.document.nodes[0]!.mesh);
  });

  const gate = (): Piece => {
    const piece = pieceOf({
      ...sceneOf(boxMesh([1, 1, 0.1])),
      nodes: [plainNode('frame', 0), { ...plainNode('leaf', 0, 0), translation: [3, 0, 0] }],
    });
    const box = { kind: 'box' as const, halfExtents: [1, 1, 0.1] as Vec3, rotation: none };
    piece.document = applyEdit(piece.document, {
      kind: 'set-pivots',
      pivots: [
        {
          part: 'n2',
          pivot: { ...pivotAt('hinge', [2, -1, 0]), hinge: { axis: [0, 1, 0], opens: [0, 90] } },
        },
        { part: null, pivot: pivotAt('bounds', [-1, -1, 0]) },
      ],
    });
    piece.document = applyEdit(
      piece.document,
      replaceProxies([
        { id: 's1', shape: { ...box, center: [0, 0, 0] } },
        { id: 's2', shape: { ...box, center: [3, 0, 0] }, part: 'n2' },
      ]),
    );
    return piece;
  };

  it('carries pivots, hinges, shapes and clearances of the whole piece along; hinges open the other way', async () => {
    const piece = gate();
    piece.document = applyEdit(piece.document, {
      kind: 'set-clearances',
      clearances: [
        {
          id: 'c1',
          name: 'way',
          center: [3, 0, 0],
          halfExtents: [0.5, 1, 0.2],
          rotation: none,
          through: 'z',
        },
      ],
    });
    const plane = { point: [-1, 0, 0] as Vec3, normal: [1, 0, 0] as Vec3 };
    const { document } = await after(piece, { op: 'mirror', parts: [], plane, copy: false });
    expect(document.pivot.position).toEqual([-1, -1, 0]);
    expect(document.nodes[1]!.pivot).toEqual(
      jasmine.objectContaining({ position: [-4, -1, 0], hinge: { axis: [0, 1, 0], opens: [-90, 0] } }),
    );
    expect(document.proxies.map(({ shape }) => 'center' in shape && shape.center)).toEqual([
      [-2, 0, 0],
      [-5, 0, 0],
    ]);
    expect(document.clearances[0]!.center).toEqual([-5, 0, 0]);
  });

  it('as a copy makes parts and shapes of its own beside the originals', async () => {
    const plane = { point: [0, 0, 0] as Vec3, normal: [1, 0, 0] as Vec3 };
    const { document, says } = await after(gate(), { op: 'mirror', parts: ['n2'], plane, copy: true });
    expect(document.nodes.map(({ name, parent }) => [name, parent])).toEqual([
      ['frame', null],
      ['leaf', 0],
      ['leaf_01', 0],
    ]);
    expect(document.nodes[2]!.pivot!.hinge!.opens).toEqual([-90, 0]);
    expect(document.proxies.map(({ part, shape }) => [part, 'center' in shape && shape.center[0]])).toEqual([
      [undefined, 0],
      ['n2', 3],
      ['n3', -3],
    ]);
    expect(says).toBe('“leaf” is mirrored: leaf_01 is new.');
  });

  it('keeps the set beside, areas and what is not collided with', async () => {
    const piece = gate();
    for (const edit of [
      { kind: 'change-sets', keep: { name: 'rough' } },
      {
        kind: 'set-faces-collision',
        faces: [{ part: 'n1', mesh: piece.document.nodes[0]!.mesh!, runs: [0, 2] }],
        collides: false,
      },
    ] as const)
      piece.document = applyEdit(piece.document, edit as never);
    const plane = { point: [0, 0, 0] as Vec3, normal: [0, 0, 1] as Vec3 };
    const shifted = { ...plane, point: [0, 0, 2] as Vec3 };
    const { document } = await after(piece, { op: 'mirror', parts: [], plane: shifted, copy: false });
    expect(document.sets[0]!.proxies.map(({ shape }) => 'center' in shape && shape.center[2])).toEqual([
      4, 4,
    ]);
    expect(document.noCollision).toEqual([{ part: 'n1', mesh: document.nodes[0]!.mesh!, runs: [0, 2] }]);
  });
});

describe('copies of parts', () => {
  it('come with their shapes, and followers follow the copy', async () => {
    const piece = pieceOf({
      ...sceneOf(boxMesh([1, 1, 1])),
      nodes: [plainNode('frame', 0), { ...plainNode('leaf', 0, 0), translation: [3, 0, 0] }],
    });
    piece.document = applyEdit(piece.document, {
      kind: 'set-pivots',
      pivots: [
        { part: 'n1', pivot: pivotAt('centre', [0, 0, 0]) },
        { part: 'n2', pivot: { ...pivotAt('centre', [0, 0, 0]), follows: 'n1' } },
      ],
    });
    const { document } = await after(piece, { op: 'duplicate', parts: ['n1', 'n2'] });
    expect(document.nodes.map(({ name, pivot }) => [name, pivot?.follows])).toEqual([
      ['frame', undefined],
      ['leaf', 'n1'],
      ['frame_01', undefined],
      ['leaf_01', 'n3'],
    ]);
  });

  it('stand again and again along a line, as parts of their own or as one', async () => {
    await fc.assert(
      fc.asyncProperty(transform, fc.integer({ min: 2, max: 5 }), fc.boolean(), async (t, count, asOne) => {
        const piece = pieceOf({ ...sceneOf(boxMesh([1, 1, 1])), nodes: [{ ...plainNode('bay', 0), ...t }] });
        piece.document = applyEdit(
          piece.document,
          replaceProxies([
            {
              id: 's1',
              shape: { kind: 'sphere', center: t.translation, radius: 1 },
              part: 'n1',
            },
          ]),
        );
        const now = await after(piece, { op: 'repeat', parts: [], count, step: [0, 0, 2.5], asOne });
        expect(now.document.nodes.length).toBe(asOne ? 1 : count);
        const places = now.document.proxies.map(({ shape }) => 'center' in shape && shape.center[2]);
        places.forEach((z, n) => expect(z).toBeCloseTo(t.translation[2] + n * 2.5, 9));
        expect(places.length).toBe(count);
        expect(new Set(now.document.proxies.map(({ part }) => part)).size).toBe(asOne ? 1 : count);
        const [a, b] = [piece, now].map((each) => artMesh(each.document, each.meshOf));
        expect(massOf(b!).volume / massOf(a!).volume).toBeCloseTo(count, 6);
        expect(composeMatrix(t).length).toBe(16);
      }),
      { numRuns: 20 },
    );
  });
});
