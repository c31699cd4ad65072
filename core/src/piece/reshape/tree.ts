import { decomposeMatrix, type Matrix, multiplyMatrices, shearOf } from '../../math/index.js';
import { joinMeshes, transformMesh } from '../../mesh/index.js';
import { withoutLink } from '../linked-shapes.js';
import { bakeUnder } from './bake.js';
import { copyNodes } from './copy-nodes.js';
import { countUp } from './names.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';

/** Square to rounding: a node can hold it without shear. */
const SHEAR_TOLERANCE = 1e-9;

/** Give a part another parent; it stays where it stands. What a node cannot hold is baked into the vertices. */
export function reparent(work: Reshaping, { part, parent }: OperationOf<'reparent'>): OutcomeOf<'reparent'> {
  const node = work.number(part);
  const under = parent === null ? null : work.number(parent);
  if (under !== null && work.below([node])[under])
    throw new ReshapeError('A part cannot be a child of itself; choose another parent.');
  const local = work.localUnder(node, under);
  const sheared = setParent(work, node, under, local);
  const { name } = work.nodes[node]!;
  return {
    op: 'reparent',
    part: name,
    parent: under === null ? null : work.nodes[under]!.name,
    shearBaked: sheared,
  };
}

/** Put a node under a parent with a transform; what it cannot hold is baked into the vertices, and that is answered. */
export function setParent(work: Reshaping, node: number, parent: number | null, local: Matrix): boolean {
  const sheared = shearOf(local) > SHEAR_TOLERANCE;
  if (sheared) bakeUnder(work, node, local);
  const transform = sheared ? {} : decomposeMatrix(local);
  work.nodes[node] = { ...work.nodes[node]!, ...transform, parent };
  return sheared;
}

/** An empty group over the parts, at the origin, where their nearest common parent was. */
export function groupParts(work: Reshaping, { parts, name }: OperationOf<'group'>): OutcomeOf<'group'> {
  const chosen = parts.map((id) => work.number(id));
  if (chosen.length === 0) throw new ReshapeError('Choose the parts to group.');
  const inside = work.below(chosen);
  const tops = chosen.filter((i) => {
    const { parent } = work.nodes[i]!;
    return parent === null || !inside[parent];
  });
  const parents = new Set(tops.map((i) => work.nodes[i]!.parent));
  const parent = parents.size === 1 ? [...parents][0]! : null;
  const taken = new Set(work.nodes.map((node) => node.name));
  const group = work.nodes.length;
  const locals = tops.map((i) => work.localUnder(i, parent));
  work.nodes.push({
    id: work.newId(),
    name: taken.has(name) ? countUp(name, taken) : name,
    parent,
    mesh: null,
    translation: [0, 0, 0],
    rotation: [0, 0, 0, 1],
    scale: [1, 1, 1],
    bounds: null,
    aside: false,
    pivot: null,
  });
  tops.forEach((i, k) => setParent(work, i, group, locals[k]!));
  return { op: 'group', parts: tops.length, group: work.nodes[group]!.name };
}

/** Parts go with all below them. */
export function remove(work: Reshaping, { parts }: OperationOf<'delete'>): OutcomeOf<'delete'> {
  const gone = work.below(parts.map((id) => work.number(id)));
  const count = gone.reduce((sum, g) => sum + g, 0);
  const place = new Map<number, number>();
  work.nodes.forEach((_, i) => {
    if (!gone[i]) place.set(i, place.size);
  });
  work.nodes = work.nodes
    .filter((_, i) => !gone[i])
    .map((node) => ({ ...node, parent: node.parent === null ? null : place.get(node.parent)! }));
  return { op: 'delete', parts: count };
}

/** Copies with meshes of their own, where the originals stand. */
export function duplicate(work: Reshaping, { parts }: OperationOf<'duplicate'>): OutcomeOf<'duplicate'> {
  const chosen = parts.map((id) => work.number(id));
  const marks = work.below(chosen);
  const tops = chosen.filter((i) => !marks[work.nodes[i]!.parent ?? -1]);
  const { owner } = copyNodes(work, tops);
  work.changeShapes(new Set(owner.keys()), (proxy) => [
    proxy,
    { ...withoutLink(proxy), part: owner.get(proxy.part!)! },
  ]);
  return { op: 'duplicate', parts: owner.size };
}

/** Several parts become the first of them, in its own space; children of the others become its own. */
export function combine(work: Reshaping, { parts, name }: OperationOf<'combine'>): OutcomeOf<'combine'> {
  const chosen = work.parts(parts);
  if (chosen.length < 2) throw new ReshapeError('Combining needs at least two parts; choose another.');
  const [first, ...others] = chosen as [number, ...number[]];
  const world = work.world();
  const inverse = work.inverse(world[first]!, first);
  const joined = joinMeshes(
    chosen.map((i) =>
      i === first ? work.mesh(i) : transformMesh(work.mesh(i), multiplyMatrices(inverse, world[i]!)),
    ),
  );
  work.setMesh(first, joined);
  if (name) work.nodes[first] = { ...work.nodes[first]!, name };
  const gone = new Set(others);
  const firstAncestors = new Set<number>();
  for (let up = work.nodes[first]!.parent; up !== null; up = work.nodes[up]!.parent) firstAncestors.add(up);
  for (const i of others) {
    // A node with children stays as a group; a leaf goes.
    const holds = work.nodes.some((node, k) => node.parent === i && !gone.has(k));
    work.nodes[i] = { ...work.nodes[i]!, mesh: null, bounds: null };
    if (holds || firstAncestors.has(i)) gone.delete(i);
  }
  const leaving = work.nodes.flatMap((node, i) => (gone.has(i) ? [node.id] : []));
  const { name: kept } = work.nodes[first]!;
  if (leaving.length) remove(work, { op: 'delete', parts: leaving });
  return { op: 'combine', parts: chosen.length, into: kept };
}

export function setAside(
  work: Reshaping,
  { parts, aside }: OperationOf<'set-aside'>,
): OutcomeOf<'set-aside'> {
  const marks = work.below(parts.map((id) => work.number(id)));
  let count = 0;
  work.nodes = work.nodes.map((node, i) => {
    if (marks[i] && node.mesh !== null) count++;
    return marks[i] ? { ...node, aside } : node;
  });
  return { op: 'set-aside', parts: count, aside };
}
