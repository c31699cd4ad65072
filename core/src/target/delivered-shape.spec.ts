import fc from 'fast-check';
import { applyEdit, replaceProxies } from '../piece/index.js';
import { shapeBounds, shapeCorners, type Shape, shapeVolume } from '../shape/index.js';
import { asDelivered, brokenUp, deliveredKind, proxiesAsDelivered } from './delivered-shape.js';
import type { TargetProfile } from './profile.js';
import { lossesOf } from './losses.js';
import { planDelivery } from './plan.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { turn } from '../testing/shapes.js';
import { blocks } from '../testing/solids.js';
import {
  OPEN_PHYSICS_GLTF,
  OPEN_PHYSICS_USD,
  PREFIX_TAGS,
  SUFFIX_TAGS,
  TWIN_FILE,
} from './profiles/index.js';

const pipe: Shape = {
  kind: 'cylinder',
  center: [0, 0, 0],
  rotation: [0, 0, 0, 1],
  halfHeight: 1,
  bottomRadius: 0.5,
  topRadius: 0.4,
};
const taking = (maxHullVertices: number): TargetProfile => ({
  ...PREFIX_TAGS,
  solids: { ...PREFIX_TAGS.solids, maxHullVertices },
});

describe('what a level gets', () => {
  it('is the shape itself, or the hull that takes its place: what is measured is what leaves', () => {
    const box: Shape = { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] };
    expect(asDelivered(PREFIX_TAGS, box)).toBe(box);
    const prism = asDelivered(taking(32), pipe);
    expect([prism.kind, shapeCorners(prism)]).toEqual(['hull', 32]);
    const sheet: Shape = {
      kind: 'surface',
      points: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1],
      indices: [0, 1, 2, 0, 1, 3],
    };
    expect(asDelivered(PREFIX_TAGS, sheet).kind).toBe('hull');
  });
});

describe('a set as a level gets it', () => {
  it('is the same again for the same shapes, and keeps what belongs to them', () => {
    const box: Shape = { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] };
    const set = [
      { id: 'a', shape: box, part: 'n1' },
      { id: 'b', shape: pipe, part: 'n2' },
    ];
    const [first, second] = proxiesAsDelivered(PREFIX_TAGS, set);
    expect(first).toBe(set[0]);
    expect([second!.shape.kind, second!.part]).toEqual(['hull', 'n2']);
    expect(proxiesAsDelivered(PREFIX_TAGS, [{ ...set[1]! }])[0]!.shape).toBe(second!.shape);
    expect(proxiesAsDelivered(taking(8), set)[1]!.shape).not.toBe(second!.shape);
  });
});

describe('a round shape for a target that knows none', () => {
  const rounds: Shape[] = [
    pipe,
    { kind: 'sphere', center: [1, 2, 3], radius: 0.7 },
    { kind: 'capsule', center: [0, 0, 0], rotation: [0, 0, 0, 1], halfLength: 0.6, radius: 0.3 },
  ];
  it('leaves as a hull with no more corners than one may have there, and with its volume', () => {
    for (const most of [26, 32, 33, 64, 255])
      for (const round of rounds) {
        const hull = asDelivered({ ...taking(most), kinds: SUFFIX_TAGS.kinds }, round);
        const label = `${round.kind}, ${most}`;
        expect(shapeCorners(hull)).withContext(label).toBeLessThanOrEqual(most);
        expect(shapeVolume(hull)).withContext(label).toBeCloseTo(shapeVolume(round), 9);
      }
    expect(shapeBounds(asDelivered(taking(32), pipe)).max[1]).toBeCloseTo(1, 12);
  });

  it('stays what it is where it tapers and the target knows that, and only there', () => {
    expect(asDelivered(OPEN_PHYSICS_GLTF, pipe)).toBe(pipe);
    expect(deliveredKind(OPEN_PHYSICS_USD, pipe)).toBe('hull');
    expect(deliveredKind(OPEN_PHYSICS_USD, { ...pipe, topRadius: 0.5 } as Shape)).toBe('cylinder');
  });
});

describe('a surface for a target of convex shapes', () => {
  const bent = blocks([
    [0, 0, 0, 3, 1, 1],
    [0, 1, 0, 1, 3, 1],
  ]);
  const surface: Shape = { kind: 'surface', points: [...bent.positions], indices: [...bent.indices] };
  it('is filled, or broken up, as the profile says', async () => {
    const [filled, ...none] = await brokenUp(PREFIX_TAGS, surface);
    expect(none).toEqual([]);
    expect(shapeVolume(filled!)).toBeGreaterThan(6);
    const apart = { ...PREFIX_TAGS, kinds: { ...PREFIX_TAGS.kinds, concave: 'break-up' as const } };
    const pieces = await brokenUp(apart, surface);
    expect(pieces.length).toBe(2);
    expect(pieces.reduce((sum, piece) => sum + shapeVolume(piece), 0)).toBeCloseTo(5, 2);
  });

  it('stays one where the target knows surfaces', () => {
    expect(asDelivered(SUFFIX_TAGS, surface)).toBe(surface);
  });
});

describe('what flat sides cost', () => {
  it('is said with as many sides as there are', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const center: [number, number, number] = [0, 0, 0];
    const ball = { kind: 'sphere' as const, center, radius: 0.5 };
    const pill = {
      kind: 'capsule' as const,
      center,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      halfLength: 1,
      radius: 0.5,
    };
    for (const profile of [SUFFIX_TAGS, TWIN_FILE])
      for (const shape of [ball, pill, { ...pipe, topRadius: 0.5 }]) {
        const plan = planDelivery(applyEdit(document, replaceProxies([{ id: 'a', shape }])), profile);
        const [loss] = lossesOf(plan);
        expect((loss as { sides: number }).sides)
          .withContext(`${shape.kind} for ${profile.id}`)
          .toBe(profile.kinds.sides);
      }
  });

  it('is how far corners stand out or sides fall short, whichever is more', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    fc.assert(
      fc.property(
        fc.constantFrom(8, 12, 16, 24),
        fc.double({ min: 0.05, max: 20, noNaN: true }),
        turn,
        (sides, radius, rotation) => {
          const profile = { ...PREFIX_TAGS, kinds: { ...PREFIX_TAGS.kinds, sides } };
          const cylinder = {
            kind: 'cylinder' as const,
            center: [1, 2, 3] as [number, number, number],
            rotation,
            halfHeight: 1,
            bottomRadius: radius,
            topRadius: radius,
          };
          const plan = planDelivery(
            applyEdit(document, replaceProxies([{ id: 'a', shape: cylinder }])),
            profile,
          );
          const [loss] = lossesOf(plan);
          // A prism of the cylinder's volume has corners this far out, and the middles of its sides that far in.
          const corner = radius * Math.sqrt((2 * Math.PI) / (sides * Math.sin((2 * Math.PI) / sides)));
          const most = Math.max(corner - radius, radius - corner * Math.cos(Math.PI / sides));
          expect(loss).toEqual(
            jasmine.objectContaining({ about: 'kind', from: 'cylinder', to: 'hull', sides, shapes: 1 }),
          );
          expect((loss as { deviation: number }).deviation).toBeCloseTo(most, 6);
        },
      ),
      { numRuns: 40 },
    );
  });
});
