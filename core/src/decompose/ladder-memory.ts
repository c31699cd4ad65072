import type { Mesh } from '../mesh/index.js';
import type { Ladder } from './decompose.js';
import type { Settings } from './options.js';
import { type PreparedArt, preparedArt } from './prepared-art.js';
import type { Searched } from './search.js';

/** Art of more triangles is not kept: it would hold on to hundreds of megabytes. */
const MAX_TRIANGLES = 200_000;
/** So many runs over the same art are kept, the last ones. */
const MAX_KEPT = 8;

/**
 * What earlier runs found out, for the next one over the same faces: of another agent or count the art as it was read, of
 * other kinds and corners the sets of pieces too, of what was asked before everything.
 *
 * const memory = new LadderMemory();
 * await decompose(mesh, { maxShapes: 16, memory });
 * await decompose(mesh, { maxShapes: 16, primitives: false, memory }); // shapes are laid and measured anew, no more
 */
export class LadderMemory {
  private last: { mesh: Mesh; faces: number[] | undefined; prepared: PreparedArt } | undefined;
  private readonly searches = new Map<string, Searched>();
  private readonly ladders = new Map<string, Ladder>();

  /** The art made ready, anew only when it is other art. @throws as `preparedArt` */
  async prepared(
    mesh: Mesh,
    chosen: Iterable<number> | undefined,
    progress: (share: number) => void,
  ): Promise<PreparedArt> {
    const faces = chosen && [...chosen];
    const { last } = this;
    if (
      last &&
      sameNumbers(last.faces ?? [], faces ?? []) &&
      !last.faces === !faces &&
      sameMesh(last.mesh, mesh)
    ) {
      last.prepared.told.progress = progress;
      return last.prepared;
    }
    this.last = undefined;
    this.searches.clear();
    this.ladders.clear();
    const prepared = await preparedArt(mesh, faces, progress);
    if (mesh.indices.length / 3 <= MAX_TRIANGLES) this.last = { mesh, faces, prepared };
    return prepared;
  }

  searched({ maxShapes, agentDetail, clearances, mayCross }: Settings, find: () => Searched): Searched {
    return this.kept(this.searches, { maxShapes, agentDetail, clearances, mayCross }, find);
  }

  ladder(settings: Settings, find: () => Ladder): Ladder {
    return this.kept(this.ladders, settings, find);
  }

  private kept<T>(known: Map<string, T>, asked: object, find: () => T): T {
    const key = JSON.stringify(asked);
    const found = known.get(key) ?? find();
    known.delete(key);
    if (this.last) known.set(key, found);
    if (known.size > MAX_KEPT) known.delete(known.keys().next().value!);
    return found;
  }
}

const sameMesh = (a: Mesh, b: Mesh): boolean =>
  a === b || (sameNumbers(a.indices, b.indices) && sameNumbers(a.positions, b.positions));

function sameNumbers(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
