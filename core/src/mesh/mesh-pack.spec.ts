import fc from 'fast-check';
import { boxMesh, sceneOf, threeParts } from '../testing/meshes.js';
import { pieceOf } from '../testing/documents.js';
import { blobsOf, meshReader, packUp, plainNode } from '../piece/index.js';
import { encodeMesh } from './mesh-codec.js';
import { packMeshes, unpackMeshes } from './mesh-pack.js';

describe('a pack of meshes', () => {
  it('gives back every mesh as it went in', () =>
    fc.assert(
      fc.property(
        fc.dictionary(fc.string({ minLength: 1, maxLength: 64 }), fc.uint8Array({ maxLength: 200 })),
        (parts) => {
          const meshes = new Map(Object.entries(parts));
          expect([...unpackMeshes(packMeshes(meshes))!]).toEqual([...meshes]);
        },
      ),
    ));

  it('is told from a lone mesh and from anything else, and a torn one is said', () => {
    expect(unpackMeshes(encodeMesh(boxMesh([1, 1, 1])))).toBeNull();
    expect(unpackMeshes(new Uint8Array(3))).toBeNull();
    const pack = packMeshes(new Map([['a', new Uint8Array(40)]]));
    expect(() => unpackMeshes(pack.subarray(0, -1))).toThrowError(/cut off/);
    expect(() => unpackMeshes(pack.subarray(0, 12))).toThrowError(/header/);
  });

  it('holds the meshes of a piece of several; a lone one stays by itself', () => {
    const scene = sceneOf(threeParts());
    scene.meshes.push({ name: 'Other', mesh: boxMesh([1, 2, 3]) });
    scene.nodes.push(plainNode('Other', 1));
    const { document, meshOf } = pieceOf(scene);
    expect(blobsOf(document).length).toBe(2);
    for (const node of document.nodes)
      if (node.mesh) expect(meshOf(node.mesh).indices.length).toBeGreaterThan(0);
    const lone = pieceOf(sceneOf(boxMesh([1, 1, 1]))).document;
    expect(blobsOf(lone)).toContain(lone.nodes[0]!.mesh!);
  });

  it('is closed when it is full', () => {
    const big = new Map([1, 2, 3].map((n) => [String(n), new Uint8Array(5 * 2 ** 20).fill(n)]));
    const { blobs, packOf } = packUp(big);
    expect([blobs.size, [...packOf.keys()]]).toEqual([2, ['1', '2']]);
    expect(() => meshReader(blobs)('4')).toThrowError(/not among the stored/);
  });
});
