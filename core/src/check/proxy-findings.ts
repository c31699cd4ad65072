import { openClearances } from '../compare/index.js';
import { diagonalOf, emptyBounds, isEmpty, sizeOf, unionOf } from '../math/index.js';
import { artBounds, clearanceShape, type PieceDocument } from '../piece/index.js';
import { shapeBounds, shapeCorners } from '../shape/index.js';
import type { CheckRules, Finding, PieceSurroundings } from './finding.js';
import type { ProxyFacts } from './proxy-facts.js';
import { proxyKey } from './proxy-key.js';
import { setKey } from './set-facts.js';
import { setFindings } from './set-findings.js';
import { counted, countText, lengthText, listText } from '../math/figures.js';

/** Shapes this many times as large or as small as the art were made for another size of it. */
const OTHER_SIZE = 10;

/** What there is to say about the shapes of a piece. */
export function proxyFindings(
  document: PieceDocument,
  rules: CheckRules,
  { measured }: PieceSurroundings,
): Finding[] {
  const { proxies } = document;
  if (proxies.length === 0) {
    return [
      {
        id: 'no-proxies',
        step: 'proxies',
        severity: 'warning',
        says: 'There are no shapes yet; an importer would make up one box round everything.',
        why: 'A made-up box fills every opening and stands out at every corner. People walk into air or cannot walk at all.',
      },
    ];
  }
  const findings: Finding[] = [...sizeOfShapes(document), ...howTheyLie(document, rules, measured ?? null)];
  if (proxies.length > rules.maxShapes) {
    findings.push({
      id: 'too-many-shapes',
      step: 'proxies',
      severity: 'warning',
      says: `${proxies.length} shapes are more than the ${rules.maxShapes} the target takes.`,
      why: 'Every shape is tested on every contact. A piece that is placed many times multiplies the cost.',
    });
  }
  findings.push(...overBudget(document, rules));
  const heavy = proxies.filter(
    ({ shape }) => shape.kind === 'hull' && shapeCorners(shape) > rules.maxHullVertices,
  ).length;
  if (heavy) {
    findings.push({
      id: 'hull-too-fine',
      step: 'proxies',
      severity: 'warning',
      says: `${counted(heavy, 'hull')} ${heavy === 1 ? 'has' : 'have'} more than ${rules.maxHullVertices} corners; the importer will reduce ${heavy === 1 ? 'it' : 'them'}.`,
      why: 'An importer cuts a hull down in its own way. What arrives is not what was drawn.',
    });
  }
  const strange = [
    ...new Set(proxies.map(({ shape }) => shape.kind).filter((kind) => !rules.kinds.includes(kind))),
  ];
  for (const kind of strange) {
    const count = proxies.filter(({ shape }) => shape.kind === kind).length;
    findings.push({
      id: `kind-${kind}`,
      step: 'proxies',
      severity: 'info',
      says: `The target knows no ${kind}; ${counted(count, 'shape')} ${count === 1 ? 'is' : 'are'} delivered as the nearest kind it knows, and measured as that.`,
      why: 'The nearest kind has corners where the shape was round, or fills what was hollow. The figures of the set are those of what leaves.',
    });
  }
  return findings;
}

/** More than the yard allows a piece of this size. */
function overBudget(document: PieceDocument, { budgets = [] }: CheckRules): Finding[] {
  const longest = Math.max(...sizeOf(artBounds(document)));
  const budget = budgets.find(({ upToMetres }) => longest <= upToMetres);
  if (!budget) return [];
  const shapes = document.proxies.length;
  const corners = document.proxies.reduce((sum, { shape }) => sum + shapeCorners(shape), 0);
  const over = [
    ...(shapes > budget.shapes
      ? [`${countText(shapes)} shapes, and the budget is ${countText(budget.shapes)}`]
      : []),
    ...(corners > budget.corners
      ? [`${countText(corners)} corners, and the budget is ${countText(budget.corners)}`]
      : []),
  ];
  if (!over.length) return [];
  return [
    {
      id: 'over-budget',
      step: 'proxies',
      severity: 'warning',
      says: `For a piece up to ${lengthText(budget.upToMetres)} there are ${over.join('; ')}.`,
      why: 'What is placed many times is paid for many times, at every contact. The yard’s rules say what a piece of its size may cost.',
    },
  ];
}

/** A clear stamp is a promise: the shapes were measured against the art as it is, and lie close enough. */
function howTheyLie(
  document: PieceDocument,
  { agent, takes }: CheckRules,
  measured: ProxyFacts | null,
): Finding[] {
  const unmeasured = measured?.key !== proxyKey(document);
  const judged = measured?.judged;
  if (!unmeasured && judged && judged.key === setKey(document, agent?.detail ?? 0, takes))
    return setFindings(document, judged, agent);
  if (unmeasured)
    return [
      ...blockedOpenings(document),
      {
        id: 'proxies-unmeasured',
        step: 'proxies',
        severity: 'warning',
        says: 'The shapes were not measured against the art as it is now; open the piece on the bench and they are.',
        why: 'Nobody knows how far these shapes lie from the art. They may stand in a doorway or leave a wing bare.',
      },
    ];
  const off = Math.max(measured.artOutside, measured.proxyOutside);
  if (!agent || off <= agent.detail) return blockedOpenings(document);
  return [
    {
      id: 'proxies-off',
      step: 'proxies',
      severity: 'warning',
      says: `The shapes lie up to ${lengthText(off)} off the art (excess ${lengthText(measured.proxyOutside)}, uncovered ${lengthText(measured.artOutside)}); a ${agent.name} feels all above ${lengthText(agent.detail)}.`,
      why: 'Where shapes stand out, whoever walks there is stopped by air. Where the art stands out, they go through what they see.',
    },
    ...blockedOpenings(document),
  ];
}

function sizeOfShapes(document: PieceDocument): Finding[] {
  const art = artBounds(document);
  const shapes = document.proxies.map(({ shape }) => shapeBounds(shape)).reduce(unionOf, emptyBounds());
  if (isEmpty(art) || isEmpty(shapes)) return [];
  const times = diagonalOf(shapes) / (diagonalOf(art) || Number.MIN_VALUE);
  if (times < OTHER_SIZE && times > 1 / OTHER_SIZE) return [];
  const words =
    times > 1
      ? `${countText(Math.round(times))} times as large`
      : `${countText(Math.round(1 / times))} times as small`;
  return [
    {
      id: 'shapes-size',
      step: 'proxies',
      severity: 'warning',
      says: `The shapes are ${words} as the art; they were made for another size of it.`,
      why: 'Centimetres taken for metres leave shapes a hundred times too large or too small. The piece collides far from where it is seen, or not at all.',
    },
  ];
}

function blockedOpenings({ clearances, proxies }: PieceDocument): Finding[] {
  if (clearances.length === 0) return [];
  const open = openClearances(
    clearances.map(clearanceShape),
    proxies.map(({ shape }) => shape),
  );
  const blocked = clearances.filter((_, i) => !open[i]).map(({ name }) => `“${name}”`);
  if (blocked.length === 0) return [];
  return [
    {
      id: 'opening-blocked',
      step: 'proxies',
      severity: 'warning',
      says: `${counted(blocked.length, 'opening')} ${blocked.length === 1 ? 'is' : 'are'} blocked by shapes: ${listText(blocked)}.`,
      why: 'An opening that looks open and is not is found by walking into it. Nobody gets through, and paths end before it.',
    },
  ];
}
