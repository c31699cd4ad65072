import { counted, lengthText, listText } from '../math/figures.js';
import type { PieceDocument } from '../piece/index.js';
import type { Agent } from './agents.js';
import type { CheckRules, Finding, PieceSurroundings } from './finding.js';
import {
  type BodyTrial,
  bodyTrialKey,
  type BodyTrialKind,
  bodyTrialPassed,
  bodyTrialSubject,
  type WalkTrial,
  walkTrialKey,
} from './trial-facts.js';
import { bodyTrialText } from './trial-words.js';

/** What there is to say of the trials that a yard asks for, and of those that were made. */
export function trialFindings(
  document: PieceDocument,
  { trials, takes }: CheckRules,
  { measured }: PieceSurroundings,
): Finding[] {
  if (!trials || document.proxies.length === 0) return [];
  const { walks = [], bodies = [] } = measured?.trials ?? {};
  return [
    ...trials.walkers.flatMap((agent) => {
      const walk = walks.find((each) => each.agent === agent.id);
      if (!walk) return trials.walk ? [notTried(agent)] : [];
      if (walk.key !== walkTrialKey(document, agent, trials, takes)) return [outOfDate(agent)];
      return walkFindings(document, walk, agent);
    }),
    ...trials.bodies
      .filter((kind) => hasFor(document, kind) && !bodies.some((trial) => trial.kind === kind))
      .map((kind): Finding => ({
        id: `not-tried-${kind}`,
        step: 'trial',
        severity: 'info',
        says: `${NOT_TRIED[kind]}; the yard asks for it.`,
        why: 'What a yard asks for is tried on every piece before its step is clear.',
      })),
    ...bodies.flatMap((trial) => bodyFindings(document, trial, trials.bodies.includes(trial.kind), takes)),
  ];
}

/** Whether a piece has what a trial is made with: only what has a hinge is swung, only marked edges are slid along. */
const hasFor = ({ nodes, riddenEdges }: PieceDocument, kind: BodyTrialKind): boolean =>
  kind === 'swing'
    ? nodes.some(({ pivot }) => pivot?.hinge)
    : kind === 'slide'
      ? riddenEdges.length > 0
      : true;

const NOT_TRIED: Record<BodyTrialKind, string> = {
  pour: 'Nothing was poured into it yet',
  roll: 'Nothing was rolled at it yet',
  drop: 'It was not dropped yet',
  swing: 'No part of it was swung yet',
  slide: 'Nothing slid along an edge of it yet',
  drive: 'Nothing was driven over it yet',
};

const BODY_WHYS: Record<BodyTrialKind, string> = {
  pour: 'What should lie in it lies beside or under it in the level.',
  roll: 'What rolls over it is shaken by every edge of its shapes.',
  drop: 'A body that never lies still costs the engine every frame, and is seen to tremble.',
  swing: 'A leaf that meets its frame stops there, or is thrown about by the engine.',
  slide: 'What slides along the edge jolts, catches or lets go where the shapes do not follow it.',
  drive: 'Who drives there falls through, stops or tips over in the level.',
};

/** A trial with bodies that did not go as wanted; it stops the step where the yard asks for it. */
function bodyFindings(document: PieceDocument, trial: BodyTrial, asked: boolean, takes: string): Finding[] {
  const id = bodyTrialSubject(trial).replaceAll(' ', '-');
  const { name, text } = bodyTrialText(trial, document);
  const Name = `${name[0]!.toUpperCase()}${name.slice(1)}`;
  const base = { step: 'trial', severity: 'warning', why: BODY_WHYS[trial.kind] } as const;
  if (trial.key !== bodyTrialKey(document, trial.ask, takes))
    return asked
      ? [
          {
            ...base,
            id: `outdated-${id}`,
            says: `${Name}: something that matters has changed since; try it again.`,
          },
        ]
      : [];
  if (bodyTrialPassed(trial)) return [];
  const at =
    trial.kind === 'pour'
      ? trial.leaks[0]
      : trial.kind === 'drive'
        ? trial.at
        : trial.kind === 'slide'
          ? (trial.jolts[0] ?? trial.snags[0])?.at
          : undefined;
  return [
    {
      ...base,
      id: `tried-${id}`,
      says: `${Name}: ${text}.`,
      ...(at ? { at } : {}),
      ...(asked ? { fails: true as const } : {}),
    },
  ];
}

const notTried = ({ id, name }: Agent): Finding => ({
  id: `not-walked-${id}`,
  step: 'trial',
  severity: 'info',
  says: `No ${name} has walked at these shapes yet.`,
  why: 'What an agent gets caught on is found by walking into it. Here that takes seconds; in a level it takes a round trip.',
});

const outOfDate = ({ id, name }: Agent): Finding => ({
  id: `walk-outdated-${id}`,
  step: 'trial',
  severity: 'warning',
  says: `The ${name} walked at this piece as it was; something that matters has changed since.`,
  why: 'A trial tells of the shapes, the art and the agent that it was made with. After a change it has to be made again.',
});

function walkFindings(document: PieceDocument, walk: WalkTrial, { id, name, detail }: Agent): Finding[] {
  const numbers = new Map(document.proxies.map((proxy, i) => [proxy.id, i + 1]));
  const byShape = (shape: string | null) =>
    shape && numbers.has(shape) ? ` at shape ${numbers.get(shape)}` : '';
  const lit = (places: readonly { shape: string | null }[]) => [
    ...new Set(places.flatMap(({ shape }) => (shape !== null && numbers.has(shape) ? [shape] : []))),
  ];
  const found: Finding[] = [];
  const say = (
    kind: string,
    says: string,
    why: string,
    places: readonly { at: Finding['at']; shape: string | null }[],
    more: Partial<Finding> = {},
  ) =>
    found.push({
      id: `${kind}-${id}`,
      step: 'trial',
      severity: 'warning',
      says,
      why,
      ...(places[0]?.at ? { at: places[0].at } : {}),
      ...(lit(places).length ? { shapes: lit(places) } : {}),
      fails: true,
      ...more,
    });

  const [fall] = walk.falls;
  if (fall)
    say(
      'walk-falls',
      `The ${name} falls through in ${counted(walk.fallCount, 'place')}, by up to ${lengthText(fall.metres)}: the art carries it there, and no shape does.`,
      'Whoever stands there in the level drops through what they see.',
      walk.falls,
      { setFix: { label: 'Wrap what is bare', fix: { fix: 'wrap-bare' } } },
    );
  const [stuck] = walk.stuck;
  if (stuck)
    say(
      'walk-stuck',
      `The ${name} gets stuck in ${counted(walk.stuck.length, 'place')}${byShape(stuck.shape)}: it can go no way from there.`,
      'A player that gets stuck has to begin again.',
      walk.stuck,
    );
  const shut = walk.openings.filter(({ passes }) => !passes);
  if (shut.length) {
    const [worst] = [...shut].sort((a, b) => b.missingMetres - a.missingMetres);
    const missing = [
      ...(worst!.missingWidth > 0 ? [`${lengthText(worst!.missingWidth)} too narrow`] : []),
      ...(worst!.missingHeight > 0 ? [`${lengthText(worst!.missingHeight)} too low`] : []),
    ];
    const inTheWay = shut.filter(({ shape }) => shape !== null);
    say(
      'walk-opening',
      `The ${name} does not get through ${listText(shut.map((opening) => `“${opening.name}”`))}${missing.length ? `: ${listText(missing)}` : ''}${byShape(worst!.shape)}.`,
      'An opening that looks open and is not is found by walking into it. Nobody gets through, and paths end before it.',
      shut,
      inTheWay.length ? { setFix: { label: 'Cut the shapes back', fix: { fix: 'cut-back' } } } : {},
    );
  }
  const [air] = walk.blocked;
  if (air)
    say(
      'walk-blocked',
      `The ${name} is stopped by air in ${counted(walk.blockedCount, 'place')}${byShape(air.shape)}, by up to ${lengthText(air.metres)} of it, where the art lets it pass.`,
      'Somebody walks against something that cannot be seen.',
      walk.blocked,
      refit(lit(walk.blocked), numbers),
    );
  const [jolt] = walk.jolts;
  if (jolt)
    say(
      'walk-shaken',
      `The ${name} is shaken: ${counted(jolt.count, 'jolt')} of up to ${lengthText(jolt.metres)}, one after the other${byShape(jolt.shape)}.`,
      'A stair of steps shakes the view at each of them. Collided as a slope it is walked smoothly.',
      walk.jolts,
    );
  const lost = walk.routes.filter(({ found: there }) => !there);
  if (lost.length)
    say(
      'walk-routes',
      `The ${name} finds no route ${lost.some(({ name: opening }) => opening) ? `through ${listText(lost.flatMap(({ name: opening }) => (opening ? [`“${opening}”`] : [])))}` : `to ${counted(lost.length, 'place')} that the art leads to`}.`,
      'What walks by itself in the level plans its way over the shapes. Where it finds none it stands still.',
      lost.map(({ at }) => ({ at, shape: null })),
    );
  const [stumble] = walk.stumbles;
  if (stumble)
    say(
      'walk-stumbles',
      `The ${name} stumbles in ${counted(walk.stumbles.length, 'place')}${byShape(stumble.shape)}: it is lifted or let down at once by up to ${lengthText(stumble.metres)} more than the art has there.`,
      'An edge that cannot be seen jerks the view of whoever walks over it.',
      walk.stumbles,
      { fails: undefined },
    );
  const [slip] = walk.slips;
  if (slip)
    say(
      'walk-slips',
      `The ${name} slides down${byShape(slip.shape)} by up to ${lengthText(slip.metres)}, where the art is flat enough to stand on.`,
      'Whoever stands there in the level slides off.',
      walk.slips,
      { fails: undefined },
    );
  const [gap] = walk.contacts;
  if (gap)
    say(
      'walk-contacts',
      `At ${counted(walk.contactCount, 'contact')} the art is more than ${lengthText(detail)} away from what the ${name} feels; the worst is ${lengthText(gap.metres)} of ${gap.kind === 'air' ? 'air' : 'art passed through'}${byShape(gap.shape)}.`,
      'Where shapes stand out one is stopped by air, and where the art stands out one walks through what is seen.',
      walk.contacts,
      {
        fails: undefined,
        ...refit(lit(walk.contacts.filter(({ kind, where }) => kind === 'air' && where === 'side')), numbers),
      },
    );
  return found;
}

function refit(ids: readonly string[], numbers: ReadonlyMap<string, number>): Partial<Finding> {
  if (!ids.length) return {};
  const what = ids.length === 1 ? `shape ${numbers.get(ids[0]!)}` : counted(ids.length, 'shape');
  return { setFix: { label: `Refit ${what}`, fix: { fix: 'refit', shapes: [...ids] } } };
}
