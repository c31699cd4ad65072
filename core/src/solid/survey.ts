import * as z from 'zod';
import {
  borderGaps,
  borderLoops,
  shellsOf,
  faceNeighbours,
  massOf,
  type Mesh,
  meshBounds,
  topologyOf,
  triangleCount,
  vertexCount,
  weld,
} from '../mesh/index.js';
import { hiddenFaces, insideOutShells, specks } from './hidden-faces.js';

const count = z.number().int().nonnegative();
/** Beyond this the fourth powers that volumes and centroids are made of are no numbers any more. */
export const FARTHEST_COORDINATE = 1e76;
const coordinate = z.number().min(-FARTHEST_COORDINATE).max(FARTHEST_COORDINATE);
const vec3 = z.tuple([coordinate, coordinate, coordinate]);

/**
 * What is known about one immutable mesh, in its own units. Facts travel in the piece document
 * so that findings need no geometry.
 */
const factsSchema = z.object({
  triangles: count,
  vertices: count,
  unusedVertices: count,
  /** vertices that stand where another stands, for a seam or by mistake */
  doubledVertices: count,
  /** connected components */
  shells: count,
  insideOutShells: count,
  openEdges: count,
  /** closed runs of open edges */
  borders: count.default(0),
  /** of the open edges, those of seams that only look closed, and how far their sides are apart at most */
  seamEdges: count.default(0),
  seamGap: z.number().nonnegative().default(0),
  nonManifoldEdges: count,
  flippedEdges: count,
  zeroAreaFaces: count,
  doubledFaces: count,
  /** faces with the inside of the piece in front of them */
  hiddenFaces: count.default(0),
  /** faces of loose shells too small to matter */
  speckFaces: count.default(0),
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

/** Facts as they are stored; those of earlier versions called shells parts. */
export const meshFactsSchema = z.preprocess((value) => {
  if (typeof value !== 'object' || value === null || !('parts' in value)) return value;
  const { parts, insideOutParts, ...facts } = value as Record<string, unknown>;
  return { ...facts, shells: parts, insideOutShells: insideOutParts };
}, factsSchema);

export type MeshFacts = z.infer<typeof meshFactsSchema>;

/** Count everything intake tells about a mesh. Works on any triangle soup of finite numbers. */
export function surveyMesh(mesh: Mesh): MeshFacts {
  const joined = weld(mesh.positions);
  const topology = topologyOf(mesh, joined);
  const shells = shellsOf(mesh, joined);
  const neighbours = faceNeighbours(mesh, joined);
  const mass = massOf(mesh);
  const bounds = meshBounds(mesh);
  const used = new Uint8Array(vertexCount(mesh));
  for (let i = 0; i < mesh.indices.length; i++) used[mesh.indices[i]!] = 1;
  return {
    triangles: triangleCount(mesh),
    vertices: vertexCount(mesh),
    unusedVertices: used.reduce((sum, u) => sum + 1 - u, 0),
    doubledVertices: vertexCount(mesh) - joined.count,
    shells: shells.count,
    insideOutShells: insideOutShells(mesh, shells, neighbours).length,
    openEdges: topology.openEdges,
    borders: topology.openEdges ? borderLoops(mesh, joined, neighbours).length : 0,
    ...(topology.openEdges ? borderGaps(mesh, joined, neighbours) : { seamEdges: 0, seamGap: 0 }),
    nonManifoldEdges: topology.nonManifoldEdges,
    flippedEdges: topology.flippedEdges,
    zeroAreaFaces: mass.zeroAreaFaces,
    doubledFaces: topology.doubledFaces,
    hiddenFaces: sum(hiddenFaces(mesh, joined, shells, neighbours)),
    speckFaces: shells.count > 1 ? sum(specks(mesh, shells)) : 0,
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

const sum = (marks: Uint8Array): number => marks.reduce((total, mark) => total + mark, 0);
