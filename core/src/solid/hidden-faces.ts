import {
  type Shells,
  shellsOf,
  faceNeighbours,
  faceNormals,
  MANY_NEIGHBOURS,
  type Mesh,
  shellVolumes,
  weld,
  type Weld,
} from '../mesh/index.js';
import type { Vec3 } from '../math/index.js';
import { FaceTable } from '../mesh/face-table.js';
import { ShellRays } from './shell-rays.js';
import { Winding } from './winding.js';

/** A point this share of the piece in front of a face is asked whether it is inside. */
const PROBE_SHARE = 1e-5;

/** Most faces of a shell or patch that are asked to speak for all of it. */
const MAX_FACES_ASKED = 16;
/** Largest patch whose faces are asked one by one when they disagree. */
const MAX_FACES_SINGLY = 20_000;

/**
 * Where a face is asked: its middle, near its corners and near the middles of its sides, as shares of the
 * way to each corner. A face that shows anywhere is not hidden.
 */
const SPOTS = [
  [0, 0, 0],
  [0.95, 0, 0],
  [0, 0.95, 0],
  [0, 0, 0.95],
  [0.475, 0.475, 0],
  [0, 0.475, 0.475],
  [0.475, 0, 0.475],
] as const;

/** Boxes round each shell, [6 * shells]. */
function shellBoxes({ positions, indices }: Mesh, shells: Shells): Float64Array {
  const boxes = new Float64Array(shells.count * 6);
  for (let s = 0; s < shells.count; s++)
    boxes.fill(Infinity, s * 6, s * 6 + 3).fill(-Infinity, s * 6 + 3, s * 6 + 6);
  for (let i = 0; i < indices.length; i++) {
    const s = shells.ofTriangle[(i / 3) | 0]! * 6;
    for (let k = 0; k < 3; k++) {
      const value = positions[indices[i]! * 3 + k]!;
      if (value < boxes[s + k]!) boxes[s + k] = value;
      if (value > boxes[s + 3 + k]!) boxes[s + 3 + k] = value;
    }
  }
  return boxes;
}

/**
 * Faces that nobody can see because what is in front of them is inside the piece: copies left in place, and
 * where closed shells run into each other. Only faces within reach of another shell, or of a shell with
 * edges that more than two faces share, are asked. Shape: [t], 1 where hidden.
 */
export function hiddenFaces(
  mesh: Mesh,
  joined: Weld = weld(mesh.positions),
  shells: Shells = shellsOf(mesh, joined),
  neighbours: Int32Array = faceNeighbours(mesh, joined),
): Uint8Array {
  const { positions: p, indices } = mesh;
  const hidden = new Uint8Array(indices.length / 3);
  const boxes = shellBoxes(mesh, shells);
  const folded = new Uint8Array(shells.count);
  const open = new Uint8Array(shells.count);
  for (let side = 0; side < neighbours.length; side++) {
    if (neighbours[side] === MANY_NEIGHBOURS) folded[shells.ofTriangle[(side / 3) | 0]!] = 1;
    else if (neighbours[side]! < 0) open[shells.ofTriangle[(side / 3) | 0]!] = 1;
  }
  if (shells.count === 1 && !folded[0]) return hidden;
  const reach = shellsInReach(boxes, shells.count, open);
  // Either is built only when something is asked of it.
  let rays: ShellRays | undefined;
  let winding: Winding | undefined;
  const inReach = reach.map((list) => new Set(list));
  const normals = faceNormals(p, indices);
  let size = 0;
  for (let s = 0; s < shells.count; s++)
    for (let k = 0; k < 3; k++) size = Math.max(size, boxes[s * 6 + 3 + k]! - boxes[s * 6 + k]!);
  // The inside of a hollow looks at air, though another shell is round it.
  const inward = shells.count > 1 ? inwardShells(mesh, shells, neighbours) : [];
  const hollow = new Set(inward.length ? hollowShells(mesh, shells, inward) : []);
  const isHidden = (f: number): boolean => {
    const shell = shells.ofTriangle[f]!;
    if (hollow.has(shell)) return false;
    const centre = [0, 0, 0];
    for (let c = f * 3; c < f * 3 + 3; c++)
      for (let k = 0; k < 3; k++) centre[k]! += p[indices[c]! * 3 + k]! / 3;
    if (!folded[shell] && !reach[shell]!.some((s) => within(boxes, s, centre))) return false;
    const l = Math.hypot(normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!);
    if (l === 0) return false;
    // A shell that is folded onto itself has no clear inside by crossings: there the winding decides.
    if (folded[shell]) winding ??= new Winding(withoutCopies(mesh, joined));
    else rays ??= new ShellRays(mesh, shells.ofTriangle);
    const others = inReach[shell]!;
    const front = centre.map((v, k) => v + (normals[f * 3 + k]! / l) * size * PROBE_SHARE);
    return SPOTS.every((weights) => {
      const at = front.map((v, k) =>
        weights.reduce((sum, w, c) => sum + w * (p[indices[f * 3 + c]! * 3 + k]! - centre[k]!), v),
      ) as [number, number, number];
      return folded[shell] ? winding!.at(...at) > 0.5 : rays!.inside(...at, (other) => others.has(other));
    });
  };
  const asked = new Uint8Array(hidden.length);
  for (let f = 0; f < hidden.length; f++) {
    if (asked[f]) continue;
    if (!folded[shells.ofTriangle[f]!]) {
      hidden[f] = isHidden(f) ? 1 : 0;
      continue;
    }
    // A wall inside a folded shell is a patch of its own, bounded by the edges where more than two faces meet:
    // a few of its faces speak for all, unless they disagree.
    const patch = patchOf(neighbours, f, asked);
    const step = Math.max(1, Math.floor(patch.length / MAX_FACES_ASKED));
    const spoken = patch.filter((_, i) => i % step === 0).map(isHidden);
    if (spoken.every((is) => is)) for (const face of patch) hidden[face] = 1;
    else if (spoken.some((is) => is) && patch.length <= MAX_FACES_SINGLY)
      for (const face of patch) hidden[face] = isHidden(face) ? 1 : 0;
  }
  return hidden;
}

/** How many copies of one face count towards the winding at most. */
const MAX_COPIES = 4;

/**
 * The surface with each triangle as often as its copies do not cancel each other: thousands of faces on the same
 * few places would make every question as dear as all of them.
 */
function withoutCopies({ positions, indices }: Mesh, { remap }: Weld): Pick<Mesh, 'positions' | 'indices'> {
  const count = indices.length / 3;
  const faces = new FaceTable(count);
  const first = new Uint32Array(count);
  const net = new Int32Array(count);
  /** Whether, from its least place on, a face goes to the lesser of the two others first. */
  const forward = (a: number, b: number, c: number) => (a < b && a < c ? b < c : b < c ? c < a : a < b);
  const placesOf = (f: number) => [0, 1, 2].map((k) => remap[indices[f * 3 + k]!]!) as Vec3;
  for (let f = 0; f < count; f++) {
    const [a, b, c] = placesOf(f);
    const before = faces.count;
    const ahead = forward(a, b, c);
    const face = ahead ? faces.face(a, b, c) : faces.face(a, c, b);
    if (faces.count > before) first[face] = f;
    net[face]! += ahead ? 1 : -1;
  }
  if (faces.count === count) return { positions, indices };
  const copies = net.map((times) => Math.min(Math.abs(times), MAX_COPIES));
  const kept = new Uint32Array(copies.reduce((sum, times) => sum + times, 0) * 3);
  let at = 0;
  for (let face = 0; face < faces.count; face++) {
    const [a, b, c] = [0, 1, 2].map((k) => indices[first[face]! * 3 + k]!) as Vec3;
    const asIs = forward(...placesOf(first[face]!));
    for (let k = 0; k < copies[face]!; k++, at += 3)
      kept.set(net[face]! > 0 === asIs ? [a, b, c] : [a, c, b], at);
  }
  return { positions, indices: kept };
}

/** The faces connected with one over edges of exactly two faces; they are marked in `asked`. */
function patchOf(neighbours: Int32Array, seed: number, asked: Uint8Array): number[] {
  const patch = [seed];
  asked[seed] = 1;
  for (let at = 0; at < patch.length; at++) {
    for (let k = patch[at]! * 3; k < patch[at]! * 3 + 3; k++) {
      const next = neighbours[k]!;
      if (next < 0 || asked[next]) continue;
      asked[next] = 1;
      patch.push(next);
    }
  }
  return patch;
}

/** For each shell the closed other ones whose boxes overlap its own; shells sorted by x are swept. */
function shellsInReach(boxes: Float64Array, count: number, open: Uint8Array): number[][] {
  const reach: number[][] = Array.from({ length: count }, () => []);
  const order = Array.from({ length: count }, (_, s) => s).sort((a, b) => boxes[a * 6]! - boxes[b * 6]!);
  const overlap = (a: number, b: number) =>
    [0, 1, 2].every(
      (k) => boxes[a * 6 + k]! <= boxes[b * 6 + 3 + k]! && boxes[b * 6 + k]! <= boxes[a * 6 + 3 + k]!,
    );
  let active: number[] = [];
  for (const s of order) {
    active = active.filter((other) => boxes[other * 6 + 3]! >= boxes[s * 6]!);
    for (const other of active) {
      if (!overlap(s, other)) continue;
      if (!open[other]) reach[s]!.push(other);
      if (!open[s]) reach[other]!.push(s);
    }
    active.push(s);
  }
  return reach;
}

const within = (boxes: Float64Array, s: number, p: readonly number[]): boolean =>
  p.every((v, k) => v >= boxes[s * 6 + k]! && v <= boxes[s * 6 + 3 + k]!);

/** Closed shells whose faces look inward although they are not the inside of a hollow. */
export function insideOutShells(mesh: Mesh, shells: Shells, neighbours: Int32Array): number[] {
  const inward = inwardShells(mesh, shells, neighbours);
  if (inward.length === 0 || shells.count === 1) return inward;
  const hollows = new Set(hollowShells(mesh, shells, inward));
  return inward.filter((shell) => !hollows.has(shell));
}

function inwardShells(mesh: Mesh, shells: Shells, neighbours: Int32Array): number[] {
  const open = new Uint8Array(shells.count);
  for (let side = 0; side < neighbours.length; side++)
    if (neighbours[side]! < 0) open[shells.ofTriangle[(side / 3) | 0]!] = 1;
  const volumes = shellVolumes(mesh.positions, mesh.indices, shells.ofTriangle, shells.count);
  return [...volumes.keys()].filter((shell) => volumes[shell]! < 0 && !open[shell]);
}

/** Of the shells asked about those that lie wholly inside another: their faces may rightly look into a hollow. */
export function hollowShells(
  mesh: Mesh,
  shells: Shells,
  asked: readonly number[],
  rays = new ShellRays(mesh, shells.ofTriangle),
): number[] {
  const faces = new Map(asked.map((shell): [number, number[]] => [shell, []]));
  shells.ofTriangle.forEach((shell, f) => faces.get(shell)?.push(f));
  const inside = (f: number, shell: number) => {
    const at = [0, 1, 2].map((k) => {
      let sum = 0;
      for (let c = f * 3; c < f * 3 + 3; c++) sum += mesh.positions[mesh.indices[c]! * 3 + k]! / 3;
      return sum;
    }) as [number, number, number];
    return rays.inside(...at, (other) => other !== shell);
  };
  return asked.filter((shell) => {
    const own = faces.get(shell)!;
    const step = Math.max(1, Math.floor(own.length / MAX_FACES_ASKED));
    return own.every((f, i) => i % step > 0 || inside(f, shell));
  });
}

/** Shells whose box is less than `share` of the whole piece's: crumbs of an export. */
export function specks(mesh: Mesh, shells: Shells, share = 0.002): Uint8Array {
  const boxes = shellBoxes(mesh, shells);
  const diagonal = (s: number) =>
    Math.hypot(...[0, 1, 2].map((k) => boxes[s * 6 + 3 + k]! - boxes[s * 6 + k]!));
  const whole = [0, 1, 2].map((k) => {
    let low = Infinity;
    let high = -Infinity;
    for (let s = 0; s < shells.count; s++) {
      low = Math.min(low, boxes[s * 6 + k]!);
      high = Math.max(high, boxes[s * 6 + 3 + k]!);
    }
    return high - low;
  });
  const limit = Math.hypot(...whole) * share;
  const speck = Uint8Array.from({ length: shells.count }, (_, s) => (diagonal(s) < limit ? 1 : 0));
  return shells.ofTriangle.reduce(
    (out, s, f) => ((out[f] = speck[s]!), out),
    new Uint8Array(shells.ofTriangle.length),
  );
}
