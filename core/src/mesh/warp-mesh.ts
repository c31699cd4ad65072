import { add, inModule, scaled, type Vec3, type Warp, warpAxes, warpPoint } from '../math/index.js';
import { cutByPlane } from './cut-by-plane.js';
import { joinMeshes } from './join-meshes.js';
import type { Mesh } from './mesh.js';
import { shareVertices } from './take-faces.js';

/**
 * The mesh laid along a warp. It is cut along the sections at the stations first, so that every stretch between two of
 * them is straight; the sections themselves are carried over exactly. UVs stay, tangents are left out.
 */
export function warpMesh(mesh: Mesh, warp: Warp): Mesh {
  const { origin, along, stations } = warp;
  let rest = mesh;
  const parts: Mesh[] = [];
  for (const { at } of stations) {
    const { front, back } = cutByPlane(rest, { point: add(origin, scaled(along, at)), normal: along });
    if (back.indices.length) parts.push(back);
    rest = front;
  }
  if (rest.indices.length) parts.push(rest);
  const cut = parts.length > 1 ? shareVertices(joinMeshes(parts)) : mesh;
  const positions = new Float64Array(cut.positions.length);
  const normals = cut.normals && new Float32Array(cut.normals.length);
  for (let i = 0; i < positions.length; i += 3) {
    const p: Vec3 = [cut.positions[i]!, cut.positions[i + 1]!, cut.positions[i + 2]!];
    positions.set(warpPoint(warp, p), i);
    if (normals) normals.set(warpNormal(warp, p, cut.normals!, i), i);
  }
  const { tangents: _tangents, ...out } = cut;
  return { ...out, positions, normals };
}

/** Through the cofactors of what the axes become: right even where the module is stretched or mitred. */
function warpNormal(warp: Warp, p: Vec3, normals: Float32Array, i: number): Vec3 {
  const [a, u, w] = inModule({ ...warp, origin: [0, 0, 0] }, [normals[i]!, normals[i + 1]!, normals[i + 2]!]);
  const [x, y, z] = warpAxes(warp, p);
  const cofactor = (s: Vec3, t: Vec3): Vec3 => [
    s[1] * t[2] - s[2] * t[1],
    s[2] * t[0] - s[0] * t[2],
    s[0] * t[1] - s[1] * t[0],
  ];
  const n = add(add(scaled(cofactor(y, z), a), scaled(cofactor(z, x), u)), scaled(cofactor(x, y), w));
  const length = Math.hypot(...n) || 1;
  return [n[0] / length, n[1] / length, n[2] / length];
}
