import type { Option } from './choice';

/** One thing that a form asks for, and how. */
export type Field = {
  label: string;
  /** below the form's own place */
  path: readonly (string | number)[];
  note?: string;
  /** what stands there while nothing is given */
  fallback?: unknown;
} &
  /** an emptied one that is optional is left out */
  (
    | { as: 'text'; wide?: boolean; optional?: boolean }
    | { as: 'sentence' }
    | { as: 'number'; unit?: string; digits?: number }
    | { as: 'choice'; options: readonly Option<unknown>[] }
    | { as: 'flag' }
    /** a number, a list or anything else that JSON writes */
    | { as: 'value' }
    /** a line each */
    | { as: 'lines' }
    /** some of several, in the order they are listed */
    | { as: 'set'; options: readonly Option<string>[] }
  );

const titled = (word: string): string => word[0]!.toUpperCase() + word.slice(1).replaceAll('-', ' ');

/** Words that are their own labels. */
export const worded = <T extends string>(words: readonly T[]): Option<T>[] =>
  words.map((value) => ({ label: titled(value), value }));
