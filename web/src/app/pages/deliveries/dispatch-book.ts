import type { DeliveryEntry } from '@yard-brace/contract';

export interface BookFilter {
  /** part of a piece's name */
  name: string;
  /** id of a target; null for all */
  target: string | null;
  verdict: 'all' | 'agreed' | 'differed';
}
export const WHOLE_BOOK: BookFilter = { name: '', target: null, verdict: 'all' };

export interface BookDay {
  day: string;
  entries: DeliveryEntry[];
}

/** Deliveries as they were asked for, by the day they left, the newest first. */
export function bookDays(
  entries: readonly DeliveryEntry[],
  { name, target, verdict }: BookFilter,
): BookDay[] {
  const wanted = name.trim().toLowerCase();
  const days = new Map<string, DeliveryEntry[]>();
  for (const entry of entries) {
    if (!entry.piece.name.toLowerCase().includes(wanted)) continue;
    if (target !== null && entry.target !== target) continue;
    if (verdict !== 'all' && entry.agreed !== (verdict === 'agreed')) continue;
    const day = new Date(entry.at).toLocaleDateString('en-GB', {
      weekday: 'long',
      day: 'numeric',
      month: 'long',
      year: 'numeric',
    });
    days.set(day, [...(days.get(day) ?? []), entry]);
  }
  return [...days].map(([day, own]) => ({ day, entries: own }));
}

/** What was read back, in a few words; "as drawn" only where every point agrees. */
export function verdictText({
  agreed,
  differ,
  substituted,
}: Pick<DeliveryEntry, 'agreed' | 'differ' | 'substituted'>): string {
  if (!agreed) return `${differ - substituted} differ`;
  return substituted ? `as announced, ${substituted} substituted` : 'as drawn';
}
