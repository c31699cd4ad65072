import type { Mesh } from '../mesh/index.js';
import type { Ladder } from './decompose.js';
import type { Settings } from './options.js';
import { type PreparedArt, preparedArt } from './prepared-art.js';
import type { Searched } from './search.js';

/** Arts of more triangles together are not kept: they would hold on to hundreds of megabytes. */
const MAX_TRIANGLES = 200_000;
/** So many arts are kept, the last ones: a piece, and areas of it. */
const MAX_ARTS = 6;
/** So many runs over the same art are kept, the last ones. */
const MAX_RUNS = 8;

/** One art, and what was found out about it. */
interface Known {
  mesh: Mesh;
  faces: number[] | undefined;
  prepared: PreparedArt;
  searches: Map<string, Searched>;
  ladders: Map<string, Ladder>;
}

/**
 * What earlier runs found out, for the next one over the same faces: of another agent or count the art as it was read, of
 * other kinds and corners the sets of pieces too, of what was asked before everything.
 *
 * const memory = new LadderMemory();
 * await decompose(mesh, { maxShapes: 16, memory });
 * await decompose(mesh, { maxShapes: 16, primitives: false, memory }); // shapes are laid and measured anew, no more
 */
export class LadderMemory {
  /** the one that was asked about last is the last */
  private readonly arts: Known[] = [];

  /** The art made ready, anew only when it is other art. @throws as `preparedArt` */
  async prepared(
    mesh: Mesh,
    chosen: Iterable<number> | undefined,
    progress: (share: number) => void,
  ): Promise<PreparedArt> {
    const faces = chosen && [...chosen];
    const at = this.arts.findIndex((known) => sameFaces(known.faces, faces) && sameMesh(known.mesh, mesh));
    if (at >= 0) {
      const [known] = this.arts.splice(at, 1);
      this.arts.push(known!);
      known!.prepared.told.progress = progress;
      return known!.prepared;
    }
    const prepared = await preparedArt(mesh, faces, progress);
    this.arts.push({ mesh, faces, prepared, searches: new Map(), ladders: new Map() });
    while (this.arts.length > MAX_ARTS || this.triangles() > MAX_TRIANGLES) this.arts.shift();
    return prepared;
  }

  searched(
    art: PreparedArt,
    { maxShapes, agentDetail, clearances, mayCross }: Settings,
    find: () => Searched,
  ): Searched {
    return kept(this.known(art)?.searches, { maxShapes, agentDetail, clearances, mayCross }, find);
  }

  ladder(art: PreparedArt, settings: Settings, find: () => Ladder): Ladder {
    return kept(this.known(art)?.ladders, settings, find);
  }

  private known(art: PreparedArt): Known | undefined {
    return this.arts.find(({ prepared }) => prepared === art);
  }

  private triangles(): number {
    // Areas of one piece are faces of the same mesh.
    const meshes = new Set(this.arts.map(({ mesh }) => mesh));
    return [...meshes].reduce((sum, { indices }) => sum + indices.length / 3, 0);
  }
}

function kept<T>(runs: Map<string, T> | undefined, asked: object, find: () => T): T {
  const key = JSON.stringify(asked);
  const found = runs?.get(key) ?? find();
  runs?.delete(key);
  runs?.set(key, found);
  if (runs && runs.size > MAX_RUNS) runs.delete(runs.keys().next().value!);
  return found;
}

const sameFaces = (a: number[] | undefined, b: number[] | undefined): boolean =>
  a && b ? sameNumbers(a, b) : a === b;

const sameMesh = (a: Mesh, b: Mesh): boolean =>
  a === b || (sameNumbers(a.indices, b.indices) && sameNumbers(a.positions, b.positions));

function sameNumbers(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
