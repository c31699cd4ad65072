import { SaxesParser } from 'saxes';
import { FormatError } from '../format-error.js';

/** An element of a document, with its own text; numbers are parsed where they stand, see `numbers`. */
export interface Element {
  name: string;
  attributes: Record<string, string>;
  children: Element[];
  text: string;
  line: number;
}

/** Deepest nesting that is read. */
const DEEPEST = 20_000;
const AGAIN = 'mend the file or export it again';

/**
 * The elements of an XML document that comes in chunks. Document types are refused: they can name
 * entities that grow without end, and no mesh needs one.
 *
 * @throws FormatError with the line of what is wrong
 */
export async function readXml(
  file: string,
  chunks: AsyncIterable<Uint8Array>,
  progress: (bytes: number) => void = () => undefined,
): Promise<Element> {
  const parser = new SaxesParser<{ position: true; xmlns: false }>({ position: true, xmlns: false });
  const decoder = new TextDecoder();
  const open: Element[] = [];
  let root: Element | undefined;
  let texts: string[] = [];
  // Thrown out of the parser at once: the first thing that is wrong is said, and no more of it is read.
  const fail = (wrong: string, advice = AGAIN): never => {
    throw new FormatError(file, wrong, advice, { line: parser.line });
  };
  parser.on('error', (error) =>
    fail(`the XML is broken (${error.message.replace(/^\d+:\d+: /, '').slice(0, 120)})`),
  );
  parser.on('doctype', () => fail('it declares a document type, which is not read', 'export it without one'));
  parser.on('opentag', ({ name, attributes }) => {
    const element: Element = {
      name: name.replace(/^.*:/, ''),
      attributes,
      children: [],
      text: '',
      line: parser.line,
    };
    if (open.length >= DEEPEST) fail(`elements are nested more than ${DEEPEST} deep`);
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
    texts = [];
  });
  parser.on('text', (text) => texts.push(text));
  parser.on('cdata', (text) => texts.push(text));
  parser.on('closetag', () => {
    const element = open.pop()!;
    if (element.children.length === 0) element.text = texts.join('');
    texts = [];
  });
  let read = 0;
  for await (const chunk of chunks) {
    parser.write(decoder.decode(chunk, { stream: true }));
    progress((read += chunk.length));
  }
  parser.write(decoder.decode());
  parser.close();
  if (!root) throw new FormatError(file, 'the file holds no XML', AGAIN);
  return root;
}

export const child = (element: Element | undefined, name: string): Element | undefined =>
  element?.children.find((each) => each.name === name);

export const childrenOf = (element: Element | undefined, ...names: string[]): Element[] =>
  element?.children.filter((each) => names.includes(each.name)) ?? [];

/** The element found by going down through the names. */
export const path = (element: Element | undefined, ...names: string[]): Element | undefined =>
  names.reduce<Element | undefined>((at, name) => child(at, name), element);

/** A number, with a point or with a decimal comma. */
function numberOf(word: string): number {
  const value = Number(word);
  return Number.isNaN(value) && isDecimalComma(word) ? Number(word.replace(',', '.')) : value;
}

/** So many digits are exact while they are added up, and over a power of ten after one division (Clinger 1990). */
const EXACT_DIGITS = 15;

/** The number that stands in a text between two places, of few digits and without exponent; NaN when it is anything else. */
function shortNumber(text: string, from: number, to: number): number {
  const sign = text.charCodeAt(from) === 45 ? -1 : 1;
  let [mantissa, digits, over, dot] = [0, 0, 1, false];
  for (let i = sign < 0 ? from + 1 : from; i < to; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (digit >= 0 && digit <= 9) {
      mantissa = mantissa * 10 + digit;
      digits++;
      if (dot) over *= 10;
    } else if (digit === -2 && !dot) dot = true;
    else return NaN;
  }
  return digits > 0 && digits <= EXACT_DIGITS ? sign * (mantissa / over) : NaN;
}

const isDecimalComma = (word: string): boolean => /^[-+]?\d*,\d+(e[-+]?\d+)?$/i.test(word);

/** Characters of an array that are looked at to tell how its numbers are written. */
const LOOKED_AT = 10_000;

/** Whether arrays of numbers are written with decimal commas. */
export function hasDecimalCommas(root: Element): boolean {
  // Files may be nested deeper than calls can be.
  const open = [root];
  for (let element = open.pop(); element; element = open.pop()) {
    const { name, text, children } = element;
    if (name === 'float_array' && text.slice(0, LOOKED_AT).split(/\s+/).some(isDecimalComma)) return true;
    for (const each of children) open.push(each);
  }
  return false;
}

/**
 * The numbers an element's text holds.
 *
 * @throws FormatError when one of them is not a finite number
 */
export function numbers(file: string, element: Element): Float64Array {
  const { text } = element;
  let out = new Float64Array(Math.max(4, (text.length / 6) | 0));
  let count = 0;
  let at = 0;
  while (at < text.length) {
    while (at < text.length && text.charCodeAt(at) <= 32) at++;
    if (at >= text.length) break;
    let end = at;
    while (end < text.length && text.charCodeAt(end) > 32) end++;
    const short = shortNumber(text, at, end);
    const value = Number.isNaN(short) ? numberOf(text.slice(at, end)) : short;
    if (!Number.isFinite(value))
      throw new FormatError(
        file,
        `“${text.slice(at, Math.min(end, at + 20))}” in <${element.name}> is not a finite number`,
        AGAIN,
        { line: element.line },
      );
    if (count === out.length) {
      const bigger = new Float64Array(out.length * 2);
      bigger.set(out);
      out = bigger;
    }
    out[count++] = value;
    at = end;
  }
  return out.subarray(0, count);
}
