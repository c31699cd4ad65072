import { convexHull, facePlanes, farthestOutside, hullVolume } from '../hull/index.js';
import { boundsOf, diagonalOf } from '../math/index.js';
import { type Mesh, topologyOf, weld } from '../mesh/index.js';
import { closedSolid } from '../solid/index.js';

/** What an importer that expects a solid convex shape will find. */
export interface Judgement {
  closed: boolean;
  /** edges with one face only */
  openEdges: number;
  convex: boolean;
  /** faces with part of their surface inside the hull: where the shape caves in */
  cavesIn: number[];
  /** the deepest that a vertex lies below the hull, in the unit of the mesh */
  deepest: number;
  /** enclosed volume; 0 for a shape that encloses nothing */
  volume: number;
  /** volume of its convex hull */
  hullVolume: number;
  /** what an importer would fill: hull less shape */
  filled: number;
  /** vertices and faces of the hull an importer would make */
  hullVertices: number;
  hullFaces: number;
}

/**
 * Judge a shape as an importer would: closed, convex within a tolerance, where it caves in and how much would be
 * filled. A flat or empty mesh is neither closed nor convex.
 *
 * @param tolerance how deep a vertex may lie below the hull, in the unit of the mesh. Default: 1e-4 of the size
 */
export function judgeShape(mesh: Mesh, tolerance = diagonalOf(boundsOf(mesh.positions)) * 1e-4): Judgement {
  const solid = closedSolid(mesh);
  const { openEdges, closed } = topologyOf(mesh, weld(mesh.positions));
  const used = new Set(solid.indices.subarray(0, solid.faces * 3));
  const points = Float64Array.from([...used].flatMap((v) => [...solid.positions.subarray(v * 3, v * 3 + 3)]));
  const volume = solid.volumes.reduce((sum, v) => sum + v, 0);
  const result = convexHull(points);
  if (result.span !== 'solid') {
    return {
      closed: false,
      openEdges,
      convex: false,
      cavesIn: [],
      deepest: 0,
      volume: 0,
      hullVolume: 0,
      filled: 0,
      hullVertices: 0,
      hullFaces: 0,
    };
  }
  const { hull } = result;
  const planes = facePlanes(hull.points, hull.faces);
  const below = (x: number, y: number, z: number) => {
    let least = Infinity;
    for (let f = 0; f < planes.length; f += 4)
      least = Math.min(least, planes[f + 3]! - planes[f]! * x - planes[f + 1]! * y - planes[f + 2]! * z);
    return Math.max(0, least);
  };
  const cavesIn: number[] = [];
  let deepest = 0;
  for (let f = 0; f < solid.faces; f++) {
    const middle = [0, 0, 0];
    let most = 0;
    for (let k = f * 3; k < f * 3 + 3; k++) {
      const v = solid.indices[k]! * 3;
      const [x, y, z] = [solid.positions[v]!, solid.positions[v + 1]!, solid.positions[v + 2]!];
      middle[0]! += x / 3;
      middle[1]! += y / 3;
      middle[2]! += z / 3;
      most = Math.max(most, below(x, y, z));
    }
    deepest = Math.max(deepest, most);
    if (Math.max(most, below(middle[0]!, middle[1]!, middle[2]!)) > tolerance) cavesIn.push(solid.source[f]!);
  }
  const full = hullVolume(hull);
  return {
    closed,
    openEdges,
    convex: cavesIn.length === 0 && farthestOutside(hull, points) <= tolerance,
    cavesIn: cavesIn.sort((a, b) => a - b),
    deepest,
    volume,
    hullVolume: full,
    filled: Math.max(0, full - volume),
    hullVertices: hull.points.length / 3,
    hullFaces: hull.faces.length,
  };
}
