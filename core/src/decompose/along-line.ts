import { add, distance, normalized, scaled, subtract, type Vec3 } from '../math/index.js';

/** A line by places, each with the length gone so far. */
export interface MeasuredLine {
  places: Vec3[];
  /** [n] */
  gone: number[];
  length: number;
  closed: boolean;
}

/** A closed line gets its first place again at the end. */
export function measured(line: readonly Vec3[], closed: boolean): MeasuredLine {
  const places = closed ? [...line, line[0]!] : [...line];
  const gone = [0];
  for (let i = 1; i < places.length; i++) gone.push(gone[i - 1]! + distance(places[i - 1]!, places[i]!));
  return { places, gone, length: gone[gone.length - 1]!, closed };
}

/** The place at a length along the line; a closed line goes round. */
export function placeAt({ places, gone, length, closed }: MeasuredLine, at: number): Vec3 {
  const s = closed ? ((at % length) + length) % length : Math.min(length, Math.max(0, at));
  let i = 1;
  while (i < gone.length - 1 && gone[i]! < s) i++;
  const span = gone[i]! - gone[i - 1]! || 1;
  return add(places[i - 1]!, scaled(subtract(places[i]!, places[i - 1]!), (s - gone[i - 1]!) / span));
}

/** The way the line goes at a length along it, over a short stretch round it. */
export function wayAt(line: MeasuredLine, at: number, stretch = line.length / 200): Vec3 {
  const [from, to] = line.closed
    ? [at - stretch, at + stretch]
    : [Math.max(0, at - stretch), Math.min(line.length, at + stretch)];
  return normalized(subtract(placeAt(line, to), placeAt(line, from)));
}

/** Places that cut the line into `count` pieces of equal length; first and last are its ends, or one on a closed line. */
export function equalPlaces(line: MeasuredLine, count: number): number[] {
  return Array.from({ length: line.closed ? count : count + 1 }, (_, i) => (line.length * i) / count);
}
