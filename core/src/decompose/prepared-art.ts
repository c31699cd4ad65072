import { Comparer } from '../compare/index.js';
import { diagonalOf } from '../math/index.js';
import { type Mesh, plainMesh, reduceMesh, shellsOf, weld } from '../mesh/index.js';
import type { MirrorPlane } from '../shape/index.js';
import {
  boundsOfFaces,
  closedSolid,
  type ClosedSolid,
  DistanceBound,
  SolidDistance,
} from '../solid/index.js';
import type { ConvexPart, DecompositionContext } from './convex-part.js';
import { DecomposeError } from './decompose-error.js';
import { mirrorPlane } from './mirror-plane.js';
import { RUNG_COMPARER } from './rungs.js';
import { separateParts } from './separate-parts.js';
import { cornersOfFaces, speckless } from './specks.js';

/** Triangles that cuts are looked for on; finer art is reduced first, and its shapes laid round all of it after. */
export const MAX_SEARCH_TRIANGLES = 1200;
/** Loose surfaces at most. */
const MAX_LOOSE = 50_000;
/** Farther from the origin nothing is told apart. */
const MAX_METRES = 1e12;
/** Share of the size by which reduced art may lie off without being noticed. */
export const REDUCTION_SHARE = 2e-3;

/** What is known of art whatever is asked of it: prepared once, and good for every run over the same faces. */
export interface PreparedArt {
  /** the faces chosen, without specks */
  art: Mesh;
  solid: ClosedSolid;
  specks: number;
  /** what cuts are looked for on: fewer triangles than the art may have */
  distance: SolidDistance;
  bound: DistanceBound;
  /** diagonal of that, metres */
  size: number;
  /** its separate surfaces */
  parts: ConvexPart[];
  /** measures rungs; shapes it has seen cost nothing */
  comparer: Comparer;
  /** the plane that the art is mirrored over; null when it is crooked */
  mirrorPlane: () => MirrorPlane | null;
  /** who is told that the work goes on, at present */
  told: { progress: (share: number) => void };
}

/** @throws DecomposeError when there is nothing to break up */
export async function preparedArt(
  mesh: Mesh,
  faces: Iterable<number> | undefined,
  progress: (share: number) => void,
): Promise<PreparedArt> {
  const chosen = chosenFaces(mesh, faces);
  progress(0);
  refuseCrumbs(chosen);
  progress(0);
  const { art, solid, specks } = withoutSpecks(chosen);
  const few = withoutHollows(await coarser(solid, progress));
  progress(0);
  const size = diagonalOf(boundsOfFaces(few));
  if (!(size > 0)) throw new DecomposeError('There is nothing to break up: no triangle has any extent.');
  const distance = new SolidDistance(art, few);
  const bound = new DistanceBound(distance);
  const told = { progress };
  const context: DecompositionContext = {
    art: distance,
    bound,
    size,
    clearances: [],
    agentDetail: 0,
    progress: (share) => told.progress(share),
  };
  let plane: MirrorPlane | null | undefined;
  return {
    art,
    solid,
    specks,
    distance,
    bound,
    size,
    parts: separateParts(few, context),
    comparer: new Comparer(art, { ...RUNG_COMPARER, solid, progress: () => told.progress(-1) }),
    mirrorPlane: () => (plane === undefined ? (plane = mirrorPlane(art, () => told.progress(-1))) : plane),
    told,
  };
}

/** Some of the faces of a mesh, or all, once it is known that their corners are somewhere. */
function chosenFaces(mesh: Mesh, faces?: Iterable<number>): Mesh {
  const { positions } = mesh;
  const indices = faces ? cornersOfFaces(mesh, Uint32Array.from(checkedFaces(mesh, faces))) : mesh.indices;
  if (!indices.length) throw new DecomposeError('There is nothing to break up: the piece has no triangles.');
  for (const v of indices)
    for (let k = v * 3; k < v * 3 + 3; k++)
      if (!(Math.abs(positions[k]!) < MAX_METRES))
        throw new DecomposeError(
          `Vertex ${v} is not at a usable place (${positions[k]}); mend it in Parts first.`,
        );
  return plainMesh(positions, indices);
}

function* checkedFaces({ indices }: Mesh, faces: Iterable<number>): Generator<number> {
  for (const f of faces) {
    if (!Number.isInteger(f) || f < 0 || f >= indices.length / 3)
      throw new DecomposeError(`There is no face ${f}: the mesh has ${indices.length / 3}.`);
    yield f;
  }
}

/** So many loose surfaces are no art to break up; telling them apart would take minutes. */
function refuseCrumbs(mesh: Mesh): void {
  const faces = mesh.indices.length / 3;
  if (faces <= MAX_LOOSE) return;
  const joined = weld(mesh.positions);
  // What hangs together has fewer places than faces.
  if (joined.count <= faces) return;
  const { count } = shellsOf(mesh, joined);
  if (count > MAX_LOOSE)
    throw new DecomposeError(
      `The piece is ${count} loose surfaces, more than ${MAX_LOOSE}: weld what belongs together, or remove the crumbs in Parts first.`,
    );
}

/** The art as a solid, without its specks. */
function withoutSpecks(mesh: Mesh): { art: Mesh; solid: ClosedSolid; specks: number } {
  const { kept, specks, solid } = speckless(mesh);
  if (!specks) return { art: mesh, solid, specks };
  const art = plainMesh(mesh.positions, cornersOfFaces(mesh, kept));
  return { art, solid: closedSolid(art), specks };
}

/** Hollows inside closed surfaces are not seen: nothing is to stand off from them, and no cut is to open them. */
function withoutHollows(solid: ClosedSolid): ClosedSolid {
  const { positions, indices, faces, shellOf, volumes } = solid;
  if (!volumes.some((volume) => volume < 0)) return solid;
  const seen = indices.subarray(0, faces * 3).filter((_, i) => volumes[shellOf[(i / 3) | 0]!]! >= 0);
  return closedSolid(plainMesh(positions, seen));
}

/** Fewer triangles to look for cuts on. Seams are closed already: what is torn would be reduced to crumbs. */
async function coarser(solid: ClosedSolid, progress: (share: number) => void): Promise<ClosedSolid> {
  progress(0);
  if (solid.faces <= MAX_SEARCH_TRIANGLES) return solid;
  const size = diagonalOf(boundsOfFaces(solid));
  const whole = plainMesh(solid.positions, solid.indices.subarray(0, solid.faces * 3));
  // First what can go unseen; then, where that is not enough, what shows a little.
  const { mesh: few } = await reduceMesh(whole, {
    share: MAX_SEARCH_TRIANGLES / solid.faces,
    error: size * REDUCTION_SHARE,
  });
  progress(0);
  const left = few.indices.length / 3;
  if (left <= MAX_SEARCH_TRIANGLES * 1.3) return closedSolid(few);
  return closedSolid(
    (await reduceMesh(few, { share: MAX_SEARCH_TRIANGLES / left, error: size * 1e-2 })).mesh,
  );
}
