import { sizeOf } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { applyEdit } from './edits/index.js';
import type { PieceDocument } from './document.js';
import { artBounds, artNodes } from './geometry.js';
import { compareNewArt } from './new-art.js';
import { newArtFor } from './new-art-for.js';
import { extractPiece, piecesIn } from './pieces-in.js';
import { meshReader } from './pack-up.js';
import { operate } from './reshape/index.js';
import { plainMaterial, plainNode, type Scene } from './scene.js';

/** A crate drawn in centimetres, in a format that calls every number metres. */
const crate = (half: number) =>
  pieceOf({ ...sceneOf(boxMesh([half, half, half])), unit: { metres: 1, stated: true } });

describe('new art of a format that states its unit', () => {
  it('keeps the unit that a person corrected, where that still fits', () => {
    const old = crate(50);
    const corrected = applyEdit(old.document, { kind: 'set-unit', unit: 'cm' });
    const fresh = crate(52);
    const meshOf = (blob: string) => (fresh.document.meshes[blob] ? fresh.meshOf(blob) : old.meshOf(blob));
    const report = compareNewArt(corrected, fresh.document, meshOf);
    expect(report.edit.unit).toEqual({ name: 'cm', stated: true, confirmed: true });
    expect(sizeOf(artBounds(applyEdit(corrected, report.edit)))[0]).toBeCloseTo(1.04, 9);
  });

  it('takes the unit that is stated where the art is of that size now', () => {
    const old = crate(50);
    const corrected = applyEdit(old.document, { kind: 'set-unit', unit: 'cm' });
    const mended = crate(0.5);
    const meshOf = (blob: string) => (mended.document.meshes[blob] ? mended.meshOf(blob) : old.meshOf(blob));
    expect(compareNewArt(corrected, mended.document, meshOf).edit.unit.name).toBe('m');
  });
});

describe('new art', () => {
  const two = (order: readonly string[], half = 1): Scene => ({
    ...sceneOf(boxMesh([1, 1, 1])),
    materials: order.map(plainMaterial),
    nodes: [plainNode('Post', 0), plainNode('Cap', 1)],
    meshes: ['oak', 'tar'].map((material) => ({
      name: material,
      mesh: {
        ...boxMesh([half, 0.5, half]),
        groups: [{ material: order.indexOf(material), start: 0, count: 12 }],
      },
    })),
  });
  const materialsOfParts = ({ nodes, materials }: PieceDocument, meshOf: (blob: string) => Mesh) =>
    artNodes(nodes).map((i) => materials[meshOf(nodes[i]!.mesh!).groups[0]!.material]!.name);

  it('keeps the order of materials that a person gave, and their names, on the parts that wear them', async () => {
    const old = pieceOf(two(['tar', 'oak']), 'post.obj');
    const ordered = await operate(old.document, { op: 'order-materials', order: [1, 0] }, old.meshOf);
    const named = applyEdit(applyEdit(old.document, ordered.edit), {
      kind: 'rename-material',
      material: 0,
      name: 'M_oak',
    });
    // The newer file has another one in front, and the two in its own order.
    const fresh = pieceOf(two(['brass', 'tar', 'oak'], 1.1), 'post.obj');
    const made = await newArtFor(named, fresh.document, fresh.meshOf);
    const meshOf = meshReader(new Map([...old.blobs, ...ordered.blobs, ...fresh.blobs, ...made.blobs]));
    const after = applyEdit(named, compareNewArt(named, made.document, meshOf).edit);
    expect(after.materials.map(({ name }) => name)).toEqual(['M_oak', 'tar', 'brass']);
    expect(materialsOfParts(after, meshOf)).toEqual(['M_oak', 'tar']);
  });

  it('of a file of several pieces is what bears the names of the piece', async () => {
    const scene: Scene = {
      ...sceneOf(boxMesh([1, 1, 1])),
      nodes: [plainNode('Wall', 0), { ...plainNode('Bollard', 1), translation: [20, 0, 0] }],
      meshes: [
        { name: 'Wall', mesh: boxMesh([3, 1, 0.5]) },
        { name: 'Bollard', mesh: boxMesh([0.3, 0.6, 0.3]) },
      ],
    };
    const file = pieceOf(scene, 'quay.obj');
    const [, bollardTops] = piecesIn(file.document);
    const bollard = extractPiece(file.document, bollardTops!, file.meshOf, (name) => name);
    const renamed = applyEdit(bollard, {
      kind: 'rename-parts',
      names: [{ part: bollard.nodes[0]!.id, name: 'SM_Bollard' }],
    });
    const newer = pieceOf(
      { ...scene, meshes: [scene.meshes[0]!, { name: 'Bollard', mesh: boxMesh([0.3, 0.7, 0.3]) }] },
      'quay.obj',
    );
    const { document } = await newArtFor(renamed, newer.document, newer.meshOf);
    const meshOf = (blob: string) => (newer.document.meshes[blob] ? newer.meshOf(blob) : file.meshOf(blob));
    expect(compareNewArt(renamed, document, meshOf).parts.map(({ name, became }) => [name, became])).toEqual([
      ['SM_Bollard', 'changed'],
    ]);
    // A piece of all of it takes all of it.
    expect((await newArtFor(file.document, newer.document, newer.meshOf)).document).toBe(newer.document);
  });
});
