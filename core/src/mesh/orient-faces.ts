import { faceNeighbours } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { splitAtFaces } from './split-vertices.js';
import { weld, type Weld } from './weld.js';

/**
 * The faces chosen are turned round, with their normals. A vertex that a turned face shares with one that
 * stays is doubled where it carries a normal.
 */
export function flipFaces(mesh: Mesh, chosen: Uint8Array): Mesh {
  const split =
    mesh.normals || mesh.tangents ? splitAtFaces(mesh, chosen) : { ...mesh, indices: mesh.indices.slice() };
  const turned = new Uint8Array(split.positions.length / 3);
  for (let f = 0; f < chosen.length; f++) {
    if (!chosen[f]) continue;
    const [b, c] = [split.indices[f * 3 + 1]!, split.indices[f * 3 + 2]!];
    split.indices[f * 3 + 1] = c;
    split.indices[f * 3 + 2] = b;
    for (let k = 0; k < 3; k++) turned[split.indices[f * 3 + k]!] = 1;
  }
  for (let v = 0; v < turned.length; v++) {
    if (!turned[v]) continue;
    if (split.normals) for (let k = 0; k < 3; k++) split.normals[v * 3 + k]! *= -1;
    if (split.tangents) split.tangents[v * 4 + 3]! *= -1;
  }
  return split;
}

/**
 * Which faces to turn so that neighbours agree and every shell looks outward.
 *
 * Neighbours are made to agree by walking over edges that two faces share; the side that most of a shell's
 * area was on wins where the shell is open. A closed shell looks outward when its volume is positive,
 * and inward when `isCavity` says of one of its faces that it is the inside of a hollow.
 *
 * @returns [t], 1 where the face is to be turned
 */
export function facesToTurn(
  mesh: Mesh,
  isCavity: (face: number) => boolean = () => false,
  joined: Weld = weld(mesh.positions),
  neighbours: Int32Array = faceNeighbours(mesh, joined),
): Uint8Array {
  const { indices, positions: p } = mesh;
  const faces = indices.length / 3;
  const corner = (face: number, k: number) => joined.remap[indices[face * 3 + (k % 3)]!]!;
  /** whether the shared edge runs the same way in both: one of them is turned */
  const disagrees = (face: number, k: number, other: number): boolean => {
    const [a, b] = [corner(face, k), corner(face, k + 1)];
    for (let j = 0; j < 3; j++) if (corner(other, j) === a && corner(other, j + 1) === b) return true;
    return false;
  };
  const turn = new Uint8Array(faces);
  const seen = new Uint8Array(faces);
  for (let seed = 0; seed < faces; seed++) {
    if (seen[seed]) continue;
    seen[seed] = 1;
    const patch = [seed];
    let open = false;
    for (let at = 0; at < patch.length; at++) {
      const face = patch[at]!;
      for (let k = 0; k < 3; k++) {
        const other = neighbours[face * 3 + k]!;
        if (other < 0) open = true;
        if (other < 0 || seen[other]) continue;
        seen[other] = 1;
        turn[other] = turn[face]! ^ (disagrees(face, k, other) ? 1 : 0);
        patch.push(other);
      }
    }
    let volume = 0;
    let areaTurned = 0;
    let area = 0;
    const o = indices[seed * 3]! * 3;
    const ox = p[o]!,
      oy = p[o + 1]!,
      oz = p[o + 2]!;
    for (const face of patch) {
      const a = indices[face * 3]! * 3;
      const b = indices[face * 3 + 1]! * 3;
      const c = indices[face * 3 + 2]! * 3;
      const ax = p[a]! - ox,
        ay = p[a + 1]! - oy,
        az = p[a + 2]! - oz;
      const ux = p[b]! - ox - ax,
        uy = p[b + 1]! - oy - ay,
        uz = p[b + 2]! - oz - az;
      const vx = p[c]! - ox - ax,
        vy = p[c + 1]! - oy - ay,
        vz = p[c + 2]! - oz - az;
      const nx = uy * vz - uz * vy,
        ny = uz * vx - ux * vz,
        nz = ux * vy - uy * vx;
      const twice = Math.sqrt(nx * nx + ny * ny + nz * nz);
      area += twice;
      if (turn[face]) areaTurned += twice;
      volume += (turn[face] ? -1 : 1) * (ax * nx + ay * ny + az * nz);
    }
    const inward = isCavity(seed);
    const wrong = open ? areaTurned > area / 2 : inward ? volume > 0 : volume < 0;
    if (wrong) for (const face of patch) turn[face]! ^= 1;
  }
  return turn;
}
