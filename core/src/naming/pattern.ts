import { meshNameFrom } from './mesh-name.js';

/** What names are made of. */
export const NAME_FIELDS = [
  'type',
  'subject',
  'variant',
  'origin',
  'code',
  'initials',
  'date',
  'part',
  'kind',
  'number',
] as const;
export type NameField = (typeof NAME_FIELDS)[number];

/** What a field holds; counts are numbers. */
export type NameValues = Partial<Record<NameField, string>>;

const COUNTED: readonly NameField[] = ['variant', 'number'];
/** Fields whose text a person chose freely: the last of them may hold anything. */
const FREE: readonly NameField[] = ['subject', 'part'];
export const NAME_STYLES = ['pascal', 'snake', 'kebab'] as const;
type NameStyle = (typeof NAME_STYLES)[number];

const MAX_PATTERN_CHARACTERS = 200;
const MAX_DIGITS = 6;

type Piece =
  { literal: string } | { field: NameField; digits: number; style: NameStyle | null; free: boolean };

/** A pattern that cannot be used, with a sentence for the person. */
export class PatternError extends Error {
  override readonly name = 'PatternError';
}

/**
 * A pattern of fields in braces and text between them. Counts take their least digits, words their style:
 * `SM_{subject:pascal}_{variant:2}`.
 *
 * Every name that is formatted is parsed back: fields are set off by text, all but one hold nothing of the text behind
 * them, and the one that may hold anything is what is left between those before and those behind.
 *
 * @example
 * const pattern = namePattern('{type}_{subject:pascal}_{variant:2}');
 * pattern.format({ type: 'SM', subject: 'quay wall', variant: '3' }) // 'SM_QuayWall_03'
 * pattern.parse('SM_QuayWall_03') // { type: 'SM', subject: 'QuayWall', variant: '3' }
 * @throws PatternError
 */
export function namePattern(text: string): NamePattern {
  const pieces = compile(text);
  checkParts(pieces);
  return new NamePattern(text, pieces);
}

/** What is wrong with a pattern, as a sentence; null when nothing is. */
export function patternFault(text: string): string | null {
  try {
    namePattern(text);
    return null;
  } catch (error) {
    if (error instanceof PatternError) return error.message;
    throw error;
  }
}

export class NamePattern {
  readonly fields: readonly NameField[];

  constructor(
    readonly text: string,
    private readonly pieces: readonly Piece[],
  ) {
    this.fields = pieces.flatMap((piece) => ('field' in piece ? [piece.field] : []));
  }

  /** The name made of these values. @throws PatternError when one is missing, or holds what sets it off */
  format(values: NameValues): string {
    const filled = this.pieces.map((piece, i) =>
      'literal' in piece ? piece.literal : this.filled(piece, values, i),
    );
    const name = filled.join('');
    const back = this.parse(name);
    const same = this.pieces.every((piece, i) => {
      if ('literal' in piece) return true;
      const held = back?.[piece.field];
      return held === (COUNTED.includes(piece.field) ? filled[i]!.replace(/^0+(?=\d)/, '') : filled[i]);
    });
    if (!same) throw new PatternError(`The name “${name.slice(0, 80)}” could not be taken apart again.`);
    return name;
  }

  /** What a name holds; null for a name that was not made by the pattern. */
  parse(name: string): NameValues | null {
    const values: NameValues = {};
    const { pieces } = this;
    const free = pieces.findIndex((piece) => 'field' in piece && piece.free);
    let start = 0;
    let end = name.length;
    const ahead = free < 0 ? pieces.length : free;
    for (let i = 0; i < ahead; i++) {
      const piece = pieces[i]!;
      if ('literal' in piece) {
        if (!name.startsWith(piece.literal, start)) return null;
        start += piece.literal.length;
        continue;
      }
      const next = pieces[i + 1];
      const stop = next && 'literal' in next ? name.indexOf(next.literal, start) : name.length;
      if (stop < start || !take(piece, name.slice(start, stop), values)) return null;
      start = stop;
    }
    if (free < 0) return start === name.length ? values : null;
    for (let i = pieces.length - 1; i > free; i--) {
      const piece = pieces[i]!;
      if ('literal' in piece) {
        if (name.slice(end - piece.literal.length, end) !== piece.literal) return null;
        end -= piece.literal.length;
        continue;
      }
      const before = pieces[i - 1];
      const from =
        before && 'literal' in before
          ? name.lastIndexOf(before.literal, end - 1) + before.literal.length
          : start;
      if (from > end || !take(piece, name.slice(from, end), values)) return null;
      end = from;
    }
    if (
      start > end ||
      !take(pieces[free] as Extract<Piece, { field: unknown }>, name.slice(start, end), values)
    )
      return null;
    return values;
  }

  private filled(piece: Extract<Piece, { field: unknown }>, values: NameValues, i: number): string {
    const { field, digits, style, free } = piece;
    const given = values[field];
    if (given === undefined || given === '')
      throw new PatternError(`The name needs the field “${field}”, and there is none.`);
    if (COUNTED.includes(field)) {
      if (!isDigits(given)) throw new PatternError(`The ${field} “${given}” is no whole number.`);
      return given.replace(/^0+(?=\d)/, '').padStart(digits, '0');
    }
    const text = style ? styled(given, style) : given;
    if (text === '') throw new PatternError(`Nothing of the ${field} “${given}” can stand in a name.`);
    if (free) return text;
    for (const near of [this.pieces[i - 1], this.pieces[i + 1]])
      if (near && 'literal' in near && text.includes(near.literal))
        throw new PatternError(
          `The ${field} “${text}” holds “${near.literal}”, which sets it off; use another one.`,
        );
    return text;
  }
}

function take(
  { field, digits }: Extract<Piece, { field: unknown }>,
  text: string,
  values: NameValues,
): boolean {
  if (text === '') return false;
  if (!COUNTED.includes(field)) {
    values[field] = text;
    return true;
  }
  // Longer than it must be, it has no zero in front: that is how counts are written.
  if (!isDigits(text) || text.length < digits || (text.length > digits && text[0] === '0')) return false;
  values[field] = text.replace(/^0+(?=\d)/, '');
  return true;
}

function isDigits(text: string): boolean {
  if (text === '') return false;
  for (const c of text) if (c < '0' || c > '9') return false;
  return true;
}

function styled(text: string, style: NameStyle): string {
  if (style === 'pascal') return meshNameFrom(text);
  const words = text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .match(/[A-Za-z0-9]+/g);
  return (words ?? []).map((word) => word.toLowerCase()).join(style === 'snake' ? '_' : '-');
}

function compile(text: string): Piece[] {
  if (text === '') throw new PatternError('The pattern is empty.');
  if (text.length > MAX_PATTERN_CHARACTERS)
    throw new PatternError(`A pattern has at most ${MAX_PATTERN_CHARACTERS} characters, not ${text.length}.`);
  const pieces: Piece[] = [];
  let at = 0;
  while (at < text.length) {
    const open = text.indexOf('{', at);
    const literal = text.slice(at, open < 0 ? text.length : open);
    if (literal.includes('}')) throw new PatternError('A brace is closed that was not opened.');
    if (literal) pieces.push({ literal });
    if (open < 0) break;
    const close = text.indexOf('}', open);
    if (close < 0) throw new PatternError('A brace is not closed.');
    pieces.push(fieldFrom(text.slice(open + 1, close)));
    at = close + 1;
  }
  const last = pieces.findLastIndex((piece) => 'field' in piece && FREE.includes(piece.field));
  return pieces.map((piece, i) => ('field' in piece ? { ...piece, free: i === last } : piece));
}

function fieldFrom(text: string): Piece {
  const [name = '', option, ...more] = text.split(':');
  const field = NAME_FIELDS.find((each) => each === name);
  if (!field || more.length)
    throw new PatternError(`There is no field {${text.slice(0, 30)}}; there are ${NAME_FIELDS.join(', ')}.`);
  const plain = { field, digits: 1, style: null, free: false };
  if (option === undefined) return plain;
  if (COUNTED.includes(field)) {
    const digits = Number(option);
    if (!Number.isInteger(digits) || digits < 1 || digits > MAX_DIGITS)
      throw new PatternError(`A ${field} has 1 to ${MAX_DIGITS} digits, not ${option.slice(0, 10)}.`);
    return { ...plain, digits };
  }
  const style = NAME_STYLES.find((each) => each === option);
  if (!style)
    throw new PatternError(`{${field}} can be ${NAME_STYLES.join(', ')}, not “${option.slice(0, 20)}”.`);
  return { ...plain, style };
}

function checkParts(pieces: readonly Piece[]): void {
  const seen = new Set<NameField>();
  pieces.forEach((piece, i) => {
    if (!('field' in piece)) return;
    if (seen.has(piece.field)) throw new PatternError(`{${piece.field}} stands twice; one is enough.`);
    seen.add(piece.field);
    const next = pieces[i + 1];
    if (next && 'field' in next)
      throw new PatternError(
        `Nothing stands between {${piece.field}} and {${next.field}}: a name could not be taken apart again.`,
      );
    if (next && COUNTED.includes(piece.field) && 'literal' in next && /^\d/.test(next.literal))
      throw new PatternError(
        `“${next.literal}” starts with a digit and follows {${piece.field}}: the two run together.`,
      );
    const before = pieces[i - 1];
    if (before && COUNTED.includes(piece.field) && 'literal' in before && /\d$/.test(before.literal))
      throw new PatternError(
        `“${before.literal}” ends in a digit and stands before {${piece.field}}: the two run together.`,
      );
  });
  if (!seen.size) throw new PatternError('The pattern has no field: every name would be the same.');
}
