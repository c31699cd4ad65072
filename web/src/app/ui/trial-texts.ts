import { counted, lengthText, type TrialContact, type WalkTrial } from '@yard-brace/core';

/** A line of what a walk came to: where it is, and which shape is to blame. */
export interface TrialLine {
  id: string;
  says: string;
  /** how much: a length; empty where there is none */
  much: string;
  at: readonly [number, number, number];
  /** id of the shape; null where it is none */
  shape: string | null;
  /** from where and which way the agent walked there; null where it did not */
  from: WalkTrial['stuck'][number]['from'];
}

const WHERE = { side: 'at its side', foot: 'at its feet', head: 'over its head' } as const;

/** Everything that did not pass, and then the gaps, the worst of each first. */
export function linesOf(walk: WalkTrial): TrialLine[] {
  const lines = (
    kind: string,
    says: string,
    places: readonly (Omit<TrialLine, 'id' | 'says' | 'much'> & { metres?: number; count?: number })[],
  ): TrialLine[] =>
    places.map(({ at, shape, from, metres, count }, i) => ({
      id: `${kind}-${i}`,
      says: count === undefined ? says : `${says} ${counted(count, 'time')}`,
      much: metres === undefined ? '' : lengthText(metres),
      at,
      shape,
      from,
    }));
  return [
    ...lines('fall', 'falls through', walk.falls),
    ...lines('stuck', 'gets stuck', walk.stuck),
    ...lines('blocked', 'stopped by air', walk.blocked),
    ...lines('jolt', 'shaken', walk.jolts),
    ...lines('stumble', 'stumbles', walk.stumbles),
    ...lines('slip', 'slides down', walk.slips),
    ...contactLines(walk.contacts),
  ];
}

/** Gaps at what was touched; `id` is what the ids of the lines begin with. */
export const contactLines = (contacts: readonly TrialContact[], id = 'contact'): TrialLine[] =>
  contacts.map(({ kind, where, metres, at, shape, from }, i) => ({
    id: `${id}-${i}`,
    says: `${kind === 'air' ? 'air' : 'art'} ${WHERE[where]}`,
    much: lengthText(metres),
    at,
    shape,
    from,
  }));

/** An opening in words: what passes, or what is missing. */
export function openingText({
  passes,
  missingWidth,
  missingHeight,
  width,
  height,
}: WalkTrial['openings'][number]): string {
  if (passes) return `passes, ${lengthText(width)} wide and ${lengthText(height)} high`;
  const missing = [
    ...(missingWidth > 0 ? [`${lengthText(missingWidth)} too narrow`] : []),
    ...(missingHeight > 0 ? [`${lengthText(missingHeight)} too low`] : []),
  ];
  return `no route: ${missing.length ? missing.join(', ') : 'something stands before it'}`;
}
