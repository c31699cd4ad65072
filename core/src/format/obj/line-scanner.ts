/** Exact in doubles up to 22. */
const POWERS_OF_TEN = Array.from({ length: 23 }, (_, i) => 10 ** i);

/** Reads words and numbers of one line straight from its bytes: no strings on the way. */
export class LineScanner {
  at = 0;
  private end = 0;

  constructor(public buffer: Uint8Array = new Uint8Array(0)) {}

  /** Start on the line from `start` up to `end`. */
  line(start: number, end: number): void {
    this.at = start;
    this.end = end;
  }

  /** Step over blanks; false at the end of the line or at a comment behind a blank. */
  skipBlanks(): boolean {
    const { buffer, end } = this;
    let { at } = this;
    while (at < end && (buffer[at] === 32 || buffer[at] === 9 || buffer[at] === 13)) at++;
    this.at = at;
    return at < end && buffer[at] !== 35;
  }

  /** The next word as text, or '' at the end. */
  word(): string {
    if (!this.skipBlanks()) return '';
    const start = this.at;
    while (this.at < this.end && !isBlank(this.buffer[this.at]!)) this.at++;
    return decode(this.buffer.subarray(start, this.at));
  }

  /** The rest of the line as text, without blanks around it. */
  rest(): string {
    return decode(this.buffer.subarray(this.at, this.end)).trim();
  }

  /**
   * The next word as a number; NaN when it is none. Up to 15 digits and small exponents are exact
   * by one multiplication or division (Clinger 1990), the rest goes through the language's own parser.
   */
  number(): number {
    if (!this.skipBlanks()) return NaN;
    const { buffer, end } = this;
    const start = this.at;
    let at = start;
    let negative = false;
    if (buffer[at] === 45 || buffer[at] === 43) negative = buffer[at++] === 45;
    let mantissa = 0;
    let digits = 0;
    let places = 0;
    let dot = false;
    for (; at < end; at++) {
      const byte = buffer[at]!;
      if (byte >= 48 && byte <= 57) {
        mantissa = mantissa * 10 + byte - 48;
        digits++;
        if (dot) places++;
      } else if (byte === 46 && !dot) dot = true;
      else break;
    }
    const plain = at === end || isBlank(buffer[at]!);
    this.at = at;
    if (!plain || digits === 0 || digits > 15 || places > 22) {
      // Too long for one exact step, or an exponent, or no number at all.
      while (this.at < end && !isBlank(buffer[this.at]!)) this.at++;
      return slowNumber(decode(buffer.subarray(start, this.at)));
    }
    const value = places === 0 ? mantissa : mantissa / POWERS_OF_TEN[places]!;
    return negative ? -value : value;
  }

  /** A whole number at this very byte; NaN when there is none. Stops at the first other byte. */
  integer(): number {
    const { buffer, end } = this;
    let { at } = this;
    const negative = buffer[at] === 45;
    if (negative) at++;
    const from = at;
    let value = 0;
    while (at < end) {
      const digit = buffer[at]! - 48;
      if (digit < 0 || digit > 9) break;
      value = value * 10 + digit;
      at++;
    }
    const any = at > from;
    this.at = at;
    return any ? (negative ? -value : value) : NaN;
  }

  /** Step over one slash; false when there is none. */
  slash(): boolean {
    if (this.at >= this.end || this.buffer[this.at] !== 47) return false;
    this.at++;
    return true;
  }

  /** True at a blank or at the end of the line. */
  atWordEnd(): boolean {
    return this.at >= this.end || isBlank(this.buffer[this.at]!);
  }
}

const isBlank = (byte: number) => byte === 32 || byte === 9 || byte === 13;
const decoder = new TextDecoder();
const decode = (bytes: Uint8Array) => decoder.decode(bytes);
const slowNumber = (text: string) =>
  /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$/i.test(text) ? Number(text) : NaN;
