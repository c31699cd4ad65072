import {
  cross,
  dot,
  faceNeighbours,
  normalized,
  plainMesh,
  subtract,
  type SurfaceShape,
  type Vec3,
} from '@yard-brace/core';

/** A flat piece of a surface: what stands behind it does not meet it. */
export interface SurfacePatch {
  points: number[];
  indices: number[];
  /** towards the side that is touched, unit length */
  normal: Vec3;
  /** normal · p of its plane */
  offset: number;
}

/** Faces whose normals differ by less are one patch. */
const FLAT_COSINE = Math.cos((0.5 * Math.PI) / 180);

/** Whether every side of a surface has one neighbour: then nobody comes behind its faces without going through them. */
export const isClosed = ({ points, indices }: Pick<SurfaceShape, 'points' | 'indices'>): boolean =>
  indices.length > 0 && faceNeighbours(plainMesh(points, indices)).every((next) => next >= 0);

/**
 * A surface as its flat patches: neighbouring faces that look the same way are one. An engine meets a triangle from
 * its front only; faces without an area are left out.
 */
export function surfacePatches({
  points,
  indices,
}: Pick<SurfaceShape, 'points' | 'indices'>): SurfacePatch[] {
  const mesh = plainMesh(points, indices);
  const neighbours = faceNeighbours(mesh);
  const corner = (f: number, k: number): Vec3 => {
    const v = indices[f * 3 + k]! * 3;
    return [points[v]!, points[v + 1]!, points[v + 2]!];
  };
  const faces = indices.length / 3;
  const normals = Array.from({ length: faces }, (_, f) =>
    normalized(cross(subtract(corner(f, 1), corner(f, 0)), subtract(corner(f, 2), corner(f, 0)))),
  );
  const seen = new Uint8Array(faces);
  const patches: SurfacePatch[] = [];
  for (let first = 0; first < faces; first++) {
    const normal = normals[first]!;
    if (seen[first] || dot(normal, normal) === 0) continue;
    const own: number[] = [];
    const waiting = [first];
    seen[first] = 1;
    for (let f = waiting.pop(); f !== undefined; f = waiting.pop()) {
      own.push(f);
      for (let k = 0; k < 3; k++) {
        const next = neighbours[f * 3 + k]!;
        if (next < 0 || seen[next] || dot(normals[next]!, normal) < FLAT_COSINE) continue;
        seen[next] = 1;
        waiting.push(next);
      }
    }
    const taken = own.flatMap((f) => [corner(f, 0), corner(f, 1), corner(f, 2)].flat());
    patches.push({
      points: taken,
      indices: Array.from({ length: own.length * 3 }, (_, i) => i),
      normal,
      offset: dot(normal, corner(first, 0)),
    });
  }
  return patches;
}
