import { sizeIn } from '../format/index.js';
import { coordinatesText, countText, counted } from '../math/figures.js';
import { metresPerUnit } from '../piece/index.js';
import { colourCode } from './colour-code.js';
import type { Expectation } from './expectation.js';
import { leavingMaterials } from './leaving-materials.js';
import { lossesOf, lossText } from './losses.js';
import type { Plan } from './plan.js';
import { CONTAINER_NAMES } from './profile.js';

/**
 * A page for whoever imports the delivery: which settings, what to expect, what to set again. Markdown.
 *
 * @param tried what was tried with the shapes before they left, a line each
 */
export function importSheet(plan: Plan, expected: Expectation, tried: readonly string[] = []): string {
  const { document, profile, choices, files } = plan;
  const { space, sheet } = profile;
  const models = expected.files.map((stem) => `\`${stem}.${choices.container}\``);
  const sizes = expected.meshes.map(
    ({ name, size, triangles }) =>
      `- Mesh \`${name}\`: ${sizeIn(space, size)
        .map((v) => v.toFixed(2))
        .join(' × ')} ${space.unit}${triangles === null ? '' : `, ${counted(triangles, 'triangle')}`}.`,
  );
  const pivots = files.flatMap(({ nodes }) =>
    nodes
      .filter(({ parts }) => parts.length)
      .map(
        ({ name, pivot }) =>
          `- Pivot of \`${name}\`: ${pivot.anchor.replaceAll('-', ' ')}; it was at ${coordinatesText(pivot.position, 4)} m in the source.`,
      ),
  );
  const losses = lossesOf(plan).map((loss) => `- ${plain(lossText(loss))}`);
  const list = (heading: string, lines: readonly string[]) =>
    lines.length ? [`## ${heading}`, '', ...lines, ''] : [];
  return [
    `# ${document.meshName}`,
    '',
    `Piece “${plain(document.name)}”, delivered for ${plain(profile.name)}.${plan.code ? ` Tracking code ${code(plan.code)}.` : ''}`,
    '',
    ...(plan.note ? [...plan.note.split('\n').map((line) => `> ${plain(line)}`), ''] : []),
    ...list('Route', [
      `- ${sheet.route} ${models.length === 1 ? 'The model is' : 'The models are'} ${models.join(', ')}, ${CONTAINER_NAMES[choices.container]}.`,
      `- The target works in ${space.unit}, ${space.up.toUpperCase()} up, ${space.handedness}-handed; the files are written so that they land there at scale 1 without any extra rotation.`,
    ]),
    ...list(
      'Settings',
      sheet.settings.map(({ name, value, why }) => `- ${name}: **${value}**. ${why}`),
    ),
    ...list('What to expect', [
      ...sizes,
      `- ${countText(document.whole.triangles)} triangles in all.`,
      ...pivots,
      `- ${counted(expected.shapes.length, 'collision shape')}${expected.shapes.length ? ':' : ', and an importer makes up its own.'}`,
      ...expected.shapes.map(
        ({ name, kind, deliveredAs, volume }) =>
          `  - \`${name}\`, ${deliveredAs}${kind === deliveredAs ? '' : ` for a ${kind}`}${volume ? `, ${volume.toPrecision(4)} m³` : ''}`,
      ),
    ]),
    ...list(
      'Tried before it left',
      tried.map((says) => `- ${plain(says)}`),
    ),
    ...list('Materials, by slot', describeMaterials(plan)),
    ...list('Dropped or changed', losses),
    ...list(
      'Appears unasked',
      sheet.appears.map((says) => `- ${says}`),
    ),
    ...list(
      'Warnings',
      sheet.warnings.map(({ says, matters }) => `- ${matters ? 'Matters' : 'Does not matter'}: ${says}`),
    ),
    ...list('On import of a newer delivery', [
      ...sheet.refreshBrings.map((says) => `- Refreshed: ${says}`),
      ...sheet.freshOnly.map((says) => `- Only by a fresh import: ${says}`),
    ]),
    `Source: ${document.source.files.map((file) => plain(file.name)).join(', ')}, read in ${document.unit.name} (1 unit = ${metresPerUnit(document)} m).`,
    '',
  ].join('\n');
}

/** A name as text of a Markdown page: whatever it holds is shown, and makes no heading, link or tag. */
const plain = (name: string): string => name.replace(/[\\`*_{}[\]()#+\-.!<>|~&]/g, '\\$&');

/** A name as code of a Markdown page: fenced by more ticks than it holds in a row. */
function code(name: string): string {
  const longest = Math.max(0, ...[...name.matchAll(/`+/g)].map(([run]) => run.length));
  const fence = '`'.repeat(longest + 1);
  return longest ? `${fence} ${name} ${fence}` : `${fence}${name}${fence}`;
}

function describeMaterials({ document, choices }: Plan): string[] {
  const leaving = leavingMaterials(document, choices).materials;
  return document.materials.map(({ name, baseColor, metalness, roughness, pictures }, slot) => {
    const constants = `colour ${colourCode(baseColor)}, linear ${baseColor.map((v) => v.toFixed(3)).join(', ')}, metalness ${metalness}, roughness ${roughness.toFixed(3)}`;
    const own = Object.keys(pictures);
    const made = Object.keys(leaving[slot]!.pictures).filter((each) => !own.includes(each));
    const told = [
      ...(own.length ? [`pictures for ${own.join(', ')}`] : []),
      ...(made.length ? [`values written as pictures for ${made.join(', ')}`] : []),
    ];
    return `- Slot ${slot}, ${code(name)}: ${constants}; ${told.join('; ') || 'no pictures: check that these values arrive'}`;
  });
}
