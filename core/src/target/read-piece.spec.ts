import fc from 'fast-check';
import { FormatError, type InputFile, memoryFile } from '../format/index.js';
import { blobId } from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { assemble } from './assemble.js';
import { ManifestError } from './manifest.js';
import { PREFIX_TAGS } from './profiles/index.js';
import { readPiece } from './read-piece.js';

const file = (name: string, ...lines: string[]) =>
  memoryFile(name, new TextEncoder().encode(`${lines.join('\n')}\n`));
const TRIANGLE = ['v 0 0 0', 'v 1 0 0', 'v 0 1 0', 'f 1 2 3'];
const names = (files: readonly InputFile[]) => files.map(({ name }) => name);

describe('a file read as a piece', () => {
  it('takes along what it names and nothing else, each under the name of its bytes', async () => {
    const post = file('post.obj', 'mtllib oak.mtl', 'usemtl oak', ...TRIANGLE);
    const beside = [
      file('ash.mtl', 'newmtl ash'),
      file('oak.mtl', 'newmtl oak', 'Kd 0.5 0.4 0.3'),
      file('a.png', 'x'),
    ];
    const { document, used } = await readPiece(post, beside);
    expect(names(used)).toEqual(['post.obj', 'oak.mtl']);
    const bytes = await Promise.all(used.map((each) => each.bytes()));
    expect(document.source.files).toEqual(
      used.map(({ name, size }, i) => ({ name, blob: blobId(bytes[i]!), bytes: size })),
    );
    expect(document.materials.map(({ name }) => name)).toEqual(['oak']);
  });

  it('recognises the collision of a file of its own, and that file belongs to the piece', async () => {
    const box = ['v 0 0 0', 'v 1 0 0', 'v 0 1 0', 'v 0 0 1', 'f 1 3 2', 'f 1 2 4', 'f 1 4 3', 'f 2 3 4'];
    const beside = [
      file('other_collision.obj', 'o other', ...box),
      file('post_collision.obj', 'o hull', ...box),
    ];
    const { document, used } = await readPiece(file('post.obj', 'o post', ...box), beside);
    expect(names(used)).toEqual(['post.obj', 'post_collision.obj']);
    expect(document.nodes.filter(({ aside }) => !aside).map(({ name }) => name)).toContain('post');
    expect(document.proxies.length + document.nodes.filter(({ aside }) => aside).length).toBeGreaterThan(0);
  });

  it('puts the whole of a delivery together by its manifest, under the names it had', async () => {
    const { document, meshOf } = pieceOf(sceneOf(boxMesh([1, 2, 3])));
    const files = await assemble(document, PREFIX_TAGS, { meshOf, pictureOf: () => new Uint8Array() });
    const inputs = files.map(({ name, bytes }) => memoryFile(name.split('/').pop()!, bytes));
    const manifest = inputs.find(({ name }) => name.endsWith('.manifest.json'))!;
    const others = inputs.filter((each) => each !== manifest);
    const whole = (await readPiece(manifest, others)).document;
    expect([whole.name, whole.meshName]).toEqual([document.name, document.meshName]);
    expect(whole.whole.triangles).toBe(document.whole.triangles);
    await expectAsync(readPiece(file('x.manifest.json', '{}'), others)).toBeRejectedWithError(ManifestError);
  });

  it('tells how far it is, from nothing to all, and never backwards', async () => {
    const shares: number[] = [];
    const many = Array.from({ length: 3000 }, (_, i) => TRIANGLE[0]!.replace('0', String(i)));
    const post = file('post.obj', ...many, ...TRIANGLE);
    await readPiece(post, [], (share, what) => {
      shares.push(share);
      expect(what).toMatch(/post\.obj$/);
    });
    expect(shares.every((share, i) => share >= (shares[i - 1] ?? 0) && share <= 1)).toBeTrue();
    expect(shares.at(-1)).toBeGreaterThan(0.7);
  });

  it('is a piece or a sentence, whatever stands in the file', async () => {
    const line = fc.constantFrom(
      ...TRIANGLE,
      'mtllib a.mtl',
      'usemtl',
      'f 1 2',
      'v',
      'o',
      '\u0000',
      'f 9 9 9',
    );
    await fc.assert(
      fc.asyncProperty(fc.array(line), async (lines) => {
        const read = await readPiece(file('any.obj', ...lines), []).catch((error: unknown) => error);
        expect(read instanceof FormatError || (read as { document?: unknown }).document).toBeTruthy();
      }),
      { numRuns: 60 },
    );
  });
});
