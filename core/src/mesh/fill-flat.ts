import earcut from 'earcut';
import type { Vec3 } from '../math/index.js';

/** A corner that bends its outline by less than this, in sizes of the outline, is no corner of it. */
const STRAIGHT = 1e-10;
/** Loops whose places lie farther than this, in sizes of the loop, from one plane are not flat. */
const FLAT = 1e-3;

/** The plane that a loop of vertices lies in: its Newell normal, unit length, and its middle. */
interface FlatLoop {
  loop: readonly number[];
  normal: Vec3;
  at: Vec3;
  /** of the loop in its plane */
  area: number;
  size: number;
}

/** Loops that one flat face lies between: an outline and the holes in it. */
export type FlatFace = readonly [outline: readonly number[], ...holes: (readonly number[])[]];

/** The plane of a loop, or null when it bends in space or has no area. `p` is [3n]. */
export function flatLoop(p: Float64Array, loop: readonly number[]): FlatLoop | null {
  const at = [0, 1, 2].map((k) => loop.reduce((sum, v) => sum + p[v * 3 + k]!, 0) / loop.length) as Vec3;
  const normal: Vec3 = [0, 0, 0];
  let size = 0;
  loop.forEach((v, i) => {
    const [a, b] = [v * 3, loop[(i + 1) % loop.length]! * 3];
    for (let k = 0; k < 3; k++) {
      const [s, t] = [(k + 1) % 3, (k + 2) % 3];
      normal[k]! +=
        ((p[a + s]! - at[s]!) * (p[b + t]! - at[t]!) - (p[a + t]! - at[t]!) * (p[b + s]! - at[s]!)) / 2;
      size = Math.max(size, Math.abs(p[a + k]! - at[k]!));
    }
  });
  const area = Math.hypot(...normal);
  if (!(area > size * size * 1e-9)) return null;
  const unit = normal.map((v) => v / area) as Vec3;
  const off = (v: number) => unit.reduce((sum, c, k) => sum + c * (p[v * 3 + k]! - at[k]!), 0);
  return loop.every((v) => Math.abs(off(v)) <= size * FLAT) ? { loop, normal: unit, at, area, size } : null;
}

/**
 * Which loops are holes in which: a loop that runs the other way round inside another one in its plane bounds the same
 * face as that. Loops that are in no other are faces by themselves; the bore of a pipe that was cut is none.
 */
export function flatFaces(p: Float64Array, loops: readonly FlatLoop[]): FlatFace[] {
  const largestFirst = [...loops].sort((a, b) => b.area - a.area);
  const holesOf = new Map<FlatLoop, FlatLoop[]>();
  for (const each of largestFirst) {
    // The smallest outline round it; what lies in a hole of that is a face again.
    const around = [...holesOf.keys()].reverse().find((outline) => isInside(p, each, outline));
    const opposite = around && dot(around.normal, each.normal) < 0;
    const inHole = around && holesOf.get(around)!.some((hole) => isInside(p, each, hole));
    if (around && opposite && !inHole) holesOf.get(around)!.push(each);
    else holesOf.set(each, []);
  }
  return [...holesOf].map(([outline, holes]) => [outline.loop, ...holes.map(({ loop }) => loop)]);
}

const dot = (a: Vec3, b: Vec3) => a.reduce((sum, v, k) => sum + v * b[k]!, 0);

function isInside(p: Float64Array, inner: FlatLoop, outer: FlatLoop): boolean {
  if (inner.area > outer.area || Math.abs(dot(inner.normal, outer.normal)) < 1 - FLAT) return false;
  const between = inner.at.map((v, k) => v - outer.at[k]!) as Vec3;
  if (Math.abs(dot(between, outer.normal)) > outer.size * FLAT) return false;
  const { place } = flattened(p, outer.normal);
  const outline = outer.loop.map(place);
  // Most corners decide: one may lie on the outline.
  const within = inner.loop.filter((v) => contains(outline, place(v))).length;
  return within * 2 > inner.loop.length;
}

function contains(outline: readonly [number, number][], [x, y]: readonly [number, number]): boolean {
  let inside = false;
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length]!;
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) inside = !inside;
  });
  return inside;
}

/** Places in the plane across a normal that are turned as the normal sees them. */
function flattened(p: Float64Array, normal: Readonly<Vec3>) {
  const axis = [0, 1, 2].reduce((best, k) => (Math.abs(normal[k]!) > Math.abs(normal[best]!) ? k : best), 0);
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  const sign = Math.sign(normal[axis]!);
  return { place: (vertex: number): [number, number] => [p[vertex * 3 + u]! * sign, p[vertex * 3 + v]!] };
}

/**
 * Triangles of a flat face between their own vertices, every one of them used: those that lie on a straight side, too,
 * so that no neighbour is left with a vertex on its side. Answers false, with nothing emitted, for outlines that cross.
 */
export function fillFlat(
  p: Float64Array,
  face: FlatFace,
  normal: Readonly<Vec3>,
  emit: (a: number, b: number, c: number) => void,
): boolean {
  const { place } = flattened(p, normal);
  const [ox, oy] = place(face[0][0]!);
  const at = (v: number): [number, number] => {
    const [x, y] = place(v);
    return [x - ox, y - oy];
  };
  const flat: number[] = [];
  const corners: number[] = [];
  const holes: number[] = [];
  /** vertices on the straight side that begins at a corner, by its number and the next one's */
  const between = new Map<string, number[]>();
  for (const loop of face) {
    const kept = bends(loop, at);
    if (kept.length < 3) return false;
    if (corners.length) holes.push(corners.length);
    const first = corners.length;
    kept.forEach((from, i) => {
      const to = kept[(i + 1) % kept.length]!;
      const run = loop
        .slice(from + 1, to > from ? to : loop.length)
        .concat(to > from ? [] : loop.slice(0, to));
      if (run.length) between.set(`${first + i},${first + ((i + 1) % kept.length)}`, run);
      corners.push(loop[from]!);
      flat.push(...at(loop[from]!));
    });
  }
  const ears = earcut(flat, holes);
  if (ears.length !== (corners.length + 2 * holes.length - 2) * 3) return false;
  for (let i = 0; i < ears.length; i += 3)
    splitAlong([ears[i]!, ears[i + 1]!, ears[i + 2]!], corners, between, emit);
  return true;
}

/** Numbers of the places of a loop that are corners of it. */
function bends(loop: readonly number[], at: (v: number) => [number, number]): number[] {
  const places = loop.map(at);
  const size = Math.max(...places.map(([x, y]) => Math.max(Math.abs(x), Math.abs(y))));
  const kept: number[] = [];
  for (let i = 0; i < loop.length; i++) {
    const [ax, ay] = places[kept.at(-1) ?? (i + loop.length - 1) % loop.length]!;
    const [bx, by] = places[i]!;
    const [cx, cy] = places[(i + 1) % loop.length]!;
    const turn = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    const ahead = (bx - ax) * (cx - bx) + (by - ay) * (cy - by) > 0;
    if (!ahead || Math.abs(turn) > STRAIGHT * size * Math.hypot(cx - ax, cy - ay)) kept.push(i);
  }
  return kept;
}

/** A triangle as those that it falls into by the vertices on its sides. */
function splitAlong(
  [a, b, c]: [number, number, number],
  corners: readonly number[],
  between: ReadonlyMap<string, readonly number[]>,
  emit: (a: number, b: number, c: number) => void,
): void {
  const sides = [a, b, c].map((from, k) => between.get(`${from},${[b, c, a][k]!}`) ?? []);
  const [own, second, third] = [a, b, c].map((n) => corners[n]!) as [number, number, number];
  // A fan from the corner that the most crowded side lies across; the other two sides are cut off first.
  const most = [0, 1, 2].reduce((best, k) => (sides[k]!.length > sides[best]!.length ? k : best), 0);
  const vertices = [own, second, third];
  const turned = [0, 1, 2].map((k) => (most + k) % 3);
  const [from, to, apex] = turned.map((k) => vertices[k]!) as [number, number, number];
  const [base, right, left] = turned.map((k) => sides[k]!) as [number[], number[], number[]];
  const ring = [from, ...base, to];
  // to -> apex is split in the last triangle of the fan, apex -> from in the first.
  ring.slice(1).forEach((next, i) => {
    const last = i === ring.length - 2;
    const rightRun = last ? [...right, apex] : [apex];
    const leftRun = i === 0 ? [...left] : [];
    fanOf(ring[i]!, next, rightRun, leftRun, emit);
  });
}

/** The triangle of a side and the ways on from its end to the apex and from there back, with the vertices on them. */
function fanOf(
  from: number,
  to: number,
  right: readonly number[],
  left: readonly number[],
  emit: (a: number, b: number, c: number) => void,
): void {
  // Up the right side from the beginning, then down the left from the vertex before the apex.
  let last = to;
  for (const next of right.slice(0, -1)) {
    emit(from, last, next);
    last = next;
  }
  const apex = right.at(-1)!;
  let top = apex;
  for (const next of left) {
    emit(last, top, next);
    top = next;
  }
  emit(from, last, top);
}
