import { boundsOf, sizeOf, subtract, type Vec3 } from '../math/index.js';
import { trianglesVolume } from '../mesh/index.js';
import { proxyName } from '../naming/index.js';
import { artBounds, type PieceDocument } from '../piece/index.js';
import { fanTriangles, shapeBounds, type ShapeKind, shapePolygons, shapeVolume } from '../shape/index.js';
import { deliveredKind, prefixOf, type TargetProfile } from './profile.js';

export interface ExpectedShape {
  id: string;
  name: string;
  kind: ShapeKind;
  /** cubic metres */
  volume: number;
  /** metres, axis-aligned, from the pivot */
  min: Vec3;
  max: Vec3;
}

/** What the level should get, said from the piece document alone. Metres, Y up, from the pivot. */
export interface Expectation {
  meshName: string;
  size: Vec3;
  /** lowest corner of the art as seen from its pivot: equal corners mean equal pivots */
  min: Vec3;
  shapes: ExpectedShape[];
}

export function expectationOf(document: PieceDocument, profile: TargetProfile): Expectation {
  const bounds = artBounds(document);
  const pivot = document.pivot.position;
  return {
    meshName: document.meshName,
    size: sizeOf(bounds),
    min: subtract(bounds.min, pivot),
    shapes: document.proxies.map(({ id, shape }, i) => {
      const kind = deliveredKind(profile, shape.kind);
      // A kind the target does not know is expected as the polyhedron it is delivered as.
      const polygons = kind === shape.kind ? undefined : shapePolygons(shape);
      const { min, max } = polygons ? boundsOf(polygons.points) : shapeBounds(shape);
      return {
        id,
        name: proxyName(document.meshName, i + 1, {
          prefix: prefixOf(profile, shape.kind),
          padding: profile.proxies.padding,
        }),
        kind,
        volume: polygons
          ? trianglesVolume(polygons.points, fanTriangles(polygons.faces))
          : shapeVolume(shape),
        min: subtract(min, pivot),
        max: subtract(max, pivot),
      };
    }),
  };
}
