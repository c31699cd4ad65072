import fc from 'fast-check';
import { MAX_UNDO_STEPS, redo, stepsBetween, undo } from '../piece/index.js';
import {
  applyMatrix,
  composeMatrix,
  distance,
  multiplyQuats,
  quatAbout,
  type Quat,
  type Vec3,
} from '../math/index.js';
import { plainMesh, transformMesh } from '../mesh/index.js';
import { artMesh, type PieceDocument, pivotAt } from '../piece/index.js';
import type { BoxShape } from '../shape/index.js';
import { buildBvh } from '../solid/index.js';
import { pieceOf } from '../testing/documents.js';
import { ballMesh, boxMesh, sceneOf } from '../testing/meshes.js';
import { place, turn } from '../testing/shapes.js';
import { placementsTurned } from './arrange.js';
import { isMirrorOf, mirrorBetween, mirroredShapes } from './forgotten-mirror.js';
import { moduleSeam } from './module-seam.js';
import { neighbours } from './neighbours.js';
import { type Placed, placedClearances, placedPieces, placedShapes, placementNames } from './placed.js';
import { faultId, setFaultSchema, type SetFault } from './set-fault.js';
import {
  currentSetOut,
  pushSetOutEdit,
  setOutFault,
  startSetOut,
  withSetOutSteps,
} from './set-out-history.js';
import { emptySetOut, placedAt, type Placement, sourceKey } from './set-out.js';
import { faultWords } from './set-words.js';
import { shapesBetween } from './shapes-between.js';
import { standing } from './standing.js';

const at = (id: string, piece: number, position: Vec3, more: Partial<Placement> = {}): Placement => ({
  id,
  piece,
  version: null,
  ...placedAt(position),
  group: null,
  locked: false,
  materials: {},
  ...more,
});

/** A cube of a metre on its base, with one box as its shape. */
function cube(change: Partial<PieceDocument> = {}) {
  const { document, meshOf } = pieceOf(sceneOf(boxMesh([0.5, 0.5, 0.5], [0, 0.5, 0])));
  const whole: PieceDocument = {
    ...document,
    pivot: pivotAt('origin', [0, 0, 0]),
    proxies: [
      {
        id: 's',
        shape: { kind: 'box', center: [0, 0.5, 0], halfExtents: [0.5, 0.5, 0.5], rotation: [0, 0, 0, 1] },
      },
    ],
    ...change,
  };
  return { document: whole, art: artMesh(whole, meshOf) };
}

const placedAll = (placements: Placement[], document = cube().document): Placed[] =>
  placedPieces({ placements }, new Map(placements.map((each) => [sourceKey(each), document])));

describe('neighbours in a set', () => {
  it('are the same pairs as by looking at all of them', () => {
    const spot = fc.tuple(
      ...[0, 1, 2].map(() => fc.double({ min: -3, max: 3, noNaN: true })),
    ) as fc.Arbitrary<Vec3>;
    fc.assert(
      fc.property(
        fc.array(spot, { maxLength: 24 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (spots, reach) => {
          const placed = placedAll(spots.map((p, i) => at(`p${i}`, 1, p)));
          const near = ({ bounds: a }: Placed, { bounds: b }: Placed) =>
            [0, 1, 2].every((k) => a.max[k]! + reach >= b.min[k]! && b.max[k]! + reach >= a.min[k]!);
          const wanted = placed.flatMap((a, i) =>
            placed.slice(i + 1).flatMap((b) => (near(a, b) ? [[a, b]] : [])),
          );
          expect(neighbours(placed, reach).map(([a, b]) => [a.name, b.name])).toEqual(
            wanted.map(([a, b]) => [a!.name, b!.name]),
          );
        },
      ),
    );
  });

  it('are named by their piece, numbered where there are several, and told when they are gone', () => {
    const names = placementNames(
      { placements: [at('a', 1, [0, 0, 0]), at('b', 2, [0, 0, 0]), at('c', 1, [0, 0, 0])] },
      ({ piece }) => (piece === 1 ? 'Wall' : null),
    );
    expect([...names]).toEqual([
      ['a', 'Wall 1'],
      ['b', 'removed piece 2'],
      ['c', 'Wall 2'],
    ]);
  });
});

describe('shapes of two pieces', () => {
  it('cross by as much as one has to go to be out, and are apart by as much as faces that look at each other', () => {
    fc.assert(
      fc.property(
        place,
        turn,
        fc.double({ min: -0.09, max: 0.09, noNaN: true }),
        (position, rotation, gap) => {
          fc.pre(Math.abs(gap) > 2e-3);
          // Side by side along their own x, however both stand.
          const way = applyMatrix(composeMatrix({ translation: [0, 0, 0], rotation, scale: [1, 1, 1] }), [
            1 + gap,
            0,
            0,
          ]);
          const [a, b] = placedAll([
            at('a', 1, position, { rotation }),
            at('b', 1, position.map((v, k) => v + way[k]!) as Vec3, { rotation }),
          ]).map(placedShapes);
          const found = shapesBetween(a!, b!)!;
          expect(found.kind).toBe(gap < 0 ? 'crossing' : 'gap');
          expect(found.metres).toBeCloseTo(Math.abs(gap), 6);
          expect(found.shapes).toEqual(['s', 's']);
        },
      ),
    );
  });

  it('far apart are none of each other’s business, and touching ones are no fault', () => {
    const [a, b, c] = placedAll([at('a', 1, [0, 0, 0]), at('b', 1, [1, 0, 0]), at('c', 1, [4, 0, 0])]).map(
      placedShapes,
    );
    expect(shapesBetween(a!, b!)!.kind).toBe('touching');
    expect(shapesBetween(a!, c!)).toBeNull();
    expect(shapesBetween(a!, [])).toBeNull();
    const surface = [
      {
        placement: 'd',
        proxy: 's',
        shape: { kind: 'surface' as const, points: [0, 0, 0, 1, 0, 0, 0, 1, 0], indices: [0, 1, 2] },
      },
    ];
    expect(shapesBetween(a!, surface)).toBeNull();
  });
});

describe('a seam of modules', () => {
  it('of one triangle, of nothing, and of ends of another form is none', () => {
    const one = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]);
    const none = plainMesh([], []);
    expect(moduleSeam(one, none)).toBeNull();
    expect(moduleSeam(none, none)).toBeNull();
    expect(
      moduleSeam(
        one,
        transformMesh(
          one,
          composeMatrix({ translation: [1.01, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] }),
        ),
      ),
    ).toBeNull();
    expect(moduleSeam(boxMesh([0.5, 0.5, 0.5]), ballMesh(0.5, [1.02, 0, 0]))).toBeNull();
  });

  it('counts vertices that meet nothing', () => {
    // Two more corners at the end of one: a step that the other does not have.
    const plain = boxMesh([0.5, 0.5, 0.5]);
    const stepped = plainMesh(
      [...boxMesh([0.5, 0.5, 0.5], [1.02, 0, 0]).positions, 0.52, 0.2, 0.5, 0.52, 0.2, -0.5, 0.6, 0.2, 0.5],
      [...plain.indices, 8, 9, 10],
    );
    const seam = moduleSeam(plain, stepped)!;
    expect([seam.pairs, seam.unmatched]).toEqual([4, 2]);
    expect(seam.gap).toBeCloseTo(0.02, 9);
  });
});

describe('how a piece stands', () => {
  const { document, art } = cube();
  const bvh = buildBvh(art);
  const below = (position: Vec3, more: Partial<Placement> = {}) =>
    placedAll([at('below', 1, position, more)], document).map((placed) => ({ placed, bvh }));

  it('is told to the last bit over whatever is below, turned or mirrored', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 0.8, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.boolean(),
        (air, angle, mirrored) => {
          const over = boxMesh([0.1, 0.1, 0.1], [3, 1.1 + air, 0]);
          const found = standing(over, below([3, 0, 0], { rotation: quatAbout([0, 1, 0], angle), mirrored }));
          expect(found.metres).toBeCloseTo(air, 9);
          expect(found.on).toBe('below');
        },
      ),
    );
  });

  it('is told over the ground where nothing is below, and with most of its foot where it is sunk', () => {
    expect(standing(boxMesh([0.1, 0.1, 0.1], [9, 0.4, 0]), below([3, 0, 0]))).toEqual(
      jasmine.objectContaining({ on: null }),
    );
    expect(standing(boxMesh([0.1, 0.1, 0.1], [3, 1, 0]), below([3, 0, 0])).metres).toBeCloseTo(-0.1, 9);
    // Beside it, and only its rim over it: it stands on the ground.
    expect(standing(boxMesh([0.5, 0.5, 0.5], [3.99, 0.5, 0]), below([3, 0, 0])).on).toBeNull();
    expect(standing(plainMesh([], []), below([3, 0, 0]))).toEqual({ metres: 0, at: [0, 0, 0], on: null });
  });
});

describe('mirrored twins', () => {
  it('are told by their pivots wherever and however those are, and by nothing that only looks alike', () => {
    const wedge = boxMesh([0.5, 0.5, 0.5]);
    const positions = wedge.positions.slice();
    for (let i = 0; i < positions.length; i += 3)
      if (positions[i]! > 0 && positions[i + 1]! > 0) positions[i + 2]! *= 0.3;
    const left = { ...wedge, positions };
    const frame = fc.record({ position: place, rotation: turn });
    fc.assert(
      fc.property(frame, frame, (from, to) => {
        const { document } = cube();
        const one = { document: { ...document, pivot: { ...document.pivot, ...from } }, art: left };
        const seen = transformMesh(left, mirrorBetween(from, to));
        const other = {
          document: { ...document, pivot: { ...document.pivot, ...to }, proxies: [] },
          art: seen,
        };
        expect(isMirrorOf(one, other)).toBeTrue();
        expect(isMirrorOf(one, { ...other, art: left })).toBe(false);
        const [shape] = mirroredShapes(one.document, other.document) as [BoxShape];
        const middle = applyMatrix(mirrorBetween(from, to), [0, 0.5, 0]);
        expect(distance(shape.center, middle)).toBeLessThan(1e-6);
      }),
      { numRuns: 30 },
    );
  });

  it('of nothing, or of another count, are none', () => {
    const empty = { document: cube().document, art: plainMesh([], []) };
    expect(isMirrorOf(empty, empty)).toBeFalse();
    expect(isMirrorOf(cube(), { document: cube().document, art: ballMesh(1) })).toBeFalse();
  });
});

describe('clearances and turns of placements', () => {
  it('go where the piece goes', () => {
    const hatch = {
      id: 'o',
      name: 'hatch',
      center: [1, 1, 0] as Vec3,
      halfExtents: [0.5, 1, 0.2] as Vec3,
      rotation: [0, 0, 0, 1] as Quat,
      through: 'z' as const,
    };
    const { document } = cube({ clearances: [hatch] });
    const [stood] = placementsTurned([at('p', 1, [5, 0, 0])], [5, 0, 0], 90, 1);
    const [clearance] = placedAll([stood!], document).flatMap(placedClearances);
    expect(distance(clearance!.center, [5, 1, -1])).toBeLessThan(1e-9);
    expect([clearance!.name, clearance!.through]).toEqual(['hatch', 'z']);
  });

  it('turn about any axis, quarters to the last bit', () => {
    for (const axis of [0, 1, 2] as const) {
      const way: Vec3 = [0, 0, 0];
      way[axis] = 1;
      const [turned] = placementsTurned([at('p', 1, [2, 3, 4])], [1, 1, 1], 90, axis);
      const [free] = placementsTurned([at('p', 1, [2, 3, 4])], [1, 1, 1], 90.0000001, axis);
      expect(turned!.position.every(Number.isInteger)).toBeTrue();
      expect(distance(turned!.position, free!.position)).toBeLessThan(1e-7);
      expect(multiplyQuats(turned!.rotation, [0, 0, 0, 1])[axis]).toBeCloseTo(Math.SQRT1_2, 12);
      expect(quatAbout(way, Math.PI / 2)[axis]).toBeCloseTo(turned!.rotation[axis], 12);
    }
  });
});

describe('the history of a set-out', () => {
  const moved = (x: number) => ({
    kind: 'put-placements' as const,
    act: 'move' as const,
    changed: [at('p', 1, [x, 0, 0])],
    removed: [],
  });

  it('is undone and done again, sent by its steps, and folds its eldest', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1, max: 9 }), { maxLength: 30 }), (steps) => {
        let history = startSetOut(emptySetOut('Slip'));
        let stored = history;
        for (const step of steps) {
          const next =
            step < 0 ? undo(history) : step === 0 ? redo(history) : pushSetOutEdit(history, moved(step));
          const sent = stepsBetween(stored, next);
          expect(sent).not.toBeNull();
          const there = withSetOutSteps(stored, JSON.parse(JSON.stringify(sent)));
          expect(currentSetOut(there!)).toEqual(currentSetOut(next));
          history = stored = next;
        }
        expect(setOutFault(history)).toBeNull();
      }),
    );
    let long = startSetOut(emptySetOut('Slip'));
    for (let i = 0; i < MAX_UNDO_STEPS + 5; i++) long = pushSetOutEdit(long, moved(i));
    expect([long.edits.length, long.base.placements[0]!.position[0]]).toEqual([MAX_UNDO_STEPS, 4]);
  });

  it('that could not be opened again says where', () => {
    const broken = pushSetOutEdit(startSetOut(emptySetOut('Slip')), {
      ...moved(1),
      changed: [{ ...at('p', 1, [0, 0, 0]), position: [0, Number.NaN, 0] }],
    });
    expect(setOutFault(broken)!.path).toContain('position');
    expect(withSetOutSteps(broken, { fold: 2, keep: 0, edits: [], cursor: 0 })).toBeNull();
  });
});

describe('the words of a set', () => {
  const place_: Vec3 = [0, 0, 0];
  const faults: SetFault[] = [
    {
      kind: 'seam',
      a: 'p1',
      b: 'p2',
      gap: -0.004,
      pairs: 1,
      unmatched: 1,
      sideways: false,
      at: place_,
      shift: place_,
    },
    { kind: 'shapes-cross', a: 'p1', b: 'p2', metres: 0.02, at: place_, shapes: ['a', 'b'] },
    { kind: 'shapes-gap', a: 'p1', b: 'p2', metres: 0.05, dip: 0.002, at: place_, shapes: ['a', 'b'] },
    { kind: 'floats', a: 'p1', on: 'p2', metres: 0.2, at: place_ },
    { kind: 'sinks', a: 'p1', on: null, metres: 0.2, at: place_ },
    { kind: 'blocked', a: 'p1', b: 'p2', opening: 'hatch', agent: 'deckhand', metres: 0.1, at: place_ },
    { kind: 'mirror-forgotten', a: 'p1', piece: 1, of: 2, shapes: 1, at: place_ },
    { kind: 'mirrored', a: 'p1', piece: 1, count: 3, at: place_ },
    { kind: 'no-shapes', a: 'p1', piece: 1, count: 1, at: place_ },
    { kind: 'removed', a: 'p1', piece: 1, version: null, at: place_ },
    { kind: 'art-crosses', a: 'p1', b: 'p2', metres: 0.04, at: place_, shift: place_ },
  ];

  it('are whole sentences that name the pieces, say why, and never a text of the language', () => {
    for (const fault of faults) {
      expect(setFaultSchema.parse(fault)).toEqual(fault);
      const { says, why, mend } = faultWords(fault, (id) => (id === 'p1' ? 'Wall' : 'Post'));
      for (const text of [says, why]) {
        expect(text).toMatch(/^[A-Z].*\.$/);
        expect(text).not.toMatch(/undefined|NaN|null|\bp\d/);
      }
      expect(mend ?? 'Move').toMatch(/^[A-Z]/);
    }
    expect(new Set(faults.map(faultId)).size).toBe(faults.length);
    const [overlap] = faults.map((fault) => faultWords(fault, (id) => id).says);
    expect(overlap).toBe(
      'p1 and p2 overlap by 4.0 mm at 1 vertex. 1 vertex of their ends meets nothing and cannot be welded.',
    );
    const kept = { kind: 'removed', a: 'p1', piece: 1, version: 3, at: place_ } as const;
    expect(faultWords(kept, (id) => id).says).toBe(
      'The version of p1 that stands here is no longer kept; swap it for another.',
    );
  });
});
