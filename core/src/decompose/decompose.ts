import { boundsOf, diagonalOf } from '../math/index.js';
import { type Mesh, plainMesh, reduceMesh } from '../mesh/index.js';
import { type Shape, shapeCorners, shapePolygons } from '../shape/index.js';
import { boundsOfFaces, type ClosedSolid, closedSolid, SolidDistance } from '../solid/index.js';
import { convexBody, crossingDepth } from './convex-overlap.js';
import { cutDown } from './cut-tree.js';
import { cutCrossings } from './cut-crossings.js';
import { DecomposeError } from './decompose-error.js';
import { compact, type Fragment } from './fragment.js';
import { handOut, type State } from './hand-out.js';
import { joinUp } from './join-up.js';
import { type Piece, pieceOf, solidPiece, type Workshop } from './piece.js';
import { runStates } from './run-states.js';
import { clears, pieceShape } from './piece-shape.js';

export interface DecomposeOptions {
  /** shapes on the highest rung, 1 to 64. Default 32 */
  mostShapes?: number;
  /** corners of a hull at most, 4 or more. Default 32 */
  mostVertices?: number;
  /** who collides: metres below which detail does not matter. Default: nothing is left out */
  agentDetail?: number;
  /** boxes or hulls that nothing may enter */
  clearances?: readonly Shape[];
  /** whether boxes, spheres, cylinders and capsules are preferred to hulls. Default true */
  primitives?: boolean;
  /** whether shapes may go into each other by more than a tenth of a millimetre. Default true */
  mayCross?: boolean;
  /** only these faces of the mesh. Default: all */
  faces?: Iterable<number>;
  /** called often, with the share done; what it throws stops the work */
  progress?: (share: number) => void;
}

/** One count of shapes. */
export interface Rung {
  shapes: Shape[];
  /** how far a shape stands off the art at most, metres */
  standOff: number;
  /** how far the art stands out of the shapes at most, metres; where hulls were kept to a few corners */
  standOut: number;
  /** corners of all shapes */
  vertices: number;
}

/** Every useful count of shapes for one piece of art, fewest first. Counts that bring nothing are left out. */
export interface Ladder {
  rungs: Rung[];
  /** the first rung whose deviation is within the agent's detail; null when none is, or no agent was given */
  goodEnough: number | null;
  /** art that lies inside a clearance and had to be left without a shape */
  leftBare: boolean;
}

export const MOST_RUNG = 64;
/** Shapes may meet within this many metres. */
const MEETING = 1e-4;
/** Triangles that cuts are looked for on; finer art is reduced first, and its shapes laid round all of it after. */
const SEARCHED = 1500;
/** Separate surfaces that are told apart; of more, near ones are taken together. */
const MOST_PARTS = 192;

/**
 * Break art into convex shapes, as a ladder.
 *
 * Cut from the top along the art's own planes where that takes away most hollow and most concave edges, then
 * joined from the bottom where that fills least; every state on the way down is a rung. Separate solids have
 * ladders of their own, and the count is handed out to whichever stands off most.
 *
 * @throws DecomposeError with one sentence when there is nothing to break up or the options contradict
 */
export async function decompose(mesh: Mesh, options: DecomposeOptions = {}): Promise<Ladder> {
  const settings = checked(options);
  const tick = ticker(options.progress);
  const chosen = chosenFaces(mesh, options.faces);
  const solid = closedSolid(await coarser(chosen, tick));
  const size = diagonalOf(boundsOfFaces(solid));
  if (!(size > 0)) throw new DecomposeError('There is nothing to break up: no triangle has any extent.');
  const shop: Workshop = {
    art: new SolidDistance(chosen, solid),
    size,
    clearances: settings.clearances.map((shape) => {
      const { points, faces } = shapePolygons(shape);
      return convexBody(points, faces);
    }),
    tick,
  };
  const parts = partsOf(solid, shop);
  const enough = Math.max(settings.agentDetail / 8, size * 1e-5);
  const { runs, start } = runsAmong(parts, settings.mostShapes, shop);
  const crossing = settings.mayCross ? Infinity : MEETING / 2;
  const mostPieces = Math.max(
    settings.mostShapes + 8,
    Math.ceil(settings.mostShapes * 1.5),
    Math.min(start.length, MOST_PARTS),
  );
  let leaves = cutDown(start, { mostPieces, enough }, shop);
  if (!settings.mayCross) leaves = cutCrossings(leaves, crossing, shop);
  if (!leaves.length && !runs.length)
    throw new DecomposeError('Nothing is left to wrap: the clearances swallow the whole piece.');
  leaves = withAllPoints(leaves, chosen, solid, shop);
  return ladderOf(statesOf(leaves, runs, crossing, shop), settings, shop);
}

/** Bent tubes and rings that stand alone have states of their own; among others their pieces take part. */
function runsAmong(
  parts: readonly Piece[],
  mostShapes: number,
  shop: Workshop,
): { runs: State[][]; start: Piece[] } {
  const runs: State[][] = [];
  const start: Piece[] = [];
  const many = parts.length > 24;
  for (const part of parts) {
    const states = many ? null : runStates(part, mostShapes, shop);
    if (!states) start.push(part);
    else if (parts.every((other) => other === part || other.group !== part.group)) runs.push(states);
    else {
      const near = (state: State) => Math.max(...state.map((piece) => piece.standOff)) < shop.size * 2e-3;
      start.push(...(states.find(near) ?? states[states.length - 1]!));
    }
  }
  return { runs, start };
}

type Settings = Required<Omit<DecomposeOptions, 'faces' | 'progress'>>;

function checked(options: DecomposeOptions): Settings {
  const {
    mostShapes = 32,
    mostVertices = 32,
    agentDetail = 0,
    clearances = [],
    primitives = true,
    mayCross = true,
  } = options;
  if (!Number.isInteger(mostShapes) || mostShapes < 1 || mostShapes > MOST_RUNG)
    throw new DecomposeError(
      `The number of shapes must be a whole number from 1 to ${MOST_RUNG}, not ${mostShapes}.`,
    );
  if (!Number.isInteger(mostVertices) || mostVertices < 4)
    throw new DecomposeError(`A hull has at least 4 corners; ${mostVertices} cannot be the most.`);
  if (!(agentDetail >= 0) || !Number.isFinite(agentDetail))
    throw new DecomposeError(`The detail that matters must be a length of 0 or more, not ${agentDetail}.`);
  for (const clearance of clearances)
    if (clearance.kind !== 'box' && clearance.kind !== 'hull')
      throw new DecomposeError(`A clearance is a box or a hull, not a ${clearance.kind}.`);
  return { mostShapes, mostVertices, agentDetail, clearances, primitives, mayCross };
}

/** Share done, from what the steps tell: a negative share means "still at it". */
function ticker(progress?: (share: number) => void): (share: number) => void {
  let done = 0;
  return (share) => {
    done = Math.max(done, share * 0.7);
    progress?.(done);
  };
}

function chosenFaces(mesh: Mesh, faces?: Iterable<number>): Mesh {
  const kept: number[] = [];
  const take = (f: number) => {
    const corners = [0, 1, 2].map((k) => mesh.indices[f * 3 + k]!);
    for (const v of corners)
      for (let k = 0; k < 3; k++)
        if (!(Math.abs(mesh.positions[v * 3 + k]!) < 1e12))
          throw new DecomposeError(
            `Vertex ${v} is not at a usable place (${mesh.positions[v * 3 + k]}); mend it in Parts first.`,
          );
    kept.push(...corners);
  };
  if (faces) {
    for (const f of faces) {
      if (!Number.isInteger(f) || f < 0 || f >= mesh.indices.length / 3)
        throw new DecomposeError(`There is no face ${f}: the mesh has ${mesh.indices.length / 3}.`);
      take(f);
    }
  } else for (let f = 0; f < mesh.indices.length / 3; f++) take(f);
  if (!kept.length) throw new DecomposeError('There is nothing to break up: the piece has no triangles.');
  return plainMesh(mesh.positions, kept);
}

/** Fewer triangles to look for cuts on; the art's own vertices stay where they are. */
async function coarser(mesh: Mesh, tick: (share: number) => void): Promise<Mesh> {
  tick(0);
  const count = mesh.indices.length / 3;
  if (count <= SEARCHED) return mesh;
  const size = diagonalOf(boundsOf(mesh.positions));
  // First what can go unseen; then, where that is not enough, what shows a little.
  const { mesh: few } = await reduceMesh(mesh, { share: SEARCHED / count, error: size * 2e-3 });
  if (few.indices.length / 3 <= SEARCHED * 4) return few;
  return (await reduceMesh(few, { share: (SEARCHED * 4 * 3) / few.indices.length, error: size * 1e-2 })).mesh;
}

/** The separate surfaces of the art as pieces; hollows inside closed ones are not seen from outside and are left out. */
function partsOf(solid: ClosedSolid, shop: Workshop): Piece[] {
  const { shells, volumes, shellOf, indices, faces, positions } = solid;
  const groups = groupsOf(solid, shop.size * 1e-4);
  const real: number[][] = Array.from({ length: shells }, () => []);
  const caps: number[][] = Array.from({ length: shells }, () => []);
  for (let t = 0; t < shellOf.length; t++) {
    const list = (t < faces ? real : caps)[shellOf[t]!]!;
    list.push(indices[t * 3]!, indices[t * 3 + 1]!, indices[t * 3 + 2]!);
  }
  const fragments: { fragment: Fragment; group: number }[] = [];
  const bundles = bundled(solid, groups);
  for (const { members, group } of bundles) {
    const seen = members.filter((shell) => volumes[shell]! >= 0);
    const faceCorners = seen.flatMap((shell) => real[shell]!);
    if (!faceCorners.length) continue;
    const capCorners = seen.flatMap((shell) => (volumes[shell] ? caps[shell]! : []));
    fragments.push({ fragment: compact(positions, faceCorners, capCorners), group });
  }
  return fragments.map(({ fragment, group }) => {
    shop.tick(-1);
    return pieceOf(fragment, group, shop);
  });
}

/** Shells whose boxes touch are one group; [shells]. */
function groupsOf(solid: ClosedSolid, gap: number): Int32Array {
  const boxes = shellBounds(solid);
  const { shells } = solid;
  const parent = Int32Array.from({ length: shells }, (_, i) => i);
  const root = (s: number): number => {
    while (parent[s] !== s) s = parent[s] = parent[parent[s]!]!;
    return s;
  };
  const order = Int32Array.from({ length: shells }, (_, i) => i).sort(
    (a, b) => boxes[a * 6]! - boxes[b * 6]! || a - b,
  );
  let active: number[] = [];
  for (const s of order) {
    active = active.filter((o) => boxes[o * 6 + 3]! + gap >= boxes[s * 6]!);
    // With very many shells in reach the sweep would be quadratic; they are bundled by place anyway.
    for (const o of active.slice(-64)) {
      const touches = [1, 2].every(
        (k) =>
          boxes[o * 6 + k]! - gap <= boxes[s * 6 + 3 + k]! &&
          boxes[s * 6 + k]! - gap <= boxes[o * 6 + 3 + k]!,
      );
      if (touches) parent[Math.max(root(s), root(o))] = Math.min(root(s), root(o));
    }
    active.push(s);
  }
  return Int32Array.from({ length: shells }, (_, s) => root(s));
}

function shellBounds({ positions, indices, shellOf, shells, faces }: ClosedSolid): Float64Array {
  const boxes = new Float64Array(shells * 6);
  for (let s = 0; s < shells; s++)
    for (let k = 0; k < 6; k++) boxes[s * 6 + k] = k < 3 ? Infinity : -Infinity;
  for (let i = 0; i < faces * 3; i++) {
    const s = shellOf[(i / 3) | 0]! * 6;
    for (let k = 0; k < 3; k++) {
      const value = positions[indices[i]! * 3 + k]!;
      if (value < boxes[s + k]!) boxes[s + k] = value;
      if (value > boxes[s + 3 + k]!) boxes[s + 3 + k] = value;
    }
  }
  return boxes;
}

/** Shells one by one, or, when there are too many, those that are near each other together. */
function bundled(solid: ClosedSolid, groups: Int32Array): { members: number[]; group: number }[] {
  const { shells } = solid;
  if (shells <= MOST_PARTS)
    return Array.from({ length: shells }, (_, s) => ({ members: [s], group: groups[s]! }));
  const boxes = shellBounds(solid);
  const middle = (s: number, k: number) => (boxes[s * 6 + k]! + boxes[s * 6 + 3 + k]!) / 2;
  let bundles: number[][] = [Array.from({ length: shells }, (_, s) => s)];
  // Halved across the longer side, the most spread first, until there are as many as can be told apart.
  while (bundles.length < MOST_PARTS) {
    let widest = -1;
    let most = 0;
    let along = 0;
    bundles.forEach((bundle, i) => {
      if (bundle.length < 2) return;
      for (let k = 0; k < 3; k++) {
        let low = Infinity;
        let high = -Infinity;
        for (const s of bundle) {
          low = Math.min(low, middle(s, k));
          high = Math.max(high, middle(s, k));
        }
        if (high - low <= most) continue;
        most = high - low;
        widest = i;
        along = k;
      }
    });
    if (widest < 0) break;
    const sorted = [...bundles[widest]!].sort((a, b) => middle(a, along) - middle(b, along) || a - b);
    const half = sorted.length >> 1;
    bundles = [...bundles.filter((_, i) => i !== widest), sorted.slice(0, half), sorted.slice(half)];
  }
  return bundles.map((members) => ({ members, group: groups[members[0]!]! }));
}

/** Pieces found on reduced art, grown to hold the vertices of the whole that they lost. */
function withAllPoints(leaves: Piece[], mesh: Mesh, solid: ClosedSolid, shop: Workshop): Piece[] {
  if (solid.positions.length >= mesh.positions.length || mesh.indices.length / 3 <= SEARCHED) return leaves;
  const extra = new Map<Piece, number[]>();
  const bodies = leaves.filter((leaf) => leaf.body);
  const { positions } = mesh;
  const slack = shop.size * 1e-6;
  const used = new Uint8Array(positions.length / 3);
  for (const v of mesh.indices) used[v] = 1;
  for (let v = 0; v < used.length; v++) {
    if (!used[v]) continue;
    if (v % 4096 === 0) shop.tick(-1);
    const [x, y, z] = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
    let nearest: Piece | null = null;
    let least = Infinity;
    for (const leaf of bodies) {
      const { planes, min, max } = leaf.body!;
      const reach = Math.max(min[0]! - x, x - max[0]!, min[1]! - y, y - max[1]!, min[2]! - z, z - max[2]!);
      if (reach >= least) continue;
      let out = -Infinity;
      for (let i = 0; i < planes.length && out < least; i += 4)
        out = Math.max(out, planes[i]! * x + planes[i + 1]! * y + planes[i + 2]! * z - planes[i + 3]!);
      if (out >= least) continue;
      least = out;
      nearest = leaf;
      if (least <= slack) break;
    }
    // What lies far from every piece was left out on purpose, inside a clearance or as a crumb.
    if (!nearest || least <= slack || least > shop.size * 0.02) continue;
    const list = extra.get(nearest);
    if (list) list.push(x, y, z);
    else extra.set(nearest, [x, y, z]);
  }
  return leaves.map((leaf) => {
    const more = extra.get(leaf);
    if (!more) return leaf;
    const points = new Float64Array(leaf.points.length + more.length);
    points.set(leaf.points);
    points.set(more, leaf.points.length);
    const grown = solidPiece(points, leaf.volume, leaf.group, shop, leaf.fragment);
    return grown.body && clears(grown.body, shop) ? grown : leaf;
  });
}

/** Sets of pieces, fewest first: each separate solid joined up on its own, then all together. */
function statesOf(
  leaves: readonly Piece[],
  runs: readonly State[][],
  crossing: number,
  shop: Workshop,
): State[] {
  const groups = new Map<number, Piece[]>();
  for (const leaf of leaves) {
    const known = groups.get(leaf.group);
    if (known) known.push(leaf);
    else groups.set(leaf.group, [leaf]);
  }
  const ladders = [...groups.values()].map((pieces) => joinUp(pieces, { crossing }, shop).reverse());
  const apart = handOut([...ladders, ...runs]);
  const fewest = apart[0]!;
  const together =
    ladders.length + runs.length > 1 ? joinUp(fewest, { crossing }, shop).slice(1).reverse() : [];
  return [...together, ...apart];
}

function ladderOf(states: readonly State[], settings: Settings, shop: Workshop): Ladder {
  const shapes = new Map<Piece, { shape: Shape; cutBack: number; standOff: number }>();
  const tolerance = settings.agentDetail > 0 ? settings.agentDetail / 2 : shop.size * 0.01;
  const rungs: Rung[] = [];
  const shaped = (piece: Piece, state: State) => {
    let known = shapes.get(piece);
    if (!known) {
      shop.tick(-1);
      const fits = (body: ReturnType<typeof convexBody>) =>
        clears(body, shop) &&
        (settings.mayCross ||
          state.every(
            (other) =>
              other === piece || !other.body || crossingDepth(body, other.body, shop.size * 1e-9) <= MEETING,
          ));
      const made = pieceShape(
        piece,
        {
          primitives: settings.primitives,
          tolerance: Math.min(tolerance, Math.max(piece.standOff, diagonalOf(boundsOf(piece.points)) * 0.01)),
          mostVertices: settings.mostVertices,
        },
        fits,
        shop,
      );
      known = { ...made, standOff: piece.standOff };
      shapes.set(piece, known);
    }
    return known;
  };
  let best = Infinity;
  for (const state of states) {
    if (state.length > settings.mostShapes) break;
    const standOff = Math.max(0, ...state.map((piece) => piece.standOff));
    // A rung that brings nothing over one with fewer shapes is none.
    if (rungs.length && standOff > best * (1 - 1e-3) - shop.size * 1e-7) continue;
    best = standOff;
    const made = state.map((piece) => shaped(piece, state));
    rungs.push({
      shapes: made.map(({ shape }) => shape),
      standOff,
      standOut: Math.max(0, ...made.map(({ cutBack }) => cutBack)),
      vertices: made.reduce((sum, { shape }) => sum + shapeCorners(shape), 0),
    });
  }
  if (!rungs.length)
    throw new DecomposeError(
      `With the openings kept free at least ${states[0]!.length} shapes are needed; ${settings.mostShapes} are allowed.`,
    );
  const { agentDetail } = settings;
  const goodEnough =
    agentDetail > 0 ? rungs.findIndex((rung) => Math.max(rung.standOff, rung.standOut) <= agentDetail) : -1;
  return { rungs, goodEnough: goodEnough < 0 ? null : goodEnough, leftBare: false };
}
