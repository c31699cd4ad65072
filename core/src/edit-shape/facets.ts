import { planeOf } from '../hull/index.js';
import { areaVector, dot, length, normalized, type Vec3 } from '../math/index.js';

/** Faces that look less than a degree away from the largest among them are one flat side to the hand. */
const ONE_FACET_COSINE = Math.cos(Math.PI / 180);

/** A flat side of a convex solid: neighbouring faces that lie in one plane, nearly. */
export interface Facet {
  /** numbers of its faces, ascending */
  faces: number[];
  normal: Vec3;
  /** the middle of its area */
  middle: Vec3;
  /** square metres */
  area: number;
}

/** The flat sides of a convex solid (`points` [3n]), the largest first. */
export function facetsOf(points: ArrayLike<number>, faces: readonly (readonly number[])[]): Facet[] {
  const normals = faces.map((face) => planeOf(points, face).slice(0, 3) as Vec3);
  const parts = faces.map((face) => areaAndMiddle(points, face));
  const besides = neighbours(faces);
  const facetOf = new Int32Array(faces.length).fill(-1);
  const facets: Facet[] = [];
  const order = faces.map((_, f) => f).sort((a, b) => parts[b]!.area - parts[a]!.area || a - b);
  for (const seed of order) {
    if (facetOf[seed]! >= 0) continue;
    facetOf[seed] = facets.length;
    const own = [seed];
    for (let i = 0; i < own.length; i++) {
      for (const other of besides[own[i]!]!) {
        // Against the seed, not the last one: a round side does not become one facet link by link.
        if (facetOf[other]! >= 0 || dot(normals[other]!, normals[seed]!) < ONE_FACET_COSINE) continue;
        facetOf[other] = facets.length;
        own.push(other);
      }
    }
    facets.push(
      facet(
        own.sort((a, b) => a - b),
        normals,
        parts,
      ),
    );
  }
  return facets.sort((a, b) => b.area - a.area || a.faces[0]! - b.faces[0]!);
}

function facet(faces: number[], normals: Vec3[], parts: { area: number; middle: Vec3 }[]): Facet {
  const [normal, middle]: [Vec3, Vec3] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  let area = 0;
  for (const f of faces) {
    const own = parts[f]!;
    area += own.area;
    for (let k = 0; k < 3; k++) {
      normal[k]! += normals[f]![k]! * own.area;
      middle[k]! += own.middle[k]! * own.area;
    }
  }
  return { faces, normal: normalized(normal), middle: middle.map((v) => v / (area || 1)) as Vec3, area };
}

/** Area (square metres) of a polygon, and the middle of it. */
export function areaAndMiddle(p: ArrayLike<number>, face: readonly number[]): { area: number; middle: Vec3 } {
  const middle: Vec3 = [0, 0, 0];
  let area = 0;
  const o = face[0]! * 3;
  for (let i = 1; i + 1 < face.length; i++) {
    const [a, b] = [face[i]! * 3, face[i + 1]! * 3];
    const own = length(areaVector(p, o, a, b)) / 2;
    area += own;
    for (let k = 0; k < 3; k++) middle[k]! += (own * (p[o + k]! + p[a + k]! + p[b + k]!)) / 3;
  }
  return { area, middle: middle.map((v) => v / (area || 1)) as Vec3 };
}

/** For each face those on the other side of its edges. */
function neighbours(faces: readonly (readonly number[])[]): number[][] {
  const faceOf = new Map<string, number>();
  faces.forEach((face, f) => face.forEach((v, i) => faceOf.set(`${v},${face[(i + 1) % face.length]!}`, f)));
  return faces.map((face) =>
    face.flatMap((v, i) => faceOf.get(`${face[(i + 1) % face.length]!},${v}`) ?? []),
  );
}
