import fc from 'fast-check';
import { joinMeshes, type Mesh, meshBounds } from '../mesh/index.js';
import { pieceOf } from '../testing/documents.js';
import { ballMesh, boxMesh, sceneOf } from '../testing/meshes.js';
import { after, type Piece, transform } from '../testing/reshaped.js';
import { comingApart, type SplitToTry } from './coming-apart.js';
import { placedArt } from './geometry.js';
import { plainMaterial } from './scene.js';

const lump = () =>
  joinMeshes([
    boxMesh([1, 1, 1]),
    ballMesh(0.4, [3, 0, 0]),
    ballMesh(0.3, [0, 3, 0], 12),
    boxMesh([0.01, 0.01, 0.01], [3, 0.6, 0]),
  ]);
const apart = ({ document, meshOf }: Piece, split: SplitToTry) =>
  comingApart(document, meshOf, placedArt(document, meshOf), split);
const byShells = (smallest: number, ...parts: string[]): SplitToTry => ({
  op: 'split-shells',
  parts,
  smallest,
});

describe('what would come apart', () => {
  it('is what the split makes of it, wherever the part stands and however it is scaled', async () => {
    await fc.assert(
      fc.asyncProperty(transform, fc.constantFrom(0, 0.005, 0.05, 0.5), async (place, smallest) => {
        const scene = sceneOf(lump(), 'fender');
        scene.nodes[0] = { ...scene.nodes[0]!, ...place };
        const piece = pieceOf(scene);
        const { pieces, ofFace } = apart(piece, byShells(smallest));
        const whole = pieces.filter(({ speck }) => !speck);
        if (whole.length < 2) return expect(pieces).toEqual([]);
        const split = await after(piece, byShells(smallest));
        expect(whole.length).toBe(split.document.nodes.length);
        pieces.forEach(({ faces }, n) => expect(ofFace.filter((of) => of === n).length).toBe(faces));
        expect(ofFace.includes(-1)).toBeFalse();
      }),
      { numRuns: 40 },
    );
  });

  it('lists pieces and specks with their size, the largest first', () => {
    const { pieces } = apart(pieceOf(sceneOf(lump(), 'fender')), byShells(0.1));
    expect(pieces.map(({ metres, speck }) => [Number(metres.toFixed(2)), speck])).toEqual([
      [0.8, false],
      [0.6, false],
      [2, false],
      [0.02, true],
    ]);
  });

  it('leaves alone what stays one, and parts that were not asked about', () => {
    const one = pieceOf(sceneOf(boxMesh([1, 1, 1]), 'block'));
    expect(apart(one, byShells(0.1)).pieces).toEqual([]);
    const piece = pieceOf(sceneOf(lump(), 'fender'));
    expect(apart(piece, byShells(0.1, 'n1')).pieces.length).toBe(4);
    expect(apart(piece, byShells(0.1, 'another')).ofFace.every((n) => n === -1)).toBeTrue();
  });

  it('by material: each material of a part once', () => {
    const mesh: Mesh = boxMesh([1, 1, 1]);
    mesh.groups = [
      { material: 1, start: 0, count: 4 },
      { material: 0, start: 4, count: 8 },
    ];
    const scene = { ...sceneOf(mesh, 'lot'), materials: [plainMaterial('oak'), plainMaterial('tar')] };
    const { pieces, ofFace } = apart(pieceOf(scene), { op: 'split-materials', parts: [] });
    expect(pieces.map(({ faces }) => faces)).toEqual([8, 4]);
    expect([...ofFace]).toEqual([1, 1, 1, 1, 0, 0, 0, 0, 0, 0, 0, 0]);
    expect(pieces[0]!.metres).toBeCloseTo(Math.max(...meshBounds(mesh).max) * 2, 9);
  });
});
