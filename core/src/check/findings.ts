import { diagonalOf, distance, isEmpty, PLAUSIBLE_METRES, sizeOf, type Vec3 } from '../math/index.js';
import { legalName, nameFault, type NameRules } from '../naming/index.js';
import { artBounds, type Edit, type PieceDocument, pivotPlace } from '../piece/index.js';
import { shapeCorners, type ShapeKind } from '../shape/index.js';

export const STEPS = ['intake', 'parts', 'size', 'pivot', 'proxies', 'names', 'trial', 'delivery'] as const;
export type Step = (typeof STEPS)[number];
/** The steps that work; the others are not shown. */
export const WORKING_STEPS = [
  'intake',
  'pivot',
  'proxies',
  'names',
  'delivery',
] as const satisfies readonly Step[];
export type WorkingStep = (typeof WORKING_STEPS)[number];
export const stepNumber = (step: Step): number => STEPS.indexOf(step) + 1;

/** Something about a piece that a person should know. Computed from the document, never stored. */
export interface Finding {
  id: string;
  step: WorkingStep;
  /** "stop" keeps the piece from leaving, "look" wants a decision, "note" is only said */
  weight: 'stop' | 'look' | 'note';
  /** what is wrong, one sentence */
  says: string;
  /** what goes wrong in the engine if it is ignored */
  why: string;
  fix?: { label: string; edit: Edit };
}

/** What a target allows, as far as findings ask. */
export interface CheckRules {
  names: NameRules;
  mostShapes: number;
  mostHullVertices: number;
  kinds: readonly ShapeKind[];
}

/** What is known about a piece beyond its document. */
export interface PieceSurroundings {
  /** mesh names of the other pieces of the yard */
  otherMeshNames?: readonly string[];
  lastDelivery?: { version: number; agreed: boolean } | null;
  /** the saved version of the document */
  version?: number;
}

/** Everything there is to say about the piece, in the order of the steps. */
export function findingsOf(
  document: PieceDocument,
  rules: CheckRules,
  around: PieceSurroundings = {},
): Finding[] {
  return [
    ...unitFindings(document),
    ...nodeFindings(document),
    ...surfaceFindings(document),
    ...sourceFindings(document),
    ...pivotFindings(document),
    ...proxyFindings(document, rules),
    ...nameFindings(document, rules, around.otherMeshNames ?? []),
    ...deliveryFindings(around),
  ];
}

const counted = (count: number, one: string, many = `${one}s`) =>
  `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`;
const metres = (value: number) => `${value.toPrecision(3)} m`;

function unitFindings(document: PieceDocument): Finding[] {
  const longest = Math.max(...sizeOf(artBounds(document)));
  const why =
    'A piece that is wrong by 100 or by 2.54 looks right on its own and is wrong beside everything else. Its collision and its pivot are then wrong by as much.';
  if (!document.unit.confirmed) {
    const { name } = document.unit;
    return [
      {
        id: 'unit-unconfirmed',
        step: 'intake',
        weight: 'look',
        says: `The file does not say its unit; read in ${name} its longest side is ${metres(longest)}.`,
        why,
        fix: { label: `Confirm ${name}`, edit: { kind: 'set-unit', unit: name } },
      },
    ];
  }
  if (longest > 0 && (longest < PLAUSIBLE_METRES.smallest || longest > PLAUSIBLE_METRES.largest)) {
    return [
      {
        id: 'size-implausible',
        step: 'intake',
        weight: 'look',
        says: `The longest side is ${metres(longest)}, which is rare for a piece of environment art.`,
        why,
      },
    ];
  }
  return [];
}

function nodeFindings({ nodes }: PieceDocument): Finding[] {
  const findings: Finding[] = [];
  const say = (id: string, count: number, what: string, why: string) => {
    if (count)
      findings.push({
        id,
        step: 'intake',
        weight: 'note',
        says: `${counted(count, 'node')} ${what}; delivery bakes it into the vertices.`,
        why,
      });
  };
  const off = (a: number, b: number) => Math.abs(a - b) > 1e-6;
  const mirrored = nodes.filter((node) => node.scale[0] * node.scale[1] * node.scale[2] < 0);
  const scaledNodes = nodes.filter((node) => node.scale.some((s) => off(Math.abs(s), 1)));
  const turned = nodes.filter((node) => off(Math.abs(node.rotation[3]), 1));
  say(
    'node-scale',
    scaledNodes.length,
    `${scaledNodes.length === 1 ? 'carries' : 'carry'} a scale other than 1`,
    'An engine multiplies this scale into everything attached to the piece. Physics shapes under it are sized wrong or refused.',
  );
  say(
    'node-mirrored',
    mirrored.length,
    `${mirrored.length === 1 ? 'is' : 'are'} mirrored by a negative scale`,
    'A negative scale turns faces inside out in targets that do not expect it. Lighting and collision then face the wrong way.',
  );
  say(
    'node-rotation',
    turned.length,
    `${turned.length === 1 ? 'carries' : 'carry'} a rotation`,
    'A rotation left on a node comes back when the piece is placed by hand. Snapping and pivots are then turned with it.',
  );
  return findings;
}

function surfaceFindings({ whole }: PieceDocument): Finding[] {
  const findings: Finding[] = [];
  const say = (id: string, count: number, weight: Finding['weight'], says: string, why: string) => {
    if (count) findings.push({ id, step: 'intake', weight, says, why });
  };
  say(
    'open-edges',
    whole.openEdges,
    'look',
    `${counted(whole.openEdges, 'edge')} ${whole.openEdges === 1 ? 'is' : 'are'} open: the surface has holes or seams.`,
    'An open surface encloses nothing, so solidity and volume can only be guessed. Hulls and boxes still wrap it safely.',
  );
  say(
    'non-manifold',
    whole.nonManifoldEdges,
    'look',
    `${counted(whole.nonManifoldEdges, 'edge')} ${whole.nonManifoldEdges === 1 ? 'joins' : 'join'} more than two faces.`,
    'Such edges have no clear inside and outside. They often come from copies left in place.',
  );
  say(
    'inside-out',
    whole.insideOutParts,
    'look',
    `${counted(whole.insideOutParts, 'part')} ${whole.insideOutParts === 1 ? 'faces' : 'face'} inwards.`,
    'Faces that look inwards are invisible from outside in an engine. A triangle collision made from them lets things through.',
  );
  say(
    'flipped',
    whole.flippedEdges,
    'look',
    `Faces disagree about outside along ${counted(whole.flippedEdges, 'edge')}.`,
    'Some faces will be invisible or lit from the wrong side. A triangle collision made from them has gaps.',
  );
  say(
    'doubled-faces',
    whole.doubledFaces,
    'look',
    `${counted(whole.doubledFaces, 'face')} ${whole.doubledFaces === 1 ? 'lies' : 'lie'} on top of another.`,
    'Doubled faces flicker and cost twice. They are usually hidden copies.',
  );
  say(
    'zero-area',
    whole.zeroAreaFaces,
    'note',
    `${counted(whole.zeroAreaFaces, 'face')} ${whole.zeroAreaFaces === 1 ? 'has' : 'have'} no area.`,
    'They draw nothing and upset normals and tangents. They do no harm to boxes and hulls.',
  );
  say(
    'unused-vertices',
    whole.unusedVertices,
    'note',
    `${counted(whole.unusedVertices, 'vertex', 'vertices')} ${whole.unusedVertices === 1 ? 'is' : 'are'} used by no face.`,
    'Some importers count them into the bounds of the piece. They are left out of every measure here.',
  );
  return findings;
}

function sourceFindings({ source }: PieceDocument): Finding[] {
  const kinds = new Map<string, number>();
  for (const { kind } of source.leftOut) kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
  const findings: Finding[] = source.notes.map((says, i) => ({
    id: `source-note-${i}`,
    step: 'intake',
    weight: 'look',
    says,
    why: 'What is missing here is missing in the level too. The file can be brought in again with what belongs beside it.',
  }));
  if (kinds.size) {
    findings.push({
      id: 'left-out',
      step: 'intake',
      weight: 'note',
      says: `Left out: ${[...kinds].map(([kind, count]) => counted(count, kind)).join(', ')}.`,
      why: 'A piece of a kit carries geometry and materials only. Stray cameras and lights would arrive in the level with it.',
    });
  }
  return findings;
}

function pivotFindings(document: PieceDocument): Finding[] {
  const bounds = artBounds(document);
  if (isEmpty(bounds)) return [];
  const p = document.pivot.position;
  const nearest = p.map((value, i) => Math.min(Math.max(value, bounds.min[i]!), bounds.max[i]!)) as Vec3;
  const away = distance(p, nearest);
  if (
    away <= diagonalOf(bounds) * 0.01 ||
    document.pivot.anchor === 'origin' ||
    document.pivot.anchor === 'numeric'
  )
    return [];
  return [
    {
      id: 'pivot-outside',
      step: 'pivot',
      weight: 'look',
      says: `The pivot lies ${metres(away)} outside the piece.`,
      why: 'The piece is grabbed, snapped and turned about a point far from it. Placed at a spot in the level it appears somewhere else.',
      fix: {
        label: 'Put it at the base centre',
        edit: { kind: 'set-pivot', anchor: 'base-centre', position: pivotPlace(document, 'base-centre') },
      },
    },
  ];
}

function proxyFindings({ proxies }: PieceDocument, rules: CheckRules): Finding[] {
  if (proxies.length === 0) {
    return [
      {
        id: 'no-proxies',
        step: 'proxies',
        weight: 'look',
        says: 'There are no shapes yet; an importer would make up one box round everything.',
        why: 'A made-up box fills every opening and stands out at every corner. People walk into air or cannot walk at all.',
      },
    ];
  }
  const findings: Finding[] = [];
  if (proxies.length > rules.mostShapes) {
    findings.push({
      id: 'too-many-shapes',
      step: 'proxies',
      weight: 'look',
      says: `${proxies.length} shapes are more than the ${rules.mostShapes} the target takes.`,
      why: 'Every shape is tested on every contact. A piece that is placed many times multiplies the cost.',
    });
  }
  const heavy = proxies.filter(
    ({ shape }) => shape.kind === 'hull' && shapeCorners(shape) > rules.mostHullVertices,
  ).length;
  if (heavy) {
    findings.push({
      id: 'hull-too-fine',
      step: 'proxies',
      weight: 'look',
      says: `${counted(heavy, 'hull')} ${heavy === 1 ? 'has' : 'have'} more than ${rules.mostHullVertices} corners; the importer will reduce ${heavy === 1 ? 'it' : 'them'}.`,
      why: 'An importer cuts a hull down in its own way. What arrives is not what was drawn.',
    });
  }
  const strange = [
    ...new Set(proxies.map(({ shape }) => shape.kind).filter((kind) => !rules.kinds.includes(kind))),
  ];
  for (const kind of strange) {
    findings.push({
      id: `kind-${kind}`,
      step: 'proxies',
      weight: 'look',
      says: `The target knows no ${kind}; it is delivered as the nearest kind the target knows.`,
      why: 'The nearest kind has corners where the shape was round, or fills what was hollow. It is measured in the read-back.',
    });
  }
  return findings;
}

function nameFindings(
  document: PieceDocument,
  rules: CheckRules,
  otherMeshNames: readonly string[],
): Finding[] {
  const fault = nameFault(document.meshName, rules.names);
  const why =
    'The importer finds collision by the whole name of the mesh. One wrong character, and the shapes arrive as visible geometry.';
  if (fault) {
    const name = legalName(document.meshName, rules.names);
    return [
      {
        id: 'name-illegal',
        step: 'names',
        weight: 'stop',
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
        weight: 'look',
        says: `Another piece of the yard is named ${document.meshName} too.`,
        why: 'The second delivery replaces the first in the level. Copies that differ a little get mixed up.',
      },
    ];
  }
  return [];
}

function deliveryFindings({ lastDelivery, version }: PieceSurroundings): Finding[] {
  if (!lastDelivery) return [];
  if (!lastDelivery.agreed) {
    return [
      {
        id: 'read-back-differs',
        step: 'delivery',
        weight: 'stop',
        says: 'What was read back from the last delivery is not what was drawn.',
        why: 'The level would get something else than this card says. The read-back names each point.',
      },
    ];
  }
  if (version !== undefined && lastDelivery.version < version) {
    return [
      {
        id: 'delivery-stale',
        step: 'delivery',
        weight: 'look',
        says: 'The piece has changed since it was last delivered.',
        why: 'The level still has the older one. Deliver again under the same name and it is replaced in place.',
      },
    ];
  }
  return [];
}
