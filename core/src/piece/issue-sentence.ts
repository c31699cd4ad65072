import type * as z from 'zod';
import { listText } from '../math/index.js';

/** Kinds of values in words for people. */
const WORDS: Record<string, string> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'nothing',
};

/** What Zod says of a rule that says nothing itself. */
const UNSAID = 'Invalid input';
/** What goes on after the place as one sentence: "has to be a number". */
const DEMAND = /^(is|has|names|needs|holds|takes|does)\b/;

/**
 * What a schema found wrong, as one sentence of ours: where it is and what belongs there. Messages that the
 * schema itself brings as whole sentences are passed on.
 */
export function issueSentence(issue: z.core.$ZodIssue): string {
  const { path, message } = issue;
  const place = path.length ? `“${path.join('.')}”` : 'What was sent';
  if (/^[A-Z“].*\.$/.test(message)) return path.length > 1 ? `${place}: ${message}` : message;
  if (issue.code === 'custom' && message !== UNSAID && !DEMAND.test(message)) return `${place}: ${message}.`;
  return `${place} ${issueDemand(issue)}.`;
}

/** What belongs there, as the end of a sentence: "has to be a number". */
export function issueDemand(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return `has to be ${WORDS[issue.expected] ?? 'of another kind'}`;
    case 'too_big':
      return `is larger than ${issue.maximum}`;
    case 'too_small':
      return `is smaller than ${issue.minimum}`;
    case 'invalid_value':
      return `has to be one of ${listText(issue.values.map(String), 8)}`;
    case 'invalid_format':
      return 'is not written as it has to be';
    case 'unrecognized_keys':
      return `has fields that nobody knows: ${listText(issue.keys)}`;
    case 'custom':
      return issue.message === UNSAID ? 'does not fit' : issue.message;
    default:
      return 'is none of what belongs there';
  }
}
