import { add, axesAcross, cross, dot, normalized, scaled, subtract, type Vec3 } from '../../math/index.js';
import { shellsOf, cutByPlane, facesWhere, type Mesh, topologyOf, weld } from '../../mesh/index.js';
import { cutShape } from '../../edit-shape/index.js';
import { withoutLink } from '../linked-shapes.js';
import { countUp } from './names.js';
import { type FacesOfPart, type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';

/** The mesh in pieces: the first stays with the node, the others become parts beside it. */
function divide(
  work: Reshaping,
  node: number,
  meshes: readonly Mesh[],
  names?: readonly string[],
): { id: string; name: string }[] {
  const source = work.nodes[node]!;
  const taken = new Set(work.nodes.map(({ name }) => name));
  work.setMesh(node, meshes[0]!);
  const made: { id: string; name: string }[] = [];
  let last = source.name;
  meshes.slice(1).forEach((mesh, i) => {
    const wanted = names?.[i];
    const name = wanted && !taken.has(wanted) ? wanted : countUp(wanted ?? last, taken);
    taken.add(name);
    if (!wanted) last = name;
    const id = work.newId();
    made.push({ id, name });
    work.nodes.push({
      ...source,
      id,
      name,
      mesh: work.put(mesh, name),
      bounds: null,
      pivot: null,
    });
  });
  return made;
}

/**
 * Connected shells, of every part named; those smaller than `smallest` metres stay with the shell whose middle is
 * nearest.
 */
export function splitShells(
  work: Reshaping,
  { parts, smallest }: OperationOf<'split-shells'>,
): OutcomeOf<'split-shells'> {
  const made: string[] = [];
  const names: string[] = [];
  let shells = 0;
  let specks = 0;
  for (const node of work.parts(parts)) {
    const mesh = work.mesh(node);
    const { owner, count, small } = shellsToSplit(mesh, smallest / work.metresOf(node));
    if (count < 2) continue;
    names.push(work.nodes[node]!.name);
    shells += count;
    specks += small.reduce((sum, s) => sum + s, 0);
    const sizes = new Float64Array(count);
    for (const o of owner) sizes[o]!++;
    // The largest shell stays what the part was.
    const order = [...sizes.keys()].sort((a, b) => sizes[b]! - sizes[a]! || a - b);
    const meshes = order.map((shell) =>
      facesWhere(
        mesh,
        Uint8Array.from(owner, (o) => (o === shell ? 1 : 0)),
      ),
    );
    made.push(...divide(work, node, meshes).map(({ name }) => name));
  }
  if (made.length === 0)
    throw new ReshapeError(`${oneOf(work, parts)} is one shell; choose its faces instead.`);
  return { op: 'split-shells', parts: names, shells, specks, made };
}

/** What an operation was asked of, where nothing came of it. */
const oneOf = (work: Reshaping, ids: readonly string[]): string =>
  ids.length === 1 ? `“${work.nodes[work.number(ids[0]!)]!.name}”` : 'Each of these parts';

/** What a mesh falls into by its shells. */
export interface ShellsToSplit {
  /** [t]: the piece that each triangle goes to */
  owner: Uint32Array;
  /** how many pieces there are */
  count: number;
  /** [t]: the shell that each triangle belongs to */
  ofTriangle: Uint32Array;
  /** [shells]: 1 for those that are too small to be a piece, and go with the nearest one */
  small: Uint8Array;
}

/** @param smallest longest side below which a shell is no piece, in the units of the mesh */
export function shellsToSplit(mesh: Mesh, smallest: number): ShellsToSplit {
  const shells = shellsOf(mesh, weld(mesh.positions));
  const { ofTriangle } = shells;
  const boxes = Array.from({ length: shells.count }, () => ({
    min: [Infinity, Infinity, Infinity],
    max: [-Infinity, -Infinity, -Infinity],
  }));
  mesh.indices.forEach((v, i) => {
    const box = boxes[ofTriangle[(i / 3) | 0]!]!;
    for (let k = 0; k < 3; k++) {
      box.min[k] = Math.min(box.min[k]!, mesh.positions[v * 3 + k]!);
      box.max[k] = Math.max(box.max[k]!, mesh.positions[v * 3 + k]!);
    }
  });
  const size = boxes.map(({ min, max }) => Math.max(...max.map((v, k) => v - min[k]!)));
  const large = [...boxes.keys()].filter((s) => size[s]! >= smallest);
  const small = Uint8Array.from(size, (side) => (side < smallest ? 1 : 0));
  if (large.length === 0) return { owner: new Uint32Array(ofTriangle.length), count: 1, ofTriangle, small };
  const number = new Map(large.map((s, i) => [s, i]));
  const away = (a: number, b: number) =>
    Math.hypot(
      ...[0, 1, 2].map((k) =>
        Math.max(0, boxes[a]!.min[k]! - boxes[b]!.max[k]!, boxes[b]!.min[k]! - boxes[a]!.max[k]!),
      ),
    );
  const owner = boxes.map((_, s) => {
    const own = number.get(s);
    if (own !== undefined) return own;
    return number.get(large.reduce((best, other) => (away(s, other) < away(s, best) ? other : best)))!;
  });
  return {
    owner: ofTriangle.map((s) => owner[s]!),
    count: large.length,
    ofTriangle,
    small,
  };
}

/** One part a material, of every part named. */
export function splitMaterials(
  work: Reshaping,
  { parts }: OperationOf<'split-materials'>,
): OutcomeOf<'split-materials'> {
  const made: string[] = [];
  const split: string[] = [];
  const all = new Set<number>();
  for (const node of work.parts(parts)) {
    const mesh = work.mesh(node);
    const materials = [...new Set(mesh.groups.filter((g) => g.count > 0).map((g) => g.material))];
    if (materials.length < 2) continue;
    for (const material of materials) all.add(material);
    const meshes = materials.map((material) => facesWhere(mesh, facesOf(mesh, material)));
    const { name } = work.nodes[node]!;
    split.push(name);
    const names = materials.slice(1).map((m) => `${name}_${work.materials[m]?.name ?? 'plain'}`);
    made.push(...divide(work, node, meshes, names).map((each) => each.name));
  }
  if (made.length === 0) throw new ReshapeError(`${oneOf(work, parts)} has one material; nothing to split.`);
  return { op: 'split-materials', parts: split, materials: all.size, made };
}

function facesOf(mesh: Mesh, material: number): Uint8Array {
  const marks = new Uint8Array(mesh.indices.length / 3);
  for (const group of mesh.groups)
    if (group.material === material) marks.fill(1, group.start, group.start + group.count);
  return marks;
}

/** The chosen faces become a part of their own, one for each part they are on. */
export function splitFaces(
  work: Reshaping,
  { faces, name }: OperationOf<'split-faces'>,
): OutcomeOf<'split-faces'> {
  const made: string[] = [];
  for (const { node, marks, all } of marked(work, faces)) {
    if (all) continue;
    const mesh = work.mesh(node);
    const rest = marks.map((m) => 1 - m);
    const meshes = [facesWhere(mesh, rest), facesWhere(mesh, marks)];
    made.push(...divide(work, node, meshes, name ? [name] : undefined).map((each) => each.name));
  }
  if (made.length === 0) throw new ReshapeError('The chosen faces are a whole part already; choose fewer.');
  return { op: 'split-faces', made };
}

/** Marks of the faces an operation names, or of every face of the parts it names. */
export function facesNamed(
  work: Reshaping,
  { parts = [], faces }: { parts?: readonly string[]; faces?: readonly FacesOfPart[] },
): { node: number; marks: Uint8Array }[] {
  if (faces) return marked(work, faces);
  return work
    .parts(parts)
    .map((node) => ({ node, marks: new Uint8Array(work.mesh(node).indices.length / 3).fill(1) }));
}

/** [t] marks of chosen faces on each part. @throws ReshapeError when nothing is chosen */
export function marked(
  work: Reshaping,
  faces: readonly FacesOfPart[],
): { node: number; marks: Uint8Array; all: boolean }[] {
  if (faces.every((each) => each.faces.length === 0))
    throw new ReshapeError('No faces are chosen; choose some in the view.');
  return faces
    .filter((each) => each.faces.length > 0)
    .map(({ part, faces: chosen }) => {
      const node = work.number(part);
      const marks = new Uint8Array(work.mesh(node).indices.length / 3);
      for (const face of chosen) if (face < marks.length) marks[face] = 1;
      return { node, marks, all: marks.every((m) => m === 1) };
    });
}

/** A plane of the piece's space as it lies in a node's own, however that is skewed. */
export function planeInto(
  work: Reshaping,
  node: number,
  point: Readonly<Vec3>,
  normal: Readonly<Vec3>,
): { point: Vec3; normal: Vec3 } {
  const at = work.pointInto(node, point);
  const [u, v] = axesAcross(normalized(normal));
  const into = (offset: Vec3) => subtract(work.pointInto(node, add(point, offset)), at);
  const own = normalized(cross(into(u), into(v)));
  return { point: at, normal: dot(own, into([...normal])) < 0 ? scaled(own, -1) : own };
}

/** Every part the plane runs through is cut in two; shapes that belong to it are divided with it. */
export function splitPlane(
  work: Reshaping,
  { parts, point, normal, close }: OperationOf<'split-plane'>,
): OutcomeOf<'split-plane'> {
  const made: string[] = [];
  const beyond = new Map<string, string>();
  for (const node of work.parts(parts)) {
    const mesh = work.mesh(node);
    const { front, back } = cutByPlane(mesh, planeInto(work, node, point, normal), {
      close: close && topologyOf(mesh).closed,
    });
    if (front.indices.length === 0 || back.indices.length === 0) continue;
    for (const { id, name } of divide(work, node, [back, front])) {
      made.push(name);
      beyond.set(work.nodes[node]!.id, id);
    }
  }
  if (made.length === 0) throw new ReshapeError('The plane does not cross the piece; move it.');
  work.changeShapes(new Set(beyond.keys()), (proxy) => {
    const { below, above } = cutShape(proxy.shape, { point, normal });
    if (below === proxy.shape) return [proxy];
    const halves = [below && { ...withoutLink(proxy), shape: below }];
    halves.push(above && { ...withoutLink(proxy), shape: above, part: beyond.get(proxy.part!)! });
    return halves.filter((half) => half !== null);
  });
  return { op: 'split-plane', made };
}
