import fc from 'fast-check';
import type { Vec3 } from '../math/index.js';
import { selfCrossing } from '../mesh/self-crossing.js';
import { plainMesh } from '../mesh/index.js';
import { plainNode } from '../piece/scene.js';
import { piecesIn } from '../piece/pieces-in.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, moved, sceneOf } from '../testing/meshes.js';
import { buildBvh } from './bvh.js';
import { facesToTurnOutward } from './facing-outward.js';
import { firstHit } from './first-hit.js';
import { surveyMesh } from './survey.js';

const number = fc.double({ min: -5, max: 5, noNaN: true });

describe('outlines', () => {
  const circle = (n: number, shake: readonly number[] = []) =>
    Array.from({ length: n }, (_, i) => {
      const r = 1 + (shake[i % (shake.length || 1)] ?? 0);
      return [Math.cos((i / n) * 2 * Math.PI) * r, Math.sin((i / n) * 2 * Math.PI) * r];
    }).flat();

  it('that go round once do not cross themselves, however they wave', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: 400 }),
        fc.array(fc.double({ min: -0.5, max: 3, noNaN: true }), { maxLength: 9 }),
        (n, shake) => {
          expect(selfCrossing(circle(n, shake))).toBe(false);
        },
      ),
    ));

  it('cross themselves when two corners that lie apart change places', () =>
    fc.assert(
      fc.property(fc.integer({ min: 12, max: 300 }), fc.nat(), fc.nat(), (n, a, b) => {
        const [i, j] = [a % n, b % n];
        const apart = Math.min((i - j + n) % n, (j - i + n) % n);
        fc.pre(apart > 2);
        const flat = circle(n);
        for (const k of [0, 1]) [flat[i * 2 + k], flat[j * 2 + k]] = [flat[j * 2 + k]!, flat[i * 2 + k]!];
        expect(selfCrossing(flat)).toBe(true);
      }),
    ));

  it('that would take too long to look at are said to be unknown, or told at once', () => {
    const tangle = Array.from({ length: 20_000 }, (_, i) => [(i * 7919) % 1009, (i * 104729) % 997]).flat();
    expect(selfCrossing(tangle)).not.toBe(false);
  });
});

describe('a ray', () => {
  it('meets a box where its faces are', () =>
    fc.assert(
      fc.property(fc.tuple(number, number, number), fc.tuple(number, number, number), (origin, way) => {
        const length = Math.hypot(...way);
        fc.pre(length > 1e-3);
        const direction = way.map((v) => v / length) as Vec3;
        // Slabs: where the ray is inside all three pairs of planes.
        const times = [0, 1, 2].flatMap((k) => [
          (-1 - origin[k]!) / direction[k]!,
          (1 - origin[k]!) / direction[k]!,
        ]);
        const enter = Math.max(...[0, 1, 2].map((k) => Math.min(times[k * 2]!, times[k * 2 + 1]!)));
        const leave = Math.min(...[0, 1, 2].map((k) => Math.max(times[k * 2]!, times[k * 2 + 1]!)));
        // A ray along an edge may be said to meet it or not.
        fc.pre(Math.abs(leave - enter) > 1e-6 && Math.abs(enter) > 1e-6 && Math.abs(leave) > 1e-6);
        const wanted = leave < Math.max(enter, 0) ? 100 : enter > 0 ? enter : leave;
        expect(firstHit(buildBvh(boxMesh([1, 1, 1])), origin, direction, 100)).toBeCloseTo(wanted, 6);
      }),
    ));

  it('meets nothing in an empty mesh', () =>
    expect(firstHit(buildBvh(plainMesh([], [])), [0, 0, 0], [1, 0, 0], 7)).toBe(7));
});

describe('faces without end', () => {
  it('on the same few places are counted, not asked one by one: both ways round they cancel out', () => {
    const box = boxMesh([1, 1, 1]);
    const copies = 400;
    const many = plainMesh([...box.positions], Array.from({ length: copies }, () => [...box.indices]).flat());
    const facts = surveyMesh(many);
    expect(facts.doubledFaces).toBe((copies - 1) * 12);
    const both = plainMesh([...box.positions], [...box.indices, ...[...box.indices].reverse()]);
    expect(surveyMesh(both).hiddenFaces).toBe(0);
  });

  it('turned some this way and some that are made to look outward', () =>
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), (turned) => {
        const box = boxMesh([1, 2, 3]);
        const indices = [...box.indices];
        turned.forEach((is, f) => {
          if (is) [indices[f * 3 + 1], indices[f * 3 + 2]] = [indices[f * 3 + 2]!, indices[f * 3 + 1]!];
        });
        const marks = facesToTurnOutward(plainMesh([...box.positions], indices));
        expect([...marks].map(Boolean)).toEqual(turned);
      }),
    ));
});

describe('pieces in one file', () => {
  it('are those that stand apart, in whatever order and however many', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 })), {
          minLength: 1,
          maxLength: 14,
        }),
        (cells) => {
          const places = [...new Map(cells.map((cell) => [cell.join(), cell])).values()];
          const scene = sceneOf(boxMesh([0.5, 0.5, 0.5]));
          scene.meshes = places.map(([x, z], i) => ({
            name: `m${i}`,
            mesh: moved(boxMesh([0.5, 0.5, 0.5]), [x * 1.2, 0, z * 1.2]),
          }));
          scene.nodes = places.map((_, i) => plainNode(`box ${i}`, i));
          const found = piecesIn(pieceOf(scene).document);
          // Side by side they stand 0.2 apart, corner to corner 0.28; a quarter of a box's diagonal is 0.43.
          const together = ([a, b]: number[], [c, d]: number[]) =>
            Math.max(Math.abs(a! - c!), Math.abs(b! - d!)) <= 1;
          const group = places.map((_, i) => i);
          for (let again = true; again;) {
            again = false;
            places.forEach((p, i) =>
              places.forEach((q, j) => {
                if (!together(p, q) || group[i] === group[j]) return;
                group[i] = group[j] = Math.min(group[i]!, group[j]!);
                again = true;
              }),
            );
          }
          expect(found.length).toBe(new Set(group).size);
          expect(found.flat().length).toBe(places.length);
        },
      ),
    ));
});
