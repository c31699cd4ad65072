import { borderLoops } from './border-loops.js';
import { computeNormals } from './compute-normals.js';
import type { Mesh } from './mesh.js';
import { pickVertices } from './take-faces.js';
import { triangulateLoop } from './triangulate-loop.js';
import { mergeGroups } from './join-meshes.js';

export interface FillOptions {
  /** longest way round a border that is filled, in the unit of the positions. Default: any */
  longest?: number;
}

/**
 * Close the open borders, flat and curved, with triangles between their own vertices. New faces take
 * the material of the first group and flat normals of their own.
 */
export function fillHoles(
  mesh: Mesh,
  { longest = Infinity }: FillOptions = {},
): { mesh: Mesh; filled: number } {
  const loops = borderLoops(mesh).filter((loop) => wayRound(mesh.positions, loop) <= longest);
  const added: number[] = [];
  for (const loop of loops)
    triangulateLoop(mesh.positions, loop, (a, b, c) => added.push(loop[a]!, loop[b]!, loop[c]!));
  if (added.length === 0) return { mesh, filled: 0 };
  const n = mesh.positions.length / 3;
  const t = mesh.indices.length / 3;
  const picks = new Uint32Array(n + added.length);
  for (let v = 0; v < n; v++) picks[v] = v;
  picks.set(added, n);
  const indices = new Uint32Array(mesh.indices.length + added.length);
  indices.set(mesh.indices);
  for (let i = 0; i < added.length; i++) indices[mesh.indices.length + i] = n + i;
  const filled: Mesh = {
    ...pickVertices(mesh, picks),
    indices,
    groups: [...mesh.groups, { material: mesh.groups[0]?.material ?? -1, start: t, count: added.length / 3 }],
  };
  if (filled.normals) {
    const flat = computeNormals({
      ...filled,
      indices: indices.subarray(mesh.indices.length),
    });
    filled.normals.set(flat.subarray(n * 3), n * 3);
  }
  delete filled.tangents;
  return { mesh: mergeGroups(filled), filled: loops.length };
}

const wayRound = (p: Float64Array, loop: readonly number[]): number =>
  loop.reduce((sum, v, i) => {
    const w = loop[(i + 1) % loop.length]!;
    return (
      sum + Math.hypot(p[v * 3]! - p[w * 3]!, p[v * 3 + 1]! - p[w * 3 + 1]!, p[v * 3 + 2]! - p[w * 3 + 2]!)
    );
  }, 0);
