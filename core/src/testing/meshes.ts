import { composeMatrix, type Quat, type Vec3 } from '../math/index.js';
import { joinMeshes, type Mesh, plainMesh, reversedFaces, transformMesh } from '../mesh/index.js';
import { shapeTriangles } from '../shape/index.js';
import { plainMaterial, plainNode, type Scene } from '../piece/index.js';

/** Meshes and scenes that specs share. */
export function boxMesh(half: Vec3, center: Vec3 = [0, 0, 0], rotation: Quat = [0, 0, 0, 1]): Mesh {
  const { points, indices } = shapeTriangles({ kind: 'box', center, halfExtents: half, rotation });
  return plainMesh(points, indices);
}

export function ballMesh(radius: number, center: Vec3 = [0, 0, 0], segments = 24): Mesh {
  const { points, indices } = shapeTriangles({ kind: 'sphere', center, radius }, { segments });
  return plainMesh(points, indices);
}

/** Two boxes and a ball that do not touch. */
export const threeParts = (): Mesh =>
  joinMeshes([boxMesh([1, 1, 1]), boxMesh([0.5, 0.2, 0.3], [4, 0, 0]), ballMesh(0.7, [0, 5, 0])]);

export function moved(
  mesh: Mesh,
  translation: Vec3,
  rotation: Quat = [0, 0, 0, 1],
  scale: Vec3 = [1, 1, 1],
): Mesh {
  return transformMesh(mesh, composeMatrix({ translation, rotation, scale }));
}

/** A scene with one mesh on one node. */
export function sceneOf(mesh: Mesh, name = 'Thing'): Scene {
  return {
    unit: { metres: 1, stated: true },
    nodes: [plainNode(name, 0)],
    meshes: [{ name, mesh }],
    materials: mesh.groups.some((group) => group.material >= 0) ? [plainMaterial('oak')] : [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
}

export const text = (content: string): Uint8Array => new TextEncoder().encode(content);

/** The mesh with its faces turned over. */
export const inverted = (mesh: Mesh): Mesh => ({ ...mesh, indices: reversedFaces(mesh.indices) });
