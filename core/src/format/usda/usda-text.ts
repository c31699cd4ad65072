import { FormatError, shown } from '../format-error.js';

/** A value of a layer: lists of tuples are packed into one list of numbers. */
export type UsdaValue =
  | number
  | string
  | boolean
  | null
  | { path: string }
  | { asset: string }
  | { numbers: number[] }
  | { list: UsdaValue[] }
  | { fields: Map<string, UsdaValue> };

export interface UsdaAttribute {
  value: UsdaValue;
  /** path that it is connected to */
  connect: string | null;
  metadata: Map<string, UsdaValue>;
}

export interface UsdaPrim {
  type: string;
  name: string;
  path: string;
  line: number;
  metadata: Map<string, UsdaValue>;
  attributes: Map<string, UsdaAttribute>;
  children: UsdaPrim[];
}

export interface UsdaLayer {
  metadata: Map<string, UsdaValue>;
  prims: UsdaPrim[];
}

const AGAIN = 'mend the layer or export it again';
/** No layer that is worked with nests its prims as deep. */
const DEEPEST = 500;
const SPECIFIERS = new Set(['def', 'over', 'class']);
const LIST_EDITS = new Set(['prepend', 'append', 'add', 'delete', 'reorder']);

/**
 * Parse a USD layer in its text form. Prims that are only overridden or classes, variants and time samples are passed over.
 *
 * @throws FormatError with the line
 */
export function parseUsda(file: string, text: string): UsdaLayer {
  return new Parser(file, text).layer();
}

class Parser {
  private at = 0;
  private line = 1;

  constructor(
    private readonly file: string,
    private readonly text: string,
  ) {}

  layer(): UsdaLayer {
    if (!/^#usda \d/.test(this.text.slice(0, 32)))
      this.fail('it does not start with “#usda 1.0”', 'export the layer as text, ending in .usda');
    const prims: UsdaPrim[] = [];
    this.skip();
    const metadata = this.peek() === '(' ? this.metadata() : new Map<string, UsdaValue>();
    while (!this.atEnd()) this.statement(null, prims, '', 0);
    return { metadata, prims };
  }

  private fail(wrong: string, advice = AGAIN): never {
    throw new FormatError(this.file, wrong, advice, { line: this.line });
  }

  /** Past white space and remarks. */
  private skip(): void {
    const { text } = this;
    for (; this.at < text.length; this.at++) {
      const c = text.charCodeAt(this.at);
      if (c === 10) this.line++;
      else if (c === 35) {
        const end = text.indexOf('\n', this.at);
        this.at = (end < 0 ? text.length : end) - 1;
      } else if (c !== 32 && c !== 9 && c !== 13 && c !== 59) return;
    }
  }

  private atEnd(): boolean {
    this.skip();
    return this.at >= this.text.length;
  }

  private peek(): string {
    return this.text[this.at] ?? '';
  }

  private expect(mark: string): void {
    this.skip();
    if (this.peek() !== mark)
      this.fail(
        `“${mark}” was expected, not ${this.peek() ? `“${shown(this.text.slice(this.at, this.at + 20), 20)}”` : 'the end'}`,
      );
    this.at++;
  }

  private take(mark: string): boolean {
    this.skip();
    if (this.peek() !== mark) return false;
    this.at++;
    return true;
  }

  /** A word of letters, digits, underscores, colons and dots; empty where there is none. */
  private word(): string {
    this.skip();
    const start = this.at;
    while (this.at < this.text.length && isWordCode(this.text.charCodeAt(this.at))) this.at++;
    return this.text.slice(start, this.at);
  }

  private needWord(what: string): string {
    const word = this.word();
    if (!word) this.fail(`${what} was expected`);
    return word;
  }

  private statement(owner: UsdaPrim | null, prims: UsdaPrim[], path: string, depth: number): void {
    const line = this.line;
    let word = this.needWord('a prim or an attribute');
    if (SPECIFIERS.has(word)) {
      this.prim(word, prims, path, depth, line);
      return;
    }
    if (word === 'variantSet') {
      this.string();
      this.expect('=');
      this.block('{', '}');
      return;
    }
    if (!owner) this.fail(`“${shown(word, 30)}” stands outside of any prim`);
    if (LIST_EDITS.has(word)) word = this.needWord('what is edited');
    while (word === 'custom' || word === 'uniform' || word === 'varying' || word === 'config')
      word = this.needWord('a type');
    if (this.peek() === '[') {
      this.expect('[');
      this.expect(']');
    }
    let name = this.needWord('a name');
    let connects = false;
    let passed = false;
    if (name.endsWith('.connect')) {
      connects = true;
      name = name.slice(0, -'.connect'.length);
    } else if (name.endsWith('.timeSamples') || name.endsWith('.spline')) passed = true;
    const known = owner.attributes.get(name);
    const attribute: UsdaAttribute = known ?? { value: null, connect: null, metadata: new Map() };
    if (this.take('=')) {
      if (passed) {
        this.skip();
        this.block('{', '}');
        return;
      }
      const value = this.value(depth);
      if (connects) attribute.connect = pathOf(value);
      else attribute.value = value;
    }
    this.skip();
    if (this.peek() === '(') attribute.metadata = this.metadata();
    owner.attributes.set(name, attribute);
  }

  private prim(specifier: string, prims: UsdaPrim[], path: string, depth: number, line: number): void {
    if (depth > DEEPEST) this.fail(`prims nest deeper than ${DEEPEST} levels`);
    this.skip();
    const type = this.peek() === '"' ? '' : this.needWord('a type or a name');
    const name = this.string();
    const prim: UsdaPrim = {
      type,
      name,
      path: `${path}/${name}`,
      line,
      metadata: new Map(),
      attributes: new Map(),
      children: [],
    };
    this.skip();
    if (this.peek() === '(') prim.metadata = this.metadata();
    this.expect('{');
    while (!this.take('}')) {
      if (this.atEnd()) this.fail(`the prim “${shown(name, 40)}” of line ${line} is not closed`);
      this.statement(prim, prim.children, prim.path, depth + 1);
    }
    if (specifier === 'def') prims.push(prim);
  }

  private metadata(): Map<string, UsdaValue> {
    const out = new Map<string, UsdaValue>();
    this.expect('(');
    while (!this.take(')')) {
      if (this.atEnd()) this.fail('a bracket is not closed');
      if (this.peek() === '"' || this.peek() === "'") {
        out.set('comment', this.string());
        continue;
      }
      let name = this.needWord('a field');
      if (LIST_EDITS.has(name)) name = this.needWord('a field');
      this.expect('=');
      out.set(name, this.value(0));
      this.take(',');
    }
    return out;
  }

  private value(depth: number): UsdaValue {
    if (depth > DEEPEST) this.fail(`values nest deeper than ${DEEPEST} levels`);
    this.skip();
    const c = this.peek();
    if (c === '"' || c === "'") return this.string();
    if (c === '@') return this.asset();
    if (c === '<') {
      const end = this.text.indexOf('>', this.at);
      if (end < 0) this.fail('a path is not closed');
      const path = this.text.slice(this.at + 1, end);
      this.at = end + 1;
      return { path };
    }
    if (c === '[' || c === '(') return this.list(depth);
    if (c === '{') return this.dictionary(depth);
    return this.scalar();
  }

  private scalar(): number | boolean | null | string {
    const start = this.at;
    while (this.at < this.text.length && isScalarCode(this.text.charCodeAt(this.at))) this.at++;
    const word = this.text.slice(start, this.at);
    if (!word) this.fail(`a value was expected, not “${shown(this.text.slice(start, start + 20), 20)}”`);
    const value = Number(word);
    if (!Number.isNaN(value)) return value;
    if (word === 'true' || word === 'false') return word === 'true';
    if (word === 'None') return null;
    if (word === 'inf') return Infinity;
    if (word === '-inf') return -Infinity;
    if (word === 'nan') return NaN;
    return word;
  }

  /** A list or a tuple; numbers of tuples in lists are packed one after the other. */
  private list(depth: number): UsdaValue {
    const open = this.peek();
    const close = open === '[' ? ']' : ')';
    this.at++;
    const numbers: number[] = [];
    const list: UsdaValue[] = [];
    while (!this.take(close)) {
      if (this.atEnd()) this.fail('a list is not closed');
      const value = this.value(depth + 1);
      if (typeof value === 'number') numbers.push(value);
      else if (typeof value === 'object' && value && 'numbers' in value)
        for (const v of value.numbers) numbers.push(v);
      else list.push(value);
      this.take(',');
    }
    return list.length ? { list } : { numbers };
  }

  private dictionary(depth: number): UsdaValue {
    const fields = new Map<string, UsdaValue>();
    this.expect('{');
    while (!this.take('}')) {
      if (this.atEnd()) this.fail('a dictionary is not closed');
      this.skip();
      if (this.peek() !== '"') {
        this.needWord('a type');
        if (this.take('[')) this.expect(']');
        this.skip();
      }
      const name = this.peek() === '"' ? this.string() : this.needWord('a name');
      if (!this.take('=')) this.expect(':');
      fields.set(name, this.value(depth + 1));
      this.take(',');
    }
    return { fields };
  }

  private string(): string {
    this.skip();
    const quote = this.peek();
    if (quote !== '"' && quote !== "'") this.fail('a name in quotation marks was expected');
    const mark = this.text.startsWith(quote.repeat(3), this.at) ? quote.repeat(3) : quote;
    let out = '';
    let from = (this.at += mark.length);
    for (;;) {
      if (this.at >= this.text.length) this.fail('a text is not closed');
      if (this.text.startsWith(mark, this.at)) break;
      const c = this.text[this.at]!;
      if (c === '\n') this.line++;
      if (c === '\\') {
        out += this.text.slice(from, this.at);
        const next = this.text[this.at + 1] ?? '';
        out += next === 'n' ? '\n' : next === 't' ? '\t' : next;
        this.at += 2;
        from = this.at;
      } else this.at++;
    }
    out += this.text.slice(from, this.at);
    this.at += mark.length;
    return out;
  }

  private asset(): UsdaValue {
    const mark = this.text.startsWith('@@@', this.at) ? '@@@' : '@';
    const end = this.text.indexOf(mark, this.at + mark.length);
    if (end < 0) this.fail('an address of a file is not closed');
    const asset = this.text.slice(this.at + mark.length, end);
    this.at = end + mark.length;
    this.skip();
    // A path behind the address says which prim is meant.
    if (this.peek() === '<') this.value(0);
    return { asset };
  }

  /** Past everything between two marks, texts and what nests counted. */
  private block(open: string, close: string): void {
    this.expect(open);
    for (let depth = 1; depth > 0;) {
      if (this.atEnd()) this.fail('a bracket is not closed');
      const c = this.peek();
      if (c === '"' || c === "'") this.string();
      else {
        if (c === open) depth++;
        else if (c === close) depth--;
        this.at++;
      }
    }
  }
}

const isWordCode = (c: number): boolean =>
  (c >= 97 && c <= 122) || (c >= 65 && c <= 90) || (c >= 48 && c <= 58) || c === 95 || c === 46 || c > 127;
const isScalarCode = (c: number): boolean => isWordCode(c) || c === 43 || c === 45;

function pathOf(value: UsdaValue): string | null {
  if (typeof value !== 'object' || value === null) return null;
  if ('path' in value) return value.path;
  return 'list' in value && value.list[0] !== undefined ? pathOf(value.list[0]) : null;
}

/** The path a relationship or a connection names; null for none. */
export const targetOf = (attribute: UsdaAttribute | undefined): string | null =>
  attribute ? (attribute.connect ?? pathOf(attribute.value)) : null;

export const numbersOf = (attribute: UsdaAttribute | undefined): number[] | null => {
  const value = attribute?.value;
  return typeof value === 'object' && value && 'numbers' in value ? value.numbers : null;
};
export const numberOf = (attribute: UsdaAttribute | undefined): number | null =>
  typeof attribute?.value === 'number' ? attribute.value : null;
export const textOf = (attribute: UsdaAttribute | undefined): string | null =>
  typeof attribute?.value === 'string' ? attribute.value : null;

/** The texts of a list, such as schemas applied or the order of transforms. */
export function textsIn(value: UsdaValue | undefined): string[] {
  if (typeof value === 'string') return [value];
  if (typeof value !== 'object' || !value || !('list' in value)) return [];
  return value.list.filter((each) => typeof each === 'string');
}
