import fc from 'fast-check';
import { quatAbout, type Vec3 } from '../math/index.js';
import {
  applyEdit,
  ReshapeError,
  replaceProxies,
  undo,
  pushEdit,
  startHistory,
  currentDocument,
  operate,
} from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { after, type Piece, same, tree, turn } from '../testing/reshaped.js';
import { manifestOf, ManifestError, manifestSchema, readManifest, type Manifest } from './manifest.js';
import { planDelivery } from './plan.js';
import { PREFIX_TAGS } from './profiles/index.js';
import { putBackBy } from './put-back.js';

const manifestFor = ({ document }: Pick<Piece, 'document'>): Manifest =>
  readManifest('m.json', JSON.stringify(manifestOf(planDelivery(document, PREFIX_TAGS), [])));
const number = fc.double({ min: -5, max: 5, noNaN: true });
const point = fc.tuple(number, number, number);

describe('parts put back by the manifest of a delivery', () => {
  it('stand where they stood, whatever was moved and turned since, and the shapes with them', async () => {
    let whole = 0;
    await fc.assert(
      fc.asyncProperty(
        tree,
        fc.array(fc.record({ pick: fc.nat(), by: point, q: turn }), { minLength: 1, maxLength: 3 }),
        async (scene, moves) => {
          const came = pieceOf(scene);
          const [owner] = came.document.nodes;
          const ball = { kind: 'sphere' as const, center: [1, 2, 3] as Vec3, radius: 1 };
          const document = applyEdit(
            came.document,
            replaceProxies([{ id: 'a', part: owner!.id, shape: ball }]),
          );
          const piece = { ...came, document };
          const manifest = manifestFor(piece);
          let now: Piece = piece;
          for (const { pick, by, q } of moves) {
            const { id } = piece.document.nodes[pick % piece.document.nodes.length]!;
            now = await after(now, { op: 'move', parts: [id], by, turn: q, about: [0, 1, 0] });
          }
          const { operation, missing } = putBackBy(now.document, manifest)!;
          expect(missing).toEqual([]);
          // Where a shear had to go into the vertices, the part is no longer what was delivered, and that is said.
          const back = await after(now, operation).catch((error: unknown) => error);
          if (back instanceof ReshapeError)
            return expect(back.message).toMatch(
              /other vertices than it had then|mirrored against what it was/,
            );
          whole++;
          same(piece, back as Piece);
          const [shape] = (back as Piece).document.proxies;
          expect(
            shape!.shape.kind === 'sphere' &&
              shape!.shape.center.every((v, k) => Math.abs(v - ball.center[k]!) < 1e-6),
          ).toBeTrue();
          const { edit } = await operate(now.document, operation, now.meshOf);
          const history = pushEdit(startHistory(now.document), edit);
          expect(JSON.stringify(currentDocument(undo(history)))).toBe(JSON.stringify(now.document));
        },
      ),
      { numRuns: 40 },
    );
    expect(whole).toBeGreaterThan(10);
  });

  it('says what it cannot put back: parts of other vertices, parts that were mirrored, names that are gone', async () => {
    const scene = { ...fc.sample(tree, { numRuns: 1, seed: 7 })[0]! };
    scene.nodes = [
      { ...scene.nodes[0]!, translation: [3, 0, 0], rotation: quatAbout([0, 1, 0], 0.7), scale: [2, 1, 1] },
    ];
    const piece = pieceOf(scene);
    const manifest = manifestFor(piece);
    const baked = await after(piece, { op: 'bake', parts: [], keepPosition: false, keepRotation: false });
    await expectAsync(after(baked, putBackBy(baked.document, manifest)!.operation)).toBeRejectedWithError(
      ReshapeError,
      /other vertices than it had then/,
    );
    const other = {
      ...piece.document,
      nodes: piece.document.nodes.map((node) => ({ ...node, name: 'another' })),
    };
    expect(putBackBy(other, manifest)).toBeNull();
    const untouched = await after(piece, putBackBy(piece.document, manifest)!.operation);
    expect(untouched.says).toBe('Every part is where it was delivered from.');
  });

  it('are read from a manifest only: other files and newer ones are refused with a sentence', () => {
    const manifest = manifestFor(pieceOf(fc.sample(tree, { numRuns: 1, seed: 1 })[0]!));
    expect(() => readManifest('a.json', '{')).toThrowError(
      ManifestError,
      'a.json is no JSON; name the manifest of a delivery.',
    );
    expect(() => readManifest('a.json', '{}')).toThrowError(
      ManifestError,
      /^a.json is no manifest of a delivery/,
    );
    expect(() => readManifest('a.json', JSON.stringify({ ...manifest, manifest: 99 }))).toThrowError(
      /use a newer one/,
    );
    // Manifests that were written before have no boxes.
    const older = { ...manifest, hierarchy: manifest.hierarchy.map(({ box: _box, ...node }) => node) };
    expect(manifestSchema.safeParse(older).success).toBeTrue();
  });
});
