import { decodeMesh, type Mesh, MeshCodecError, type PieceDocument, unpackMeshes } from '@yard-brace/core';

export type MeshOf = (id: string) => Mesh;

export interface MeshCacheOptions {
  /** stored bytes by their name */
  fetchBytes: (blob: string) => Promise<Uint8Array>;
  /** how much of what no job uses is kept. Default 256 MB */
  budgetBytes?: number;
}

/** One stored blob, decoded: a lone mesh or a pack of them. */
interface Held {
  meshes: ReadonlyMap<string, Mesh>;
  bytes: number;
}

/**
 * Decoded meshes for the jobs of a worker. A job is given what it asked for and holds it itself: whatever
 * other jobs ask for meanwhile, and however small the budget is, nothing is taken from under it.
 */
export class MeshCache {
  /** by blob; the one asked for last stands last */
  private readonly held = new Map<string, Promise<Held>>();
  private readonly sizes = new Map<string, number>();

  constructor(private readonly options: MeshCacheOptions) {}

  /** The meshes a document names, by id. @throws Error when one cannot be fetched */
  async hold({ meshes }: Pick<PieceDocument, 'meshes'>, progress?: (share: number) => void): Promise<MeshOf> {
    const wanted = new Map(Object.entries(meshes).map(([id, { pack }]) => [id, pack ?? id]));
    const blobs = [...new Set(wanted.values())];
    const mine = new Map<string, Mesh>();
    for (const [i, blob] of blobs.entries()) {
      for (const [id, mesh] of (await this.blob(blob)).meshes) mine.set(id, mesh);
      progress?.((i + 1) / blobs.length);
    }
    this.shrink(new Set(blobs));
    return (id) => {
      const mesh = mine.get(id);
      if (!mesh) throw new MeshCodecError(`A pack lacks the mesh ${id.slice(0, 12)}…`);
      return mesh;
    };
  }

  private blob(blob: string): Promise<Held> {
    const known = this.held.get(blob) ?? this.load(blob);
    this.held.delete(blob);
    this.held.set(blob, known);
    return known;
  }

  private async load(blob: string): Promise<Held> {
    try {
      const bytes = await this.options.fetchBytes(blob);
      this.sizes.set(blob, bytes.length);
      const parts = unpackMeshes(bytes) ?? new Map([[blob, bytes]]);
      return {
        bytes: bytes.length,
        meshes: new Map([...parts].map(([id, part]) => [id, decodeMesh(part)])),
      };
    } catch (error) {
      this.held.delete(blob);
      throw error;
    }
  }

  /** Lets go of what was asked for longest ago, but not of what was asked for just now. */
  private shrink(keep: ReadonlySet<string>): void {
    let bytes = [...this.sizes.values()].reduce((sum, size) => sum + size, 0);
    for (const blob of [...this.held.keys()]) {
      if (bytes <= (this.options.budgetBytes ?? 256 * 2 ** 20)) return;
      const size = this.sizes.get(blob);
      if (keep.has(blob) || size === undefined) continue;
      this.held.delete(blob);
      this.sizes.delete(blob);
      bytes -= size;
    }
  }
}
