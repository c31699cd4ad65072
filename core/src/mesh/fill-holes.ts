import { addFaces } from './add-faces.js';
import { borderLoops } from './border-loops.js';
import { fillFlat, flatFaces, flatLoop } from './fill-flat.js';
import type { Mesh } from './mesh.js';
import { triangulateLoop } from './triangulate-loop.js';

export interface FillOptions {
  /** longest way round a border that is filled, in the unit of the positions. Default: any */
  longest?: number;
  /** a flat border inside another one that runs the other way is a hole in its face: the bore of a pipe stays open. Default: each border is filled by itself */
  bores?: boolean;
}

/** Close the open borders, flat and curved, with triangles between their own vertices; see `addFaces`. */
export function fillHoles(
  mesh: Mesh,
  { longest = Infinity, bores = false }: FillOptions = {},
): { mesh: Mesh; filled: number } {
  const { positions: p } = mesh;
  const loops = borderLoops(mesh).filter((loop) => wayRound(p, loop) <= longest);
  const added: number[] = [];
  const fill = (loop: readonly number[]) =>
    triangulateLoop(p, loop, (a, b, c) => added.push(loop[a]!, loop[b]!, loop[c]!));
  const flat = bores ? loops.flatMap((loop) => flatLoop(p, loop) ?? []) : [];
  const among = new Set(flat.map(({ loop }) => loop));
  for (const loop of loops) if (!among.has(loop)) fill(loop);
  for (const face of flatFaces(p, flat)) {
    const { normal } = flat.find(({ loop }) => loop === face[0])!;
    const done = fillFlat(p, face, normal, (...corners) => added.push(...corners));
    if (!done) face.forEach(fill);
  }
  return { mesh: addFaces(mesh, added), filled: loops.length };
}

export const wayRound = (p: Float64Array, loop: readonly number[]): number =>
  loop.reduce((sum, v, i) => {
    const w = loop[(i + 1) % loop.length]!;
    return (
      sum + Math.hypot(p[v * 3]! - p[w * 3]!, p[v * 3 + 1]! - p[w * 3 + 1]!, p[v * 3 + 2]! - p[w * 3 + 2]!)
    );
  }, 0);
