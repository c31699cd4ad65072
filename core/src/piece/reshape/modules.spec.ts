import fc from 'fast-check';
import { applyMatrix, type Vec3 } from '../../math/index.js';
import { massOf, meshBounds, topologyOf } from '../../mesh/index.js';
import { boxMesh, sceneOf } from '../../testing/meshes.js';
import { pieceOf } from '../../testing/documents.js';
import { after, type Piece, transform } from '../../testing/reshaped.js';
import { applyEdit, replaceProxies } from '../edits/index.js';
import { artMesh, placedMatrices } from '../geometry.js';
import { pivotAt } from '../pivot.js';
import { plainNode } from '../scene.js';

const art = ({ document, meshOf }: Piece) => artMesh(document, meshOf);
const along = { origin: [0, 0, 0] as Vec3, along: [1, 0, 0] as Vec3, from: 0, to: 4 };

/** A wall along x from its pivot, with a box for it and a post at its far end. */
function wall(): Piece {
  const piece = pieceOf({
    ...sceneOf(boxMesh([2, 1, 0.25], [2, 1, 0])),
    meshes: [
      { name: 'wall', mesh: boxMesh([2, 1, 0.25], [2, 1, 0]) },
      { name: 'post', mesh: boxMesh([0.25, 1.2, 0.25], [0, 1.2, 0]) },
    ],
    nodes: [plainNode('wall', 0), { ...plainNode('post', 1), translation: [3.75, 0, 0] }],
  });
  const box = { kind: 'box' as const, rotation: [0, 0, 0, 1] as [number, number, number, number] };
  piece.document = applyEdit(
    piece.document,
    replaceProxies([{ id: 's1', shape: { ...box, center: [2, 1, 0], halfExtents: [2, 1, 0.25] } }]),
  );
  piece.document = applyEdit(piece.document, {
    kind: 'set-pivots',
    pivots: [
      { part: null, pivot: pivotAt('origin', [0, 0, 0]) },
      { part: 'n2', pivot: pivotAt('base-centre', [3.75, 0, 0]) },
    ],
  });
  return piece;
}

describe('a module of a piece', () => {
  it('is bent with its parts, pivots and shapes; the end it begins with stays', async () => {
    const now = await after(wall(), { op: 'bend', parts: [], module: along, degrees: 90, divisions: 6 });
    const radius = 4 / (Math.PI / 2);
    expect(meshBounds(art(now)).max[2]).toBeCloseTo(radius, 9);
    expect(topologyOf(art(now)).openEdges).toBe(0);
    expect(now.document.pivot.position).toEqual([0, 0, 0]);
    expect(now.document.proxies.length).toBe(6);
    const post = now.document.nodes[1]!.pivot!.position;
    expect(post[2]).toBeGreaterThan(radius * 0.9);
    expect(now.says).toBe('2 parts bent by 90° in 6 divisions.');
    // Its far end is exactly square: the end of a wall that is set beside it.
    const ends = [...art(now).positions]
      .filter((_, i) => i % 3 === 2)
      .filter((z) => Math.abs(z - radius) < 1e-6);
    expect(Math.max(...ends.map((z) => Math.abs(z - radius)))).toBeLessThan(1e-12);
  });

  it('is cut off at a place, its shapes with it, and closed', async () => {
    await fc.assert(
      fc.asyncProperty(transform, async (t) => {
        const piece = pieceOf({ ...sceneOf(boxMesh([2, 1, 1])), nodes: [{ ...plainNode('wall', 0), ...t }] });
        const point = applyMatrix(placedMatrices(piece.document)[0]!, [1, 0, 0]);
        const now = await after(piece, { op: 'trim', parts: [], point, normal: [0, 1, 0], close: true });
        expect(meshBounds(art(now)).max[1]).toBeLessThanOrEqual(point[1] + 1e-9);
        expect(topologyOf(art(now)).closed).toBeTrue();
      }),
      { numRuns: 30 },
    );
    const cut = await after(wall(), {
      op: 'trim',
      parts: [],
      point: [3, 0, 0],
      normal: [1, 0, 0],
      close: true,
    });
    expect(cut.document.proxies.map(({ shape }) => 'halfExtents' in shape && shape.halfExtents[0])).toEqual([
      1.5,
    ]);
    expect(cut.document.nodes.find(({ name }) => name === 'post')?.mesh ?? null).toBeNull();
    await expectAsync(
      after(wall(), { op: 'trim', parts: [], point: [9, 0, 0], normal: [1, 0, 0], close: true }),
    ).toBeRejectedWithError(/Nothing lies beyond/);
    await expectAsync(
      after(wall(), { op: 'trim', parts: [], point: [-9, 0, 0], normal: [1, 0, 0], close: true }),
    ).toBeRejectedWithError(/All of it/);
  });

  it('takes another length between two places, and the box for it stays one box', async () => {
    const now = await after(wall(), {
      op: 'stretch',
      parts: [],
      module: { ...along, from: 0.5, to: 3.5 },
      metres: 5,
    });
    expect(meshBounds(art(now)).max[0]).toBeCloseTo(6, 12);
    expect(now.document.proxies.map(({ shape }) => 'halfExtents' in shape && shape.halfExtents[0])).toEqual([
      3,
    ]);
    expect(now.document.nodes[1]!.pivot!.position[0]).toBeCloseTo(5.75, 12);
  });

  it('is laid along a line, with what is ridden on it', async () => {
    const piece = wall();
    piece.document = applyEdit(piece.document, {
      kind: 'set-ridden-edges',
      changed: [
        {
          id: 'e1',
          name: 'top',
          line: [
            [0, 2, 0.25],
            [4, 2, 0.25],
          ],
          sides: [
            [
              [0, -1, 0],
              [0, 0, -1],
            ],
          ],
        },
      ],
      removed: [],
    });
    const line: Vec3[] = [
      [0, 0, 0],
      [2, 0, 0],
      [2, 0, 2],
    ];
    const now = await after(piece, { op: 'lay-along', parts: [], module: along, line });
    expect(now.document.riddenEdges[0]!.line.length).toBe(3);
    expect(massOf(art(now)).volume).toBeGreaterThan(4 * 2 * 0.5 * 0.99);
    await expectAsync(
      after(piece, { op: 'lay-along', parts: [], module: along, line: [line[0]!, line[0]!] }),
    ).toBeRejectedWithError(/no length/);
    await expectAsync(
      after(piece, { op: 'bend', parts: [], module: { ...along, to: -1 }, degrees: 9, divisions: 1 }),
    ).toBeRejectedWithError(/ends before it begins/);
  });
});

describe('a cut through parts', () => {
  it('divides the shapes of each part among the two', async () => {
    const piece = wall();
    piece.document = applyEdit(piece.document, {
      kind: 'put-proxies',
      changed: [{ ...piece.document.proxies[0]!, part: 'n1' }],
      removed: [],
    });
    const now = await after(piece, {
      op: 'split-plane',
      parts: ['n1'],
      point: [1, 0, 0],
      normal: [1, 0, 0],
      close: true,
    });
    expect(
      now.document.proxies.map(({ part, shape }) => [part, 'center' in shape && shape.center[0]]),
    ).toEqual([
      ['n1', 0.5],
      ['n3', 2.5],
    ]);
  });
});
