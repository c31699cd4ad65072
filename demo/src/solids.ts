import {
  composeMatrix,
  cross,
  dot,
  joinMeshes,
  type Mesh,
  normalized as unit,
  plainMesh,
  type Quat,
  transformMesh,
  type Vec3,
} from '@yard-brace/core';

/** A turn by degrees about x, y or z. */
export function turn(axis: 'x' | 'y' | 'z', degrees: number): Quat {
  const half = (degrees * Math.PI) / 360;
  const q: Quat = [0, 0, 0, Math.cos(half)];
  q['xyz'.indexOf(axis)] = Math.sin(half);
  return q;
}

export const placed = (
  mesh: Mesh,
  translation: Vec3,
  rotation: Quat = [0, 0, 0, 1],
  scale: Vec3 = [1, 1, 1],
): Mesh => transformMesh(mesh, composeMatrix({ translation, rotation, scale }));

export const painted = (mesh: Mesh, material: number): Mesh => ({
  ...mesh,
  groups: [{ material, start: 0, count: mesh.indices.length / 3 }],
});

export const lump = (...meshes: Mesh[]): Mesh => joinMeshes(meshes);

/** A box with rounded edges, closed; `steps` is how many faces round each edge. */
export function roundedBox(size: Vec3, radius: number, steps = 2): Mesh {
  const half = size.map((s) => s / 2);
  const points: number[] = [];
  const indices: number[] = [];
  const numbers = new Map<string, number>();
  const cells = 2 * steps + 1;
  /** Outer offsets run over the rounding, the one wide cell in the middle is the flat. */
  const along = (i: number) => (i <= steps ? -1 + i / steps : (i - steps - 1) / steps);
  const side = (i: number) => (i <= steps ? -1 : 1);
  const vertex = (axis: number, sign: number, i: number, j: number): number => {
    const u = (axis + 1) % 3;
    const v = (axis + 2) % 3;
    const direction: Vec3 = [0, 0, 0];
    direction[axis] = sign;
    direction[u] = along(i);
    direction[v] = along(j);
    const corner: Vec3 = [0, 0, 0];
    corner[axis] = sign * (half[axis]! - radius);
    corner[u] = side(i) * (half[u]! - radius);
    corner[v] = side(j) * (half[v]! - radius);
    const l = Math.hypot(...direction);
    const p = corner.map((c, k) => Math.round((c + (direction[k]! / l) * radius) * 1e6) / 1e6);
    const key = p.join();
    if (!numbers.has(key)) {
      numbers.set(key, points.length / 3);
      points.push(...p);
    }
    return numbers.get(key)!;
  };
  for (let axis = 0; axis < 3; axis++) {
    for (const sign of [-1, 1]) {
      for (let i = 0; i < cells; i++) {
        for (let j = 0; j < cells; j++) {
          const quad = [
            vertex(axis, sign, i, j),
            vertex(axis, sign, i + 1, j),
            vertex(axis, sign, i + 1, j + 1),
            vertex(axis, sign, i, j + 1),
          ];
          const [a, b, c, d] = (sign > 0 ? quad : quad.reverse()) as [number, number, number, number];
          for (const triangle of [
            [a, b, c],
            [a, c, d],
          ])
            if (new Set(triangle).size === 3) indices.push(...triangle);
        }
      }
    }
  }
  return withUvs(plainMesh(points, indices));
}

/** A profile of [radius, height] turned about Y; it starts and ends on the axis, so the solid is closed. */
export function lathe(profile: readonly [number, number][], segments: number): Mesh {
  const points: number[] = [];
  const indices: number[] = [];
  const rings = profile.map(([radius, height]) => {
    const start = points.length / 3;
    const count = radius === 0 ? 1 : segments;
    for (let s = 0; s < count; s++) {
      const angle = (s / segments) * 2 * Math.PI;
      points.push(radius * Math.cos(angle), height, -radius * Math.sin(angle));
    }
    return (s: number) => start + (count === 1 ? 0 : s % segments);
  });
  for (let r = 0; r + 1 < rings.length; r++) {
    for (let s = 0; s < segments; s++) {
      const [a, b, c, d] = [rings[r]!(s), rings[r]!(s + 1), rings[r + 1]!(s + 1), rings[r + 1]!(s)];
      if (a !== b) indices.push(a, b, c);
      if (c !== d) indices.push(a, c, d);
    }
  }
  return withUvs(plainMesh(points, indices));
}

/** A round bar through points, closed by flat caps, or joined to a ring. */
export function tube(path: readonly Vec3[], radius: number, segments = 10, ring = false): Mesh {
  const points: number[] = [];
  const indices: number[] = [];
  const n = path.length;
  let side: Vec3 = [0, 0, 1];
  path.forEach((p, i) => {
    const before = path[ring ? (i + n - 1) % n : Math.max(0, i - 1)]!;
    const after = path[ring ? (i + 1) % n : Math.min(n - 1, i + 1)]!;
    const t = unit([after[0] - before[0], after[1] - before[1], after[2] - before[2]]);
    // The side vector is carried along the path, so the bar does not twist.
    if (Math.abs(dot(t, side)) > 0.95) side = Math.abs(t[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
    const u = unit(cross(t, cross(side, t)));
    const v = cross(t, u);
    side = u;
    for (let s = 0; s < segments; s++) {
      const angle = (s / segments) * 2 * Math.PI;
      for (let k = 0; k < 3; k++)
        points.push(p[k]! + radius * (u[k]! * Math.cos(angle) + v[k]! * Math.sin(angle)));
    }
  });
  const at = (i: number, s: number) => (i % n) * segments + (s % segments);
  for (let i = 0; i < (ring ? n : n - 1); i++) {
    for (let s = 0; s < segments; s++) {
      indices.push(at(i, s), at(i, s + 1), at(i + 1, s + 1), at(i, s), at(i + 1, s + 1), at(i + 1, s));
    }
  }
  if (!ring) {
    for (let s = 1; s + 1 < segments; s++)
      indices.push(at(0, 0), at(0, s + 1), at(0, s), at(n - 1, 0), at(n - 1, s), at(n - 1, s + 1));
  }
  return withUvs(plainMesh(points, indices));
}

/** The mesh without the triangles that the test picks. */
export function without(mesh: Mesh, picks: (corners: [Vec3, Vec3, Vec3]) => boolean): Mesh {
  const kept: number[] = [];
  const at = (v: number): Vec3 => [
    mesh.positions[v * 3]!,
    mesh.positions[v * 3 + 1]!,
    mesh.positions[v * 3 + 2]!,
  ];
  for (let i = 0; i < mesh.indices.length; i += 3) {
    const [a, b, c] = [mesh.indices[i]!, mesh.indices[i + 1]!, mesh.indices[i + 2]!];
    if (!picks([at(a), at(b), at(c)])) kept.push(a, b, c);
  }
  return {
    ...mesh,
    indices: Uint32Array.from(kept),
    groups: [{ material: mesh.groups[0]!.material, start: 0, count: kept.length / 3 }],
  };
}

/** Flat UVs at one metre a tile: enough for art that was never unwrapped with care. */
function withUvs(mesh: Mesh): Mesh {
  const n = mesh.positions.length / 3;
  const uv = new Float32Array(n * 2);
  for (let i = 0; i < n; i++) {
    uv[i * 2] = mesh.positions[i * 3]! + mesh.positions[i * 3 + 2]!;
    uv[i * 2 + 1] = mesh.positions[i * 3 + 1]!;
  }
  return { ...mesh, uvs: [uv] };
}
