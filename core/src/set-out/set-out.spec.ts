import fc from 'fast-check';
import { applyMatrix, determinant3, distance, type Quat, type Vec3 } from '../math/index.js';
import { pivotAt } from '../piece/index.js';
import {
  jumpBetween,
  mirroredAcross,
  movedTogether,
  repeatedAlong,
  swapped,
  turnedUpright,
} from './arrange.js';
import { applyToSetOut, describeSetOutEdit, placementsBetween, setOutEditSchema } from './put-placements.js';
import {
  emptySetOut,
  freshIds,
  placedAsMade,
  placedAt,
  type Placement,
  placementMatrix,
  type SetOut,
  setOutSchema,
} from './set-out.js';

const place = (id: string, at: Vec3, more: Partial<Placement> = {}): Placement => ({
  id,
  piece: 1,
  version: null,
  ...placedAt(at),
  group: null,
  locked: false,
  materials: {},
  ...more,
});
const of = (...placements: Placement[]): SetOut => ({ ...emptySetOut('Slip'), placements });

const coordinate = fc.double({ min: -1e5, max: 1e5, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate) as fc.Arbitrary<Vec3>;
const turn = fc
  .tuple(...[0, 1, 2, 3].map(() => fc.double({ min: -1, max: 1, noNaN: true })))
  .filter((q) => Math.hypot(...q) > 0.1)
  .map((q) => q.map((v) => v / Math.hypot(...q)) as Quat);

describe('a set-out', () => {
  it('puts the pivot of a piece where the placement is, and the rest about it', () => {
    fc.assert(
      fc.property(point, turn, point, turn, fc.boolean(), (at, rotation, own, axes, mirrored) => {
        const pivot = { ...pivotAt('numeric', own), rotation: axes };
        const matrix = placementMatrix({ position: at, rotation, mirrored }, pivot);
        expect(distance(applyMatrix(matrix, own), at)).toBeLessThan(1e-6);
        const off: Vec3 = [own[0] + 1, own[1] + 2, own[2] - 3];
        expect(distance(applyMatrix(matrix, off), at)).toBeCloseTo(Math.sqrt(14), 5);
        expect(Math.sign(determinant3(matrix))).toBe(mirrored ? -1 : 1);
      }),
    );
  });

  it('leaves a piece where it was made by its own pivot', () => {
    fc.assert(
      fc.property(point, turn, point, (own, axes, p) => {
        const pivot = { ...pivotAt('numeric', own), rotation: axes };
        expect(distance(applyMatrix(placementMatrix(placedAsMade(pivot), pivot), p), p)).toBeLessThan(1e-5);
      }),
    );
  });

  it('turns by quarters exactly, and comes back after four', () => {
    const corner = [place('p1', [4, 0, 0]), place('p2', [0, 1, 2])];
    const quarter = turnedUpright(corner, [0, 0, 0], 90);
    expect(quarter.map(({ position }) => position)).toEqual([
      [0, 0, -4],
      [2, 1, 0],
    ]);
    const round = [1, 2, 3].reduce((all) => turnedUpright(all, [0, 0, 0], 90), quarter);
    expect(round.map(({ position }) => position)).toEqual(corner.map(({ position }) => position));
    expect(Math.abs(round[0]!.rotation[3])).toBeCloseTo(1, 12);
  });

  it('mirrors each place of each piece across the plane, and twice is nothing', () => {
    fc.assert(
      fc.property(point, turn, point, coordinate, (at, rotation, p, x) => {
        const pivot = pivotAt('origin', [0, 0, 0]);
        const one = place('p1', at, { rotation });
        const [other] = mirroredAcross([one], [x, 0, 0]);
        const here = applyMatrix(placementMatrix(one, pivot), p);
        const there = applyMatrix(placementMatrix(other!, pivot), p);
        expect(distance(there, [2 * x - here[0], here[1], here[2]])).toBeLessThan(1e-4);
        const [back] = mirroredAcross([other!], [x, 0, 0]);
        expect(back!.mirrored).toBe(false);
        expect(distance(back!.position, at)).toBeLessThan(1e-6);
      }),
    );
  });

  it('repeats along a run under new ids, groups of their own, never locked', () => {
    const setOut = of(
      place('p1', [0, 0, 0], { group: 'g', locked: true }),
      place('p7', [0, 1, 0], { group: 'g' }),
    );
    const copies = repeatedAlong(setOut, setOut.placements, [2, 0, 0], 3);
    expect(copies.map(({ id }) => id)).toEqual(['p8', 'p9', 'p10', 'p11', 'p12', 'p13']);
    expect(copies.map(({ position }) => position[0])).toEqual([2, 2, 4, 4, 6, 6]);
    expect(new Set(copies.map(({ group }) => group)).size).toBe(3);
    expect(copies.every(({ locked }) => !locked)).toBeTrue();
    expect(repeatedAlong(setOut, setOut.placements, [2, 0, 0], 3)).toEqual(copies);
    expect(() =>
      setOutSchema.parse({ ...setOut, placements: [...setOut.placements, ...copies] }),
    ).not.toThrow();
  });

  it('moves groups as one, one member alone when asked, and nothing that is locked', () => {
    const setOut = of(
      place('p1', [0, 0, 0], { group: 'g' }),
      place('p2', [0, 0, 0], { group: 'g' }),
      place('p3', [0, 0, 0], { group: 'g', locked: true }),
      place('p4', [0, 0, 0]),
    );
    const ids = (chosen: string[], alone = false) =>
      movedTogether(setOut, new Set(chosen), { alone }).map(({ id }) => id);
    expect(ids(['p1'])).toEqual(['p1', 'p2']);
    expect(ids(['p1'], true)).toEqual(['p1']);
    expect(ids(['p3', 'p4'])).toEqual(['p1', 'p2', 'p4']);
  });

  it('changes only what an edit says, in any order of the same', () => {
    const before = of(place('p1', [0, 0, 0]), place('p2', [1, 0, 0]), place('p3', [2, 0, 0]));
    const after = [place('p1', [0, 5, 0]), before.placements[2]!, place('p4', [9, 0, 0])];
    const edit = placementsBetween(before.placements, after, 'move')!;
    expect(edit.changed.map(({ id }) => id)).toEqual(['p1', 'p4']);
    expect(edit.removed).toEqual(['p2']);
    expect(setOutEditSchema.parse(JSON.parse(JSON.stringify(edit)))).toEqual(edit);
    expect(applyToSetOut(before, edit).placements).toEqual(after);
    expect(placementsBetween(after, after, 'move')).toBeNull();
    expect(describeSetOutEdit(edit)).toBe('move 2 pieces');
    expect(applyToSetOut(before, { kind: 'rename', name: 'Slip 2' }).name).toBe('Slip 2');
    expect(freshIds(before, 2)).toEqual(['p4', 'p5']);
  });

  it('swaps pieces in place, and says what jumps where their pivots differ', () => {
    const walls = [place('p1', [4, 0, 0], { materials: { stone: 'granite' } }), place('p2', [8, 0, 0])];
    const others = swapped(walls, { piece: 2 });
    expect(others.map(({ piece }) => piece)).toEqual([2, 2]);
    expect(others[0]!.materials).toEqual({ stone: 'granite' });
    const pivot = pivotAt('numeric', [1, 0, 0]);
    const same = { pivot, place: [1, 2, 0] as Vec3 };
    expect(jumpBetween(walls[0]!, same, same)).toBe(0);
    const drifted = { pivot: pivotAt('numeric', [1, 0.03, 0]), place: [1, 2, 0] as Vec3 };
    expect(jumpBetween(walls[0]!, same, drifted)).toBeCloseTo(0.03, 9);
  });
});
