import { sizeOf, type Vec3 } from '../math/index.js';
import { type Mesh, meshBounds } from '../mesh/index.js';
import { proxyName } from '../naming/index.js';
import { artBounds, type PieceDocument } from '../piece/index.js';
import { shapeBounds, type ShapeKind, shapeVolume } from '../shape/index.js';
import { boundsSeenFrom, deliveredMeshes, meshSeenFrom, shapeSeenFrom } from './delivered-mesh.js';
import { deliveredKind, prefixOf, type TargetProfile } from './profile.js';

export interface ExpectedShape {
  id: string;
  name: string;
  owner: string;
  /** as it was drawn */
  kind: ShapeKind;
  /** as it leaves: another kind where the target does not know its own */
  deliveredAs: ShapeKind;
  /** cubic metres, as drawn */
  volume: number;
  /** metres, axis-aligned, from the pivot */
  min: Vec3;
  max: Vec3;
}

export interface ExpectedMesh {
  name: string;
  size: Vec3;
  /** lowest corner of the art as seen from its pivot: equal corners mean equal pivots */
  min: Vec3;
}

/** What the level should get, said from the piece document. Metres, Y up, from the pivot. */
export interface Expectation {
  meshes: ExpectedMesh[];
  shapes: ExpectedShape[];
}

/**
 * @param meshOf gives sizes from the geometry itself, which a pivot with turned axes needs; without it they
 * are taken from bounds
 */
export function expectationOf(
  document: PieceDocument,
  profile: TargetProfile,
  meshOf?: (blob: string) => Mesh,
): Expectation {
  const whole = artBounds(document);
  const delivered = deliveredMeshes(document);
  return {
    meshes: delivered.map((mesh) => {
      const turned = mesh.pivot.rotation[3] !== 1;
      const bounds =
        turned && meshOf
          ? meshBounds(meshSeenFrom(document, mesh, meshOf))
          : boundsSeenFrom(document, mesh, whole);
      return { name: mesh.name, size: sizeOf(bounds), min: bounds.min };
    }),
    shapes: delivered.flatMap(({ name: owner, pivot, proxies }) =>
      proxies.map(({ id, shape: drawn }, i) => {
        const shape = shapeSeenFrom(pivot, drawn);
        const { min, max } = shapeBounds(shape);
        return {
          id,
          owner,
          name: proxyName(owner, i + 1, {
            prefix: prefixOf(profile, shape.kind),
            padding: profile.proxies.padding,
          }),
          kind: shape.kind,
          deliveredAs: deliveredKind(profile, shape.kind),
          volume: shapeVolume(shape),
          min,
          max,
        };
      }),
    ),
  };
}
