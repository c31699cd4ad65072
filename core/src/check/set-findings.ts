import { areaText, counted, lengthText, listText, volumeText } from '../math/figures.js';
import type { PieceDocument } from '../piece/index.js';
import type { CheckRules, Finding } from './finding.js';
import { newlyBare } from './left-by-art.js';
import type { SetFacts } from './set-facts.js';

/** What there is to say about a set of shapes that was judged on the art as it is, the worst first. */
export function setFindings(document: PieceDocument, facts: SetFacts, agent: CheckRules['agent']): Finding[] {
  const numbers = new Map(document.proxies.map(({ id }, i) => [id, i + 1]));
  const number = (id: string) => numbers.get(id) ?? 0;
  return [
    ...blocked(document, facts, number),
    ...bare(facts, agent),
    ...standingOut(document, facts, agent, number),
    ...away(facts, agent, number),
    ...leftByArt(facts, number),
    ...edgesBare(document, facts),
    ...crossing(facts, number),
  ];
}

type NumberOf = (id: string) => number;

function blocked({ clearances }: PieceDocument, { blocked }: SetFacts, number: NumberOf): Finding[] {
  const [worst] = blocked;
  if (!worst) return [];
  const openings = [...new Set(blocked.map(({ opening }) => opening))];
  const names = openings.map((id) => `“${clearances.find((each) => each.id === id)?.name ?? id}”`);
  const shapes = [...new Set(blocked.map(({ shape }) => shape))];
  const what = shapes.length === 1 ? `shape ${number(shapes[0]!)}` : counted(shapes.length, 'shape');
  return [
    {
      id: 'opening-blocked',
      step: 'proxies',
      severity: 'warning',
      says: `${counted(openings.length, 'opening')} ${openings.length === 1 ? 'is' : 'are'} blocked: ${listText(names)}. Shape ${number(worst.shape)} goes in by ${lengthText(worst.depth)}.`,
      why: 'An opening that looks open and is not is found by walking into it. Nobody gets through, and paths end before it.',
      at: worst.at,
      shapes,
      setFix: { label: `Cut ${what} back, out of ${listText(names)}`, fix: { fix: 'cut-back' } },
    },
  ];
}

function bare({ uncovered, bare, bareCount }: SetFacts, agent: CheckRules['agent']): Finding[] {
  if (!agent || uncovered.max <= agent.detail) return [];
  const [largest] = bare;
  return [
    {
      id: 'proxies-bare',
      step: 'proxies',
      severity: 'warning',
      says: largest
        ? `${counted(bareCount, 'area')} of the art ${bareCount === 1 ? 'is' : 'are'} bare, the largest ${areaText(largest.area)}; the art stands out by up to ${lengthText(uncovered.max)}, and a ${agent.name} feels all above ${lengthText(agent.detail)}.`
        : `The art stands out of the shapes by up to ${lengthText(uncovered.max)}; a ${agent.name} feels all above ${lengthText(agent.detail)}.`,
      why: 'Where no shape is, whoever walks there goes through what they see. Things that are dropped fall through it.',
      ...(uncovered.at ? { at: uncovered.at } : {}),
      ...(largest
        ? {
            setFix: { label: `Wrap ${counted(bareCount, 'bare area')}`, fix: { fix: 'wrap-bare' } },
            bareFaces: true as const,
          }
        : {}),
    },
  ];
}

/** Less than this is how a figure was rounded, metres. */
const ROUNDING_METRES = 1e-6;
/** To the next tenth of a millimetre, so that what was accepted is not found again. */
const rounded = (metres: number): number => Math.ceil((metres - ROUNDING_METRES) * 1e4) / 1e4;

function standingOut(
  { proxies }: PieceDocument,
  { excess, shapes }: SetFacts,
  agent: CheckRules['agent'],
  number: NumberOf,
): Finding[] {
  if (!agent || excess.max <= agent.detail) return [];
  const accepted = new Map(proxies.map(({ id, acceptedExcess }) => [id, acceptedExcess ?? 0]));
  const felt = shapes
    .filter((shape) => shape.excess.max > agent.detail)
    .sort((a, b) => b.excess.max - a.excess.max);
  const out = felt.filter(({ id, excess }) => excess.max > (accepted.get(id) ?? 0) + ROUNDING_METRES);
  const which = (some: readonly { id: string }[]) =>
    some.length === 1 ? `shape ${number(some[0]!.id)}` : counted(some.length, 'shape');
  const Which = (some: readonly { id: string }[]) =>
    some.length === 1 ? `Shape ${number(some[0]!.id)} stands` : `${counted(some.length, 'shape')} stand`;
  if (!out.length)
    return felt.slice(0, 1).map(({ excess }) => ({
      id: 'excess-accepted',
      step: 'proxies',
      severity: 'info',
      says: `${Which(felt)} out of the art by up to ${lengthText(excess.max)}, as accepted.`,
      why: 'A slope over steps and a wall that nobody sees stand out on purpose. What was accepted is measured on every change, and found again when it stands out more.',
      ...(excess.at ? { at: excess.at } : {}),
      shapes: felt.map(({ id }) => id),
    }));
  const [worst] = out;
  const ids = new Map(out.map(({ id, excess }) => [id, excess.max]));
  // A surface is not fitted; it is broken up, or accepted.
  const solid = new Set(proxies.flatMap(({ id, shape }) => (shape.kind === 'surface' ? [] : [id])));
  const toFit = out.filter(({ id }) => solid.has(id));
  const changed = proxies
    .filter(({ id }) => ids.has(id))
    .map((proxy) => ({ ...proxy, acceptedExcess: rounded(ids.get(proxy.id)!) }));
  return [
    {
      id: 'proxies-excess',
      step: 'proxies',
      severity: 'warning',
      says: `${Which(out)} out of the art by up to ${lengthText(worst!.excess.max)}; a ${agent.name} feels all above ${lengthText(agent.detail)}.`,
      why: 'Where shapes stand out, whoever walks there is stopped by air. What should fall in stays lying on top.',
      ...(worst!.excess.at ? { at: worst!.excess.at } : {}),
      shapes: [...ids.keys()],
      ...(toFit.length
        ? {
            setFix: {
              label: `Refit ${which(toFit)}`,
              fix: { fix: 'refit' as const, shapes: toFit.map(({ id }) => id) },
            },
          }
        : {}),
      fix: {
        label: `Accept ${which(out)} as ${out.length === 1 ? 'it stands' : 'they stand'}`,
        edit: { kind: 'put-proxies', changed, removed: [] },
      },
    },
  ];
}

function away({ shapes }: SetFacts, agent: CheckRules['agent'], number: NumberOf): Finding[] {
  const lost = shapes.filter((shape) => shape.away > (agent?.detail ?? 0)).sort((a, b) => b.away - a.away);
  const [farthest] = lost;
  if (!farthest) return [];
  const ids = lost.map(({ id }) => id);
  const what =
    lost.length === 1 ? `Shape ${number(farthest.id)} lies` : `${counted(lost.length, 'shape')} lie`;
  return [
    {
      id: 'shapes-away',
      step: 'proxies',
      severity: 'warning',
      says: `${what} away from all art, by up to ${lengthText(farthest.away)}.`,
      why: 'Something that cannot be seen is in the way. It is found by walking into it.',
      ...(farthest.excess.at ? { at: farthest.excess.at } : {}),
      shapes: ids,
      fix: {
        label: `Remove ${lost.length === 1 ? `shape ${number(farthest.id)}` : counted(lost.length, 'shape')}`,
        edit: { kind: 'put-proxies', changed: [], removed: ids },
      },
    },
  ];
}

/** Shorter stretches of an edge are where shapes meet, as a share of it. */
const MEETING_SHARE = 0.01;

/** Edges along which nothing can slide, since no shape has an edge there. */
export const bareEdges = ({ edges }: Pick<SetFacts, 'edges'>) =>
  edges.filter(({ bare, length }) => bare > MEETING_SHARE * length).sort((a, b) => b.bare - a.bare);

function edgesBare({ riddenEdges }: PieceDocument, facts: SetFacts): Finding[] {
  const bare = bareEdges(facts);
  const [worst] = bare;
  if (!worst) return [];
  const name = riddenEdges.find(({ id }) => id === worst.edge)?.name ?? worst.edge;
  const others = bare.length > 1 ? `; ${counted(bare.length - 1, 'other edge')} likewise` : '';
  return [
    {
      id: 'edges-bare',
      step: 'proxies',
      severity: 'warning',
      says: `No shape has an edge along ${lengthText(worst.bare)} of the ${lengthText(worst.length)} of “${name}”${others}.`,
      why: 'What slides or grips along an edge follows the edge of the shape, not that of the art. Where it is off, broken or bevelled it jolts, or lets go.',
      at: worst.at,
      setFix: {
        label: `Lay bars along ${bare.length === 1 ? `“${name}”` : counted(bare.length, 'edge')}`,
        fix: { fix: 'lay-bars' },
      },
    },
  ];
}

function leftByArt(facts: SetFacts, number: NumberOf): Finding[] {
  const { left } = facts;
  if (!left) return [];
  const ids = left.shapes.map(({ id }) => id);
  const now = new Map(facts.shapes.map(({ id, excess }) => [id, excess]));
  const worst = [...left.shapes].sort((a, b) => now.get(b.id)!.max - now.get(a.id)!.max)[0];
  const bare = newlyBare(facts);
  const said = [
    ...(worst
      ? [
          `${ids.length > 1 ? `${counted(ids.length, 'shape')} fit worse, ` : ''}shape ${number(worst.id)} stands out by ${lengthText(now.get(worst.id)!.max)} instead of ${lengthText(worst.before)}`,
        ]
      : []),
    ...(bare > 0 ? [`${areaText(bare)} more of it is bare`] : []),
  ];
  if (!said.length) return [];
  const at = (worst && now.get(worst.id)!.at) ?? facts.bare[0]?.at;
  return [
    {
      id: 'left-by-art',
      step: 'proxies',
      severity: 'info',
      says: `The art has changed since: ${said.join('; ')}.`,
      why: 'Shapes were made for the art as it was. What still fits was left alone; this is what the change has left, until you have looked at it.',
      ...(at ? { at } : {}),
      shapes: ids,
      ...(ids.length
        ? {
            setFix: {
              label: `Refit ${ids.length === 1 ? `shape ${number(ids[0]!)}` : counted(ids.length, 'shape')}`,
              fix: { fix: 'refit' as const, shapes: ids },
            },
          }
        : {}),
      lookedAt: true as const,
    },
  ];
}

/** Shapes may cross where the target takes it; that they do is said. */
function crossing({ crossings, crossingCount }: SetFacts, number: NumberOf): Finding[] {
  const [deepest] = crossings;
  if (!deepest) return [];
  const shared = crossings.reduce((sum, { volume }) => sum + volume, 0);
  return [
    {
      id: 'shapes-cross',
      step: 'proxies',
      severity: 'info',
      says: `${counted(crossingCount, 'pair')} of shapes ${crossingCount === 1 ? 'goes' : 'go'} into each other, ${number(deepest.a)} and ${number(deepest.b)} by ${lengthText(deepest.depth)}; together they share ${volumeText(shared)}.`,
      why: 'What rests on both is pushed by both, and shakes. Mass is counted twice where the body is simulated.',
      at: deepest.at,
      shapes: [...new Set(crossings.flatMap(({ a, b }) => [a, b]))],
      setFix: {
        label: `Trim ${counted(crossingCount, 'pair')} so that ${crossingCount === 1 ? 'it meets' : 'they meet'}`,
        fix: { fix: 'trim' },
      },
    },
  ];
}
