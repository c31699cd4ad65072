import type { Mesh, SurfaceGroup } from '../../mesh/index.js';
import { CornerTable } from './corner-table.js';
import type { FaceList } from './face-list.js';
import { triangulate } from '../../mesh/index.js';

/** The numbers of an OBJ's `v`, `vt`, `vn` lines, packed: [3n], [2n], [3n]; colours only where there are any. */
export interface VertexLists {
  v: Float64Array;
  vt: Float64Array;
  vn: Float64Array;
  colors?: Float64Array;
}

/** The faces of a list as a mesh: polygons cut into triangles, one surface group a material. */
export function buildMesh(list: FaceList, lists: VertexLists): Mesh {
  const vertices = new CornerTable(list.corners.length / 3, lists.v.length / 3);
  const corners = list.corners.view();
  const sizes = list.sizes.view();
  const starts = new Uint32Array(sizes.length + 1);
  let triangles = 0;
  for (let i = 0; i < sizes.length; i++) {
    starts[i + 1] = starts[i]! + sizes[i]!;
    triangles += sizes[i]! - 2;
  }
  const indices = new Uint32Array(triangles * 3);
  let at = 0;
  const write = (a: number, b: number, c: number) => {
    indices[at++] = vertices.vertex(corners, a * 3);
    indices[at++] = vertices.vertex(corners, b * 3);
    indices[at++] = vertices.vertex(corners, c * 3);
  };
  const cut = (polygon: number) => {
    const start = starts[polygon]!;
    const size = sizes[polygon]!;
    if (size === 3) return write(start, start + 1, start + 2);
    const loop = Array.from({ length: size }, (_, k) => corners[(start + k) * 3]!);
    triangulate(lists.v, loop, (a, b, c) => write(start + a, start + b, start + c));
  };
  const groups = [...runsByMaterial(list)].map(([material, runs]) => {
    const start = at / 3;
    for (const [from, to] of runs) for (let polygon = from; polygon < to; polygon++) cut(polygon);
    return { material, start, count: at / 3 - start };
  });
  return gather(vertices, lists, indices, groups);
}

/** Runs of polygons, first and one past the last, by material in order of first use. */
function runsByMaterial(list: FaceList): Map<number, [number, number][]> {
  const runs = list.materials.view();
  const byMaterial = new Map<number, [number, number][]>();
  for (let r = 0; r < runs.length; r += 2) {
    const end = r + 2 < runs.length ? runs[r + 2]! : list.sizes.length;
    const known = byMaterial.get(runs[r + 1]!);
    if (known) known.push([runs[r]!, end]);
    else byMaterial.set(runs[r + 1]!, [[runs[r]!, end]]);
  }
  return byMaterial;
}

/** Vertices from the corners that were used, with what each of them carries. */
function gather(
  vertices: CornerTable,
  lists: VertexLists,
  indices: Uint32Array,
  groups: SurfaceGroup[],
): Mesh {
  const n = vertices.count;
  const keys = vertices.keys;
  const pick = <A extends Float32Array | Float64Array>(
    out: A,
    from: Float64Array,
    width: number,
    slot: number,
    missing: number[],
  ): A => {
    for (let i = 0; i < n; i++) {
      const source = keys[i * 3 + slot]!;
      for (let k = 0; k < width; k++)
        out[i * width + k] = source < 0 ? missing[k]! : from[source * width + k]!;
    }
    return out;
  };
  const any = (slot: number) => {
    for (let i = slot; i < n * 3; i += 3) if (keys[i]! >= 0) return true;
    return false;
  };
  const mesh: Mesh = {
    positions: pick(new Float64Array(n * 3), lists.v, 3, 0, [0, 0, 0]),
    indices,
    uvs: any(1) ? [pick(new Float32Array(n * 2), lists.vt, 2, 1, [0, 0])] : [],
    groups,
  };
  // OBJ counts V upwards from the bottom of the picture; the neutral scene counts down from the top.
  for (const uv of mesh.uvs) for (let i = 1; i < uv.length; i += 2) uv[i] = 1 - uv[i]!;
  if (any(2)) mesh.normals = unitNormals(pick(new Float32Array(n * 3), lists.vn, 3, 2, [0, 1, 0]));
  if (lists.colors) {
    const rgb = pick(new Float32Array(n * 3), lists.colors, 3, 0, [1, 1, 1]);
    mesh.colors = new Float32Array(n * 4).fill(1);
    for (let i = 0; i < n; i++) mesh.colors.set(rgb.subarray(i * 3, i * 3 + 3), i * 4);
  }
  return mesh;
}

function unitNormals(normals: Float32Array): Float32Array {
  for (let i = 0; i < normals.length; i += 3) {
    const l = Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!);
    if (l === 0) normals[i + 1] = 1;
    else for (let k = 0; k < 3; k++) normals[i + k] = normals[i + k]! / l;
  }
  return normals;
}
