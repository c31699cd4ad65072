import * as z from 'zod';
import { connectedParts } from './connected-parts.js';
import { massOf } from './mass.js';
import { type Mesh, meshBounds, triangleCount, vertexCount } from './mesh.js';
import { topologyOf } from './topology.js';
import { weld } from './weld.js';

const count = z.number().int().nonnegative();
const vec3 = z.tuple([z.number(), z.number(), z.number()]);

/**
 * What is known about one immutable mesh, in its own units. Facts travel in the piece document
 * so that findings need no geometry.
 */
export const meshFactsSchema = z.object({
  triangles: count,
  vertices: count,
  unusedVertices: count,
  /** vertices that stand where another stands, for a seam or by mistake */
  doubledVertices: count,
  parts: count,
  insideOutParts: count,
  openEdges: count,
  nonManifoldEdges: count,
  flippedEdges: count,
  zeroAreaFaces: count,
  doubledFaces: count,
  closed: z.boolean(),
  volume: z.number(),
  area: z.number(),
  centroid: vec3,
  min: vec3,
  max: vec3,
  uvSets: count,
  colors: z.boolean(),
  normals: z.boolean(),
});

export type MeshFacts = z.infer<typeof meshFactsSchema>;

/** Count everything intake tells about a mesh. Works on any triangle soup of finite numbers. */
export function surveyMesh(mesh: Mesh): MeshFacts {
  const joined = weld(mesh.positions);
  const topology = topologyOf(mesh, joined);
  const parts = connectedParts(mesh, joined);
  const mass = massOf(mesh);
  const bounds = meshBounds(mesh);
  const used = new Uint8Array(vertexCount(mesh));
  for (let i = 0; i < mesh.indices.length; i++) used[mesh.indices[i]!] = 1;
  return {
    triangles: triangleCount(mesh),
    vertices: vertexCount(mesh),
    unusedVertices: used.reduce((sum, u) => sum + 1 - u, 0),
    doubledVertices: vertexCount(mesh) - joined.count,
    parts: parts.count,
    insideOutParts: topology.openEdges === 0 ? countInsideOut(mesh, parts.ofTriangle, parts.count) : 0,
    openEdges: topology.openEdges,
    nonManifoldEdges: topology.nonManifoldEdges,
    flippedEdges: topology.flippedEdges,
    zeroAreaFaces: mass.zeroAreaFaces,
    doubledFaces: topology.doubledFaces,
    closed: topology.closed,
    volume: mass.volume,
    area: mass.area,
    centroid: mass.centroid,
    min: bounds.min,
    max: bounds.max,
    uvSets: mesh.uvs.length,
    colors: !!mesh.colors,
    normals: !!mesh.normals,
  };
}

/** Parts whose enclosed volume is negative: their faces look inwards. */
function countInsideOut({ positions, indices }: Mesh, partOf: Uint32Array, parts: number): number {
  const volume = new Float64Array(parts);
  const origin = indices.length ? indices[0]! * 3 : 0;
  const ox = positions[origin]!,
    oy = positions[origin + 1]!,
    oz = positions[origin + 2]!;
  for (let t = 0; t < partOf.length; t++) {
    const a = indices[t * 3]! * 3;
    const b = indices[t * 3 + 1]! * 3;
    const c = indices[t * 3 + 2]! * 3;
    const ax = positions[a]! - ox,
      ay = positions[a + 1]! - oy,
      az = positions[a + 2]! - oz;
    const bx = positions[b]! - ox,
      by = positions[b + 1]! - oy,
      bz = positions[b + 2]! - oz;
    const cx = positions[c]! - ox,
      cy = positions[c + 1]! - oy,
      cz = positions[c + 2]! - oz;
    volume[partOf[t]!]! += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return volume.reduce((sum, v) => sum + (v < 0 ? 1 : 0), 0);
}
