import { normalized, rotate, subtract, type Vec3 } from '../../math/index.js';
import {
  shellsOf,
  type Shells,
  cutByPlane,
  facesWhere,
  type Mesh,
  topologyOf,
  weld,
} from '../../mesh/index.js';
import { countUp } from './names.js';
import { type FacesOfPart, type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';

/** The mesh in pieces: the first stays with the node, the others become parts beside it. */
function divide(work: Reshaping, node: number, meshes: readonly Mesh[], names?: readonly string[]): string[] {
  const source = work.nodes[node]!;
  const taken = new Set(work.nodes.map(({ name }) => name));
  work.setMesh(node, meshes[0]!);
  const made: string[] = [];
  let last = source.name;
  meshes.slice(1).forEach((mesh, i) => {
    const wanted = names?.[i];
    const name = wanted && !taken.has(wanted) ? wanted : countUp(wanted ?? last, taken);
    taken.add(name);
    if (!wanted) last = name;
    made.push(name);
    work.nodes.push({
      ...source,
      id: work.newId(),
      name,
      mesh: work.put(mesh, name),
      bounds: null,
      pivot: null,
    });
  });
  return made;
}

/** Connected shells; those smaller than `smallest` stay with the shell whose middle is nearest. */
export function splitShells(
  work: Reshaping,
  { part, smallest }: OperationOf<'split-shells'>,
): OutcomeOf<'split-shells'> {
  const node = work.number(part);
  const mesh = work.mesh(node);
  const shells = shellsOf(mesh, weld(mesh.positions));
  const metres = work.metresOf(node);
  const { owner, count } = withoutCrumbs(mesh, shells, smallest / metres);
  if (count < 2)
    throw new ReshapeError(`“${work.nodes[node]!.name}” is one shell; choose its faces instead.`);
  const sizes = new Float64Array(count);
  for (const o of owner) sizes[o]!++;
  // The largest shell stays what the part was.
  const order = [...sizes.keys()].sort((a, b) => sizes[b]! - sizes[a]! || a - b);
  const meshes = order.map((shell) =>
    facesWhere(mesh, owner.map((o) => (o === shell ? 1 : 0)) as unknown as Uint8Array),
  );
  const made = divide(work, node, meshes);
  return { op: 'split-shells', part: work.nodes[node]!.name, shells: count, made };
}

function withoutCrumbs(mesh: Mesh, shells: Shells, smallest: number): { owner: Uint32Array; count: number } {
  const boxes = Array.from({ length: shells.count }, () => ({
    min: [Infinity, Infinity, Infinity],
    max: [-Infinity, -Infinity, -Infinity],
  }));
  mesh.indices.forEach((v, i) => {
    const box = boxes[shells.ofTriangle[(i / 3) | 0]!]!;
    for (let k = 0; k < 3; k++) {
      box.min[k] = Math.min(box.min[k]!, mesh.positions[v * 3 + k]!);
      box.max[k] = Math.max(box.max[k]!, mesh.positions[v * 3 + k]!);
    }
  });
  const size = boxes.map(({ min, max }) => Math.max(...max.map((v, k) => v - min[k]!)));
  const large = [...boxes.keys()].filter((s) => size[s]! >= smallest);
  if (large.length === 0) return { owner: new Uint32Array(shells.ofTriangle.length), count: 1 };
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
  return { owner: shells.ofTriangle.map((s) => owner[s]!), count: large.length };
}

/** One part a material. */
export function splitMaterials(
  work: Reshaping,
  { part }: OperationOf<'split-materials'>,
): OutcomeOf<'split-materials'> {
  const node = work.number(part);
  const mesh = work.mesh(node);
  const materials = [...new Set(mesh.groups.filter((g) => g.count > 0).map((g) => g.material))];
  if (materials.length < 2)
    throw new ReshapeError(`“${work.nodes[node]!.name}” has one material; nothing to split.`);
  const meshes = materials.map((material) => facesWhere(mesh, facesOf(mesh, material)));
  const { name } = work.nodes[node]!;
  const names = materials.slice(1).map((m) => `${name}_${work.materials[m]?.name ?? 'plain'}`);
  const made = divide(work, node, meshes, names);
  return { op: 'split-materials', part: name, materials: materials.length, made };
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
    made.push(
      ...divide(
        work,
        node,
        [
          facesWhere(
            mesh,
            marks.map((m) => 1 - m),
          ),
          facesWhere(mesh, marks),
        ],
        name ? [name] : undefined,
      ),
    );
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

/** Every part the plane runs through is cut in two. */
export function splitPlane(
  work: Reshaping,
  { parts, point, normal, close }: OperationOf<'split-plane'>,
): OutcomeOf<'split-plane'> {
  const made: string[] = [];
  for (const node of work.parts(parts)) {
    const mesh = work.mesh(node);
    const at = work.pointInto(node, point);
    // Two more points of the plane, so that a skewed node gets the plane as it lies in its own space.
    const [u, v] = across(normal);
    const into = (offset: Vec3) =>
      subtract(work.pointInto(node, [0, 1, 2].map((k) => point[k]! + offset[k]!) as Vec3), at);
    const [a, b] = [into(u), into(v)];
    let own = normalized([a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]);
    const ahead = into(normal);
    if (own[0] * ahead[0] + own[1] * ahead[1] + own[2] * ahead[2] < 0) own = [-own[0], -own[1], -own[2]];
    const { front, back } = cutByPlane(
      mesh,
      { point: at, normal: own },
      { close: close && topologyOf(mesh).closed },
    );
    if (front.indices.length === 0 || back.indices.length === 0) continue;
    made.push(...divide(work, node, [back, front]));
  }
  if (made.length === 0) throw new ReshapeError('The plane does not cross the piece; move it.');
  return { op: 'split-plane', made };
}

function across(normal: Readonly<Vec3>): [Vec3, Vec3] {
  const n = normalized(normal);
  const helper: Vec3 = Math.abs(n[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
  const u = normalized([
    n[1] * helper[2] - n[2] * helper[1],
    n[2] * helper[0] - n[0] * helper[2],
    n[0] * helper[1] - n[1] * helper[0],
  ]);
  const half = Math.SQRT1_2;
  return [u, rotate([n[0] * half, n[1] * half, n[2] * half, half], u)];
}
