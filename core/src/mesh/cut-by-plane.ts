import type { Vec3 } from '../math/index.js';
import { fillHoles } from './fill-holes.js';
import type { Mesh, SurfaceGroup } from './mesh.js';
import { shareVertices } from './take-faces.js';

export interface Plane {
  point: Readonly<Vec3>;
  /** unit length */
  normal: Readonly<Vec3>;
}

/**
 * The two sides of a mesh: what lies where the plane's normal points, and the rest. Faces on the plane's
 * path are cut; what vertices carry is interpolated along the cut edges. With `close`, open borders that
 * the cut made in a closed mesh are filled flat, and the bores of hollow sections stay open.
 */
export function cutByPlane(mesh: Mesh, plane: Plane, { close = false } = {}): { front: Mesh; back: Mesh } {
  const n = mesh.positions.length / 3;
  const height = new Float64Array(n);
  let size = 0;
  for (let v = 0; v < n; v++) {
    for (let k = 0; k < 3; k++)
      height[v]! += (mesh.positions[v * 3 + k]! - plane.point[k]!) * plane.normal[k]!;
    size = Math.max(size, Math.abs(height[v]!));
  }
  // A vertex on the plane, to rounding, is taken as lying on it: no slivers beside the cut.
  for (let v = 0; v < n; v++) if (Math.abs(height[v]!) <= size * 1e-12) height[v] = 0;
  const halves = [side(mesh, height, 1), side(mesh, height, -1)] as const;
  const [front, back] = halves.map((half) => {
    const shared = shareVertices(half);
    return close && shared.indices.length ? fillHoles(shared, { bores: true }).mesh : shared;
  }) as [Mesh, Mesh];
  return { front, back };
}

function side(mesh: Mesh, height: Float64Array, sign: 1 | -1): Mesh {
  /** each new vertex: two old ones and the share of the second */
  const from: number[] = [];
  const to: number[] = [];
  const share: number[] = [];
  const numbers = new Map<number, number>();
  const n = mesh.positions.length / 3;
  const vertex = (a: number, b: number): number => {
    // Counted from the end below the plane, so that every face and both halves get the very same place.
    const [low, high] = height[a]! <= height[b]! ? [a, b] : [b, a];
    const key = low * n + high;
    let number = numbers.get(key);
    if (number === undefined) {
      number = from.push(low) - 1;
      to.push(high);
      share.push(low === high ? 0 : height[low]! / (height[low]! - height[high]!));
      numbers.set(key, number);
    }
    return number;
  };
  const indices: number[] = [];
  const groups: SurfaceGroup[] = [];
  for (const { material, start, count } of mesh.groups) {
    const first = indices.length / 3;
    for (let f = start; f < start + count; f++) {
      const loop: number[] = [];
      const corners = [mesh.indices[f * 3]!, mesh.indices[f * 3 + 1]!, mesh.indices[f * 3 + 2]!];
      const flat = corners.every((v) => height[v] === 0);
      if (flat && sign < 0) continue;
      for (let k = 0; k < 3; k++) {
        const [a, b] = [corners[k]!, corners[(k + 1) % 3]!];
        const [ha, hb] = [height[a]! * sign, height[b]! * sign];
        if (ha >= 0) loop.push(vertex(a, a));
        if ((ha > 0 && hb < 0) || (ha < 0 && hb > 0)) loop.push(vertex(a, b));
      }
      if (!flat && corners.every((v) => height[v]! * sign <= 0)) continue;
      for (let k = 1; k + 1 < loop.length; k++) indices.push(loop[0]!, loop[k]!, loop[k + 1]!);
    }
    if (indices.length / 3 > first)
      groups.push({ material, start: first, count: indices.length / 3 - first });
  }
  const mixed = <A extends Float32Array | Float64Array>(data: A, width: number, out: A, unit = false): A => {
    for (let i = 0; i < from.length; i++) {
      for (let k = 0; k < width; k++) {
        const a = data[from[i]! * width + k]!;
        out[i * width + k] = a + (data[to[i]! * width + k]! - a) * share[i]!;
      }
      if (!unit) continue;
      const l = Math.hypot(out[i * width]!, out[i * width + 1]!, out[i * width + 2]!) || 1;
      for (let k = 0; k < 3; k++) out[i * width + k]! /= l;
    }
    return out;
  };
  const m = from.length;
  return {
    positions: mixed(mesh.positions, 3, new Float64Array(m * 3)),
    normals: mesh.normals && mixed(mesh.normals, 3, new Float32Array(m * 3), true),
    tangents: mesh.tangents && mixed(mesh.tangents, 4, new Float32Array(m * 4)),
    uvs: mesh.uvs.map((uv) => mixed(uv, 2, new Float32Array(m * 2))),
    colors: mesh.colors && mixed(mesh.colors, 4, new Float32Array(m * 4)),
    indices: Uint32Array.from(indices),
    groups,
  };
}
