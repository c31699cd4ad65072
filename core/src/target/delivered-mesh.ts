import { boundsThrough, inverseQuat, rotate, subtract, unionOf, type Vec3 } from '../math/index.js';
import { joinMeshes, type Mesh, transformMesh } from '../mesh/index.js';
import { type Pivot, partBounds, type PieceDocument, placedMatrices } from '../piece/index.js';
import type { PlannedDocument } from './planned-document.js';
import { moveShape, type Shape, turnShape } from '../shape/index.js';

/** A point of the piece's space as its pivot sees it. */
export const seenFrom = ({ position, rotation }: Pick<Pivot, 'position' | 'rotation'>, p: Vec3): Vec3 =>
  rotate(inverseQuat(rotation), subtract(p, position));

/** A shape as its pivot sees it. */
export const shapeSeenFrom = (
  { position, rotation }: Pick<Pivot, 'position' | 'rotation'>,
  shape: Shape,
): Shape => turnShape(moveShape(shape, [-position[0], -position[1], -position[2]]), inverseQuat(rotation));

/** Some parts as one mesh as a pivot sees them: the pivot at the origin, its axes along the world's. */
export function meshSeenFrom(
  document: PlannedDocument,
  { parts, pivot }: { parts: readonly number[]; pivot: Pivot },
  meshOf: (blob: string) => Mesh,
): Mesh {
  const world = placedMatrices(document);
  const art = joinMeshes(
    parts.map((i) =>
      transformMesh(withSlots(meshOf(document.nodes[i]!.mesh!), document.slotsOf?.get(i)), world[i]!),
    ),
  );
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

const withSlots = (mesh: Mesh, slots: ReadonlyMap<number, number> | undefined): Mesh =>
  slots
    ? { ...mesh, groups: mesh.groups.map((g) => ({ ...g, material: slots.get(g.material) ?? g.material })) }
    : mesh;

/** Bounds of some parts as a pivot sees them: exact for a pivot that is not turned, else an outer estimate. */
export const boundsSeenFrom = (
  document: PieceDocument,
  { parts, pivot }: { parts: readonly number[]; pivot: Pivot },
) =>
  boundsThrough(parts.map((part) => partBounds(document, part)).reduce(unionOf), (p) => seenFrom(pivot, p));
