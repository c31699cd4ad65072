import { metresPerUnit, type PieceDocument } from '../piece/index.js';
import { UNITS, type Vec3 } from '../math/index.js';
import { deliveredMeshes } from './delivered-mesh.js';
import type { Expectation } from './expectation.js';
import type { TargetProfile } from './profile.js';
import { coordinatesText, countText } from '../math/figures.js';

/** A page for whoever imports the delivery: which settings, what to expect, what to set again. Markdown. */
export function importSheet(document: PieceDocument, profile: TargetProfile, expected: Expectation): string {
  const inTarget = (value: number) => (value / UNITS[profile.unit]).toFixed(2);
  const lines = [
    `# ${document.meshName}`,
    '',
    `Piece “${plain(document.name)}”, delivered for ${plain(profile.name)}.`,
    '',
    '## Settings',
    '',
    `- Import ${expected.meshes.map(({ name }) => `\`${name}.glb\``).join(', ')} at scale 1, without any extra rotation. ${expected.meshes.length === 1 ? 'The file is' : 'The files are'} in metres with Y up; the target works in ${profile.unit} with ${profile.up.toUpperCase()} up, ${profile.handedness}-handed, and converts.`,
    '- Take collision from the node names; do not let the importer make up its own.',
    `- Hierarchy is ${profile.hierarchy === 'flattened' ? 'flattened; the manifest keeps it' : 'kept'}.`,
    '',
    '## What to expect',
    '',
    ...expected.meshes.map(
      ({ name, size }) =>
        `- Mesh \`${name}\`, ${landed(size, profile).map(inTarget).join(' × ')} ${profile.unit}.`,
    ),
    `- ${countText(document.whole.triangles)} triangles in all.`,
    ...deliveredMeshes(document).map(
      ({ name, pivot }) =>
        `- Pivot of \`${name}\`: ${pivot.anchor.replaceAll('-', ' ')}; it was at ${coordinatesText(pivot.position, 4)} m in the source.`,
    ),
    `- ${expected.shapes.length} collision ${expected.shapes.length === 1 ? 'shape' : 'shapes'}:`,
    ...expected.shapes.map(
      ({ name, kind, deliveredAs, volume }) =>
        `  - \`${name}\`, ${deliveredAs}${kind === deliveredAs ? '' : ` for a ${kind}`}, ${volume.toPrecision(4)} m³`,
    ),
    '',
    '## Materials',
    '',
    ...(document.materials.length ? document.materials.map(describeMaterial) : ['- none']),
    '',
    `Source: ${document.source.files.map((file) => plain(file.name)).join(', ')}, read in ${document.unit.name} (1 unit = ${metresPerUnit(document)} m).`,
    '',
  ];
  return lines.join('\n');
}

/** A name as text of a Markdown page: whatever it holds is shown, and makes no heading, link or tag. */
const plain = (name: string): string => name.replace(/[\\`*_{}[\]()#+\-.!<>|~&]/g, '\\$&');

/** A name as code of a Markdown page: fenced by more ticks than it holds in a row. */
function code(name: string): string {
  const longest = Math.max(0, ...[...name.matchAll(/`+/g)].map(([run]) => run.length));
  const fence = '`'.repeat(longest + 1);
  return longest ? `${fence} ${name} ${fence}` : `${fence}${name}${fence}`;
}

function describeMaterial({
  name,
  baseColor,
  metalness,
  roughness,
  pictures,
}: PieceDocument['materials'][number]): string {
  const slots = Object.keys(pictures);
  const constants = `colour ${baseColor.map((v) => v.toFixed(3)).join(', ')}, metalness ${metalness}, roughness ${roughness.toFixed(3)}`;
  return `- ${code(name)}: ${constants}${slots.length ? `; pictures for ${slots.join(', ')}` : '; no pictures: check that these values arrive'}`;
}

/** A size in the order of the target's axes. */
export const landed = (size: Vec3, profile: TargetProfile): Vec3 =>
  profile.up === 'z' ? [size[0], size[2], size[1]] : size;
