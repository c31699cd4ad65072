import fc from 'fast-check';
import { distance, shearOf } from '../math/index.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { after, transform, tree } from '../testing/reshaped.js';
import { pieceOf } from '../testing/documents.js';
import { alignTo, boundsOfParts, moveTo, partPlace, sideOf } from './part-place.js';
import { nodeById, placedMatrices } from './geometry.js';

describe('the place of a part', () => {
  it('typed is the place it has then, in trees without shear', async () => {
    await fc.assert(
      fc.asyncProperty(tree, transform, fc.nat(), async (scene, wanted, pick) => {
        const piece = pieceOf(scene);
        if (placedMatrices(piece.document).some((matrix) => shearOf(matrix) > 1e-9)) return;
        // A group whose turn its parent cannot hold is put into what is below it, and has no place of its own left.
        const parts = piece.document.nodes.filter(({ mesh }) => mesh !== null);
        const { id } = parts[pick % parts.length]!;
        const place = {
          position: wanted.translation,
          rotation: wanted.rotation,
          scale: [1, 2, 0.5] as [number, number, number],
        };
        const { document } = await after(piece, moveTo(piece.document, id, place));
        if (shearOf(placedMatrices(document)[nodeById(document, id)]!) > 1e-9) return;
        expect(distance(partPlace(document, id).position, place.position)).toBeLessThan(1e-6);
      }),
      { numRuns: 60 },
    );
  });

  it('is copied from another part: position, turn and scale', async () => {
    await fc.assert(
      fc.asyncProperty(transform, transform, async (a, b) => {
        const positive = (t: typeof a) => ({ ...t, scale: t.scale.map(Math.abs) as typeof t.scale });
        const scene = {
          unit: { metres: 1, stated: true },
          nodes: [
            { name: 'a', parent: null, mesh: 0, ...positive(a) },
            { name: 'b', parent: null, mesh: 0, ...positive(b) },
          ],
          meshes: sceneOf(boxMesh([1, 1, 1])).meshes,
          materials: [],
          pictures: [],
          leftOut: [],
          notes: [],
        };
        const piece = pieceOf(scene);
        const { document } = await after(
          piece,
          moveTo(piece.document, 'n1', partPlace(piece.document, 'n2')),
        );
        const [m, n] = placedMatrices(document);
        m!.forEach((v, k) => expect(v).toBeCloseTo(n![k]!, 6));
      }),
      { numRuns: 30 },
    );
  });

  it('is aligned by a side of its bounds, to any place on an axis', async () => {
    await fc.assert(
      fc.asyncProperty(
        tree,
        fc.constantFrom(0, 1, 2),
        fc.constantFrom(-1, 0, 1),
        fc.double({ min: -5, max: 5, noNaN: true }),
        async (scene, axis, side, at) => {
          const piece = pieceOf(scene);
          const how = { axis, side, at } as Parameters<typeof alignTo>[2];
          const { document } = await after(piece, alignTo(piece.document, ['n1'], how));
          expect(sideOf(boundsOfParts(document, ['n1']), how.axis, how.side)).toBeCloseTo(at, 6);
        },
      ),
      { numRuns: 40 },
    );
  });
});
