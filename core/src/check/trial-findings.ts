import { counted, lengthText, listText } from '../math/figures.js';
import type { PieceDocument } from '../piece/index.js';
import type { Agent } from './agents.js';
import type { CheckRules, Finding, PieceSurroundings } from './finding.js';
import { type WalkTrial, walkTrialKey } from './trial-facts.js';

/** What there is to say of the trials that a yard asks for, and of those that were made. */
export function trialFindings(
  document: PieceDocument,
  { trials, takes }: CheckRules,
  { measured }: PieceSurroundings,
): Finding[] {
  const walks = measured?.trials?.walks ?? [];
  if (!trials || document.proxies.length === 0) return [];
  return trials.walkers.flatMap((agent) => {
    const walk = walks.find((each) => each.agent === agent.id);
    if (!walk) return trials.walk ? [notTried(agent)] : [];
    if (walk.key !== walkTrialKey(document, agent, trials, takes)) return [outOfDate(agent)];
    return walkFindings(document, walk, agent);
  });
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
