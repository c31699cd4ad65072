import { boundsThrough, centreOf, inverseQuat, rotate, subtract, type Vec3 } from '../math/index.js';
import { joinMeshes, type Mesh, transformMesh } from '../mesh/index.js';
import {
  artMesh,
  artNodes,
  partBounds,
  partPivot,
  type Pivot,
  type PieceDocument,
  placedMatrices,
  type Proxy,
} from '../piece/index.js';
import { moveShape, type Shape, shapeBounds, turnShape } from '../shape/index.js';

/** One mesh that leaves: the piece as a whole, or one of its parts on its own pivot. */
export interface DeliveredMesh {
  name: string;
  /** number of its node; null when all parts leave as one */
  node: number | null;
  pivot: Pivot;
  proxies: Proxy[];
}

/** The meshes a piece leaves as, with the proxies that belong to each. */
export function deliveredMeshes(document: PieceDocument): DeliveredMesh[] {
  if (document.leaves === 'as-one')
    return [{ name: document.meshName, node: null, pivot: document.pivot, proxies: document.proxies }];
  const parts = artNodes(document.nodes);
  const owner = (proxy: Proxy): number => {
    const named = parts.find((i) => document.nodes[i]!.id === proxy.part);
    return named ?? nearestPart(document, parts, proxy.shape);
  };
  const owners = document.proxies.map(owner);
  return parts.map((node) => ({
    name: document.nodes[node]!.name,
    node,
    pivot: partPivot(document, node),
    proxies: document.proxies.filter((_, i) => owners[i] === node),
  }));
}

/** A shape that names no part goes with the one whose middle is nearest to its own. */
function nearestPart(document: PieceDocument, parts: readonly number[], shape: Shape): number {
  const middle = centreOf(shapeBounds(shape));
  const away = (i: number) => Math.hypot(...subtract(centreOf(partBounds(document, i)), middle));
  return parts.reduce((best, i) => (away(i) < away(best) ? i : best));
}

/** A point of the piece's space as its pivot sees it. */
export const seenFrom = ({ position, rotation }: Pivot, p: Vec3): Vec3 =>
  rotate(inverseQuat(rotation), subtract(p, position));

/** A shape as its pivot sees it. */
export const shapeSeenFrom = ({ position, rotation }: Pivot, shape: Shape): Shape =>
  turnShape(moveShape(shape, [-position[0], -position[1], -position[2]]), inverseQuat(rotation));

/** The art of a delivered mesh as its pivot sees it: the pivot at the origin, its axes along the world's. */
export function meshSeenFrom(
  document: PieceDocument,
  { node, pivot }: DeliveredMesh,
  meshOf: (blob: string) => Mesh,
): Mesh {
  const art =
    node === null
      ? artMesh(document, meshOf)
      : joinMeshes([transformMesh(meshOf(document.nodes[node]!.mesh!), placedMatrices(document)[node]!)]);
  const turned = pivot.rotation[3] !== 1;
  const positions = art.positions.slice();
  for (let i = 0; i < positions.length; i += 3) {
    if (turned) positions.set(seenFrom(pivot, [positions[i]!, positions[i + 1]!, positions[i + 2]!]), i);
    else for (let k = 0; k < 3; k++) positions[i + k]! -= pivot.position[k]!;
  }
  const back = inverseQuat(pivot.rotation);
  const turnAll = (data: Float32Array | undefined, width: number) => {
    if (!data || !turned) return data;
    const out = data.slice();
    for (let i = 0; i < data.length; i += width)
      out.set(rotate(back, [data[i]!, data[i + 1]!, data[i + 2]!]), i);
    return out;
  };
  return { ...art, positions, normals: turnAll(art.normals, 3), tangents: turnAll(art.tangents, 4) };
}

/** Bounds as the pivot sees them: exact for a pivot that is not turned, else an outer estimate. */
export const boundsSeenFrom = (
  document: PieceDocument,
  { node, pivot }: DeliveredMesh,
  whole: { min: Vec3; max: Vec3 },
) => boundsThrough(node === null ? whole : partBounds(document, node), (p) => seenFrom(pivot, p));
