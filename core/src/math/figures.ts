/** Numbers as people read them, in one style for every door: 1,204 · 12.5 mm · 2.40 m. */

/** By decimals. They are kept: making one takes longer than a thousand figures. */
const formats = new Map<number, Intl.NumberFormat>();

function grouped(value: number, decimals = 0): string {
  let format = formats.get(decimals);
  if (!format) {
    const digits = { minimumFractionDigits: decimals, maximumFractionDigits: decimals };
    formats.set(decimals, (format = new Intl.NumberFormat('en-GB', digits)));
  }
  // Nothing is below zero that is shown as zero.
  return format.format(Number(value.toFixed(decimals)) || 0);
}

/** "1,204" */
export const countText = (count: number): string => grouped(count);

/** "1 shape", "1,204 shapes" */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${countText(count)} ${count === 1 ? one : many}`;

/** The first few of many, and how many more there are: "a, b, c and 4 more" */
export function listText(names: readonly string[], most = 4): string {
  const more = names.length - most;
  // "and 1 more" is longer than the one.
  if (more <= 1) return names.join(', ');
  return `${names.slice(0, most).join(', ')} and ${countText(more)} more`;
}

/** Units in which lengths can be shown; metres bring millimetres along for what is small. */
export const DISPLAY_UNITS = ['m', 'cm', 'in'] as const;
export type DisplayUnit = (typeof DISPLAY_UNITS)[number];

/** How many metres one is, and the decimals that come to a tenth of a millimetre or finer. */
const SHOWN = { cm: { metres: 0.01, decimals: 2 }, in: { metres: 0.0254, decimals: 3 } } as const;
let shownIn: DisplayUnit = 'm';

/** From now on all lengths are shown in this unit: what a person looks at follows the rules of one yard at a time. */
export function showLengthsIn(unit: DisplayUnit): void {
  shownIn = unit;
}

/** Lengths in the unit that is shown, where that is not metres; null for metres. */
function inShown(lengths: readonly number[], between: string): string | null {
  if (shownIn === 'm') return null;
  const { metres, decimals } = SHOWN[shownIn];
  return `${lengths.map((length) => grouped(length / metres, decimals)).join(between)} ${shownIn}`;
}

/** A length: "0.25 mm", "12.5 mm", "2.40 m"; below a metre to a tenth of a millimetre. */
export function lengthText(metres: number): string {
  const other = inShown([metres], '');
  if (other !== null) return other;
  const size = Math.abs(metres);
  if (size < 0.001) return `${grouped(metres * 1000, 2)} mm`;
  return size < 0.99995 ? `${grouped(metres * 1000, 1)} mm` : `${grouped(metres, 2)} m`;
}

/** A length that was measured, to a tenth of a millimetre however long it is: "2.4031 m". */
export const measuredText = (metres: number): string =>
  shownIn !== 'm' || Math.abs(metres) < 0.99995 ? lengthText(metres) : `${grouped(metres, 4)} m`;

/** Three lengths in one unit: "0.82 × 0.64 × 4.00 m"; small things in millimetres: "39.9 × 26.1 × 11.4 mm". */
export function sizeText(size: readonly number[]): string {
  const other = inShown(size, ' × ');
  if (other !== null) return other;
  if (Math.max(...size) >= 0.1) return `${size.map(metresText).join(' × ')} m`;
  // Three digits of the longest, and to a tenth at least: "34.2 × 7.2 × 17.0 mm", "3.42 × 0.72 × 1.70 mm".
  const longest = Math.max(...size) * 1000;
  const decimals = longest > 0 ? Math.min(Math.max(1, 2 - Math.floor(Math.log10(longest))), 9) : 1;
  return `${size.map((metres) => grouped(metres * 1000, decimals)).join(' × ')} mm`;
}

/** Metres without their unit, to the centimetre; what is smaller than that to a tenth of a millimetre. */
export function metresText(metres: number): string {
  const size = Math.abs(metres);
  if (size !== 0 && size < 0.01) return grouped(metres, 4);
  return grouped(metres, size >= 1000 ? 1 : 2);
}

/** Coordinates or a direction: "0.000, 1.235, -2.000"; never "-0.000" */
export const coordinatesText = (values: readonly number[], decimals = 3): string =>
  values.map((v) => grouped(Math.abs(v) < 0.5 * 10 ** -decimals ? 0 : v, decimals)).join(', ');

/** A point in metres, to the millimetre: "0.000, 1.235, 2.000 m" */
export const placeText = (place: readonly number[]): string =>
  inShown(place, ', ') ?? `${coordinatesText(place)} m`;

/** Lengths to a power in the unit that is shown; null for metres. */
function powerInShown(value: number, power: 2 | 3): string | null {
  if (shownIn === 'm') return null;
  const shown = value / SHOWN[shownIn].metres ** power;
  return `${shown >= 1000 ? grouped(shown) : shown.toPrecision(3)} ${shownIn}${power === 2 ? '²' : '³'}`;
}

/** How a field of lengths stands in the unit that is shown. */
export interface ShownField {
  unit: string;
  /** how many of that unit one of the field's own is */
  factor: number;
  /** decimals that come to as much, or finer */
  digits: number;
}

/** A field in metres or millimetres as it is shown and typed into where a yard shows other units; any other as it is. */
export function shownField(unit: string, digits: number, shown: DisplayUnit): ShownField {
  const metres = unit === 'm' ? 1 : unit === 'mm' ? 0.001 : null;
  if (shown === 'm' || metres === null) return { unit, factor: 1, digits };
  const factor = metres / SHOWN[shown].metres;
  return { unit: shown, factor, digits: Math.max(0, Math.ceil(digits - Math.log10(factor))) };
}

export function areaText(squareMetres: number): string {
  const other = powerInShown(squareMetres, 2);
  if (other !== null) return other;
  return squareMetres < 0.01 ? `${(squareMetres * 1e4).toPrecision(3)} cm²` : `${precise(squareMetres)} m²`;
}

export function volumeText(cubicMetres: number): string {
  const other = powerInShown(cubicMetres, 3);
  if (other !== null) return other;
  // A thousandth of a cubic centimetre is rounding.
  if (cubicMetres < 1e-9) return '0 m³';
  if (cubicMetres < 0.001) return `${(cubicMetres * 1e6).toPrecision(3)} cm³`;
  return `${precise(cubicMetres)} m³`;
}

/** Three digits that mean something, or all before the point. */
const precise = (value: number): string => (value >= 100 ? grouped(value) : value.toPrecision(3));

export function bytesText(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  return bytes < 1e6 ? `${grouped(bytes / 1e3, 1)} kB` : `${grouped(bytes / 1e6, 1)} MB`;
}
