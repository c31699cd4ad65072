import type { Accessor, Mesh as GltfMesh, Primitive } from '@gltf-transform/core';
import { computeNormals, joinMeshes, type Mesh } from '../../mesh/index.js';
import type { LeftOut, SceneNote } from '../../piece/index.js';
import { FormatError, shown } from '../format-error.js';
import { movedUvs, type UvTransform } from './texture-transform.js';

/** What a glTF mesh is called in an error: its number stands in the file, its name helps to find it. */
export interface PrimitiveContext {
  file: string;
  accessorNumber: (accessor: Accessor) => number;
  materialNumber: (primitive: Primitive) => number;
  /** how each UV set is moved for the pictures of its material */
  uvTransforms: (primitive: Primitive) => ReadonlyMap<number, UvTransform>;
  leftOut: LeftOut[];
  notes: SceneNote[];
}

/** All triangle primitives of a glTF mesh as one mesh with a group a primitive; null when there are none. */
export function readPrimitives(source: GltfMesh, context: PrimitiveContext): Mesh | null {
  const meshes: Mesh[] = [];
  for (const primitive of source.listPrimitives()) {
    const mode = primitive.getMode();
    if (mode < 4) {
      context.leftOut.push({ kind: mode === 0 ? 'points' : 'lines', name: source.getName() });
      continue;
    }
    if (primitive.listTargets().length)
      context.leftOut.push({ kind: 'morph target', name: source.getName() });
    const mesh = readPrimitive(primitive, shown(source.getName(), 60), context);
    if (mesh) meshes.push(mesh);
  }
  if (meshes.length === 0) return null;
  return shareVertices(source, meshes, context) ?? joinMeshes(meshes);
}

/** Primitives that cut one vertex list into materials stay on one vertex list. */
function shareVertices(
  source: GltfMesh,
  meshes: readonly Mesh[],
  { uvTransforms }: PrimitiveContext,
): Mesh | null {
  const primitives = source.listPrimitives().filter((primitive) => primitive.getMode() >= 4);
  const key = (primitive: Primitive) =>
    primitive.listSemantics().map((s) => [s, primitive.getAttribute(s)] as const);
  const first = key(primitives[0]!);
  const same = primitives.every((primitive) => {
    const other = key(primitive);
    return (
      other.length === first.length &&
      first.every(([semantic, accessor]) => primitive.getAttribute(semantic) === accessor)
    );
  });
  // Moved for one material, the UVs of a shared list would be wrong for the others.
  if (primitives.some((primitive) => uvTransforms(primitive).size > 0)) return null;
  if (!same || meshes.length !== primitives.length || meshes.length < 2) return null;
  const indices = new Uint32Array(meshes.reduce((sum, mesh) => sum + mesh.indices.length, 0));
  let at = 0;
  const groups = meshes.flatMap((mesh) => {
    indices.set(mesh.indices, at);
    const start = at / 3;
    at += mesh.indices.length;
    return mesh.groups.map((group) => ({ ...group, start }));
  });
  return joinMeshes([{ ...meshes[0]!, indices, groups }]);
}

function readPrimitive(primitive: Primitive, name: string, context: PrimitiveContext): Mesh | null {
  const place = primitive.getAttribute('POSITION');
  if (!place) return null;
  const single = floats(place, 3, context);
  checkFinite(single, place, 3, context);
  const positions = new Float64Array(single);
  const n = positions.length / 3;
  const indices = triangleIndices(primitive, n, context);
  if (indices.length === 0) return null;
  const optional = (
    semantic: string,
    width: number,
    attribute: Extract<SceneNote, { about: 'attribute' }>['attribute'],
  ): Float32Array | undefined => {
    const accessor = primitive.getAttribute(semantic);
    if (!accessor || accessor.getElementSize() !== width) return undefined;
    const values = floats(accessor, width, context);
    const wrong = accessor.getCount() !== n ? 'too-few' : allFinite(values) ? null : 'not-finite';
    if (!wrong) return values;
    context.notes.push({ about: 'attribute', mesh: name, attribute, wrong });
    return undefined;
  };
  const uvs: Float32Array[] = [];
  const moves = context.uvTransforms(primitive);
  for (let set = 0; set < 8; set++) {
    const uv = optional(`TEXCOORD_${set}`, 2, 'UVs');
    if (!uv) break;
    const transform = moves.get(set);
    uvs.push(transform ? movedUvs(uv, transform) : uv);
  }
  const mesh: Mesh = {
    positions,
    indices,
    normals: optional('NORMAL', 3, 'normals'),
    tangents: optional('TANGENT', 4, 'tangents'),
    colors: optional('COLOR_0', 4, 'colours') ?? withAlpha(optional('COLOR_0', 3, 'colours')),
    uvs,
    groups: [{ material: context.materialNumber(primitive), start: 0, count: indices.length / 3 }],
  };
  if (mesh.normals) mendNormals(mesh);
  return mesh;
}

/** Exporters write zero normals for faces without area; a computed one stands in. */
function mendNormals(mesh: Mesh): void {
  const normals = mesh.normals!;
  const zero = (i: number) => normals[i] === 0 && normals[i + 1] === 0 && normals[i + 2] === 0;
  let at = 0;
  while (at < normals.length && !zero(at)) at += 3;
  if (at === normals.length) return;
  const computed = computeNormals(mesh);
  mesh.normals = normals.map((value, i) => (zero(i - (i % 3)) ? computed[i]! : value));
}

function withAlpha(rgb: Float32Array | undefined): Float32Array | undefined {
  if (!rgb) return undefined;
  const rgba = new Float32Array((rgb.length / 3) * 4).fill(1);
  for (let i = 0; i < rgb.length / 3; i++) rgba.set(rgb.subarray(i * 3, i * 3 + 3), i * 4);
  return rgba;
}

/** An accessor as plain floats, normalized integers brought to their range. Primitives may share it: nobody writes to it. */
function floats(accessor: Accessor, width: number, context: PrimitiveContext): Float32Array {
  const raw = accessor.getArray();
  if (!raw || accessor.getElementSize() !== width)
    fail(context, accessor, `it should hold ${width} numbers an element`);
  if (raw instanceof Float32Array) return raw;
  const out = new Float32Array(raw.length);
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) out.set(accessor.getElement(i, element), i * width);
  return out;
}

function wholeNumbers(accessor: Accessor): Uint32Array {
  const raw = accessor.getArray()!;
  return raw instanceof Uint32Array ? raw : new Uint32Array(raw);
}

function triangleIndices(primitive: Primitive, vertices: number, context: PrimitiveContext): Uint32Array {
  const accessor = primitive.getIndices();
  const list = accessor ? wholeNumbers(accessor) : Uint32Array.from({ length: vertices }, (_, i) => i);
  const at = accessor ? firstBeyond(list, vertices) : -1;
  if (at >= 0) fail(context, accessor!, `element ${at} names vertex ${list[at]}, and there are ${vertices}`);
  const mode = primitive.getMode();
  if (mode === 4) return list.subarray(0, list.length - (list.length % 3));
  const triangles: number[] = [];
  for (let i = 0; i + 2 < list.length; i++) {
    const [a, b, c] =
      mode === 6 ? [list[0]!, list[i + 1]!, list[i + 2]!] : [list[i]!, list[i + 1]!, list[i + 2]!];
    if (a === b || b === c || c === a) continue;
    if (mode === 5 && i % 2) triangles.push(b, a, c);
    else triangles.push(a, b, c);
  }
  return Uint32Array.from(triangles);
}

/** Where the first number stands that is not below a count; -1 for none. */
function firstBeyond(list: Uint32Array, count: number): number {
  // As signed whole numbers: what is beyond either number has a sign, and signs can be gathered without a branch.
  const signed = new Int32Array(list.buffer, list.byteOffset, list.length);
  const [last, length] = [count - 1, list.length];
  let signs = 0;
  for (let i = 0; i < length; i++) signs |= signed[i]! | (last - signed[i]!);
  return signs < 0 ? list.findIndex((v) => v >= count) : -1;
}

/** Whether no number is infinite or none at all: those have all bits of the exponent, which one more carries into the sign. */
function allFinite(values: Float32Array): boolean {
  const bits = new Int32Array(values.buffer, values.byteOffset, values.length);
  const { length } = values;
  let signs = 0;
  for (let i = 0; i < length; i++) signs |= (bits[i]! & 0x7fffffff) + 0x00800000;
  return signs >= 0;
}

function checkFinite(
  values: Float32Array,
  accessor: Accessor,
  width: number,
  context: PrimitiveContext,
): void {
  if (allFinite(values)) return;
  const at = values.findIndex((value) => !Number.isFinite(value));
  fail(context, accessor, `element ${Math.floor(at / width)} is not a finite number`);
}

function fail(context: PrimitiveContext, accessor: Accessor, wrong: string): never {
  throw new FormatError(context.file, wrong, 'mend the mesh and export it again', {
    part: `accessor ${context.accessorNumber(accessor)}`,
  });
}
