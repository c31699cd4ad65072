import type { CheckRules } from '../check/index.js';
import { applyEdit, type Edit, type PieceDocument } from '../piece/index.js';
import { nameFaultsOf, planDelivery, PlanError, type TargetProfile } from '../target/index.js';
import { checkRulesFor, defaultTarget, targetsOf } from './of-rules.js';
import type { YardRules } from './yard-rules.js';

/** Which targets of a yard do not take the names of a piece. */
export interface NamesForTargets {
  refused: { target: string; says: string[] }[];
  /** names that every target takes, in one step for the parts and one for the mesh */
  fixes: { label: string; edit: Edit }[];
}

/** A name that one target takes can be too long for another: names are mended until all take them, so often at most. */
const MOST_ROUNDS = 3;

/** Trees of more nodes are asked about for the default target alone: the others are when they are delivered for. */
const MOST_NODES = 2000;

type TargetRules = Pick<YardRules, 'profiles' | 'targets'>;

/** What was asked last: a piece is judged at every change, and few of them touch a name. */
let last: { asked: readonly unknown[]; answer: NamesForTargets } | undefined;

/** What the targets of a yard say of a piece's names, and names that suit all of them. */
export function namesForTargets(document: PieceDocument, rules: TargetRules): NamesForTargets {
  const { nodes, meshName, leaves, proxies } = document;
  const owners = new Set(proxies.map(({ part }) => part));
  // A shape of no part goes with the nearest: which that is can change with every shape.
  const loose = owners.has(undefined) ? proxies : null;
  const asked = [rules, nodes, meshName, leaves, loose, [...owners].join()];
  if (!last || !asked.every((each, i) => each === last!.asked[i]))
    last = { asked, answer: answerFor(document, rules) };
  return last.answer;
}

function answerFor(document: PieceDocument, rules: TargetRules): NamesForTargets {
  const all = targetsOf(rules);
  const profiles = document.nodes.length > MOST_NODES ? all.slice(0, 1) : all;
  const refused = profiles.flatMap((profile) => {
    const { says } = faultsFor(document, profile);
    return says.length ? [{ target: profile.name, says }] : [];
  });
  return { refused, fixes: refused.length ? fixesFor(document, profiles) : [] };
}

function faultsFor(document: PieceDocument, profile: TargetProfile): ReturnType<typeof nameFaultsOf> {
  try {
    return nameFaultsOf(planDelivery(document, profile));
  } catch (error) {
    // What cannot be laid out is said where it is delivered.
    if (error instanceof PlanError) return { says: [], fixes: [] };
    throw error;
  }
}

function fixesFor(document: PieceDocument, profiles: readonly TargetProfile[]): NamesForTargets['fixes'] {
  let mended = document;
  let before: PieceDocument | null = null;
  for (let round = 0; round < MOST_ROUNDS && mended !== before; round++) {
    before = mended;
    for (const profile of profiles)
      for (const { edit } of faultsFor(mended, profile).fixes) mended = applyEdit(mended, edit);
  }
  const names = mended.nodes.flatMap(({ id, name }, i) =>
    name === document.nodes[i]!.name ? [] : [{ part: id, name }],
  );
  const { meshName } = mended;
  return [
    ...(meshName === document.meshName
      ? []
      : [{ label: `Name the mesh ${meshName}`, edit: { kind: 'rename-mesh', name: meshName } as const }]),
    ...(names.length
      ? [
          {
            label: names.length === 1 ? `Name it ${names[0]!.name}` : `Rename ${names.length} parts`,
            edit: { kind: 'rename-parts', names } as const,
          },
        ]
      : []),
  ];
}

/** All that findings ask of a yard's rules for all of its targets; shapes are judged for the default one. */
export const checkRulesOfYard = (document: PieceDocument, rules: YardRules): CheckRules => ({
  ...checkRulesFor(document, rules, defaultTarget(rules)),
  namesRefused: { targets: rules.targets.length, ...namesForTargets(document, rules) },
});
