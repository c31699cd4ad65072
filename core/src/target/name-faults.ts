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
    const taken = new Map<string, PlannedNode>();
    for (const node of nodes) {
      const { name, shapes } = node;
      const fault = nameFault(name, nameRulesFor(rules, shapes.length));
      if (fault) {
        says.push(
          `${node.node === null ? `${fault} ${MESH_STEP}` : `${quoted(name)}: ${lowered(fault)} ${partStep(name)}`}`,
        );
        wrong.add(node);
      }
      const other = taken.get(fold(name));
      if (other) {
        says.push(
          other.name === name
            ? `Two parts are named ${quoted(name)}. Change one of them in step 2, Parts.`
            : `${quoted(other.name)} and ${quoted(name)} differ only by capitals, which the target does not tell apart. Change one of them in step 2, Parts.`,
        );
        wrong.add(node);
      } else taken.set(fold(name), node);
    }
  }
  // File systems do not all tell capitals apart, whatever the target does.
  const stems = new Map<string, string>();
  for (const { stem, nodes } of files) {
    const other = stems.get(stem.toLowerCase());
    if (other === undefined) {
      stems.set(stem.toLowerCase(), stem);
      continue;
    }
    says.push(
      other === stem
        ? `Two parts are named ${quoted(stem)}. Change one of them in step 2, Parts.`
        : `The files of ${quoted(other)} and ${quoted(stem)} differ only by capitals. Change one of them in step 2, Parts.`,
    );
    wrong.add(nodes[0]!);
  }
  return { says, fixes: fixesOf(plan, wrong, document.meshName) };
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
