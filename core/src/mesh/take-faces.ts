import { mergeGroups } from './join-meshes.js';
import type { Mesh, SurfaceGroup } from './mesh.js';

/** The faces for which `chosen` is not zero, with only the vertices they use and all those carry. */
export const facesWhere = (mesh: Mesh, chosen: Uint8Array): Mesh =>
  takeFaces(mesh, (face) => chosen[face] !== 0);

/** The faces that `takes` accepts, in their order; vertices in order of first use, groups kept. */
export function takeFaces(mesh: Mesh, takes: (face: number) => boolean): Mesh {
  const number = new Int32Array(mesh.positions.length / 3).fill(-1);
  const used: number[] = [];
  const corners: number[] = [];
  const groups: SurfaceGroup[] = [];
  for (const { material, start, count } of mesh.groups) {
    const from = corners.length / 3;
    for (let face = start; face < start + count; face++) {
      if (!takes(face)) continue;
      for (let k = face * 3; k < face * 3 + 3; k++) {
        const v = mesh.indices[k]!;
        if (number[v]! < 0) number[v] = used.push(v) - 1;
        corners.push(number[v]!);
      }
    }
    if (corners.length / 3 > from) groups.push({ material, start: from, count: corners.length / 3 - from });
  }
  return { ...pickVertices(mesh, used), indices: Uint32Array.from(corners), groups };
}

/** What the vertices `picks` carry, in that order; one vertex may be picked more than once. Faces stay. */
export function pickVertices(mesh: Mesh, picks: ArrayLike<number>): Mesh {
  return {
    ...mesh,
    positions: picked(mesh.positions, picks, 3, new Float64Array(picks.length * 3)),
    normals: mesh.normals && picked(mesh.normals, picks, 3, new Float32Array(picks.length * 3)),
    tangents: mesh.tangents && picked(mesh.tangents, picks, 4, new Float32Array(picks.length * 4)),
    uvs: mesh.uvs.map((uv) => picked(uv, picks, 2, new Float32Array(picks.length * 2))),
    colors: mesh.colors && picked(mesh.colors, picks, 4, new Float32Array(picks.length * 4)),
  };
}

function picked<A extends Float32Array | Float64Array>(
  from: A,
  picks: ArrayLike<number>,
  width: number,
  out: A,
): A {
  for (let i = 0; i < picks.length; i++)
    for (let k = 0; k < width; k++) out[i * width + k] = from[picks[i]! * width + k]!;
  return out;
}

/** Vertices that carry the very same in everything become one; unused ones go. */
export function shareVertices(mesh: Mesh): Mesh {
  const columns: { data: Float32Array | Float64Array; width: number }[] = [
    { data: mesh.positions, width: 3 },
    ...[mesh.normals && { data: mesh.normals, width: 3 }, mesh.tangents && { data: mesh.tangents, width: 4 }],
    ...mesh.uvs.map((data) => ({ data, width: 2 })),
    mesh.colors && { data: mesh.colors, width: 4 },
  ].filter((column) => column !== undefined);
  const size = 2 ** Math.ceil(Math.log2(Math.max(16, (mesh.positions.length / 3) * 2)));
  const slots = new Int32Array(size).fill(-1);
  const same = (a: number, b: number) =>
    columns.every(({ data, width }) => {
      for (let k = 0; k < width; k++) if (data[a * width + k] !== data[b * width + k]) return false;
      return true;
    });
  const word = new Float64Array(1);
  const halves = new Uint32Array(word.buffer);
  const hash = (v: number) => {
    let h = 0;
    for (const { data, width } of columns)
      for (let k = 0; k < width; k++) {
        word[0] = data[v * width + k]! + 0;
        h = Math.imul(h ^ halves[0]! ^ Math.imul(halves[1]!, 0x85ebca6b), 0x9e3779b1);
        h ^= h >>> 15;
      }
    return h >>> 0;
  };
  const picks: number[] = [];
  const number = new Int32Array(mesh.positions.length / 3).fill(-1);
  const find = (v: number): number => {
    let slot = hash(v) & (size - 1);
    for (let n = slots[slot]!; n >= 0; n = slots[slot]!) {
      if (same(picks[n]!, v)) return n;
      slot = (slot + 1) & (size - 1);
    }
    slots[slot] = picks.length;
    return picks.push(v) - 1;
  };
  const indices = mesh.indices.map((v) => (number[v]! >= 0 ? number[v]! : (number[v] = find(v))));
  return { ...pickVertices(mesh, picks), indices };
}

/** Every triangle with three vertices of its own; `corners`, when they are given, name the vertices that those are like. */
export function separateVertices(mesh: Mesh, corners: ArrayLike<number> = mesh.indices): Mesh {
  const indices = new Uint32Array(corners.length);
  // A mapping callback takes a hundred times as long for millions.
  for (let i = 0; i < indices.length; i++) indices[i] = i;
  return { ...pickVertices(mesh, corners), indices };
}

/** The same faces, the marked ones under another material. */
export function splitByMarks(mesh: Mesh, marks: Uint8Array, material: number): Mesh {
  const runs: SurfaceGroup[] = [];
  for (const group of mesh.groups) {
    for (let f = group.start; f < group.start + group.count; f++) {
      const own = marks[f] ? material : group.material;
      const last = runs.at(-1);
      if (last && last.material === own && last.start + last.count === f) last.count++;
      else runs.push({ material: own, start: f, count: 1 });
    }
  }
  return mergeGroups({ ...mesh, groups: runs });
}
