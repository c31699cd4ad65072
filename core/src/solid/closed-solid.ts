import { areaVector, axesFrom, diagonalOf, dot, subtract, type Vec3 } from '../math/index.js';
import {
  MANY_NEIGHBOURS,
  NO_NEIGHBOUR,
  borderLoops,
  shellsOf,
  faceNeighbours,
  facesToTurn,
  type Mesh,
  meshBounds,
  shellVolumes,
  plainMesh,
  weld,
  type Weld,
} from '../mesh/index.js';
import { FaceTable } from '../mesh/face-table.js';
import { hollowShells } from './hidden-faces.js';

/** A triangle mesh made fit to be asked what is inside: the art's own faces first, then caps over its borders. */
export interface ClosedSolid {
  /** [3n]: each place once */
  positions: Float64Array;
  /** [3t]: faces look outward, or into a hollow; caps follow after `faces` */
  indices: Uint32Array;
  /** how many of the triangles are art */
  faces: number;
  /** [faces]: the triangle of the mesh each came from */
  source: Uint32Array;
  /** [t]: connected shells */
  shellOf: Uint32Array;
  shells: number;
  /** [shells]: enclosed volume, negative for a hollow; 0 for a surface that encloses nothing */
  volumes: Float64Array;
}

/**
 * Read a triangle soup as a solid, the way a person looking at it would: copies of a face and faces without
 * extent do not count, neighbours are made to agree, closed shells that look inward are turned outward
 * unless they are a hollow, and open borders are closed by fans. An open shell that then encloses nothing, or
 * looks into what it would enclose, is a surface without volume.
 */
export function closedSolid(mesh: Pick<Mesh, 'positions' | 'indices'>): ClosedSolid {
  const { welded, source, neighbours } = seamsClosed(mesh);
  const { positions, indices } = welded;
  let shells = edgeShellsOf(positions, indices, neighbours);
  let volumes = shellVolumes(positions, indices, shells.ofTriangle, shells.count);
  if (!isInOrder(indices, neighbours, shells, volumes)) {
    // One closed surface that looks inward as a whole is turned over; anything else is looked at face by face.
    const inward = shells.count === 1 && volumes[0]! < 0;
    if (inward && isInOrder(indices, neighbours, shells, [-volumes[0]!]))
      for (let f = 0; f < source.length; f++) flip(indices, f);
    else turnOutward(welded, neighbours);
    shells = edgeShellsOf(positions, indices, neighbours);
    volumes = shellVolumes(positions, indices, shells.ofTriangle, shells.count);
  }
  const bare: ClosedSolid = {
    positions,
    indices,
    faces: source.length,
    source,
    shellOf: shells.ofTriangle,
    shells: shells.count,
    volumes: volumes.map((volume, shell) => (shells.fins[shell] ? 0 : volume)),
  };
  return shells.open.includes(1) ? withCaps(bare, neighbours, shells.open) : bare;
}

/** Whether nothing is open, everything faces outward and all neighbours agree: most art, which then needs no turning. */
function isInOrder(
  indices: Uint32Array,
  neighbours: Int32Array,
  { open, fins }: EdgeShells,
  volumes: ArrayLike<number>,
): boolean {
  for (let shell = 0; shell < volumes.length; shell++) if (!(volumes[shell]! > 0)) return false;
  if (open.includes(1) || fins.includes(1)) return false;
  for (let side = 0; side < neighbours.length; side++) {
    const other = neighbours[side]! * 3;
    if (other < 0) return false;
    const from = indices[side]!;
    const to = indices[side % 3 === 2 ? side - 2 : side + 1]!;
    const [a, b, c] = [indices[other]!, indices[other + 1]!, indices[other + 2]!];
    if (!((a === to && b === from) || (b === to && c === from) || (c === to && a === from))) return false;
  }
  return true;
}

/** Turns faces so that neighbours agree and shells look outward, or into a hollow. */
function turnOutward(welded: Mesh, neighbours: Int32Array): void {
  const { positions, indices } = welded;
  const joined = unwelded(positions.length / 3);
  const shells = shellsOf(welded, joined);
  const open = new Uint8Array(shells.count);
  for (let side = 0; side < neighbours.length; side++)
    if (neighbours[side] === NO_NEIGHBOUR) open[shells.ofTriangle[(side / 3) | 0]!] = 1;
  const volumes = shellVolumes(positions, indices, shells.ofTriangle, shells.count);
  const inward = [...volumes.keys()].filter((shell) => volumes[shell]! < 0 && !open[shell]);
  const hollows = new Set(shells.count > 1 ? hollowShells(welded, shells, inward) : []);
  const turn = facesToTurn(welded, (face) => hollows.has(shells.ofTriangle[face]!), joined, neighbours);
  for (let f = 0; f < turn.length; f++) if (turn[f]) flip(indices, f);
}

function flip(indices: Uint32Array, f: number): void {
  const b = indices[f * 3 + 1]!;
  indices[f * 3 + 1] = indices[f * 3 + 2]!;
  indices[f * 3 + 2] = b;
}

interface EdgeShells {
  count: number;
  /** [t] */
  ofTriangle: Uint32Array;
  /** [count]: 1 where an edge has one face */
  open: Uint8Array;
  /** [count]: 1 where a face at an edge of several is left over, so that the shell encloses nothing */
  fins: Uint8Array;
}

/** Faces joined over edges that they share; boxes that touch along a side, an edge or in a corner are two shells. */
function edgeShellsOf(positions: Float64Array, indices: Uint32Array, found: Int32Array): EdgeShells {
  const neighbours = found.includes(MANY_NEIGHBOURS) ? pairedAround(positions, indices, found) : found;
  const ofTriangle = new Uint32Array(neighbours.length / 3).fill(NO_SHELL);
  let count = 0;
  const stack: number[] = [];
  for (let seed = 0; seed < ofTriangle.length; seed++) {
    if (ofTriangle[seed] !== NO_SHELL) continue;
    ofTriangle[seed] = count;
    stack.push(seed);
    while (stack.length) {
      const face = stack.pop()!;
      for (let side = face * 3; side < face * 3 + 3; side++) {
        const other = neighbours[side]!;
        if (other < 0 || ofTriangle[other] !== NO_SHELL) continue;
        ofTriangle[other] = count;
        stack.push(other);
      }
    }
    count++;
  }
  const open = new Uint8Array(count);
  const fins = new Uint8Array(count);
  for (let side = 0; side < neighbours.length; side++) {
    if (neighbours[side] === NO_NEIGHBOUR) open[ofTriangle[(side / 3) | 0]!] = 1;
    if (neighbours[side] === MANY_NEIGHBOURS) fins[ofTriangle[(side / 3) | 0]!] = 1;
  }
  return { count, ofTriangle, open, fins };
}

/** Faces nearer in angle round an edge than this, radians, lie on each other: seams closed by a hair turn them a little. */
const SAME_ANGLE = 0.02;

/**
 * Neighbours where several faces meet at an edge: each with the one that bounds the same solid, the first on its
 * inner side, going round the edge, that runs along it the other way. A face left over keeps none.
 */
function pairedAround(p: Float64Array, indices: Uint32Array, found: Int32Array): Int32Array {
  const edges = new Map<number, number[]>();
  for (let side = 0; side < found.length; side++) {
    if (found[side] !== MANY_NEIGHBOURS) continue;
    const [from, to] = [indices[side]!, indices[side % 3 === 2 ? side - 2 : side + 1]!];
    const key = Math.min(from, to) * 2 ** 26 + Math.max(from, to);
    const known = edges.get(key);
    if (known) known.push(side);
    else edges.set(key, [side]);
  }
  const neighbours = found.slice();
  for (const [key, sides] of edges) {
    const [low, high] = [Math.floor(key / 2 ** 26), key % 2 ** 26];
    const at = (v: number): Vec3 => [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
    const start = at(low);
    const [u, , w] = axesFrom(subtract(at(high), start), [1, 0, 0]);
    const round = sides.map((side) => {
      const apex = subtract(at(indices[side - (side % 3) + ((side + 2) % 3)]!), start);
      // From w to u: turning counter-clockwise about the edge.
      return { side, forth: indices[side] === low, angle: Math.atan2(dot(apex, u), dot(apex, w)) };
    });
    const back = round.filter(({ forth }) => !forth);
    for (const { side, angle } of round.filter(({ forth }) => forth).sort((a, b) => a.angle - b.angle)) {
      let nearest = -1;
      let least = Infinity;
      back.forEach((other, i) => {
        const turn = (((angle - other.angle) % TURN) + TURN) % TURN;
        // What lies on it comes last: between the two is nothing.
        const away = turn < SAME_ANGLE || turn > TURN - SAME_ANGLE ? TURN : turn;
        if (away >= least) return;
        least = away;
        nearest = i;
      });
      if (nearest < 0) break;
      const [other] = back.splice(nearest, 1);
      neighbours[side] = (other!.side / 3) | 0;
      neighbours[other!.side] = (side / 3) | 0;
    }
  }
  return neighbours;
}

const TURN = 2 * Math.PI;
const NO_SHELL = 0xffffffff;

/** Seams open by up to this share of the size are taken for closed ones that were drawn carelessly. */
const MAX_SEAM_SHARE = 1e-4;

interface Welded {
  welded: Mesh;
  source: Uint32Array;
  /** see `faceNeighbours` */
  neighbours: Int32Array;
}

/** Equal places welded; where many sides stay open, near places too, if that closes most of them. */
function seamsClosed(mesh: Pick<Mesh, 'positions' | 'indices'>): Welded {
  const exact = weldedFaces(mesh, 0);
  const open = openSides(exact);
  if (open < exact.neighbours.length * 0.05) return exact;
  const near = weldedFaces(mesh, diagonalOf(meshBounds(exact.welded)) * MAX_SEAM_SHARE);
  return openSides(near) < open * 0.5 ? near : exact;
}

const openSides = ({ neighbours }: Welded): number => {
  let open = 0;
  for (const other of neighbours) if (other === -1) open++;
  return open;
};

function weldedFaces({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>, within: number): Welded {
  const joined = weld(positions, within);
  const places = new Float64Array(joined.count * 3);
  for (let v = 0; v < joined.count; v++) {
    const from = joined.first[v]! * 3;
    places[v * 3] = positions[from]!;
    places[v * 3 + 1] = positions[from + 1]!;
    places[v * 3 + 2] = positions[from + 2]!;
  }
  const corners = new Uint32Array(indices.length);
  const source = new Uint32Array(indices.length / 3);
  const lines = shellsWithoutArea(places, joined.remap, indices);
  let count = 0;
  for (let f = 0; f < source.length; f++) {
    if (lines?.[f]) continue;
    const a = joined.remap[indices[f * 3]!]!;
    const b = joined.remap[indices[f * 3 + 1]!]!;
    const c = joined.remap[indices[f * 3 + 2]!]!;
    if (a === b || b === c || c === a) continue;
    corners[count * 3] = a;
    corners[count * 3 + 1] = b;
    corners[count * 3 + 2] = c;
    source[count++] = f;
  }
  const all = meshOf(places, corners.subarray(0, count * 3), source.subarray(0, count));
  // Copies of a face make edges of more than two: without those there are none.
  return all.neighbours.includes(MANY_NEIGHBOURS) ? withoutCopies(all) : all;
}

function meshOf(places: Float64Array, corners: Uint32Array, source: Uint32Array): Welded {
  const groups = [{ material: -1, start: 0, count: source.length }];
  const welded: Mesh = { positions: places, indices: corners, uvs: [], groups };
  return { welded, source, neighbours: faceNeighbours(welded, unwelded(places.length / 3)) };
}

/** Every place is its own: what is welded already needs not be welded again. */
function unwelded(count: number): Weld {
  const same = new Uint32Array(count);
  for (let v = 0; v < count; v++) same[v] = v;
  return { remap: same, first: same, count };
}

/** Faces that stand on the same places and turn the same way as an earlier one are left out. */
function withoutCopies({ welded, source, neighbours }: Welded): Welded {
  const { positions, indices } = welded;
  const seen = new FaceTable(source.length);
  const corners = new Uint32Array(indices.length);
  const kept = new Uint32Array(source.length);
  let count = 0;
  for (let f = 0; f < source.length; f++) {
    const [a, b, c] = [indices[f * 3]!, indices[f * 3 + 1]!, indices[f * 3 + 2]!];
    if (!seen.add(a, b, c)) continue;
    corners[count * 3] = a;
    corners[count * 3 + 1] = b;
    corners[count * 3 + 2] = c;
    kept[count++] = source[f]!;
  }
  if (count === source.length) return { welded, source, neighbours };
  return meshOf(positions, corners.slice(0, count * 3), kept.slice(0, count));
}

/**
 * [t]: 1 for faces of connected surfaces that are all lines, as exporters leave them about; null when there are none.
 * Faces without area in the midst of others are kept: they close seams.
 */
function shellsWithoutArea(
  p: Float64Array,
  remap: Uint32Array,
  indices: ArrayLike<number>,
): Uint8Array | null {
  const corners = new Uint32Array(indices.length);
  for (let i = 0; i < corners.length; i++) corners[i] = remap[indices[i]!]!;
  const thin = new Uint8Array(corners.length / 3);
  for (let f = 0; f < thin.length; f++) if (isLine(p, corners, f * 3)) thin[f] = 1;
  if (!thin.includes(1)) return null;
  const shells = shellsOf(plainMesh(p, corners), unwelded(p.length / 3));
  const real = new Uint8Array(shells.count);
  thin.forEach((line, f) => {
    if (!line) real[shells.ofTriangle[f]!] = 1;
  });
  return real.includes(0) ? thin.map((_, f) => 1 - real[shells.ofTriangle[f]!]!) : null;
}

/** Whether a face is less than a billionth as wide as it is long. */
function isLine(p: Float64Array, corners: Uint32Array, f: number): boolean {
  const [a, b, c] = [corners[f]! * 3, corners[f + 1]! * 3, corners[f + 2]! * 3];
  const ux = p[b]! - p[a]!,
    uy = p[b + 1]! - p[a + 1]!,
    uz = p[b + 2]! - p[a + 2]!;
  const vx = p[c]! - p[a]!,
    vy = p[c + 1]! - p[a + 1]!,
    vz = p[c + 2]! - p[a + 2]!;
  const [nx, ny, nz] = areaVector(p, a, b, c);
  const longest = ux * ux + uy * uy + uz * uz + vx * vx + vy * vy + vz * vz;
  return !(nx * nx + ny * ny + nz * nz > 1e-18 * longest * longest);
}

function withCaps(bare: ClosedSolid, neighbours: Int32Array, open: Uint8Array): ClosedSolid {
  const shellOfVertex = new Int32Array(bare.positions.length / 3);
  for (let i = 0; i < bare.indices.length; i++) shellOfVertex[bare.indices[i]!] = bare.shellOf[(i / 3) | 0]!;
  const whole: Mesh = { positions: bare.positions, indices: bare.indices, uvs: [], groups: [] };
  const loops = borderLoops(whole, unwelded(bare.positions.length / 3), neighbours);
  const middles: number[] = [];
  const caps: number[] = [];
  const capShells: number[] = [];
  for (const loop of loops) {
    const middle = [0, 0, 0];
    for (const v of loop) for (let k = 0; k < 3; k++) middle[k]! += bare.positions[v * 3 + k]! / loop.length;
    const hub = bare.positions.length / 3 + middles.length / 3;
    middles.push(...middle);
    loop.forEach((v, i) => {
      caps.push(v, loop[(i + 1) % loop.length]!, hub);
      capShells.push(shellOfVertex[v]!);
    });
  }
  const positions = new Float64Array(bare.positions.length + middles.length);
  positions.set(bare.positions);
  positions.set(middles, bare.positions.length);
  const capVolumes = shellVolumes(
    positions,
    joinedIndices(bare.indices, caps),
    joinedIndices(bare.shellOf, capShells),
    bare.shells,
  );
  // A surface that looks into what its caps would close off is a trough, not a lid left open.
  const encloses = (shell: number) => (open[shell] ? capVolumes[shell]! > 0 : bare.volumes[shell] !== 0);
  const kept = capShells.map((shell) => encloses(shell));
  const indices = joinedIndices(
    bare.indices,
    caps.filter((_, i) => kept[(i / 3) | 0]),
  );
  const shellOf = joinedIndices(
    bare.shellOf,
    capShells.filter((_, i) => kept[i]),
  );
  const volumes = capVolumes.map((volume, shell) => (encloses(shell) ? volume : 0));
  return {
    ...bare,
    positions,
    indices,
    shellOf,
    volumes,
  };
}

function joinedIndices(a: Uint32Array, b: readonly number[]): Uint32Array {
  const out = new Uint32Array(a.length + b.length);
  out.set(a);
  out.set(b, a.length);
  return out;
}
