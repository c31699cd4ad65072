import { counted, countText, lengthText, listText, measuredText } from '../../math/figures.js';
import type { Outcome, RemovedFaces } from './outcome.js';

const REMOVED: Record<RemovedFaces, string> = {
  doubled: 'duplicate',
  hidden: 'hidden',
  'zero-area': 'zero-area',
  specks: 'loose',
};

const are = (count: number): string => (count === 1 ? 'is' : 'are');
const areNew = (made: readonly string[]): string => `${listText(made)} ${are(made.length)} new`;

const quoted = (names: readonly string[]): string => listText(names.map((name) => `“${name}”`));
const scaleText = (scale: readonly number[]): string => {
  const [x, y, z] = scale.map((s) => Number(s.toPrecision(4)));
  return x === y && y === z ? String(x) : `${x}, ${y}, ${z}`;
};

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
      const { parts, metres, degrees, scale } = outcome;
      const what = parts.length ? quoted(parts) : 'The piece';
      const done = [
        metres > 0 ? `moved by ${lengthText(metres)}` : '',
        degrees > 0.05 ? `rotated by ${degrees.toFixed(1)}°` : '',
        scale.some((s) => s !== 1) ? `scaled by ${scaleText(scale)}` : '',
      ].filter(Boolean);
      return `${what} ${are(parts.length || 1)} ${done.length ? listText(done) : 'where it was'}.`;
    }
    case 'put-back': {
      const { moved, metres, stayed } = outcome;
      if (moved.length === 0) return `Every part is where it was delivered from.`;
      const others = stayed ? `; ${counted(stayed, 'other')} ${are(stayed)} there already` : '';
      return `${quoted(moved)} ${are(moved.length)} back in place, from up to ${measuredText(metres)} away${others}.`;
    }
    case 'mirror': {
      const { parts, copies } = outcome;
      if (copies.length)
        return `${quoted(parts)} ${parts.length === 1 ? 'is' : 'are'} mirrored: ${areNew(copies)}.`;
      return `${parts.length ? quoted(parts) : 'The piece'} ${are(parts.length || 1)} mirrored; faces look outward as before.`;
    }
    case 'repeat': {
      const { count, metres, asOne } = outcome;
      return `${count} in a row, ${lengthText(metres)} apart${asOne ? ', as one' : ''}.`;
    }
    case 'bend':
      return `${counted(outcome.parts, 'part')} bent by ${Number(outcome.degrees.toFixed(2))}° in ${counted(outcome.divisions, 'division')}.`;
    case 'stretch':
      return `What was ${lengthText(outcome.from)} long is ${lengthText(outcome.to)} now; the ends keep their form.`;
    case 'lay-along':
      return `Laid along ${lengthText(outcome.metres)} with ${counted(outcome.bends, 'bend')}.`;
    case 'trim':
      return `${counted(outcome.parts, 'part')} cut off at the plane.`;
    case 'split-shells': {
      const { parts, shells, specks, made } = outcome;
      const small = specks
        ? `; ${counted(specks, 'speck')} ${specks === 1 ? 'stays' : 'stay'} with what is nearest`
        : '';
      return `${quoted(parts)} ${parts.length === 1 ? 'splits' : 'split'} into ${counted(shells, 'shell')}: ${areNew(made)}${small}.`;
    }
    case 'split-materials': {
      const { parts, materials, made } = outcome;
      return `${quoted(parts)} ${parts.length === 1 ? 'splits' : 'split'} by ${counted(materials, 'material')}: ${areNew(made)}.`;
    }
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
    case 'join-borders':
      return `${counted(outcome.pairs, 'pair')} of borders joined with ${counted(outcome.faces, 'face')}.`;
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
    case 'normals':
      return `Normals are recomputed: edges above ${outcome.degrees}° are hard.`;
    case 'mark-edges': {
      const { edges, as } = outcome;
      return `${counted(edges, 'edge')} ${are(edges)} ${as}; all other normals stay as they were.`;
    }
    case 'reduce': {
      const { before, after, metres, skipped } = outcome;
      const kept = skipped.length
        ? `; ${quoted(skipped)} would be torn open and ${skipped.length === 1 ? 'stays' : 'stay'} as ${skipped.length === 1 ? 'it is' : 'they are'}`
        : '';
      return `${counted(before, 'triangle')} become ${countText(after)}, at most ${lengthText(metres)} off${kept}.`;
    }
    case 'add-material':
      return `“${outcome.material}” is a new material; no face has it yet.`;
    case 'remove-materials':
      return `${counted(outcome.materials, 'unused material')} removed.`;
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
    case 'uv-density':
      return `UVs of ${counted(outcome.parts, 'part')} are at ${Number(outcome.perMetre.toPrecision(4))} picture widths a metre.`;
    case 'unwrap':
      return `${counted(outcome.parts, 'part')} ${outcome.parts === 1 ? 'has' : 'have'} a second UV set of ${counted(outcome.islands, 'island')}, for a picture of ${countText(outcome.side)} texels a side.`;
    case 'remove-uvs':
      return `UV set ${outcome.set + 1} removed from ${counted(outcome.parts, 'part')}.`;
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
