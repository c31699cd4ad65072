import { countUp } from './names.js';
import type { Reshaping } from './reshaping.js';

/** Copies of nodes with all below them, where those stand: ids of their tops, and of each copy by that of its original. */
export function copyNodes(
  work: Reshaping,
  tops: readonly number[],
): { tops: string[]; owner: Map<string, string> } {
  const marks = work.below(tops);
  const taken = new Set(work.nodes.map((node) => node.name));
  const copies = new Map<number, number>();
  const owner = new Map<string, string>();
  const originals = work.nodes.flatMap((_, i) => (marks[i] ? [i] : []));
  for (const i of originals) {
    const node = work.nodes[i]!;
    const name = countUp(node.name, taken);
    taken.add(name);
    copies.set(i, work.nodes.length);
    const parent = node.parent !== null && copies.has(node.parent) ? copies.get(node.parent)! : node.parent;
    const id = work.newId();
    owner.set(node.id, id);
    // The pivot goes along, unlocked: a copy is free.
    work.nodes.push({ ...node, id, name, parent, pivot: node.pivot && { ...node.pivot, locked: false } });
  }
  const made = new Set(owner.values());
  work.nodes = work.nodes.map((node) => {
    const leader = node.pivot?.follows === undefined ? undefined : owner.get(node.pivot.follows);
    return made.has(node.id) && leader !== undefined
      ? { ...node, pivot: { ...node.pivot!, follows: leader } }
      : node;
  });
  return { tops: tops.map((i) => work.nodes[copies.get(i)!]!.id), owner };
}
