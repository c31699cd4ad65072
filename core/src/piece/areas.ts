import { artNodes, type PlacedArt } from './geometry.js';
import type { Area, PieceDocument } from './document.js';

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
): Area['faces'] =>
  chosen.flatMap(({ part, faces }) => {
    const mesh = nodes.find(({ id }) => id === part)?.mesh;
    return mesh ? [{ part, mesh, runs: runsOf(faces) }] : [];
  });

/** The area that has just these faces, or else a new id for it. */
export function areaWith(
  { areas }: Pick<PieceDocument, 'areas'>,
  faces: Area['faces'],
): { id: string; known: Area | null } {
  const same = JSON.stringify(faces);
  const known = areas.find((area) => JSON.stringify(area.faces) === same) ?? null;
  const taken = areas.map(({ id }) => Number(/^a(\d+)$/.exec(id)?.[1] ?? 0));
  return { id: known?.id ?? `a${Math.max(0, ...taken) + 1}`, known };
}

/** Whether the art that an area was chosen on is still there. */
export const areaStands = ({ nodes }: Pick<PieceDocument, 'nodes'>, { faces }: Area): boolean =>
  faces.every(({ part, mesh }) => nodes.some((node) => node.id === part && node.mesh === mesh));

/**
 * [t]: 1 for each face of placed art that is in an area.
 *
 * @param placed the node and own face of each face
 */
export function facesOfArea(
  { nodes }: Pick<PieceDocument, 'nodes'>,
  { faces }: Area,
  placed: Pick<PlacedArt, 'node' | 'face'>,
): Uint8Array<ArrayBuffer> {
  const runs = new Map(faces.map(({ part, runs }) => [part, runs]));
  const parts = new Map(artNodes(nodes).map((i) => [i, runs.get(nodes[i]!.id)]));
  const marks = new Uint8Array(placed.node.length);
  placed.node.forEach((node, f) => {
    const own = parts.get(node);
    const number = placed.face[f]!;
    for (let i = 0; own && i < own.length && !marks[f]; i += 2)
      if (number >= own[i]! && number < own[i]! + own[i + 1]!) marks[f] = 1;
  });
  return marks;
}
