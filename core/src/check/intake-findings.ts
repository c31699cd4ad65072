import { sizeOf } from '../math/index.js';
import {
  artBounds,
  artNodes,
  metresPerUnit,
  type OperationOf,
  type PieceDocument,
  piecesIn,
  sceneNoteText,
} from '../piece/index.js';
import type { FaultKind } from '../solid/index.js';
import type { Finding } from './finding.js';
import { counted, lengthText, listText } from '../math/figures.js';

type RemovedKind = OperationOf<'remove-faces'>['which'][number];

/** What there is to say about a piece as it came: unit, surface, contents, what was left out. */
export const intakeFindings = (document: PieceDocument): Finding[] => [
  ...unitFindings(document),
  ...surfaceFindings(document),
  ...contentFindings(document),
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
        severity: 'warning',
        says: `The file does not say its unit; read in ${name} its longest side is ${lengthText(longest)}.`,
        why,
        fix: { label: `Confirm ${name}`, edit: { kind: 'set-unit', unit: name } },
      },
    ];
  }
  return [];
}

/** The least distance that closes seams so far apart: a little more, in whole hundredths of a millimetre. */
const weldFor = (gapMetres: number): number =>
  Number((Math.max(1, Math.ceil(gapMetres * 1.01 * 1e5)) / 1e5).toPrecision(9));

function openText(
  { openEdges, seamEdges, seamGap, borders }: PieceDocument['whole'],
  metres: number,
): string {
  const said = `${counted(openEdges, 'edge')} ${openEdges === 1 ? 'is' : 'are'} open`;
  if (!seamEdges) return `${said}, round ${counted(Math.max(1, borders), 'hole')}.`;
  const seams = `seams whose sides are up to ${lengthText(seamGap * metres)} apart`;
  const round = openEdges - seamEdges;
  return round ? `${said}: ${seamEdges} of ${seams}, ${round} round holes.` : `${said}: ${seams}.`;
}

function surfaceFindings(document: PieceDocument): Finding[] {
  const { whole } = document;
  const metres = metresPerUnit(document) * document.placing.factor;
  const findings: Finding[] = [];
  const say = (
    id: FaultKind | 'unused-vertices',
    count: number,
    severity: Finding['severity'],
    says: string,
    why: string,
    mend?: Finding['mend'],
  ) => {
    if (!count) return;
    const places = id === 'unused-vertices' ? {} : { places: id };
    findings.push({ id, step: 'intake', severity, says, why, ...places, ...(mend ? { mend } : {}) });
  };
  const remove = (label: string, ...which: RemovedKind[]): Finding['mend'] => ({
    label,
    operation: { op: 'remove-faces', parts: [], which },
  });
  say(
    'open-edges',
    whole.openEdges,
    'warning',
    openText(whole, metres),
    'An open surface encloses nothing, so solidity and volume can only be guessed. Hulls and boxes still wrap it safely.',
    whole.seamEdges > 0
      ? {
          label: `Weld ${lengthText(weldFor(whole.seamGap * metres))}`,
          operation: { op: 'weld', parts: [], metres: weldFor(whole.seamGap * metres) },
        }
      : { label: 'Fill the holes', operation: { op: 'fill-holes', parts: [], bores: true } },
  );
  say(
    'non-manifold',
    whole.nonManifoldEdges,
    'warning',
    `${counted(whole.nonManifoldEdges, 'edge')} ${whole.nonManifoldEdges === 1 ? 'joins' : 'join'} more than two faces.`,
    'Such edges have no clear inside and outside. They often come from copies left in place.',
  );
  say(
    'inside-out',
    whole.insideOutShells,
    'warning',
    `${counted(whole.insideOutShells, 'shell')} ${whole.insideOutShells === 1 ? 'faces' : 'face'} inwards.`,
    'Faces that look inwards are invisible from outside in an engine. A triangle collision made from them lets things through.',
    { label: 'Orient outward', operation: { op: 'face-outward', parts: [] } },
  );
  say(
    'flipped',
    whole.flippedEdges,
    'warning',
    `Faces disagree about outside along ${counted(whole.flippedEdges, 'edge')}.`,
    'Some faces will be invisible or lit from the wrong side. A triangle collision made from them has gaps.',
    { label: 'Orient outward', operation: { op: 'face-outward', parts: [] } },
  );
  say(
    'doubled-faces',
    whole.doubledFaces,
    'warning',
    `${counted(whole.doubledFaces, 'face')} ${whole.doubledFaces === 1 ? 'lies' : 'lie'} on top of another.`,
    'Doubled faces flicker and cost twice. They are usually hidden copies.',
    remove('Delete duplicate faces', 'doubled'),
  );
  say(
    'hidden-faces',
    whole.hiddenFaces,
    'warning',
    `${counted(whole.hiddenFaces, 'face')} ${whole.hiddenFaces === 1 ? 'lies' : 'lie'} hidden inside the piece.`,
    'Nobody sees them and everybody pays for them. They mislead what inside and outside mean, and with it every fit.',
    remove('Delete hidden faces', 'hidden'),
  );
  say(
    'specks',
    whole.speckFaces,
    'info',
    `${counted(whole.speckFaces, 'face')} ${whole.speckFaces === 1 ? 'belongs' : 'belong'} to loose specks.`,
    'Loose specks widen the bounds and with them every box. They are too small to be meant.',
    remove('Delete specks', 'specks'),
  );
  say(
    'zero-area',
    whole.zeroAreaFaces,
    'info',
    `${counted(whole.zeroAreaFaces, 'face')} ${whole.zeroAreaFaces === 1 ? 'has' : 'have'} no area.`,
    'They draw nothing and upset normals and tangents. They do no harm to boxes and hulls.',
    remove('Delete zero-area faces', 'zero-area'),
  );
  say(
    'unused-vertices',
    whole.unusedVertices,
    'info',
    `${counted(whole.unusedVertices, 'vertex', 'vertices')} ${whole.unusedVertices === 1 ? 'is' : 'are'} used by no face.`,
    'Some importers count them into the bounds of the piece. They are left out of every measure here.',
    remove('Delete unused vertices', 'unused'),
  );
  return findings;
}

function contentFindings(document: PieceDocument): Finding[] {
  const findings: Finding[] = [];
  const pieces = piecesIn(document);
  if (pieces.length > 1) {
    findings.push({
      id: 'several-pieces',
      step: 'intake',
      severity: 'warning',
      says: `It looks like ${pieces.length} pieces in one file.`,
      why: 'Pieces that are delivered as one cannot be placed apart. Their one pivot lies somewhere between them.',
    });
  }
  const parts = artNodes(document.nodes).map((i) => document.nodes[i]!);
  const bare = parts.filter((node) => document.meshes[node.mesh!]!.facts.uvSets === 0);
  if (bare.length) {
    findings.push({
      id: 'no-uvs',
      step: 'intake',
      severity: 'info',
      says: `${counted(bare.length, 'part')} ${bare.length === 1 ? 'has' : 'have'} no UVs.`,
      why: 'No picture can lie on it, and light maps fail. A projection from six sides at real size is better than none.',
      mend: {
        label: 'Box-project UVs',
        operation: { op: 'project-uvs', parts: bare.map(({ id }) => id), metresPerPicture: 1 },
      },
    });
  }
  const aside = document.nodes.filter((node) => node.aside && node.mesh !== null);
  if (aside.length) {
    findings.push({
      id: 'set-aside',
      step: 'intake',
      severity: 'info',
      says: `${counted(aside.length, 'part')} ${aside.length === 1 ? 'is' : 'are'} set aside: ${listText(aside.map(({ name }) => name))}.`,
      why: 'Coarser detail levels stand where the fine one stands. Taken as art they would double every face.',
    });
  }
  const came = document.proxies.filter(({ id }) => id.startsWith('came-'));
  if (came.length) {
    findings.push({
      id: 'came-proxies',
      step: 'intake',
      severity: 'info',
      says: `${counted(came.length, 'proxy', 'proxies')} ${came.length === 1 ? 'was' : 'were'} imported with the file and ${came.length === 1 ? 'is' : 'are'} among the shapes.`,
      why: 'An old proxy shown as art is delivered as art and wrapped again. As shapes they can be judged and kept or replaced.',
    });
  }
  return findings;
}

function sourceFindings({ source }: PieceDocument): Finding[] {
  const kinds = new Map<string, number>();
  for (const { kind } of source.leftOut) kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
  const findings: Finding[] = source.notes.map((note, i) => ({
    id: `source-note-${i}`,
    step: 'intake',
    severity: 'warning',
    says: sceneNoteText(note),
    why: 'What is missing here is missing in the level too. The file can be imported again with what belongs beside it.',
  }));
  if (kinds.size) {
    findings.push({
      id: 'left-out',
      step: 'intake',
      severity: 'info',
      says: `Ignored: ${[...kinds].map(([kind, count]) => counted(count, kind)).join(', ')}.`,
      why: 'A piece of a kit carries geometry and materials only. Stray cameras and lights would arrive in the level with it.',
    });
  }
  return findings;
}
