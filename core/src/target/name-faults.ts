import { legalName, nameFault, nameRulesFor } from '../naming/index.js';
import { countUp, type Edit } from '../piece/index.js';
import type { Plan, PlannedNode } from './plan.js';
import { nameRulesOf } from './proxy-names.js';

/** What keeps the names of a plan from its target's files, and what mends that. */
export interface NameFaults {
  /** sentences, the first of each kind of fault before the rest */
  says: string[];
  fixes: { label: string; edit: Edit }[];
}

/** A name in a sentence: of a very long one its beginning says enough. */
const quoted = (name: string): string => `“${name.length > 60 ? `${name.slice(0, 48)}…` : name}”`;

const MESH_STEP = 'Change the mesh name in step 6, Names.';
const partStep = (name: string) => `Change the name of ${quoted(name)} in step 2, Parts.`;

/** Names that the target does not take, that it does not tell apart, or that file systems do not. */
export function nameFaultsOf(plan: Plan): NameFaults {
  const { profile, document, files } = plan;
  const says: string[] = [];
  const wrong = new Set<PlannedNode>();
  const rules = nameRulesOf(profile);
  const fold = (name: string) => (profile.names.caseMatters ? name : name.toLowerCase());
  for (const { nodes } of files) {
    for (const node of nodes) {
      const { name, shapes } = node;
      const fault = nameFault(name, nameRulesFor(rules, shapes.length));
      if (!fault) continue;
      says.push(
        `${node.node === null ? `${fault} ${MESH_STEP}` : `${quoted(name)}: ${lowered(fault)} ${partStep(name)}`}`,
      );
      wrong.add(node);
    }
    for (const same of alike(nodes, ({ name }) => fold(name))) {
      says.push(
        alikeText(
          same.map(({ name }) => name),
          'which the target does not tell apart',
        ),
      );
      for (const node of same.slice(1)) wrong.add(node);
    }
  }
  // File systems do not all tell capitals apart, whatever the target does.
  for (const same of alike(files, ({ stem }) => stem.toLowerCase())) {
    says.push(
      alikeText(
        same.map(({ stem }) => stem),
        'which file systems do not all tell apart',
      ),
    );
    for (const { nodes } of same.slice(1)) wrong.add(nodes[0]!);
  }
  return { says, fixes: fixesOf(plan, wrong, document.meshName) };
}

/** Groups of two and more that are the same by a key, in the order of their first. */
function alike<Thing>(things: readonly Thing[], key: (thing: Thing) => string): Thing[][] {
  const groups = new Map<string, Thing[]>();
  for (const thing of things) groups.set(key(thing), [...(groups.get(key(thing)) ?? []), thing]);
  return [...groups.values()].filter((group) => group.length > 1);
}

/** @param untold what happens to names that differ by capitals only */
function alikeText(names: readonly string[], untold: string): string {
  const [name, ...others] = names as [string, ...string[]];
  const other = others.find((each) => each !== name);
  const many = names.length === 2 ? 'Two parts' : `${names.length} parts`;
  const which = names.length === 2 ? 'one of them' : 'all but one';
  return other === undefined
    ? `${many} are named ${quoted(name)}. Change ${which} in step 2, Parts.`
    : `${quoted(name)} and ${quoted(other)} differ only by capitals, ${untold}. Change ${which} in step 2, Parts.`;
}

/** A sentence that goes on after a colon. */
const lowered = (sentence: string): string => sentence[0]!.toLowerCase() + sentence.slice(1);

/** Names that the target takes, each its own, for all that are wrong. */
function fixesOf(
  { profile, document, files }: Plan,
  wrong: ReadonlySet<PlannedNode>,
  meshName: string,
): NameFaults['fixes'] {
  const rules = nameRulesOf(profile);
  const taken = new Set(
    files.flatMap(({ nodes }) =>
      nodes.filter((node) => !wrong.has(node)).map(({ name }) => name.toLowerCase()),
    ),
  );
  const fixes: NameFaults['fixes'] = [];
  const names: { part: string; name: string }[] = [];
  for (const node of wrong) {
    const legal = legalName(node.name, nameRulesFor(rules, node.shapes.length));
    if (node.node === null) {
      if (legal !== meshName)
        fixes.push({ label: `Name the mesh ${legal}`, edit: { kind: 'rename-mesh', name: legal } });
      taken.add(legal.toLowerCase());
      continue;
    }
    let own = legal;
    while (taken.has(own.toLowerCase())) own = countUp(own, new Set([own]));
    taken.add(own.toLowerCase());
    names.push({ part: document.nodes[node.node]!.id, name: own });
  }
  if (names.length)
    fixes.push({
      label: names.length === 1 ? `Name it ${names[0]!.name}` : `Rename ${names.length} parts`,
      edit: { kind: 'rename-parts', names },
    });
  return fixes;
}
