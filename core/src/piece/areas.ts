import { artNodes, type PlacedArt } from './geometry.js';
import type { Area, FacesOfParts, PieceDocument } from './document.js';

/** Faces of one part, numbered as in its own mesh. */
export interface FacesOfOnePart {
  part: string;
  faces: ArrayLike<number>;
}

/** Ascending numbers as runs: first and how many, one after the other. */
export function runsOf(numbers: ArrayLike<number>): number[] {
  const sorted = Uint32Array.from(numbers).sort();
  const runs: number[] = [];
  for (const number of sorted) {
    const last = runs.length - 2;
    if (last >= 0 && runs[last]! + runs[last + 1]! === number) runs[last + 1]!++;
    else if (last < 0 || number >= runs[last]! + runs[last + 1]!) runs.push(number, 1);
  }
  return runs;
}

/** Chosen faces as an area remembers them: by part, with the mesh that they were chosen on. */
export const areaFaces = (
  { nodes }: Pick<PieceDocument, 'nodes'>,
  chosen: readonly FacesOfOnePart[],
): FacesOfParts =>
  chosen.flatMap(({ part, faces }) => {
    const mesh = nodes.find(({ id }) => id === part)?.mesh;
    return mesh ? [{ part, mesh, runs: runsOf(faces) }] : [];
  });

/** The area that has just these faces, or else a new id for it. */
export function areaWith(
  { areas }: Pick<PieceDocument, 'areas'>,
  faces: FacesOfParts,
): { id: string; known: Area | null } {
  const same = JSON.stringify(faces);
  const known = areas.find((area) => JSON.stringify(area.faces) === same) ?? null;
  const taken = areas.map(({ id }) => Number(/^a(\d+)$/.exec(id)?.[1] ?? 0));
  return { id: known?.id ?? `a${Math.max(0, ...taken) + 1}`, known };
}

/** Whether the art that an area was chosen on is still there. */
export const areaStands = ({ nodes }: Pick<PieceDocument, 'nodes'>, { faces }: Area): boolean =>
  faces.every(({ part, mesh }) => nodes.some((node) => node.id === part && node.mesh === mesh));

/** Ascending numbers that runs stand for. */
export const numbersIn = (runs: readonly number[]): number[] =>
  runs.flatMap((first, i) => (i % 2 ? [] : Array.from({ length: runs[i + 1]! }, (_, k) => first + k)));

/** Faces that are in one of two lists, or only in the first. Those of a mesh that a part has no more are let go. */
export function combinedFaces(
  { nodes }: Pick<PieceDocument, 'nodes'>,
  faces: FacesOfParts,
  others: FacesOfParts,
  how: 'add' | 'take',
): FacesOfParts {
  const parts = [...new Set([...faces, ...others].map(({ part }) => part))];
  return parts.flatMap((part) => {
    const mesh = nodes.find(({ id }) => id === part)?.mesh;
    const numbers = (list: FacesOfParts) =>
      list.filter((each) => each.part === part && each.mesh === mesh).flatMap(({ runs }) => numbersIn(runs));
    const all = new Set(numbers(faces));
    for (const number of numbers(others)) all[how === 'add' ? 'add' : 'delete'](number);
    return mesh && all.size ? [{ part, mesh, runs: runsOf([...all]) }] : [];
  });
}

/**
 * [t]: 1 for each face of placed art that is among faces by part. Those of a mesh that a part has no more count for
 * nothing.
 *
 * @param placed the node and own face of each face
 */
export function facesOfArea(
  { nodes }: Pick<PieceDocument, 'nodes'>,
  { faces }: { faces: FacesOfParts },
  placed: Pick<PlacedArt, 'node' | 'face'>,
): Uint8Array<ArrayBuffer> {
  const own = new Map(
    artNodes(nodes).flatMap((i) => {
      const listed = faces.find(({ part, mesh }) => part === nodes[i]!.id && mesh === nodes[i]!.mesh);
      return listed ? [[i, new Set(numbersIn(listed.runs))] as const] : [];
    }),
  );
  return Uint8Array.from(placed.node, (node, f) => (own.get(node)?.has(placed.face[f]!) ? 1 : 0));
}
