import { crosses, bodyAround } from '../compare/convex-overlap.js';
import { axisAlignedBox } from '../fit/index.js';
import { convexHull, hullShape, hullVolume, volumeOfHullOf } from '../hull/index.js';
import { boundsOf, diagonalOf, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { type Shape, shapeVolume } from '../shape/index.js';
import { joinedPoints } from './convex-part.js';
import { checkedOptions, type DecomposeOptions } from './options.js';

/** Sets of so many shapes at most are shown at once. */
const SETS = 3;
/** Triangles by which the cuts are chosen; the shapes are laid round all. */
const MAX_TRIED = 300;
const ROUGH_CORNERS = 16;
const MAX_CORNERS = 24;
/** A box is shown for what fills most of it. */
const BOX_FACTOR = 1.05;
/** Where along each axis a cut is tried, as shares of the extent. */
const PLACES = [0.25, 0.5, 0.75];
/** A set is worth showing when it fills less than the one before by this factor. */
const WORTH = 0.98;

interface Cut {
  axis: 0 | 1 | 2;
  at: number;
}

/**
 * What a ladder begins with, before anything is searched or measured: art in one shape, two and three, cut straight
 * across where that leaves least to fill. For looking at while the ladder is worked out; what would enter a clearance is
 * left out.
 */
export function firstLook(mesh: Mesh, options: DecomposeOptions = {}): Shape[][] {
  const { maxShapes, maxVertices, clearances } = checkedOptions(options);
  const faces = options.faces
    ? [...options.faces]
    : Array.from({ length: mesh.indices.length / 3 }, (_, f) => f);
  const held = new Uint8Array(mesh.positions.length / 3);
  for (const f of faces) for (let k = f * 3; k < f * 3 + 3; k++) held[mesh.indices[k]!] = 1;
  const vertices = placesOf(mesh, held);
  const size = diagonalOf(boundsOf(vertices));
  // What is wrong with the art is told by the ladder itself.
  if (!(size > 0) || !vertices.every((value) => Math.abs(value) < 1e12)) return [];
  const step = Math.max(1, Math.ceil(faces.length / MAX_TRIED));
  const triangles = cornersOf(
    mesh,
    faces.filter((_, i) => i % step === 0),
  );
  let pieces: Piece[] = [{ triangles, faces, held }];
  const bodies = clearances.map(bodyAround);
  const sets: Shape[][] = [];
  let filled = Infinity;
  for (let count = 1; count <= Math.min(SETS, maxShapes); count++) {
    if (count > 1) {
      const best = bestCut(pieces);
      if (!best) break;
      pieces = pieces.flatMap((piece) => (piece === best.piece ? cutPiece(mesh, piece, best.cut) : [piece]));
    }
    const now = pieces.reduce((sum, piece) => sum + volumeOfHullOf(piece.triangles, ROUGH_CORNERS), 0);
    if (count > 1 && now >= filled * WORTH) break;
    filled = now;
    const shapes = pieces.map((piece) => shapeRound(mesh, piece, Math.min(maxVertices, MAX_CORNERS)));
    if (shapes.every((shape) => bodies.every((body) => !crosses(bodyAround(shape), body, 0, size * 1e-9))))
      sets.push(shapes);
  }
  return sets;
}

/** Some of the triangles ([9t]), by which cuts are chosen; all faces that reach into it; and which vertices it holds ([n]). */
interface Piece {
  triangles: Float64Array;
  faces: readonly number[];
  held: Uint8Array;
}

function shapeRound(mesh: Mesh, { triangles, held }: Piece, maxVertices: number): Shape {
  const points = joinedPoints([placesOf(mesh, held), triangles]);
  const found = convexHull(points, { maxVertices });
  const box = axisAlignedBox(points);
  if (found.span !== 'solid') return box;
  return shapeVolume(box) <= hullVolume(found.hull) * BOX_FACTOR ? box : hullShape(found.hull);
}

/** The places of the vertices that are held, each once. [3n] */
function placesOf({ positions }: Mesh, held: Uint8Array): Float64Array {
  const out: number[] = [];
  for (let v = 0; v < held.length; v++)
    if (held[v]) out.push(positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!);
  return Float64Array.from(out);
}

/** Both sides of a cut. A vertex in the plane belongs to the sides that its faces reach into. */
function cutPiece({ positions, indices }: Mesh, piece: Piece, { axis, at }: Cut): Piece[] {
  const sides = sidesOf(piece.triangles, { axis, at });
  if (sides.length < 2) return [piece];
  return sides.map((triangles, i) => {
    const off = (corner: number) => (positions[indices[corner]! * 3 + axis]! - at) * (i ? 1 : -1);
    const faces = piece.faces.filter((f) => off(f * 3) > 0 || off(f * 3 + 1) > 0 || off(f * 3 + 2) > 0);
    const held = new Uint8Array(piece.held.length);
    for (const f of faces)
      for (let k = f * 3; k < f * 3 + 3; k++) if (off(k) >= 0) held[indices[k]!] = piece.held[indices[k]!]!;
    return { triangles, faces, held };
  });
}

/** Three corners for each triangle. [9t] */
function cornersOf({ positions, indices }: Mesh, faces: readonly number[]): Float64Array {
  const corners = new Float64Array(faces.length * 9);
  faces.forEach((f, i) => {
    for (let k = 0; k < 9; k++)
      corners[i * 9 + k] = positions[indices[f * 3 + ((k / 3) | 0)]! * 3 + (k % 3)]!;
  });
  return corners;
}

/** Of all pieces the one, and the cut through it, that takes away most of what hulls round them fill. */
function bestCut(pieces: readonly Piece[]): { piece: Piece; cut: Cut } | null {
  let best: { piece: Piece; cut: Cut } | null = null;
  let most = 0;
  for (const piece of pieces) {
    const { min, max } = boundsOf(piece.triangles);
    const before = volumeOfHullOf(piece.triangles, ROUGH_CORNERS);
    for (const axis of [0, 1, 2] as const)
      for (const share of PLACES) {
        const cut = { axis, at: min[axis] + (max[axis] - min[axis]) * share };
        const [low, high] = sidesOf(piece.triangles, cut);
        if (!low || !high) continue;
        const gain = before - volumeOfHullOf(low, ROUGH_CORNERS) - volumeOfHullOf(high, ROUGH_CORNERS);
        if (gain <= most * (1 + 1e-9)) continue;
        most = gain;
        best = { piece, cut };
      }
  }
  return best;
}

/** Triangles on both sides of a plane across an axis; those it goes through are cut. A side with nothing is left out. */
function sidesOf(corners: Float64Array, { axis, at }: Cut): Float64Array[] {
  const sides: [number[], number[]] = [[], []];
  for (let t = 0; t < corners.length; t += 9) {
    const off = [0, 1, 2].map((i) => corners[t + i * 3 + axis]! - at);
    for (const side of [0, 1] as const) {
      const sign = side ? 1 : -1;
      if (off.every((h) => h * sign <= 0)) continue;
      const loop: Vec3[] = [];
      for (let i = 0; i < 3; i++) {
        const j = (i + 1) % 3;
        const [a, b] = [t + i * 3, t + j * 3];
        if (off[i]! * sign >= 0) loop.push([corners[a]!, corners[a + 1]!, corners[a + 2]!]);
        if (off[i]! * off[j]! >= 0) continue;
        const share = off[i]! / (off[i]! - off[j]!);
        loop.push(
          [0, 1, 2].map((k) => corners[a + k]! + (corners[b + k]! - corners[a + k]!) * share) as Vec3,
        );
      }
      for (let i = 1; i + 1 < loop.length; i++) sides[side].push(...loop[0]!, ...loop[i]!, ...loop[i + 1]!);
    }
  }
  return sides.filter((side) => side.length > 0).map((side) => Float64Array.from(side));
}
