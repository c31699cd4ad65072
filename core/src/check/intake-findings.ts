import { PLAUSIBLE_METRES, sizeOf } from '../math/index.js';
import { artBounds, type PieceDocument } from '../piece/index.js';
import type { Finding } from './finding.js';
import { counted, metres } from './words.js';

/** What there is to say about a piece as it came: unit, nodes, surface, what was left out. */
export const intakeFindings = (document: PieceDocument): Finding[] => [
  ...unitFindings(document),
  ...nodeFindings(document),
  ...surfaceFindings(document),
  ...sourceFindings(document),
];

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
