import { diagonalOf, distance, isEmpty, type Vec3 } from '../math/index.js';
import { legalName, nameFault, nameRulesFor } from '../naming/index.js';
import {
  artBounds,
  familyDrift,
  familyPivot,
  memberOf,
  type PieceDocument,
  type PivotAnchor,
  pivotPlace,
  pivotEdit,
} from '../piece/index.js';
import { proxyFindings } from './proxy-findings.js';
import type { CheckRules, Finding, PieceSurroundings } from './finding.js';
import { intakeFindings } from './intake-findings.js';
import { partFindings, sizeFindings } from './tree-findings.js';
import { trialFindings } from './trial-findings.js';
import { counted, lengthText, listText } from '../math/figures.js';

/** Everything there is to say about the piece, in the order of the steps. */
export function findingsOf(
  document: PieceDocument,
  rules: CheckRules,
  around: PieceSurroundings = {},
): Finding[] {
  return [
    ...treeFindings(document, rules),
    ...pivotFindings(document, around),
    ...proxyFindings(document, rules, around),
    ...nameFindings(document, rules, around.otherMeshNames ?? []),
    ...trialFindings(document, rules, around),
    ...deliveryFindings(around),
  ];
}

/** What findings about the tree and its meshes depend on. */
const TREE_FIELDS = [
  'nodes',
  'meshes',
  'whole',
  'materials',
  'pictures',
  'source',
  'unit',
  'placing',
  'proxies',
  'leaves',
] as const satisfies readonly (keyof PieceDocument)[];
const lastOfTree = new WeakMap<
  PieceDocument['nodes'],
  { document: PieceDocument; rules: CheckRules; findings: Finding[] }
>();

/** Findings of intake, parts and size: looked for anew only when something they depend on has changed. */
function treeFindings(document: PieceDocument, rules: CheckRules): readonly Finding[] {
  const last = lastOfTree.get(document.nodes);
  if (
    last &&
    TREE_FIELDS.every((field) => last.document[field] === document[field]) &&
    last.rules.names === rules.names &&
    last.rules.dropsConstants === rules.dropsConstants
  )
    return last.findings;
  const findings = [...intakeFindings(document), ...partFindings(document, rules), ...sizeFindings(document)];
  lastOfTree.set(document.nodes, { document, rules, findings });
  return findings;
}

/** A pivot farther than this from where its family has it, or turned by more, has drifted. */
const FAMILY_DRIFT_METRES = 1e-4;
const FAMILY_DRIFT_DEGREES = 0.01;
export const hasDrifted = ({ metres, degrees }: { metres: number; degrees: number }): boolean =>
  metres > FAMILY_DRIFT_METRES || degrees > FAMILY_DRIFT_DEGREES;

const LAID = new Set<PivotAnchor>([
  'origin',
  'numeric',
  'hinge',
  'family',
  'vertex',
  'edge',
  'face',
  'selection',
]);

function pivotFindings(document: PieceDocument, { family }: PieceSurroundings): Finding[] {
  const bounds = artBounds(document);
  if (isEmpty(bounds)) return [];
  const p = document.pivot.position;
  const findings: Finding[] = [];
  const nearest = p.map((value, i) => Math.min(Math.max(value, bounds.min[i]!), bounds.max[i]!)) as Vec3;
  const away = distance(p, nearest);
  if (away > diagonalOf(bounds) * 0.01 && !LAID.has(document.pivot.anchor)) {
    findings.push({
      id: 'pivot-outside',
      step: 'pivot',
      severity: 'warning',
      says: `The pivot lies ${lengthText(away)} outside the piece.`,
      why: 'The piece is grabbed, snapped and turned about a point far from it. Placed at a spot in the level it appears somewhere else.',
      fix: {
        label: 'Move to the base centre',
        edit: pivotEdit('base-centre', pivotPlace(document, 'base-centre')),
      },
    });
  }
  if (document.family !== null && family) {
    const drift = familyDrift(memberOf(document), family.share);
    if (hasDrifted(drift)) {
      const turned =
        drift.degrees > FAMILY_DRIFT_DEGREES ? ` and turned by ${drift.degrees.toFixed(2)}°` : '';
      const pivot = familyPivot(document, family.share);
      findings.push({
        id: 'family-drift',
        step: 'pivot',
        severity: 'warning',
        says: `The pivot is ${lengthText(drift.metres)} from where ${family.from} of its family has it${turned}${document.pivot.locked ? '; it is locked and stays' : ''}.`,
        why: 'Variants of a family replace each other in place. With pivots apart the piece jumps when one is put for the other.',
        ...(document.pivot.locked
          ? {}
          : {
              fix: {
                label: 'Use the family’s pivot',
                edit: { kind: 'set-pivots', pivots: [{ part: null, pivot }] },
              } satisfies Finding['fix'],
            }),
      });
    }
  }
  return findings;
}

function nameFindings(
  document: PieceDocument,
  rules: CheckRules,
  otherMeshNames: readonly string[],
): Finding[] {
  const names = nameRulesFor(rules.names, document.proxies.length);
  const fault = nameFault(document.meshName, names);
  const why =
    'The importer finds collision by the whole name of the mesh. One wrong character, and the shapes arrive as visible geometry.';
  if (fault) {
    const name = legalName(document.meshName, names);
    return [
      {
        id: 'name-illegal',
        step: 'names',
        severity: 'error',
        says: fault,
        why,
        fix: { label: `Name it ${name}`, edit: { kind: 'rename-mesh', name } },
      },
    ];
  }
  if (otherMeshNames.includes(document.meshName)) {
    return [
      {
        id: 'name-taken',
        step: 'names',
        severity: 'warning',
        says: `Another piece of the yard is named ${document.meshName} too.`,
        why: 'The second delivery replaces the first in the level. Copies that differ a little get mixed up.',
      },
    ];
  }
  return targetNameFindings(rules);
}

/** Names of parts, and names for the other targets: those that take them can be delivered for. */
function targetNameFindings({ namesRefused }: CheckRules): Finding[] {
  if (!namesRefused?.refused.length) return [];
  const { refused, fixes, targets } = namesRefused;
  const all = refused.length === targets;
  const whose = targets === 1 ? '' : `${listText(refused.map(({ target }) => `“${target}”`))}: `;
  const [first, ...more] = refused[0]!.says;
  const finding: Omit<Finding, 'id'> = {
    step: 'names',
    severity: all ? 'error' : 'warning',
    says: `${whose}${first}${more.length ? ` And ${counted(more.length, 'more name')}.` : ''}`,
    why: 'A name that a target does not take becomes another one in the level, or none. Shapes lose their art by it, and the next delivery its place.',
  };
  // One finding carries one fix: the mesh’s name and the parts’ are two.
  return fixes.length
    ? fixes.map((fix, i) => ({ ...finding, id: `names-refused ${i}`, fix }))
    : [{ ...finding, id: 'names-refused' }];
}

function deliveryFindings({ deliveries = [], targets = [] }: PieceSurroundings): Finding[] {
  const missing = deliveries.length
    ? targets.filter((name) => !deliveries.some(({ target }) => target === name))
    : [];
  const differ = deliveries.filter(({ agreed }) => !agreed);
  const stale = deliveries.filter(({ agreed, changes }) => agreed && changes.length);
  return [
    ...(missing.length
      ? [
          {
            id: 'delivery-missing',
            step: 'delivery',
            severity: 'warning',
            says: `Delivered for ${counted(deliveries.length, 'target')} of ${targets.length}, not yet for ${listText(missing.map((name) => `“${name}”`))}.`,
            why: 'Levels of the other targets have an older piece, or none. Leave a target out in Rules if nothing of this yard goes there.',
          } satisfies Finding,
        ]
      : []),
    ...differ.map(({ target }): Finding => ({
      id: `read-back-differs ${target}`,
      step: 'delivery',
      severity: 'error',
      says: `What was read back from the last delivery for ${target} is not what was drawn.`,
      why: 'The level would get something else than this card says. The read-back names each point.',
    })),
    ...stale.map(({ target, changes }): Finding => ({
      id: `delivery-stale ${target}`,
      step: 'delivery',
      severity: 'warning',
      says: `Changed since it was delivered for ${target}: ${sentencesText(changes)}`,
      why: 'The level still has the older one. Deliver again under the same name and it is replaced in place.',
    })),
  ];
}

/** The first of some sentences, and how many more there are. */
const sentencesText = (sentences: readonly string[]): string =>
  [
    sentences[0],
    ...(sentences.length > 1 ? [`And ${counted(sentences.length - 1, 'more change')}.`] : []),
  ].join(' ');
