import { type Mesh, triangulate } from '../../mesh/index.js';
import { FormatError, shown } from '../format-error.js';
import { numbersOf, textOf, type UsdaAttribute, type UsdaPrim } from './usda-text.js';

const AGAIN = 'mend the layer or export it again';
const MOST_UV_SETS = 8;

/** What of a mesh each corner has its own value of: for a corner, a face and a vertex, the number of the value. */
interface PerCorner {
  width: number;
  values: number[];
  at: (corner: number, face: number, vertex: number) => number;
}

/** The faces of a Mesh prim as triangles. @throws FormatError that names the prim and the line */
export function readMesh(file: string, prim: UsdaPrim, materialOf: (path: string) => number): Mesh | null {
  const fail = (wrong: string): never => {
    throw new FormatError(file, wrong, AGAIN, { line: prim.line, part: `mesh “${shown(prim.name, 60)}”` });
  };
  const points = numbersOf(prim.attributes.get('points')) ?? [];
  const counts = numbersOf(prim.attributes.get('faceVertexCounts')) ?? [];
  const corners = numbersOf(prim.attributes.get('faceVertexIndices')) ?? [];
  if (!points.length || !corners.length) return null;
  if (points.length % 3) fail(`its points are ${points.length} numbers, and three make a point`);
  const n = points.length / 3;
  let total = 0;
  for (const [i, count] of counts.entries()) {
    if (!(count >= 3) || !Number.isInteger(count))
      fail(`face ${i + 1} has ${Number.isNaN(count) ? 'no number of' : count} corners`);
    total += count;
  }
  if (total !== corners.length) fail(`its faces have ${total} corners, and ${corners.length} are listed`);
  for (const [i, corner] of corners.entries())
    if (!(corner >= 0 && corner < n) || !Number.isInteger(corner))
      fail(
        `corner ${i + 1} names ${Number.isNaN(corner) ? 'no number of a point' : `point ${corner}`}, and there are ${n}`,
      );

  const extra: PerCorner[] = [];
  const take = (name: string, width: number): PerCorner | null => {
    const found = perCorner(prim, name, width, { n, corners: corners.length, faces: counts.length });
    if (found === 'wrong') return fail(`${name} has too few values`);
    if (found) extra.push(found);
    return found;
  };
  const normals = take('normals', 3) ?? take('primvars:normals', 3);
  const uvs = uvNames(prim)
    .slice(0, MOST_UV_SETS)
    .map((name) => take(name, 2)!)
    .filter(Boolean);
  const colours = take('primvars:displayColor', 3);
  const opacity = colours && take('primvars:displayOpacity', 1);

  const vertices = new Map<string, number>();
  const from: { vertex: number; values: number[] }[] = [];
  const plain = extra.every((each) => each.at(0, 0, 7) === 7 || each.values.length === each.width);
  const vertexFor = (corner: number, face: number): number => {
    const vertex = corners[corner]!;
    const values = extra.map((each) => each.at(corner, face, vertex));
    const key = plain ? String(vertex) : `${vertex} ${values.join(' ')}`;
    const known = vertices.get(key);
    if (known !== undefined) return known;
    vertices.set(key, from.length);
    return from.push({ vertex, values }) - 1;
  };
  const positions = Float64Array.from(points);
  const leftHanded = textOf(prim.attributes.get('orientation')) === 'leftHanded';
  const perFace: number[][] = [];
  let start = 0;
  counts.forEach((count, face) => {
    const loop = corners.slice(start, start + count);
    const own: number[] = [];
    triangulate(positions, loop, (a, b, c) => {
      const [x, y, z] = [a, b, c].map((k) => vertexFor(start + k, face)) as [number, number, number];
      if (leftHanded) own.push(x, z, y);
      else own.push(x, y, z);
    });
    perFace.push(own);
    start += count;
  });
  const { order, groups } = groupsOf(prim, perFace, materialOf);
  const gather = (each: PerCorner | null, slot: number): Float32Array | undefined => {
    if (!each) return undefined;
    const out = new Float32Array(from.length * each.width);
    from.forEach(({ values }, v) => {
      for (let k = 0; k < each.width; k++)
        out[v * each.width + k] = each.values[values[slot]! * each.width + k]!;
    });
    return out;
  };
  const mesh: Mesh = {
    positions: Float64Array.from(from.flatMap(({ vertex }) => points.slice(vertex * 3, vertex * 3 + 3))),
    indices: Uint32Array.from(order.flatMap((face) => perFace[face]!)),
    uvs: uvs.map((each) => gather(each, extra.indexOf(each))!.map((v, k) => (k % 2 ? 1 - v : v))),
    groups,
  };
  const given = gather(normals, normals ? extra.indexOf(normals) : 0);
  if (given) mesh.normals = given;
  const rgb = gather(colours, colours ? extra.indexOf(colours) : 0);
  if (rgb) {
    const alpha = gather(opacity, opacity ? extra.indexOf(opacity) : 0);
    mesh.colors = new Float32Array(from.length * 4);
    for (let v = 0; v < from.length; v++)
      mesh.colors.set([rgb[v * 3]!, rgb[v * 3 + 1]!, rgb[v * 3 + 2]!, alpha?.[v] ?? 1], v * 4);
  }
  return mesh;
}

/** The first of the UV sets is called st, or what its type says. */
function uvNames({ attributes }: UsdaPrim): string[] {
  const named = [...attributes.keys()].filter((name) =>
    /^primvars:(st\d*|uv\d*|UVMap\d*|map\d+)$/i.test(name),
  );
  return named.sort((a, b) => a.length - b.length || (a < b ? -1 : 1));
}

function perCorner(
  { attributes }: UsdaPrim,
  name: string,
  width: number,
  { n, corners, faces }: { n: number; corners: number; faces: number },
): PerCorner | 'wrong' | null {
  const attribute = attributes.get(name);
  const values = numbersOf(attribute);
  if (!values?.length) return null;
  const indices = numbersOf(attributes.get(`${name}:indices`));
  const count = indices?.length ?? values.length / width;
  const way = interpolationOf(attribute!) ?? guess(count, { n, corners, faces });
  const needed = { constant: 1, uniform: faces, vertex: n, varying: n, faceVarying: corners }[way];
  if (needed === undefined || count < needed) return 'wrong';
  if (indices?.some((i) => !(i >= 0 && i < values.length / width))) return 'wrong';
  const through = (i: number) => (indices ? indices[i]! : i);
  const at: PerCorner['at'] =
    way === 'constant'
      ? () => through(0)
      : way === 'uniform'
        ? (_, face) => through(face)
        : way === 'faceVarying'
          ? (corner) => through(corner)
          : (_, __, vertex) => (indices ? (indices[vertex] ?? 0) : vertex);
  return { width, values, at };
}

const interpolationOf = ({ metadata }: UsdaAttribute): string | null => {
  const said = metadata.get('interpolation');
  return typeof said === 'string' ? said : null;
};

const guess = (count: number, { n, corners, faces }: { n: number; corners: number; faces: number }) =>
  count === n ? 'vertex' : count === corners ? 'faceVarying' : count === faces ? 'uniform' : 'constant';

/** Faces in the order of their materials, and the runs of triangles that each material has. */
function groupsOf(prim: UsdaPrim, perFace: readonly number[][], materialOf: (path: string) => number) {
  const bound = (of: UsdaPrim): number => {
    const path = of.attributes.get('material:binding')?.value;
    return typeof path === 'object' && path && 'path' in path ? materialOf(path.path) : -1;
  };
  const material = new Int32Array(perFace.length).fill(bound(prim));
  const order: number[] = [material[0] ?? -1];
  for (const subset of prim.children.filter(({ type }) => type === 'GeomSubset')) {
    const own = bound(subset);
    for (const face of numbersOf(subset.attributes.get('indices')) ?? [])
      if (face >= 0 && face < material.length) material[face] = own;
    order.push(own);
  }
  const kinds = [...new Set(order)];
  const faces = kinds.map((kind) => [...perFace.keys()].filter((face) => material[face] === kind));
  let start = 0;
  const groups = kinds.flatMap((kind, i) => {
    const count = faces[i]!.reduce((sum, face) => sum + perFace[face]!.length / 3, 0);
    start += count;
    return count ? [{ material: kind, start: start - count, count }] : [];
  });
  return { order: faces.flat(), groups };
}
