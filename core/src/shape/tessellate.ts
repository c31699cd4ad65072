import { add, rotate, type Quat, type Vec3 } from '../math/index.js';
import type { Shape } from './shape.js';

/** A shape as polygons. `points`: [3n]; `faces`: counter-clockwise seen from outside. */
export interface ShapePolygons {
  points: Float64Array;
  faces: number[][];
}

export interface TessellateOptions {
  /** segments round a full circle, a multiple of 4. Default 24 */
  segments?: number;
}

/** Any shape as closed polygons (a surface as its triangles). Round kinds have all vertices on the true shape. */
export function shapePolygons(shape: Shape, { segments = 24 }: TessellateOptions = {}): ShapePolygons {
  switch (shape.kind) {
    case 'box':
      return boxPolygons(shape.center, shape.halfExtents, shape.rotation);
    case 'sphere':
      return turned(lathe(capProfile(shape.radius, 0, segments / 4), segments), shape.center, [0, 0, 0, 1]);
    case 'capsule':
      return turned(
        lathe(capProfile(shape.radius, shape.halfLength, segments / 4), segments),
        shape.center,
        shape.rotation,
      );
    case 'cylinder': {
      const rings: Ring[] = [
        { radius: shape.bottomRadius, height: -shape.halfHeight },
        { radius: shape.topRadius, height: shape.halfHeight },
      ];
      return turned(lathe(rings, segments), shape.center, shape.rotation);
    }
    case 'hull':
      return { points: Float64Array.from(shape.points), faces: shape.faces };
    case 'surface':
      return { points: Float64Array.from(shape.points), faces: chunksOf3(shape.indices) };
  }
}

/** Polygons as a triangle fan each. Shapes: points [3n], indices [3t]. */
export function shapeTriangles(
  shape: Shape,
  options?: TessellateOptions,
): { points: Float64Array; indices: Uint32Array } {
  const { points, faces } = shapePolygons(shape, options);
  return { points, indices: fanTriangles(faces) };
}

/** Convex polygons to triangles. Shape: [3t]. */
export function fanTriangles(faces: readonly (readonly number[])[]): Uint32Array {
  const indices: number[] = [];
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++) indices.push(face[0]!, face[i]!, face[i + 1]!);
  return Uint32Array.from(indices);
}

/** Each edge once, as vertex pairs: what is inked in the view. Shape: [2e]. */
export function polygonEdges(faces: readonly (readonly number[])[]): Uint32Array {
  const edges: number[] = [];
  const seen = new Set<string>();
  for (const face of faces) {
    face.forEach((from, i) => {
      const to = face[(i + 1) % face.length]!;
      const key = from < to ? `${from},${to}` : `${to},${from}`;
      if (seen.has(key)) return;
      seen.add(key);
      edges.push(from, to);
    });
  }
  return Uint32Array.from(edges);
}

/** The eight corners of a box; bit 0 of the number is +x, bit 1 +y, bit 2 +z. */
export function boxCorners(center: Vec3, half: Vec3, rotation: Quat): Vec3[] {
  return [0, 1, 2, 3, 4, 5, 6, 7].map((k) => {
    const local: Vec3 = [k & 1 ? half[0] : -half[0], k & 2 ? half[1] : -half[1], k & 4 ? half[2] : -half[2]];
    return add(center, rotate(rotation, local));
  });
}

function boxPolygons(center: Vec3, half: Vec3, rotation: Quat): ShapePolygons {
  return {
    points: Float64Array.from(boxCorners(center, half, rotation).flat()),
    faces: [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5],
    ],
  };
}

interface Ring {
  radius: number;
  height: number;
}

/** A half circle from pole to pole, its two quarters `halfLength` away from the middle. */
function capProfile(radius: number, halfLength: number, steps: number): Ring[] {
  const rings: Ring[] = [];
  for (const [sign, from, to] of [
    [-1, steps, 0],
    [1, 0, steps],
  ] as const) {
    for (let i = from; sign < 0 ? i >= to : i <= to; i += sign) {
      if (halfLength === 0 && sign > 0 && i === 0) continue;
      const angle = (i / steps) * (Math.PI / 2);
      rings.push({
        radius: i === steps ? 0 : radius * Math.cos(angle),
        height: sign * (halfLength + radius * Math.sin(angle)),
      });
    }
  }
  return rings;
}

/** Rings turned about Y, lowest first; a ring of radius 0 is a pole, other ends are closed by a cap. */
function lathe(rings: readonly Ring[], segments: number): ShapePolygons {
  const points: number[] = [];
  const starts = rings.map(({ radius, height }) => {
    const start = points.length / 3;
    for (let s = 0; s < (radius === 0 ? 1 : segments); s++) {
      const angle = (s / segments) * 2 * Math.PI;
      points.push(radius * Math.cos(angle), height, -radius * Math.sin(angle));
    }
    return start;
  });
  const at = (ring: number, s: number) => starts[ring]! + (rings[ring]!.radius === 0 ? 0 : s % segments);
  const faces: number[][] = [];
  for (let r = 0; r + 1 < rings.length; r++) {
    for (let s = 0; s < segments; s++) {
      const loop = [at(r, s), at(r, s + 1), at(r + 1, s + 1), at(r + 1, s)];
      faces.push(loop.filter((v, i) => v !== loop[(i + 1) % 4]));
    }
  }
  const ring = (r: number) => Array.from({ length: segments }, (_, s) => at(r, s));
  const last = rings.length - 1;
  if (rings[0]!.radius > 0) faces.push(ring(0).reverse());
  if (rings[last]!.radius > 0) faces.push(ring(last));
  return { points: Float64Array.from(points), faces };
}

function turned({ points, faces }: ShapePolygons, center: Vec3, rotation: Quat): ShapePolygons {
  for (let i = 0; i < points.length; i += 3) {
    points.set(add(center, rotate(rotation, [points[i]!, points[i + 1]!, points[i + 2]!])), i);
  }
  return { points, faces };
}

const chunksOf3 = (indices: readonly number[]): number[][] =>
  Array.from({ length: indices.length / 3 }, (_, i) => [
    indices[i * 3]!,
    indices[i * 3 + 1]!,
    indices[i * 3 + 2]!,
  ]);

/** How much wider than a circle a polygon of so many sides is that has the circle's area: 0.6 % with 24 sides. */
export function prismGrowth(sides: number): number {
  const angle = (2 * Math.PI) / sides;
  return Math.sqrt(angle / Math.sin(angle));
}
