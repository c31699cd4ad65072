import * as z from 'zod';
import { connectedParts } from './connected-parts.js';
import { massOf, partVolumes } from './mass.js';
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
  return partVolumes(positions, indices, partOf, parts).reduce(
    (sum, volume) => sum + (volume < 0 ? 1 : 0),
    0,
  );
}
