import fc from 'fast-check';
import { type Clearance } from '../piece/index.js';
import type { BoxShape, Shape } from '../shape/index.js';
import { type Vec3, quatFromAxes, rotate, add } from '../math/index.js';
import { FIRST_AGENTS } from './agents.js';
import { freePassage } from './free-passage.js';

const DECKHAND = FIRST_AGENTS[1]!;
const RIG = FIRST_AGENTS[0]!;

const box = (center: Vec3, halfExtents: Vec3): BoxShape => ({
  kind: 'box',
  center,
  halfExtents,
  rotation: [0, 0, 0, 1],
});

/** A doorway in the plane z = 0 from the floor. */
const doorway = (width: number, height: number, depth = 0.3): Clearance => ({
  id: 'c1',
  name: 'door',
  center: [0, height / 2, 0],
  halfExtents: [width / 2, height / 2, depth / 2],
  rotation: [0, 0, 0, 1],
  through: 'z',
});
const frame = (width: number, height: number): Shape[][] => [
  [box([-width / 2 - 1, 2, 0], [1, 2, 0.15])],
  [box([width / 2 + 1, 2, 0], [1, 2, 0.15])],
  [box([0, height + 1, 0], [width / 2 + 2, 1, 0.15])],
];

describe('a passage between shapes', () => {
  it('is free where the shapes leave the opening as it is', () => {
    expect(freePassage(frame(1.2, 2.1), doorway(1.2, 2.1), DECKHAND)).toEqual(
      jasmine.objectContaining({ passes: true, missingWidth: 0, missingHeight: 0, shape: null }),
    );
  });

  it('says what an agent lacks that is larger than the opening', () => {
    const found = freePassage(frame(1.8, 2.4), doorway(1.8, 2.4), RIG);
    expect(found.passes).toBeFalse();
    expect(found.missingWidth).toBeCloseTo(0.4, 6);
    expect(found.missingHeight).toBeCloseTo(0.8, 6);
  });

  it('names the shape that narrows it, and by how much', () => {
    const shapes = [...frame(1.2, 2.1), [box([0.45, 1, 0], [0.2, 1, 0.1])]];
    const found = freePassage(shapes, doorway(1.2, 2.1), DECKHAND);
    expect(found).toEqual(jasmine.objectContaining({ passes: true }));
    expect(found.width).toBeCloseTo(0.85, 6);
    const closer = freePassage(
      [...frame(1.2, 2.1), [box([0.1, 1, 0], [0.2, 1, 0.1])]],
      doorway(1.2, 2.1),
      DECKHAND,
    );
    expect(closer.missingWidth).toBeCloseTo(0.7 - 0.5, 6);
    expect(closer.shape).toBe(3);
  });

  it('lets what is no higher than a step be stepped over, and tells a low lintel as height', () => {
    const sill = [box([0, 0.15, 0], [2, 0.15, 0.1])];
    expect(freePassage([...frame(1.2, 2.1), sill], doorway(1.2, 2.1), DECKHAND).passes).toBeTrue();
    const lintel = [box([0, 1.85, 0], [2, 0.15, 0.1])];
    const low = freePassage([...frame(1.2, 2.1), lintel], doorway(1.2, 2.1), DECKHAND);
    expect(low.missingWidth).toBe(0);
    expect(low.missingHeight).toBeCloseTo(0.1, 6);
    expect(low.shape).toBe(3);
  });

  it('tells what narrows only the upper half as width', () => {
    const shoulder = [box([0.4, 1.5, 0], [0.3, 0.3, 0.1])];
    const found = freePassage([...frame(1.2, 2.1), shoulder], doorway(1.2, 2.1), DECKHAND);
    expect(found.missingHeight).toBe(0);
    expect(found.missingWidth).toBe(0);
    const wider = [box([0.25, 1.5, 0], [0.35, 0.3, 0.1])];
    const narrow = freePassage([...frame(1.2, 2.1), wider], doorway(1.2, 2.1), DECKHAND);
    expect(narrow.missingWidth).toBeCloseTo(0.7 - 0.5, 6);
  });

  it('counts no shape beside the depth of the opening, and of a surface only its triangles', () => {
    const beside = [box([0, 1, 2], [0.5, 1, 0.1])];
    expect(freePassage([...frame(1.2, 2.1), beside], doorway(1.2, 2.1), DECKHAND).passes).toBeTrue();
    const arch: Shape = {
      kind: 'surface',
      points: [-0.6, 0, 0, -0.6, 2, 0, -0.5, 2, 0, 0.6, 0, 0, 0.6, 2, 0, 0.5, 2, 0],
      indices: [0, 1, 2, 3, 4, 5],
    };
    const found = freePassage([[arch]], doorway(1.2, 2.1), DECKHAND);
    expect(found.passes).toBeTrue();
    expect(found.width).toBeCloseTo(1.2 - 2 * 0.1 * 0.45, 6);
  });

  it('lets nobody through what is filled', () => {
    const found = freePassage([[box([0, 1, 0], [2, 2, 0.2])]], doorway(1.2, 2.1), DECKHAND);
    expect(found.passes).toBeFalse();
    expect(found.missingWidth).toBeCloseTo(0.7, 6);
    expect(found.shape).toBe(0);
  });

  it('is as wide to both sides for a hatch in a floor', () => {
    const hatch: Clearance = {
      ...doorway(0.8, 0.2),
      center: [0, 1, 0],
      halfExtents: [0.4, 0.1, 0.45],
      rotation: quatFromAxes([1, 0, 0], [0, 0, 1], [0, -1, 0]),
    };
    const through: Clearance = { ...hatch, halfExtents: [0.4, 0.45, 0.1] };
    expect(freePassage([], through, DECKHAND).passes).toBeTrue();
    const beam = [box([0, 1, 0.3], [1, 0.1, 0.1])];
    const found = freePassage([beam], through, DECKHAND);
    expect(found.passes).toBeFalse();
    expect(found.shape).toBe(0);
  });

  it('comes to the same wherever and however the opening stands', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 1.5, noNaN: true }),
        fc.double({ min: -0.6, max: 0.6, noNaN: true }),
        fc.double({ min: 0.02, max: 0.3, noNaN: true }),
        fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
        fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1e5, max: 1e5, noNaN: true }))),
        (width, x, half, angle, moved) => {
          const turn = [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)] as BoxShape['rotation'];
          const place = (at: Vec3): Vec3 => add(rotate(turn, at), moved as Vec3);
          const plain: BoxShape[] = [
            ...(frame(width, 2.1).flat() as BoxShape[]),
            box([x, 1, 0], [half, 1, 0.1]),
          ];
          const clear = doorway(width, 2.1);
          const here = freePassage(
            plain.map((each) => [each]),
            clear,
            DECKHAND,
          );
          const there = freePassage(
            plain.map((each) => [{ ...each, center: place(each.center), rotation: turn }]),
            { ...clear, center: place(clear.center), rotation: turn },
            DECKHAND,
          );
          const free = Math.max(x - half + width / 2, width / 2 - (x + half), 0);
          const known = x - half >= width / 2 || x + half <= -width / 2 ? width : Math.min(width, free);
          expect(here.width).toBeCloseTo(known < 1e-4 ? 0 : known, 3);
          expect(there.width).toBeCloseTo(here.width, 6);
          expect(there.missingHeight).toBeCloseTo(here.missingHeight, 6);
        },
      ),
    );
  });
});
