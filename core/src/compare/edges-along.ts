import { planeOf } from '../hull/index.js';
import {
  add,
  distance,
  distanceToSegment,
  dot,
  lineLength,
  normalized,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';
import { type Shape, shapePolygons } from '../shape/index.js';

/** Faces of a shape that turn by more than this meet in an edge that is felt: 25 degrees. */
const SHARP_COSINE = Math.cos((25 * Math.PI) / 180);
/** An edge of a shape that leans from the line by less than this lies along it: 10 degrees. */
const ALONG_COSINE = Math.cos((10 * Math.PI) / 180);
/** Places of a line that are looked at, at least and at most. */
const MIN_PLACES = 32;
const MAX_PLACES = 1024;

/** Edges that lie off by less lie along, whatever is felt, metres. */
const MIN_TOLERANCE_METRES = 1e-4;

/** A line that is ridden or gripped. */
export interface LineToFollow {
  id: string;
  /** metres */
  line: readonly Vec3[];
}

/** How the edges of shapes lie along a line. */
export interface EdgeAlong {
  edge: string;
  /** of the line, metres */
  length: number;
  /** metres of it along which no shape has an edge */
  bare: number;
  /** the most that an edge of a shape lies off it, metres; null where none runs along it at all */
  off: number | null;
  /** where that is */
  at: Vec3;
}

type Stretch = readonly [Vec3, Vec3];

/** For each line how much of it has an edge of a shape straight along it, within the tolerance. */
export function edgesAlong(
  lines: readonly LineToFollow[],
  shapes: readonly Shape[],
  toleranceMetres: number,
): EdgeAlong[] {
  const tolerance = Math.max(toleranceMetres, MIN_TOLERANCE_METRES);
  if (!lines.length) return [];
  const edges = shapes.flatMap(sharpEdges);
  return lines.map(({ id, line }) => {
    const length = lineLength(line);
    const step = length / Math.min(MAX_PLACES, Math.max(MIN_PLACES, Math.ceil(length / tolerance)));
    let [bare, most]: [number, number] = [0, -1];
    let at = line[0]!;
    for (let i = 1; i < line.length; i++) {
      const [a, b] = [line[i - 1]!, line[i]!];
      const own = distance(a, b);
      const way = normalized(subtract(b, a));
      const beside = edges.filter(([p, q]) => Math.abs(dot(normalized(subtract(q, p)), way)) > ALONG_COSINE);
      const places = Math.max(1, Math.ceil(own / step));
      for (let k = 0; k < places; k++) {
        const place = add(a, scaled(way, (own * (k + 0.5)) / places));
        let off = Infinity;
        for (const [p, q] of beside) off = Math.min(off, distanceToSegment(place, p, q));
        if (off > tolerance) bare += own / places;
        if (off > most) [most, at] = [off, place];
      }
    }
    return { edge: id, length, bare, off: most === Infinity ? null : most, at };
  });
}

/** The edges of a shape in which two faces meet sharply, or that are open. */
function sharpEdges(shape: Shape): Stretch[] {
  if (shape.kind === 'sphere' || shape.kind === 'capsule') return [];
  const { points, faces } = shapePolygons(shape);
  const at = (v: number): Vec3 => [points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!];
  const normals = faces.map((face) => planeOf(points, face).slice(0, 3) as Vec3);
  const first = new Map<string, number>();
  const sharp = new Map<string, Stretch>();
  faces.forEach((face, f) =>
    face.forEach((v, k) => {
      const w = face[(k + 1) % face.length]!;
      const key = v < w ? `${v} ${w}` : `${w} ${v}`;
      const other = first.get(key);
      if (other === undefined) {
        first.set(key, f);
        sharp.set(key, [at(v), at(w)]);
      } else if (dot(normals[f]!, normals[other]!) > SHARP_COSINE) sharp.delete(key);
    }),
  );
  return [...sharp.values()];
}
