import { PLAUSIBLE_METRES, shearOf, sizeOf } from '../math/index.js';
import { legalName, nameFault, nameRulesFor } from '../naming/index.js';
import { artBounds, artNodes, countUp, placedMatrices, type PieceDocument } from '../piece/index.js';
import type { CheckRules, Finding } from './finding.js';
import { counted, lengthText, listText } from '../math/figures.js';

/** Parts: their names, and materials that the target cannot carry. */
export function partFindings(document: PieceDocument, rules: CheckRules): Finding[] {
  const findings: Finding[] = [];
  const parts = artNodes(document.nodes).map((i) => document.nodes[i]!);
  const taken = new Set(parts.map(({ name }) => name));
  const seen = new Set<string>();
  const doubled = parts.flatMap(({ id, name }) => {
    if (!seen.has(name)) {
      seen.add(name);
      return [];
    }
    const free = countUp(name, taken);
    taken.add(free);
    return [{ part: id, name: free }];
  });
  if (doubled.length) {
    findings.push({
      id: 'doubled-names',
      step: 'parts',
      severity: 'warning',
      says: `${counted(doubled.length, 'part')} ${doubled.length === 1 ? 'has' : 'have'} the name of another.`,
      why: 'An importer that finds two of one name keeps one of them, or mixes them up. Every part needs a name of its own.',
      fix: { label: 'Number duplicate names', edit: { kind: 'rename-parts', names: doubled } },
    });
  }
  const legalNames = nameRulesFor(rules.names, document.proxies.length);
  const illegal = parts.filter(({ name }) => nameFault(name, legalNames) !== null);
  if (illegal.length) {
    const free = new Set(parts.map(({ name }) => name));
    const names = illegal.map(({ id, name }) => {
      const legal = legalName(name, legalNames);
      const own = free.has(legal) ? countUp(legal, free) : legal;
      free.add(own);
      return { part: id, name: own };
    });
    findings.push({
      id: 'part-names-illegal',
      step: 'parts',
      severity: document.leaves === 'each-part' ? 'error' : 'info',
      says: `${counted(illegal.length, 'part name')} ${illegal.length === 1 ? 'holds' : 'hold'} what the target does not take: ${listText(illegal.map(({ name }) => `“${name}”`))}.`,
      why: 'Characters that an importer drops make two names one, or a name that nothing finds. It matters as soon as parts are delivered separately.',
      fix: { label: 'Make the names legal', edit: { kind: 'rename-parts', names } },
    });
  }
  const constant = document.materials.filter(
    ({ pictures, metalness, roughness, emissive, baseColor }) =>
      Object.keys(pictures).length === 0 &&
      (metalness !== 0 ||
        roughness !== 0.9 ||
        emissive.some((v) => v !== 0) ||
        baseColor.some((v, k) => v !== [0.8, 0.8, 0.8, 1][k])),
  );
  if (rules.dropsConstants && constant.length) {
    findings.push({
      id: 'constant-materials',
      step: 'parts',
      severity: 'info',
      says: `${counted(constant.length, 'material')} ${constant.length === 1 ? 'is' : 'are'} plain values without a picture; the target drops them.`,
      why: 'The level shows the piece in grey until somebody sets the values again. The import sheet lists each of them.',
    });
  }
  return findings;
}

/** Size: what is too large or too small to be meant, and transforms that nodes still carry. */
export function sizeFindings(document: PieceDocument): Finding[] {
  const longest = Math.max(...sizeOf(artBounds(document)));
  const findings: Finding[] = [];
  if (
    document.unit.confirmed &&
    longest > 0 &&
    (longest < PLAUSIBLE_METRES.smallest || longest > PLAUSIBLE_METRES.largest)
  ) {
    findings.push({
      id: 'size-implausible',
      step: 'size',
      severity: 'warning',
      says: `The longest side is ${lengthText(longest)}, which is rare for a piece of environment art.`,
      why: 'A piece that is wrong by 100 or by 2.54 looks right on its own and is wrong beside everything else. Its collision and its pivot are then wrong by as much.',
    });
  }
  const { nodes } = document;
  const off = (a: number, b: number) => Math.abs(a - b) > 1e-6;
  const say = (
    id: string,
    count: number,
    one: string,
    many: string,
    severity: Finding['severity'],
    why: string,
    keepRotation = false,
  ) => {
    if (!count) return;
    findings.push({
      id,
      step: 'size',
      severity,
      says: `${counted(count, 'node')} ${count === 1 ? one : many}.`,
      why,
      mend: {
        label: keepRotation ? 'Bake scale' : 'Bake',
        operation: { op: 'bake', parts: [], keepPosition: keepRotation, keepRotation },
      },
    });
  };
  say(
    'node-scale',
    nodes.filter((node) => node.scale.some((s) => off(Math.abs(s), 1))).length,
    'carries a scale other than 1',
    'carry a scale other than 1',
    'warning',
    'An engine multiplies this scale into everything attached to the piece. Physics shapes under it are sized wrong or refused.',
    true,
  );
  say(
    'node-mirrored',
    nodes.filter((node) => node.scale[0] * node.scale[1] * node.scale[2] < 0).length,
    'is mirrored by a negative scale',
    'are mirrored by a negative scale',
    'warning',
    'A negative scale turns faces inside out in targets that do not expect it. Lighting and collision then face the wrong way.',
    true,
  );
  say(
    'sheared',
    placedMatrices(document).filter((matrix) => shearOf(matrix) > 1e-6).length,
    'is sheared, which no target takes',
    'are sheared, which no target takes',
    'warning',
    'A target has place, turn and scale for a node and no shear. What it makes of one is not what was drawn.',
    true,
  );
  say(
    'node-rotation',
    nodes.filter((node) => off(Math.abs(node.rotation[3]), 1)).length,
    'carries a rotation',
    'carry a rotation',
    'info',
    'A rotation left on a node comes back when the piece is placed by hand. Snapping and pivots are then turned with it.',
  );
  return findings;
}
