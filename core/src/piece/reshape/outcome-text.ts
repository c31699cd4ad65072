import { counted, countText, lengthText, listText } from '../../math/figures.js';
import type { Outcome, RemovedFaces } from './outcome.js';

const REMOVED: Record<RemovedFaces, string> = {
  doubled: 'duplicate',
  hidden: 'hidden',
  'zero-area': 'zero-area',
  specks: 'loose',
};

const are = (count: number): string => (count === 1 ? 'is' : 'are');
const areNew = (made: readonly string[]): string => `${listText(made)} ${are(made.length)} new`;

/** What an operation does, or did, in one sentence with its figures. */
export function outcomeText(outcome: Outcome): string {
  switch (outcome.op) {
    case 'reparent': {
      const { part, parent, shearBaked } = outcome;
      const where = parent === null ? 'the root' : `“${parent}”`;
      return `“${part}” becomes a child of ${where} and does not move${shearBaked ? '; its shear is baked into the vertices' : ''}.`;
    }
    case 'group':
      return `${counted(outcome.parts, 'part')} grouped under “${outcome.group}”.`;
    case 'delete':
      return `${counted(outcome.parts, 'part')} deleted.`;
    case 'duplicate':
      return `${counted(outcome.parts, 'part')} duplicated.`;
    case 'combine':
      return `${counted(outcome.parts, 'part')} combined into “${outcome.into}”.`;
    case 'set-aside': {
      const { parts, aside } = outcome;
      return `${counted(parts, 'part')} ${are(parts)} ${aside ? 'set aside and no longer part of the art' : 'part of the art again'}.`;
    }
    case 'move': {
      const what = outcome.part === null ? 'The piece' : `“${outcome.part}”`;
      return `${what} is moved by ${lengthText(outcome.metres)} and rotated by ${outcome.degrees.toFixed(1)}°.`;
    }
    case 'split-shells':
      return `“${outcome.part}” splits into ${counted(outcome.shells, 'shell')}: ${areNew(outcome.made)}.`;
    case 'split-materials':
      return `“${outcome.part}” splits by its ${counted(outcome.materials, 'material')}: ${areNew(outcome.made)}.`;
    case 'split-faces':
      return `The chosen faces become ${outcome.made.length === 1 ? 'a part' : 'parts'}: ${areNew(outcome.made)}.`;
    case 'split-plane':
      return `The plane cuts off ${listText(outcome.made)}.`;
    case 'weld': {
      const { metres, before, after, bordersClosed: closed } = outcome;
      const borders = closed > 0 ? `, ${counted(closed, 'border')} ${closed === 1 ? 'closes' : 'close'}` : '';
      return `Welding ${lengthText(metres)}: ${counted(before, 'vertex', 'vertices')} become ${countText(after)}${borders}.`;
    }
    case 'fill-holes':
      return `${counted(outcome.holes, 'hole')} filled with ${counted(outcome.faces, 'face')}.`;
    case 'remove-faces': {
      const kinds = Object.entries(outcome.faces) as [RemovedFaces, number][];
      const said = kinds.map(([kind, count]) => counted(count, `${REMOVED[kind]} face`));
      if (outcome.unusedVertices)
        said.push(counted(outcome.unusedVertices, 'unused vertex', 'unused vertices'));
      return `${said.join(', ')} removed.`;
    }
    case 'delete-faces':
      return `${counted(outcome.faces, 'face')} deleted.`;
    case 'face-outward':
      return `${counted(outcome.faces, 'face')} flipped to face outward.`;
    case 'flip':
      return `${counted(outcome.faces, 'face')} flipped.`;
    case 'vertices':
      return `${counted(outcome.before, 'vertex', 'vertices')} become ${countText(outcome.after)}; nothing moved.`;
    case 'normals': {
      const { degrees, edges, as } = outcome;
      const run = as ? `, and ${counted(edges, 'chosen edge')} ${as}` : '';
      return `Normals are recomputed: edges above ${degrees}° are hard${run}.`;
    }
    case 'reduce':
      return `${counted(outcome.before, 'triangle')} become ${countText(outcome.after)}, at most ${lengthText(outcome.metres)} off.`;
    case 'merge-materials':
      return `${counted(outcome.materials, 'material')} merged into “${outcome.into}”.`;
    case 'order-materials':
      return `Materials are ordered ${listText(outcome.names)}.`;
    case 'assign-material': {
      const { faces, material } = outcome;
      return `${counted(faces, 'face')} ${faces === 1 ? 'takes' : 'take'} “${material}”.`;
    }
    case 'project-uvs': {
      const { parts, metresPerPicture } = outcome;
      return `${counted(parts, 'part')} ${parts === 1 ? 'has' : 'have'} new UVs at ${lengthText(metresPerPicture)} a picture.`;
    }
    case 'bake': {
      const { nodes, mirrored, sheared } = outcome;
      const extra = [
        mirrored ? `${mirrored} mirrored, faces flipped` : '',
        sheared ? `${sheared} sheared, which no target takes` : '',
      ].filter(Boolean);
      return `${counted(nodes, 'node')} baked${extra.length ? ` (${extra.join(', ')})` : ''}; nothing moved.`;
    }
  }
}
