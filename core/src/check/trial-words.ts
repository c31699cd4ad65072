import { counted, countText, lengthText, listText } from '../math/figures.js';
import type { PieceDocument } from '../piece/index.js';
import { type BodyTrial, type TrialCost, walkPassed, type WalkTrial } from './trial-facts.js';

const ENDS = {
  through: 'drives through',
  falls: 'falls through',
  stopped: 'is stopped',
  tips: 'tips over',
} as const;

/** What a trial with bodies came to, in one line: what was tried, and how it went. */
export function bodyTrialText(
  trial: BodyTrial,
  { nodes, riddenEdges, proxies }: Pick<PieceDocument, 'nodes' | 'riddenEdges' | 'proxies'>,
): { name: string; text: string } {
  const number = (id: string | null) => proxies.findIndex((proxy) => proxy.id === id) + 1;
  switch (trial.kind) {
    case 'pour':
      return {
        name: 'poured in',
        text: `${countText(trial.inside)} of ${countText(trial.balls)} balls stay inside`,
      };
    case 'roll': {
      const what =
        trial.what === 'ball'
          ? 'ball'
          : trial.sides === null
            ? 'round barrel'
            : `barrel of ${trial.sides} sides`;
      return {
        name: `${what} rolled`,
        text: `${lengthText(trial.metres)}, goes up and down by ${lengthText(trial.wobble)}${trial.stoppedBy ? `, stopped by shape ${number(trial.stoppedBy)}` : ''}`,
      };
    }
    case 'drop':
      return {
        name: `dropped on ${trial.side}`,
        text:
          trial.settled === null
            ? 'never lies still'
            : `still after ${trial.settled.toFixed(1)} s, tipped ${trial.tipped.toFixed(0)}°`,
      };
    case 'swing': {
      const part = nodes.find(({ id }) => id === trial.part)?.name ?? 'a part';
      const hits = trial.hits.map(
        ({ degrees, rest }) => `meets shape ${number(rest)} at ${degrees.toFixed(1)}°`,
      );
      return {
        name: `${part} swung`,
        text: hits.length
          ? hits.join(', ')
          : `free over ${trial.opens.map((v) => `${v.toFixed(0)}°`).join(' to ')}`,
      };
    }
    case 'slide': {
      const edge = riddenEdges.find(({ id }) => id === trial.edge)?.name ?? 'an edge';
      const [worst] = trial.jolts;
      const said = [
        ...(worst ? [`${counted(trial.jolts.length, 'jolt')} of up to ${lengthText(worst.metres)}`] : []),
        ...(trial.snags.length ? [`${counted(trial.snags.length, 'snag')}`] : []),
        ...(trial.lost > trial.length * 0.01 ? [`lies on nothing for ${lengthText(trial.lost)}`] : []),
      ];
      return { name: `slid along ${edge}`, text: said.length ? said.join(', ') : 'smoothly' };
    }
    case 'drive': {
      const jolts = trial.marks.filter(({ kind }) => kind === 'jolt');
      const caught = trial.marks.length - jolts.length;
      const said = [
        `${ENDS[trial.end]} after ${lengthText(Math.max(0, trial.metres))}`,
        ...(trial.wrongWay ? [`the faces${ofShape(number(trial.wrongWay))} look down`] : []),
        ...(jolts.length
          ? [`${counted(jolts.length, 'jolt')} of up to ${lengthText(jolts[0]!.metres)}`]
          : []),
        ...(caught ? [`caught in ${counted(caught, 'place')}`] : []),
      ];
      return { name: 'trolley', text: said.join(', ') };
    }
  }
}

/** 0 is none that is known here. */
const ofShape = (number: number): string => (number ? ` of shape ${number}` : ' there');

const ms = (value: number): string => `${value < 10 ? value.toPrecision(2) : value.toFixed(0)} ms`;

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/** "500 of these cost 0.90 ms a step and 2.2 MB; their triangles would cost 31 ms and 950 MB." */
export function costText({ shapes, triangles }: TrialCost): string {
  const most = shapes.at(-1);
  const same = triangles.find(({ copies }) => copies === most?.copies);
  const last = triangles.at(-1);
  if (!most) return '';
  const takes = ({ step, bytes }: TrialCost['shapes'][number]) =>
    `${ms(step)} a step and ${megabytes(bytes)}`;
  const art = same
    ? `their triangles would cost ${takes(same)}`
    : last
      ? `the triangles of ${countText(last.copies)} cost ${takes(last)} already`
      : 'its triangles are too many to try';
  return `${countText(most.copies)} of these cost ${takes(most)}; ${art}.`;
}

/** How a walk went, in one line. */
export function walkText(walk: WalkTrial): string {
  const shut = walk.openings.filter(({ passes }) => !passes).length;
  const lost = walk.routes.filter(({ found }) => !found).length;
  const faults = [
    ...(walk.fallCount ? [`falls through in ${counted(walk.fallCount, 'place')}`] : []),
    ...(walk.stuck.length ? [`gets stuck in ${counted(walk.stuck.length, 'place')}`] : []),
    ...(walk.blockedCount ? [`is stopped by air in ${counted(walk.blockedCount, 'place')}`] : []),
    ...(walk.jolts.length ? [`is shaken in ${counted(walk.jolts.length, 'place')}`] : []),
    ...(shut ? [`does not get through ${counted(shut, 'opening')}`] : []),
    ...(lost ? [`finds ${counted(lost, 'route')} missing`] : []),
  ];
  return walkPassed(walk) ? `passes, ${counted(walk.runs, 'run')}` : listText(faults);
}
