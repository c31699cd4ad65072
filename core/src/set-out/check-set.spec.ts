import fc from 'fast-check';
import { FIRST_AGENTS } from '../check/index.js';
import { applyMatrix, distance, type Vec3 } from '../math/index.js';
import { type Mesh, transformMesh } from '../mesh/index.js';
import { artMesh, type PieceDocument, pivotAt } from '../piece/index.js';
import type { BoxShape, Shape } from '../shape/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { blocks } from '../testing/solids.js';
import { mirroredAcross, shiftedBy, turnedUpright } from './arrange.js';
import { checkSet, shiftFor } from './check-set.js';
import { mirroredShapes } from './forgotten-mirror.js';
import { placedMesh, placedPieces, placedShapes } from './placed.js';
import { setCheckSchema, type SetFault } from './set-fault.js';
import { emptySetOut, placedAt, type Placement } from './set-out.js';
import { faultWords } from './set-words.js';

const box = (center: Vec3, halfExtents: Vec3): BoxShape => ({
  kind: 'box',
  center,
  halfExtents,
  rotation: [0, 0, 0, 1],
});

interface Thing {
  document: PieceDocument;
  art: Mesh;
}

/** A piece on its origin, with shapes. */
function thing(mesh: Mesh, shapes: readonly Shape[] = [], change: Partial<PieceDocument> = {}): Thing {
  const { document, meshOf } = pieceOf(sceneOf(mesh));
  const whole: PieceDocument = {
    ...document,
    pivot: pivotAt('origin', [0, 0, 0]),
    proxies: shapes.map((shape, i) => ({ id: `s${i + 1}`, shape })),
    ...change,
  };
  return { document: whole, art: artMesh(whole, meshOf) };
}

/** A metre of wall, two high and half a metre deep, from x = 0. */
const wall = (...shapes: Shape[]) => thing(boxMesh([0.5, 1, 0.25], [0.5, 1, 0]), shapes);
const WALL_SHAPE = box([0.5, 1, 0], [0.5, 1, 0.25]);

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

function check(placements: Placement[], things: Record<number, Thing>) {
  const found = checkSet({
    setOut: { ...emptySetOut('Slip'), placements },
    documents: new Map(Object.entries(things).map(([id, { document }]) => [id, document])),
    artOf: (source) => things[Number(source)]!.art,
    agents: FIRST_AGENTS,
  });
  expect(setCheckSchema.parse(JSON.parse(JSON.stringify(found)))).toEqual(found);
  return found;
}

const kinds = (faults: readonly SetFault[]) => faults.map(({ kind }) => kind);

describe('a set that is checked', () => {
  it('finds a gap of 12 mm, which is gone when the piece is moved by what is told', () => {
    const things = { 1: wall(WALL_SHAPE) };
    const placements = [at('p1', 1, [0, 0, 0]), at('p2', 1, [1, 0, 0]), at('p3', 1, [2.012, 0, 0])];
    const { faults, pairs, meeting } = check(placements, things);
    expect([pairs, meeting]).toEqual([2, 1]);
    expect(faults).toEqual([jasmine.objectContaining({ kind: 'seam', a: 'p2', b: 'p3', pairs: 4 })]);
    const [fault] = faults as [Extract<SetFault, { kind: 'seam' }>];
    expect(fault.gap).toBeCloseTo(0.012, 9);
    expect(faultWords(fault, (id) => id).says).toContain('p2 and p3 leave a gap of 12.0 mm');
    const shift = shiftFor(fault)!;
    const [closed] = shiftedBy([placements[2]!], shift.by);
    const after = check([...placements.slice(0, 2), closed!], things);
    expect([after.faults, after.meeting]).toEqual([[], 2]);
  });

  it('tells overlaps from gaps, by the same length wherever and however the pair stands', () => {
    const things = { 1: wall() };
    fc.assert(
      fc.property(
        fc.integer({ min: -30, max: 30 }).filter((mm) => Math.abs(mm) > 1),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.boolean(),
        (mm, x, degrees, mirrored) => {
          const pair = [at('p1', 1, [x, 0, 3]), at('p2', 1, [x + 1 + mm / 1000, 0, 3])];
          const turned = turnedUpright(pair, [x, 0, 0], degrees);
          const stood = mirrored ? mirroredAcross(turned, [x + 2, 0, 0]) : turned;
          const seams = check(stood, things).faults.filter(({ kind }) => kind === 'seam');
          expect(seams.length).toBe(1);
          expect((seams[0] as Extract<SetFault, { kind: 'seam' }>).gap).toBeCloseTo(mm / 1000, 6);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('tells a step to the side from a gap, and stays silent where no end looks at an end', () => {
    const things = {
      1: wall(WALL_SHAPE),
      2: thing(boxMesh([0.1, 0.1, 0.1], [0, 0.1, 0]), [box([0, 0.1, 0], [0.1, 0.1, 0.1])]),
    };
    const [step] = check([at('p1', 1, [0, 0, 0]), at('p2', 1, [1, 0, 0.02])], things).faults;
    expect(faultWords(step!, (id) => id).says).toContain('stand off each other sideways by 20.0 mm');
    expect(check([at('p1', 1, [0, 0, 0]), at('p2', 2, [1.13, 0, 0])], things).faults).toEqual([]);
  });

  it('calls ends that lie on each other met, whatever joints the art has beside', () => {
    // A slab that meets, over stones that stay 6 mm back from the end.
    const jointed = thing(
      blocks([
        [0, 0, 0, 1, 0.2, 1],
        [0.003, 0.3, 0, 0.997, 1, 1],
      ]),
    );
    const { faults, meeting } = check([at('p1', 1, [0, 0, 0]), at('p2', 1, [1, 0, 0])], { 1: jointed });
    expect(kinds(faults)).toEqual(['no-shapes']);
    expect(meeting).toBe(1);
  });

  it('finds shapes that cross, and those that leave a slot where the art meets', () => {
    const crossing = { 1: wall(box([0.5, 1, 0], [0.53, 1, 0.25])) };
    const run = [at('p1', 1, [0, 0, 0]), at('p2', 1, [1, 0, 0])];
    const [cross] = check(run, crossing).faults;
    expect(cross).toEqual(
      jasmine.objectContaining({ kind: 'shapes-cross', a: 'p1', b: 'p2', shapes: ['s1', 's1'] }),
    );
    expect((cross as Extract<SetFault, { kind: 'shapes-cross' }>).metres).toBeCloseTo(0.06, 9);
    const [slot] = check(run, { 1: wall(box([0.5, 1, 0], [0.46, 1, 0.25])) }).faults as [
      Extract<SetFault, { kind: 'shapes-gap' }>,
    ];
    expect(slot.kind).toBe('shapes-gap');
    expect(slot.metres).toBeCloseTo(0.08, 9);
    // The gull's foot is a round of 0.15 m.
    expect(slot.dip).toBeCloseTo(0.15 - Math.sqrt(0.15 ** 2 - 0.04 ** 2), 9);
  });

  it('finds furniture whose art goes into a wall, however it is turned, and takes it out again', () => {
    const crate = thing(boxMesh([0.3, 0.3, 0.3], [0, 0.3, 0]));
    // Without shapes, so that only the art can tell; its middle is 0.3 m off the wall's face, less 40 mm.
    const things = { 1: wall(WALL_SHAPE), 2: crate };
    const placements = [at('wall', 1, [0, 0, 0]), at('crate', 2, [0.5, 0, 0.51])];
    const { faults } = check(placements, things);
    const [fault] = faults.filter(({ kind }) => kind === 'art-crosses');
    expect(fault).toEqual(jasmine.objectContaining({ a: 'wall', b: 'crate' }));
    const { metres, shift } = fault as Extract<SetFault, { kind: 'art-crosses' }>;
    expect(metres).toBeCloseTo(0.04, 9);
    expect(distance(shift, [0, 0, 0.04])).toBeLessThan(1e-9);
    expect(faultWords(fault!, (id) => id).says).toBe('crate goes 40.0 mm into wall.');
    const moved = shiftedBy([placements[1]!], shiftFor(fault!)!.by);
    expect(kinds(check([placements[0]!, ...moved], things).faults)).not.toContain('art-crosses');
    // What only touches, what stands on top, and what lies in something open goes into nothing.
    const open = thing({
      ...boxMesh([1, 0.5, 1], [0, 0.5, 0]),
      indices: boxMesh([1, 0.5, 1], [0, 0.5, 0]).indices.slice(0, -6),
    });
    for (const fine of [
      check([at('wall', 1, [0, 0, 0]), at('crate', 2, [0.5, 2, 0])], things),
      check([at('tray', 3, [0, 0, 0]), at('crate', 2, [0, 0.1, 0])], { ...things, 3: open }),
    ])
      expect(kinds(fine.faults)).not.toContain('art-crosses');
  });

  it('measures how deep art goes into art by the same figure wherever and however both stand', () => {
    const things = { 1: wall(), 2: thing(boxMesh([0.3, 0.3, 0.3], [0, 0.3, 0])) };
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 0.2, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom(0, 1e5),
        fc.boolean(),
        (deep, quarters, away, first) => {
          const near = [at('wall', 1, [0, 0, 0]), at('crate', 2, [0.5, 0, 0.55 - deep])];
          const pair = shiftedBy(turnedUpright(near, [0, 0, 0], quarters * 90), [away, 0, -away]);
          const { faults } = check(first ? pair : [pair[1]!, pair[0]!], things);
          const found = faults.find(({ kind }) => kind === 'art-crosses') as Extract<
            SetFault,
            { kind: 'art-crosses' }
          >;
          expect([found.a, found.b]).toEqual(['wall', 'crate']);
          expect(found.metres).toBeCloseTo(deep, 6);
          expect(Math.hypot(...found.shift)).toBeCloseTo(deep, 6);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('finds what floats over the ground or over another piece, and what is sunk', () => {
    const things = {
      1: wall(WALL_SHAPE),
      2: thing(boxMesh([0.1, 0.1, 0.1], [0, 0.1, 0]), [box([0, 0.1, 0], [0.1, 0.1, 0.1])]),
    };
    const stands = check([at('p1', 1, [0, 0, 0]), at('p2', 2, [0.5, 2, 0])], things);
    expect(stands.faults).toEqual([]);
    const floats = check([at('p1', 1, [0, 0, 0]), at('p2', 2, [0.5, 2.04, 0])], things).faults[0]!;
    expect(floats).toEqual(jasmine.objectContaining({ kind: 'floats', a: 'p2', on: 'p1' }));
    expect(shiftFor(floats)!.by[1]).toBeCloseTo(-0.04, 9);
    const sunk = check([at('p1', 1, [0, 0, 0]), at('p2', 2, [0.5, 1.97, 0])], things).faults;
    expect(sunk.find(({ kind }) => kind === 'sinks')).toEqual(
      jasmine.objectContaining({ a: 'p2', on: 'p1' }),
    );
    const over = check([at('p2', 2, [5, 0.3, 0])], things).faults[0]!;
    expect(over).toEqual(jasmine.objectContaining({ kind: 'floats', on: null }));
    expect(faultWords(over, () => 'Tray').says).toBe('Tray floats 300.0 mm over the ground.');
    expect(kinds(check([at('p1', 1, [0, -0.5, 0])], things).faults)).toEqual(['sinks']);
    // A gull, who feels the least, feels no 6 mm.
    expect(check([at('p1', 1, [0, 0.006, 0])], things).faults).toEqual([]);
  });

  it('finds an opening that another piece stands in, for who would get through without it', () => {
    const hatch = {
      id: 'o1',
      name: 'hatch',
      center: [0.5, 1, 0] as Vec3,
      halfExtents: [0.5, 1, 0.3] as Vec3,
    };
    const gate = thing(boxMesh([0.5, 0.05, 0.25], [0.5, 2.05, 0]), [box([0.5, 2.05, 0], [0.5, 0.05, 0.25])], {
      clearances: [{ ...hatch, rotation: [0, 0, 0, 1], through: 'z' }],
    });
    const crate = thing(boxMesh([0.2, 0.5, 0.2], [0, 0.5, 0]), [box([0, 0.5, 0], [0.2, 0.5, 0.2])]);
    const things = { 1: gate, 2: crate };
    const blocked = (x: number) =>
      check([at('p1', 1, [0, 0, 0]), at('p2', 2, [x, 0, 0])], things).faults.filter(
        ({ kind }) => kind === 'blocked',
      );
    expect(blocked(3)).toEqual([]);
    const [deckhand] = blocked(0.5);
    expect(deckhand).toEqual(
      jasmine.objectContaining({ a: 'p1', b: 'p2', opening: 'hatch', agent: 'deckhand' }),
    );
    // 0.3 m are left at either side of the crate, and it takes 0.7.
    expect((deckhand as Extract<SetFault, { kind: 'blocked' }>).metres).toBeCloseTo(0.4, 6);
  });

  it('finds a mirrored corner whose shapes were forgotten, and what they are', () => {
    const arm = blocks([
      [0, 0, 0, 2, 1, 0.4],
      [0, 0, 0.4, 0.4, 1, 1.5],
    ]);
    const shapes = [box([1, 0.5, 0.2], [1, 0.5, 0.2]), box([0.2, 0.5, 0.95], [0.2, 0.5, 0.55])];
    const flip = Float64Array.of(-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
    const things = { 1: thing(arm, shapes), 2: thing(transformMesh(arm, flip)), 3: thing(arm) };
    const { faults } = check(
      [at('p1', 1, [0, 0, 0]), at('p2', 2, [9, 0, 0]), at('p3', 3, [20, 0, 0]), at('p4', 3, [30, 0, 0])],
      things,
    );
    expect(faults).toEqual([
      jasmine.objectContaining({ kind: 'mirror-forgotten', a: 'p2', piece: 2, of: 1, shapes: 2 }),
      jasmine.objectContaining({ kind: 'no-shapes', a: 'p3', piece: 3, count: 2 }),
    ]);
    const [first] = mirroredShapes(things[1].document, things[2].document) as [BoxShape, BoxShape];
    expect(first.center).toEqual([-1, 0.5, 0.2]);
  });

  it('says of removed pieces that their place is kept, and goes on with the rest', () => {
    const found = check([at('p1', 9, [1, 2, 3]), at('p2', 1, [0, 0, 0])], { 1: wall(WALL_SHAPE) });
    expect(found.faults).toEqual([{ kind: 'removed', a: 'p1', piece: 9, version: null, at: [1, 2, 3] }]);
  });

  it('is the same twice, and with two thousand pieces in runs', () => {
    const things = { 1: wall(WALL_SHAPE) };
    const placements = Array.from({ length: 2000 }, (_, i) =>
      at(`p${i}`, 1, [(i % 100) + (i === 1234 ? 0.02 : 0), 0, Math.floor(i / 100) * 3]),
    );
    const once = check(placements, things);
    expect(kinds(once.faults)).toEqual(['seam', 'seam', 'shapes-cross']);
    expect(once.meeting).toBe(20 * 99 - 2);
    expect(check(placements, things)).toEqual(once);
  });
});

describe('placed pieces', () => {
  it('carry art and shapes alike, mirrored ones with their faces turned outward', () => {
    const { document, art } = wall(WALL_SHAPE);
    const [stands] = turnedUpright([at('p1', 1, [3, 0, 1])], [3, 0, 1], 90);
    const [seen] = mirroredAcross([stands!], [0, 0, 0]);
    const [placed] = placedPieces({ placements: [seen!] }, new Map([['1', document]]));
    const [shape] = placedShapes(placed!);
    const middle = applyMatrix(placed!.matrix, [0.5, 1, 0]);
    expect(distance((shape!.shape as BoxShape).center, middle)).toBeLessThan(1e-9);
    const mesh = placedMesh(placed!, art);
    // Signed volume stays what it was: 1 m by 2 m by half a metre.
    let volume = 0;
    for (let f = 0; f < mesh.indices.length; f += 3) {
      const [a, b, c] = [0, 1, 2].map((k) =>
        mesh.positions.subarray(mesh.indices[f + k]! * 3).slice(0, 3),
      ) as [Float64Array, Float64Array, Float64Array];
      volume +=
        (a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
          a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
          a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!)) /
        6;
    }
    expect(volume).toBeCloseTo(1, 9);
  });
});
