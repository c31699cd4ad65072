import { blobId, encodeMesh, type MeshFacts, packMeshes, plainMesh } from '@yard-brace/core';
import { MeshCache } from './mesh-cache';

const meshBytes = (size: number) => encodeMesh(plainMesh([0, 0, 0, size, 0, 0, 0, size, 0], [0, 1, 2]));
const facts = {} as MeshFacts;
const entry = (pack?: string) => ({ name: '', facts, ...(pack ? { pack } : {}) });

describe('MeshCache', () => {
  const stored = new Map<string, Uint8Array>();
  const put = (bytes: Uint8Array) => {
    const id = blobId(bytes);
    stored.set(id, bytes);
    return id;
  };
  const [a, b] = [put(meshBytes(1)), put(meshBytes(2))];
  const inPack = new Map([3, 4].map((size) => [blobId(meshBytes(size)), meshBytes(size)] as const));
  const pack = put(packMeshes(inPack));
  let fetched: string[];
  let gates: (() => void)[];
  const cacheOf = (budgetBytes: number, gated = false) => {
    fetched = [];
    gates = [];
    return new MeshCache({
      budgetBytes,
      fetchBytes: async (id) => {
        fetched.push(id);
        if (gated) await new Promise<void>((resolve) => gates.push(resolve));
        return stored.get(id)!;
      },
    });
  };

  it('takes nothing away from a job that holds it, whatever others ask for and however little is kept', async () => {
    const cache = cacheOf(0, true);
    const drawing = cache.hold({ meshes: { [a]: entry(), [b]: entry() } });
    const picture = cache.hold({ meshes: { [b]: entry() } });
    for (let i = 0; i < 6; i++) {
      gates.splice(0).forEach((open) => open());
      await new Promise((resolve) => setTimeout(resolve));
    }
    const [first, second] = [await drawing, await picture];
    expect(first(a).positions[3]).toBe(1);
    expect(first(b).positions[3]).toBe(2);
    expect(second(b).positions[3]).toBe(2);
  });

  it('fetches a pack once for all its meshes, and again only when it had to be let go', async () => {
    const cache = cacheOf(1e9);
    const packed = { meshes: Object.fromEntries([...inPack.keys()].map((id) => [id, entry(pack)])) };
    const meshOf = await cache.hold(packed);
    expect([...inPack.keys()].map((id) => meshOf(id).positions[3])).toEqual([3, 4]);
    await cache.hold(packed);
    expect(fetched).toEqual([pack]);
    const small = cacheOf(stored.get(pack)!.length);
    await small.hold(packed);
    await small.hold({ meshes: { [a]: entry() } });
    await small.hold(packed);
    expect(fetched).toEqual([pack, a, pack]);
  });

  it('asks again after a fetch that failed', async () => {
    let away = true;
    const cache = new MeshCache({
      fetchBytes: async (id) => {
        if (away) throw new Error('away');
        return stored.get(id)!;
      },
    });
    await expectAsync(cache.hold({ meshes: { [a]: entry() } })).toBeRejected();
    away = false;
    expect((await cache.hold({ meshes: { [a]: entry() } }))(a).indices.length).toBe(3);
  });
});
