import { mergeGroups, type Mesh, splitByMarks } from '../../mesh/index.js';
import { plainMaterial } from '../scene.js';
import { countUp } from './names.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';
import { facesNamed } from './split.js';

const renumbered = (mesh: Mesh, number: (material: number) => number): Mesh =>
  mergeGroups({
    ...mesh,
    groups: mesh.groups.map((g) => ({ ...g, material: g.material < 0 ? -1 : number(g.material) })),
  });

function renumberAll(work: Reshaping, number: (material: number) => number): void {
  work.nodes.forEach((node, i) => {
    if (node.mesh === null) return;
    const mesh = work.mesh(i);
    const changed = renumbered(mesh, number);
    if (changed.groups.some((g, k) => g.material !== mesh.groups[k]?.material)) work.setMesh(i, changed);
  });
}

function known(work: Reshaping, material: number): void {
  if (!work.materials[material]) throw new ReshapeError('The material is no longer there; choose again.');
}

/** Faces of several materials take one; the others go. */
export function mergeMaterials(
  work: Reshaping,
  { from, to }: OperationOf<'merge-materials'>,
): OutcomeOf<'merge-materials'> {
  [...from, to].forEach((m) => known(work, m));
  const gone = new Set(from.filter((m) => m !== to));
  const kept = work.materials.flatMap((_, m) => (gone.has(m) ? [] : [m]));
  const { name } = work.materials[to]!;
  renumberAll(work, (m) => kept.indexOf(gone.has(m) ? to : m));
  work.materials = kept.map((m) => work.materials[m]!);
  return { op: 'merge-materials', materials: gone.size, into: name };
}

export function orderMaterials(
  work: Reshaping,
  { order }: OperationOf<'order-materials'>,
): OutcomeOf<'order-materials'> {
  const complete = order.length === work.materials.length && new Set(order).size === order.length;
  if (!complete || order.some((m) => !work.materials[m]))
    throw new ReshapeError('The order does not name every material once.');
  renumberAll(work, (m) => order.indexOf(m));
  work.materials = order.map((m) => work.materials[m]!);
  return { op: 'order-materials', names: work.materials.map(({ name }) => name) };
}

/** A plain material after the others. */
export function addMaterial(
  work: Reshaping,
  { name }: OperationOf<'add-material'>,
): OutcomeOf<'add-material'> {
  const taken = new Set(work.materials.map((each) => each.name));
  const wanted = name ?? 'material';
  const own = taken.has(wanted) ? countUp(wanted, taken) : wanted;
  work.materials = [...work.materials, plainMaterial(own)];
  return { op: 'add-material', material: own };
}

/** Materials that no face has go. */
export function removeMaterials(
  work: Reshaping,
  { materials }: OperationOf<'remove-materials'>,
): OutcomeOf<'remove-materials'> {
  for (const material of materials) known(work, material);
  const gone = new Set(materials);
  for (const [i, node] of work.nodes.entries()) {
    if (node.mesh === null) continue;
    const used = work.mesh(i).groups.find((group) => group.count > 0 && gone.has(group.material));
    if (used)
      throw new ReshapeError(
        `“${work.materials[used.material]!.name}” is used by “${node.name}”; merge it into another one instead.`,
      );
  }
  const kept = work.materials.flatMap((_, m) => (gone.has(m) ? [] : [m]));
  renumberAll(work, (m) => kept.indexOf(m));
  work.materials = kept.map((m) => work.materials[m]!);
  return { op: 'remove-materials', materials: gone.size };
}

/** Parts or faces get a material; number `materials.length` is a new, plain one. It is never given to what was not named. */
export function assignMaterial(
  work: Reshaping,
  { material, parts, faces }: OperationOf<'assign-material'>,
): OutcomeOf<'assign-material'> {
  if (!parts?.length && !faces?.length)
    throw new ReshapeError('Choose the parts or faces that take the material.');
  if (material === work.materials.length)
    work.materials = [...work.materials, plainMaterial(`material ${material + 1}`)];
  known(work, material);
  let count = 0;
  for (const { node, marks } of facesNamed(work, { parts, faces })) {
    count += marks.reduce((sum, m) => sum + m, 0);
    work.setMesh(node, splitByMarks(work.mesh(node), marks, material));
  }
  return { op: 'assign-material', faces: count, material: work.materials[material]!.name };
}
