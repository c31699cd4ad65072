/** What a person may type into a field of numbers: "0.4+0.02", "12 mm", "(1.2 - 0.05) / 2". */

const UNIT_METRES: Record<string, number> = { mm: 0.001, cm: 0.01, m: 1, in: 0.0254, ft: 0.3048 };
const TOKEN = /\s*(?:(\d+(?:[.,]\d*)?|[.,]\d+)\s*(mm|cm|m|in|ft)?(?![a-z])|([-+*/()]))/giy;

interface Token {
  value?: number;
  sign?: string;
}

export interface ArithmeticOptions {
  /** metres that a number without a unit stands for; numbers with one are turned into that. Default 1 */
  unitMetres?: number;
}

/**
 * The value of a sum as people write them, or null for what is none. Decimal points and commas alike; a number may carry
 * its own unit, and the answer is in the field's.
 *
 * @example arithmetic('0.4+0.02') // 0.42
 * @example arithmetic('3 in', { unitMetres: 0.001 }) // 76.2
 */
export function arithmetic(text: string, { unitMetres = 1 }: ArithmeticOptions = {}): number | null {
  const tokens = tokensOf(text, unitMetres);
  if (!tokens) return null;
  let at = 0;
  const sign = (...signs: string[]) => (signs.includes(tokens[at]?.sign ?? '') ? tokens[at++]!.sign! : null);
  const factor = (): number => {
    const minus = sign('-', '+');
    if (minus) return minus === '-' ? -factor() : factor();
    if (sign('(')) {
      const inner = sum();
      return sign(')') ? inner : NaN;
    }
    return tokens[at++]?.value ?? NaN;
  };
  const product = (): number => {
    let value = factor();
    for (let op = sign('*', '/'); op; op = sign('*', '/'))
      value = op === '*' ? value * factor() : value / factor();
    return value;
  };
  const sum = (): number => {
    let value = product();
    for (let op = sign('+', '-'); op; op = sign('+', '-'))
      value = op === '+' ? value + product() : value - product();
    return value;
  };
  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}

function tokensOf(text: string, unitMetres: number): Token[] | null {
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  const end = text.trimEnd().length;
  while (TOKEN.lastIndex < end) {
    const found = TOKEN.exec(text);
    if (!found) return null;
    const [, number, unit, sign] = found;
    if (sign) tokens.push({ sign });
    else {
      const value = Number(number!.replace(',', '.'));
      tokens.push({ value: unit ? (value * UNIT_METRES[unit.toLowerCase()]!) / unitMetres : value });
    }
  }
  // Deeper than any sum that a person types.
  return tokens.length <= 200 ? tokens : null;
}
