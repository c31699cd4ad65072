import { applyEdit, artKey, blobId, replaceProxies } from '../piece/index.js';
import type { Shape } from '../shape/index.js';
import { pieceOf } from '../testing/documents.js';
import { ballMesh, boxMesh, sceneOf } from '../testing/meshes.js';
import { proxyKey } from './proxy-key.js';

describe('the name of art and shapes as they stand', () => {
  const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
  const keyOf = (shape: Shape) => proxyKey(applyEdit(document, replaceProxies([{ id: 'a', shape }])));
  const surface = (segments: number): Shape => {
    const { positions, indices } = ballMesh(1, [0.1, 0.2, 0.3], segments);
    return { kind: 'surface', points: [...positions], indices: [...indices] };
  };

  it('is for usual shapes what it has always been, so that stored figures hold', () => {
    const ball: Shape = { kind: 'sphere', center: [0, 0, 0], radius: 1 };
    const text = artKey(document) + JSON.stringify([ball]);
    expect(keyOf(ball)).toBe(blobId(new TextEncoder().encode(text)));
    const fine = surface(60);
    expect(keyOf(fine)).toBe(blobId(new TextEncoder().encode(artKey(document) + JSON.stringify([fine]))));
  });

  it('is another when one number of a large surface is, and the same for a copy of it', () => {
    const large = surface(160);
    expect(JSON.stringify(large).length).toBeGreaterThan(400_000);
    expect(keyOf(JSON.parse(JSON.stringify(large)) as Shape)).toBe(keyOf(large));
    const other = JSON.parse(JSON.stringify(large)) as Shape;
    if (other.kind === 'surface') other.points[300]! += 1e-9;
    expect(keyOf(other)).not.toBe(keyOf(large));
  });
});
