import { sizeOf } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import type { PieceDocument } from './document.js';
import type { PartSelector } from './edits/intent.js';
import { artNodes, nodeById, partBounds } from './geometry.js';
import { materialUses } from './material-use.js';
import { largestPart } from './nodes.js';
import { matchesWildcards } from './wildcards.js';

type Where = Extract<PartSelector, { by: 'where' }>;

/**
 * Ids of the parts of the art that a selector means, in the order of the tree; by name, groups and parts set aside too.
 *
 * @param meshOf asked for only where a material is said
 */
export function selectParts(
  document: PieceDocument,
  selector: PartSelector,
  meshOf: (id: string) => Mesh,
): string[] {
  const { nodes } = document;
  if (selector.by === 'name')
    return nodes.flatMap(({ id, name }) => (selector.names.includes(name) ? [id] : []));
  const ids = artNodes(nodes).map((i) => nodes[i]!.id);
  if (selector.by === 'all') return ids;
  const tests = testsOf(document, selector, meshOf);
  return ids.filter((id) => tests.every((test) => test(id)) !== (selector.except === true));
}

function testsOf(
  document: PieceDocument,
  { name, material, minMetres, maxMetres, minShells, maxShells, role }: Where,
  meshOf: (id: string) => Mesh,
): ((id: string) => boolean)[] {
  const node = (id: string) => document.nodes[nodeById(document, id)]!;
  const side = (id: string) => Math.max(...sizeOf(partBounds(document, nodeById(document, id))));
  const shells = (id: string) => document.meshes[node(id).mesh!]!.facts.shells;
  const tests: ((id: string) => boolean)[] = [];
  if (name !== undefined) tests.push((id) => matchesWildcards(node(id).name, name));
  if (material !== undefined) {
    const { uses } = materialUses(document, meshOf);
    const having = new Set(
      document.materials.flatMap((each, i) => (matchesWildcards(each.name, material) ? uses[i]!.parts : [])),
    );
    tests.push((id) => having.has(id));
  }
  if (minMetres !== undefined) tests.push((id) => side(id) >= minMetres);
  if (maxMetres !== undefined) tests.push((id) => side(id) <= maxMetres);
  if (minShells !== undefined) tests.push((id) => shells(id) >= minShells);
  if (maxShells !== undefined) tests.push((id) => shells(id) <= maxShells);
  if (role === 'largest') tests.push((id) => id === largestPart(document));
  else if (role === 'hinged' || role === 'fixed')
    tests.push((id) => (node(id).pivot?.hinge !== undefined) === (role === 'hinged'));
  else if (role !== undefined)
    tests.push((id) => (node(id).noCollision === undefined) === (role === 'colliding'));
  return tests;
}
