import type { PieceSummary } from '@yard-brace/contract';
import { type ShelfFacts, shelfFactsSchema, type Stamp, type Tally, WORKING_STEPS } from '@yard-brace/core';

/** A piece as one query gives it for the shelf. */
export interface ShelfRow {
  id: number;
  name: string;
  version: number;
  savedAt: Date;
  facts: string | null;
  picture: string | null;
}

/** Facts as they are stored; a piece that cannot be opened says why. */
export function shelfFactsFrom(text: string | null): { facts: ShelfFacts | null; broken: string | null } {
  if (text === null) return { facts: null, broken: 'It was not looked at yet.' };
  const value: unknown = JSON.parse(text);
  const parsed = shelfFactsSchema.safeParse(value);
  if (parsed.success) return { facts: parsed.data, broken: null };
  const broken = (value as { broken?: unknown }).broken;
  return { facts: null, broken: typeof broken === 'string' ? broken : 'What is stored of it is damaged.' };
}

const NOTHING_KNOWN: Omit<ShelfFacts, 'tally'> = {
  meshName: '',
  size: [0, 0, 0],
  triangles: 0,
  shapes: 0,
  bounds: { min: [0, 0, 0], max: [0, 0, 0] },
  pivot: { anchor: 'as-it-came', position: [0, 0, 0], rotation: [0, 0, 0, 1], locked: false },
  family: null,
  feature: null,
  joinedBy: 'bounds',
  cameFrom: '',
  deviation: null,
  delivered: [],
};

export function summaryOf(
  { id, name, version, savedAt, picture }: ShelfRow,
  { facts, broken }: ReturnType<typeof shelfFactsFrom>,
): PieceSummary {
  const stopped = (step: string): Stamp => (step === 'intake' ? 'stopped' : 'none');
  const tally =
    facts?.tally ?? (Object.fromEntries(WORKING_STEPS.map((step) => [step, stopped(step)])) as Tally);
  return {
    id,
    name,
    version,
    savedAt: savedAt.toISOString(),
    picture,
    broken,
    ...(facts ?? NOTHING_KNOWN),
    ownTally: tally,
    tally,
  };
}
