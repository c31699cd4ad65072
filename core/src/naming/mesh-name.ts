import * as z from 'zod';
import { listText } from '../math/index.js';

/**
 * A mesh name from what a person calls the piece: words joined with capitals, numbers set off by an
 * underscore and at least two digits long. "Slip winch 2" becomes "SlipWinch_02".
 */
export function meshNameFrom(pieceName: string): string {
  const words =
    pieceName
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, '')
      .match(/[A-Za-z]+|[0-9]+/g) ?? [];
  const name = words
    .map((word) => (/^\d/.test(word) ? `_${word.padStart(2, '0')}` : word[0]!.toUpperCase() + word.slice(1)))
    .join('');
  if (!name) return 'Piece';
  return name.startsWith('_') ? `Piece${name}` : name;
}

/** One character, or a range of them: "_", "A-Z". */
export const characterRangeSchema = z.string().refine((range) => {
  const [from, dash, to, more] = [...range];
  if (from === undefined || more !== undefined) return false;
  return (
    dash === undefined || (dash === '-' && to !== undefined && from.codePointAt(0)! <= to.codePointAt(0)!)
  );
}, 'A range is one character, or two with a hyphen between them, the lower first.');

export interface NameRules {
  /** characters and ranges of them, e.g. `['A-Z', '_']` */
  legalCharacters: readonly string[];
  longest: number;
  /** Default true */
  mayStartWithDigit?: boolean;
  /** characters that names made of it have more, such as those of its shapes. Default 0 */
  tokens?: number;
}

/** The rules for a mesh with shapes, or without any. */
export const nameRulesFor = (rules: NameRules, shapes: number): NameRules =>
  shapes ? rules : { ...rules, tokens: 0 };

const known = new WeakMap<readonly string[], readonly (readonly [number, number])[]>();

/** First and last code of each range, read once for a list of them: thousands of names are asked about. */
function codesOf(legalCharacters: readonly string[]): readonly (readonly [number, number])[] {
  const codes =
    known.get(legalCharacters) ??
    legalCharacters.map((range): [number, number] => {
      const [from, , to = from] = [...range];
      return [from!.codePointAt(0)!, to!.codePointAt(0)!];
    });
  known.set(legalCharacters, codes);
  return codes;
}

function isLegal(character: string, { legalCharacters }: NameRules): boolean {
  const code = character.codePointAt(0)!;
  return codesOf(legalCharacters).some(([from, to]) => from <= code && code <= to);
}

/** Names that file systems keep for devices, whatever the extension. */
const DEVICE = /^(con|prn|aux|nul|com[0-9]|lpt[0-9])$/i;

/** What keeps a name from being delivered, as a sentence; null when nothing does. */
export function nameFault(name: string, rules: NameRules): string | null {
  if (name === '') return 'The name is empty.';
  const illegal = [...new Set([...name].filter((c) => !isLegal(c, rules)))];
  if (illegal.length) {
    const list = illegal.map((c) =>
      c === ' ' ? 'a space' : /\p{C}/u.test(c) ? 'a control character' : `“${c}”`,
    );
    return `The name holds ${listText(list)}, which the target does not take.`;
  }
  if (rules.mayStartWithDigit === false && /^\d/.test(name))
    return `The name starts with the digit ${name[0]}, and the target takes none in front.`;
  if (DEVICE.test(name)) return `${name} is a device to some file systems, and no file can be named so.`;
  const { longest, tokens = 0 } = rules;
  if (name.length > longest)
    return `The name has ${name.length} characters, and the target takes ${longest}.`;
  if (name.length + tokens > longest)
    return `The name has ${name.length} characters; the names of its shapes come to ${name.length + tokens} with it, and the target takes ${longest}.`;
  return null;
}

/** A letter without its accents, where that is one letter: "ü" is "u". */
const plainLetter = (character: string): string =>
  character.normalize('NFKD').replace(/[\u0300-\u036f]/g, '');

/**
 * The name with letters that are not legal without their accents, and every other illegal character replaced by an
 * underscore, cut to length; never empty.
 */
export function legalName(name: string, rules: NameRules): string {
  let run = '';
  let broken = false;
  for (const c of name.normalize('NFC')) {
    const taken = isLegal(c, rules) ? c : plainLetter(c);
    const fits = taken !== '' && [...taken].every((one) => isLegal(one, rules));
    if (fits) run += taken;
    else if (!broken) run += '_';
    broken = !fits;
  }
  const ahead = rules.mayStartWithDigit === false ? /^[_\d]+|_+$/g : /^_+|_+$/g;
  const legal = run.slice(0, rules.longest - (rules.tokens ?? 0)).replace(ahead, '');
  return DEVICE.test(legal) ? `${legal}_01` : legal || 'Piece';
}
