import { minVolumeBox, shapeOfKind, suggestShape, type WrapKind } from '../fit/index.js';
import { convexHull } from '../hull/index.js';
import { type Mesh, pointsOfShells, type Shells, shellsOf, weld } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';

export interface WrapOptions {
  /** `suggested`: for each the cheapest kind that stands off its hull by no more than the tolerance */
  kind: WrapKind | 'suggested';
  /** one shape round everything, round each shell, or round each group of faces. Default: the whole piece */
  per?: 'piece' | 'shell' | FaceGroups;
  /** corners a hull has at most. Default 64 */
  maxCorners?: number;
  /** of what is suggested, metres. Default: a hundredth of the size of each */
  toleranceMetres?: number;
  /** called between shapes with the share done, 0 to 1 */
  progress?: (share: number) => void;
}

/** Faces in groups, as those of each part. */
export interface FaceGroups {
  count: number;
  /** [t]: the group of each face; what is not below `count` is left out */
  ofFace: Uint32Array;
}

export interface Wrapping {
  shapes: Shape[];
  /** for each shape a face that it is round */
  faces: number[];
}

/** Wrapping that cannot be done as asked, with a sentence for the person. */
export class WrapError extends Error {
  override readonly name = 'WrapError';
}

/** More shapes than this is no collision but a list of shells; asking for it is refused. */
export const MAX_SHAPES = 512;

/**
 * Shapes of one kind round a mesh, round each of its shells or groups of faces, in their order. Each holds all that it
 * is round. What has no volume gets a thin box instead of a hull: importers refuse flat ones.
 *
 * @throws WrapError when there is nothing to wrap or far too many shells
 */
export function wrap(mesh: Mesh, { kind, per = 'piece', progress, ...options }: WrapOptions): Wrapping {
  const joined = weld(mesh.positions);
  const groups = groupsOf(mesh, per, joined);
  if (groups.count === 0 || mesh.indices.length === 0)
    throw new WrapError('There is nothing to wrap: the piece has no triangles.');
  if (groups.count > MAX_SHAPES) {
    throw new WrapError(
      `The piece has ${groups.count} shells and one shape each would be too many (${MAX_SHAPES} at most); weld it or wrap it as a whole.`,
    );
  }
  const first = new Map<number, number>();
  groups.ofTriangle.forEach((group, face) => first.has(group) || first.set(group, face));
  const shapes: Shape[] = [];
  const faces: number[] = [];
  pointsOfGroups(mesh, per, groups, joined).forEach((points, i) => {
    if (points.length === 0) return;
    shapes.push(roundPoints(points, kind, options));
    faces.push(first.get(i)!);
    progress?.((i + 1) / groups.count);
  });
  return { shapes, faces };
}

function groupsOf(mesh: Mesh, per: NonNullable<WrapOptions['per']>, joined: ReturnType<typeof weld>): Shells {
  if (per === 'shell') return shellsOf(mesh, joined);
  if (per === 'piece') return { count: 1, ofTriangle: new Uint32Array(mesh.indices.length / 3) };
  return { count: per.count, ofTriangle: per.ofFace };
}

/** Vertices of one shell are no other's; those of a group of faces may be of several. */
function pointsOfGroups(
  mesh: Mesh,
  per: NonNullable<WrapOptions['per']>,
  groups: Shells,
  joined: ReturnType<typeof weld>,
): Float64Array[] {
  if (typeof per === 'string') return pointsOfShells(mesh, groups, joined);
  const vertices = Array.from({ length: groups.count }, () => new Set<number>());
  mesh.indices.forEach((v, i) =>
    vertices[groups.ofTriangle[(i / 3) | 0]!]?.add(joined.first[joined.remap[v]!]!),
  );
  return vertices.map((own) =>
    Float64Array.from([...own].flatMap((v) => [...mesh.positions.subarray(v * 3, v * 3 + 3)])),
  );
}

function roundPoints(
  points: Float64Array,
  kind: WrapOptions['kind'],
  { maxCorners, toleranceMetres }: Pick<WrapOptions, 'maxCorners' | 'toleranceMetres'>,
): Shape {
  if (kind === 'suggested') {
    const [best] = suggestShape(points, toleranceMetres === undefined ? {} : { tolerance: toleranceMetres });
    if (best!.shape.kind !== 'hull') return best!.shape;
  }
  const wanted = kind === 'suggested' ? 'hull' : kind;
  if (wanted === 'hull' && convexHull(points).span !== 'solid') return minVolumeBox(points);
  return shapeOfKind(points, wanted, maxCorners === undefined ? {} : { maxCorners });
}
