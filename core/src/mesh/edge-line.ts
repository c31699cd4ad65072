import {
  areaVector,
  cross,
  distance,
  distanceToSegment,
  dot,
  normalized,
  scaled,
  subtract,
  type Vec3,
} from '../math/index.js';
import { faceNeighbours } from './face-neighbours.js';
import type { Mesh } from './mesh.js';
import { weld } from './weld.js';

/** A run of edges as straight stretches. */
export interface EdgeLine {
  /** where it bends, its ends among them, metres; a run that closes ends where it begins */
  line: Vec3[];
  /** for each stretch the ways into the two faces beside it, square to the stretch; of an open border: its face, and behind it */
  sides: [Vec3, Vec3][];
}

/**
 * The line that a run of edges follows, without bends of less than a tolerance. Null when the sides are no single run:
 * apart, or forking.
 *
 * @param sides 3 * face + k each, as `edgeRun` answers them
 */
export function edgeLine(mesh: Mesh, sides: readonly number[], toleranceMetres: number): EdgeLine | null {
  const joined = weld(mesh.positions);
  const neighbours = faceNeighbours(mesh, joined);
  const ends = (side: number): [number, number] => [
    joined.remap[mesh.indices[side]!]!,
    joined.remap[mesh.indices[nextSide(side)]!]!,
  ];
  const ordered = inOrder(sides, ends);
  if (!ordered) return null;
  const place = (v: number): Vec3 => {
    const i = joined.first[v]! * 3;
    return [mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!];
  };
  const places = ordered.places.map(place);
  const kept = bends(places, toleranceMetres);
  return {
    line: kept.map((i) => places[i]!),
    sides: kept.slice(1).map((end, k) => {
      const along = normalized(subtract(places[end]!, places[kept[k]!]!));
      return waysInto(mesh, neighbours, longest(ordered.sides, places, kept[k]!, end), along);
    }),
  };
}

const nextSide = (side: number): number => (side % 3 === 2 ? side - 2 : side + 1);

/** Sides one after the other from one end of the run, and the vertices they go through. */
function inOrder(
  sides: readonly number[],
  ends: (side: number) => [number, number],
): { sides: number[]; places: number[] } | null {
  const at = new Map<number, number[]>();
  for (const side of sides) for (const v of ends(side)) at.set(v, [...(at.get(v) ?? []), side]);
  if (!sides.length || [...at.values()].some((own) => own.length > 2)) return null;
  const start = [...at].find(([, own]) => own.length === 1)?.[0] ?? ends(sides[0]!)[0];
  const order: number[] = [];
  const places = [start];
  const left = new Set(sides);
  for (let v = start; ;) {
    const next = at.get(v)!.find((side) => left.has(side));
    if (next === undefined) break;
    left.delete(next);
    order.push(next);
    const [a, b] = ends(next);
    v = a === v ? b : a;
    places.push(v);
  }
  return left.size ? null : { sides: order, places };
}

/** Numbers of the places that a line keeps when bends below a tolerance are left out. (Douglas and Peucker, 1973.) */
function bends(places: readonly Vec3[], tolerance: number): number[] {
  const kept = new Set([0, places.length - 1]);
  const stack: [number, number][] = [[0, places.length - 1]];
  for (let span = stack.pop(); span; span = stack.pop()) {
    const [from, to] = span;
    let most = -1;
    let far = 0;
    for (let i = from + 1; i < to; i++) {
      const off = distanceToSegment(places[i]!, places[from]!, places[to]!);
      if (off > far) [far, most] = [off, i];
    }
    if (most < 0 || far <= tolerance) continue;
    kept.add(most);
    stack.push([from, most], [most, to]);
  }
  return [...kept].sort((a, b) => a - b);
}

function longest(sides: readonly number[], places: readonly Vec3[], from: number, to: number): number {
  let best = from;
  for (let i = from; i < to; i++)
    if (distance(places[i]!, places[i + 1]!) > distance(places[best]!, places[best + 1]!)) best = i;
  return sides[best]!;
}

function waysInto(mesh: Mesh, neighbours: Int32Array, side: number, along: Readonly<Vec3>): [Vec3, Vec3] {
  const face = (side / 3) | 0;
  const at = (corner: number): Vec3 => {
    const i = mesh.indices[corner]! * 3;
    return [mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!];
  };
  const corner = at(side);
  const into = (of: number): Vec3 => {
    const middle = [0, 1, 2].map(
      (k) => (at(of * 3)[k]! + at(of * 3 + 1)[k]! + at(of * 3 + 2)[k]!) / 3,
    ) as Vec3;
    const way = subtract(middle, corner);
    return normalized(subtract(way, scaled(along, dot(way, along))));
  };
  const other = neighbours[side]!;
  const own = into(face);
  if (other >= 0) return [own, into(other)];
  const corners = [0, 1, 2].map((k) => mesh.indices[face * 3 + k]! * 3) as [number, number, number];
  const behind = scaled(normalized(areaVector(mesh.positions, ...corners)), -1);
  const across = normalized(subtract(behind, scaled(along, dot(behind, along))));
  return [own, across.some((v) => v !== 0) ? across : normalized(cross(along, own))];
}
