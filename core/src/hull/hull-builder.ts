import { type Bounds, boundsOf, diagonalOf, type Vec3 } from '../math/index.js';
import { comesBefore, orient } from './orientation.js';

const NONE = -1;
/** Cells along each side of the cube that directions are sorted into. */
const CELLS_PER_SIDE = 8;
/** What is told from directions is safe by this share. */
const MARGIN = 1e-9;

const everyPoint = (n: number): Int32Array => Int32Array.from({ length: n }, (_, v) => v);

/**
 * A hull while it grows: triangles in flat arrays, slots of dead ones used again. Half-edge `3f + k` runs
 * from corner k of face f to the next; a face keeps a linked list of the points that only it has to mind.
 */
export class HullBuilder {
  /** [3f]: the vertex a half-edge starts at */
  corners = new Int32Array(384);
  /** [3f]: the half-edge that runs the other way */
  twins = new Int32Array(384);
  /** [f] */
  alive = new Uint8Array(128);
  /** slots in use, dead ones included */
  faces = 0;
  /** vertices of the hull so far */
  vertices = 4;
  /** [4f]: normal (twice the face's area long) and offset */
  private planes = new Float64Array(512);
  /** [f]: below this height the sign of `height` may be wrong */
  private doubts = new Float64Array(128);
  /** [f]: the farthest point above the face, and its height; the others follow in `after` */
  private heads = new Int32Array(128);
  private heights = new Float64Array(128);
  private readonly after: Int32Array;
  private readonly free: number[] = [];
  private readonly waiting: number[] = [];
  /** six times the volume enclosed so far */
  private sixfold: number;
  private readonly maxVertices: number;
  private readonly rough: boolean;
  private readonly reach: number;
  private readonly size: number;
  private readonly visible: number[] = [];
  private readonly horizon: number[] = [];
  private visibleCount = 0;
  private horizonCount = 0;
  private readonly path: number[] = [];
  private readonly fan: number[] = [];

  /**
   * @param p [3n], magnitudes between 2^-200 and about 1, or zero
   * @param start four corners, the first three counter-clockwise seen from outside
   * @param options `maxVertices`: stop there, the farthest points taken first; `first`: points to begin with; `rough`: what
   * lies in front of a face by no more than rounding is left inside, exact signs take long
   */
  constructor(
    private readonly p: Float64Array,
    start: readonly number[],
    {
      maxVertices = Infinity,
      first,
      rough = false,
    }: { maxVertices?: number; first?: Int32Array; rough?: boolean } = {},
  ) {
    this.maxVertices = maxVertices;
    this.rough = rough;
    const bounds = boundsOf(p);
    this.reach = Math.max(...bounds.min.map(Math.abs), ...bounds.max.map(Math.abs));
    this.size = diagonalOf(bounds);
    const n = p.length / 3;
    this.after = new Int32Array(n).fill(NONE);
    const [a, b, c, d] = start as [number, number, number, number];
    const base = this.addFace(a, b, c);
    const left = this.addFace(b, a, d);
    const right = this.addFace(c, b, d);
    const back = this.addFace(a, c, d);
    this.sixfold = -this.heightOver(base, d);
    this.pair(base * 3, left * 3);
    this.pair(base * 3 + 1, right * 3);
    this.pair(base * 3 + 2, back * 3);
    this.pair(left * 3 + 1, back * 3 + 2);
    this.pair(right * 3 + 1, left * 3 + 2);
    this.pair(back * 3 + 1, right * 3 + 2);
    const begin = [base, left, right, back];
    if (!first) {
      this.hand(everyPoint(n), begin);
      return;
    }
    // Most of the others turn out to be inside the hull of the first ones and never come up again. Where the
    // first few are all corners, as on a ball, more of them would only be more faces to try.
    const few = first.filter((_, i) => i % 16 === 0);
    this.hand(few, begin);
    this.grow();
    if (this.vertices < few.length * 0.8) {
      this.hand(first, this.living());
      this.grow();
    }
    this.handByDirection(bounds, this.living());
  }

  private living(): number[] {
    const faces: number[] = [];
    for (let face = 0; face < this.faces; face++) if (this.alive[face]) faces.push(face);
    return faces;
  }

  /**
   * Give every point outside the hull so far to a face that sees it. A point is outside exactly when it lies beyond the
   * face that the way to it from the middle goes through. Directions are sorted into cells of a cube; each cell knows
   * how far out, as a greatest coordinate, everything in it is still inside, and the few faces it looks at.
   */
  private handByDirection({ min, max }: Bounds, faces: readonly number[]): void {
    const { p } = this;
    const [mx, my, mz] = [0, 1, 2].map((k) => (min[k]! + max[k]!) / 2) as Vec3;
    const { reach, seen } = this.cells([mx, my, mz], faces);
    const [bx, by, bz] = this.coreBox({ min, max }, [mx, my, mz], faces);
    for (let v = 0; v < this.after.length; v++) {
      const x = p[v * 3]! - mx,
        y = p[v * 3 + 1]! - my,
        z = p[v * 3 + 2]! - mz;
      const ax = Math.abs(x),
        ay = Math.abs(y),
        az = Math.abs(z);
      if (ax < bx && ay < by && az < bz) continue;
      let side = 0;
      let far = ax;
      let s = y;
      let t = z;
      let sign = x;
      if (ay > far && ay >= az) {
        side = 2;
        far = ay;
        s = z;
        t = x;
        sign = y;
      } else if (az > far) {
        side = 4;
        far = az;
        s = x;
        t = y;
        sign = z;
      }
      if (sign < 0) side++;
      const half = CELLS_PER_SIDE / 2;
      const scale = half / far;
      const i = Math.min(CELLS_PER_SIDE - 1, (s * scale + half) | 0);
      const j = Math.min(CELLS_PER_SIDE - 1, (t * scale + half) | 0);
      const cell = (side * CELLS_PER_SIDE + i) * CELLS_PER_SIDE + j;
      if (far >= reach[cell]!) this.assign(v, seen[cell]!);
    }
    for (const face of faces) if (this.heads[face] !== NONE) this.waiting.push(face);
  }

  /** Half the sides of a box about the middle, shaped as the bounds, that is safely inside the hull so far; 0 for none. */
  private coreBox({ min, max }: Bounds, middle: Readonly<Vec3>, faces: readonly number[]): Vec3 {
    const { planes } = this;
    const half = [0, 1, 2].map((k) => (max[k]! - min[k]!) / 2) as Vec3;
    let share = 1;
    for (const face of faces) {
      const f = face * 4;
      const off = this.offFrom(middle, face);
      let steepest = 0;
      for (let k = 0; k < 3; k++) steepest += Math.abs(planes[f + k]!) * half[k]!;
      if (off < share * steepest) share = Math.max(0, off / steepest);
    }
    return half.map((side) => side * share * (1 - MARGIN)) as Vec3;
  }

  /** How far a place lies behind a face for certain, times the length of its normal. */
  private offFrom(place: Readonly<Vec3>, face: number): number {
    const { planes } = this;
    const f = face * 4;
    return (
      planes[f + 3]! -
      planes[f]! * place[0] -
      planes[f + 1]! * place[1] -
      planes[f + 2]! * place[2] -
      this.doubts[face]!
    );
  }

  /**
   * Of each cell of directions, [6 * cells * cells] (sides +x, -x, +y, -y, +z, -z of the cube, cells by the next axis and
   * the one after): how far out it is inside, and the faces that ways through it may leave by.
   */
  private cells(
    middle: Readonly<Vec3>,
    faces: readonly number[],
  ): { reach: Float64Array; seen: readonly (readonly number[])[] } {
    const { planes } = this;
    const offs = faces.map((face) => this.offFrom(middle, face));
    const reach = new Float64Array(6 * CELLS_PER_SIDE ** 2);
    // A middle that is not safely inside tells nothing.
    if (offs.some((off) => off <= 0)) return { reach, seen: Array.from(reach, () => faces) };
    /** [faces]: one over how far out a cell comes to a face at the soonest; negative where it never does */
    const soonest = new Float64Array(faces.length);
    const seen: number[][] = [];
    for (let cell = 0; cell < reach.length; cell++) {
      const side = Math.floor(cell / CELLS_PER_SIDE ** 2);
      const axis = side >> 1;
      const [i, j] = [Math.floor(cell / CELLS_PER_SIDE) % CELLS_PER_SIDE, cell % CELLS_PER_SIDE];
      const [s0, t0] = [(i * 2) / CELLS_PER_SIDE - 1, (j * 2) / CELLS_PER_SIDE - 1];
      const [s1, t1] = [s0 + 2 / CELLS_PER_SIDE, t0 + 2 / CELLS_PER_SIDE];
      // The first face on any way is no farther out than the face that comes first at its latest.
      let most = 0;
      let latest = 0;
      for (let n = 0; n < faces.length; n++) {
        const f = faces[n]! * 4;
        const along = planes[f + axis]! * (side & 1 ? -1 : 1);
        const ns = planes[f + ((axis + 1) % 3)]!;
        const nt = planes[f + ((axis + 2) % 3)]!;
        const steep = (along + Math.max(ns * s0, ns * s1) + Math.max(nt * t0, nt * t1)) / offs[n]!;
        const flat = (along + Math.min(ns * s0, ns * s1) + Math.min(nt * t0, nt * t1)) / offs[n]!;
        soonest[n] = steep;
        if (steep > most) most = steep;
        if (flat > latest) latest = flat;
      }
      reach[cell] = (1 / most) * (1 - MARGIN);
      seen.push(faces.filter((_, n) => soonest[n]! >= latest * (1 - MARGIN)));
    }
    return { reach, seen };
  }

  /** Give points to the faces that see them. */
  private hand(points: Int32Array, faces: readonly number[]): void {
    for (let i = 0; i < points.length; i++) this.assign(points[i]!, faces);
    for (const face of faces) if (this.heads[face] !== NONE) this.waiting.push(face);
  }

  /**
   * Take in points until all are inside, or until the hull has so many vertices: then the farthest first. With `enough` it
   * ends as soon as that volume is enclosed.
   */
  grow(enough = Infinity): void {
    while (this.vertices < this.maxVertices && this.sixfold < enough * 6) {
      const face = this.maxVertices === Infinity ? this.anyWaiting() : this.farthest();
      if (face === NONE) return;
      this.take(face);
      this.vertices++;
    }
  }

  /** Enclosed volume so far. */
  volume(): number {
    return this.sixfold / 6;
  }

  /** How far a point lies in front of a face, times the length of its normal: six times the volume between them. */
  private heightOver(face: number, v: number): number {
    const { planes, p } = this;
    const f = face * 4;
    return (
      planes[f]! * p[v * 3]! +
      planes[f + 1]! * p[v * 3 + 1]! +
      planes[f + 2]! * p[v * 3 + 2]! -
      planes[f + 3]!
    );
  }

  private anyWaiting(): number {
    while (this.waiting.length) {
      const face = this.waiting.pop()!;
      if (this.alive[face] && this.heads[face] !== NONE) return face;
    }
    return NONE;
  }

  private farthest(): number {
    const { heads, heights, planes, alive, p } = this;
    let best = NONE;
    let bestHeight = -1;
    for (let face = 0; face < this.faces; face++) {
      if (!alive[face] || heads[face] === NONE) continue;
      const f = face * 4;
      const height =
        heights[face]! /
        Math.sqrt(
          planes[f]! * planes[f]! + planes[f + 1]! * planes[f + 1]! + planes[f + 2]! * planes[f + 2]!,
        );
      if (
        height > bestHeight ||
        best === NONE ||
        (height === bestHeight && comesBefore(p, heads[face]!, heads[best]!))
      ) {
        best = face;
        bestHeight = height;
      }
    }
    return best;
  }

  private pair(h: number, g: number): void {
    this.twins[h] = g;
    this.twins[g] = h;
  }

  private addFace(a: number, b: number, c: number): number {
    const face = this.free.pop() ?? this.faces++;
    if (face >= this.alive.length) this.widen();
    const { p, planes } = this;
    const x = p[a * 3]!,
      y = p[a * 3 + 1]!,
      z = p[a * 3 + 2]!;
    const ux = p[b * 3]! - x,
      uy = p[b * 3 + 1]! - y,
      uz = p[b * 3 + 2]! - z;
    const vx = p[c * 3]! - x,
      vy = p[c * 3 + 1]! - y,
      vz = p[c * 3 + 2]! - z;
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx;
    const f = face * 4;
    planes[f] = nx;
    planes[f + 1] = ny;
    planes[f + 2] = nz;
    planes[f + 3] = nx * x + ny * y + nz * z;
    const u = Math.max(Math.abs(ux), Math.abs(uy), Math.abs(uz));
    const v = Math.max(Math.abs(vx), Math.abs(vy), Math.abs(vz));
    // Rounding of the edges, of the cross product and of the product with a point, each taken generously.
    this.doubts[face] = 64 * Number.EPSILON * u * v * (this.reach + this.size);
    this.corners[face * 3] = a;
    this.corners[face * 3 + 1] = b;
    this.corners[face * 3 + 2] = c;
    this.alive[face] = 1;
    this.heads[face] = NONE;
    this.heights[face] = 0;
    return face;
  }

  private widen(): void {
    const wider = <A extends Int32Array | Float64Array | Uint8Array>(old: A): A => {
      const out = new (old.constructor as new (length: number) => A)(old.length * 2);
      out.set(old);
      return out;
    };
    this.corners = wider(this.corners);
    this.twins = wider(this.twins);
    this.alive = wider(this.alive);
    this.planes = wider(this.planes);
    this.doubts = wider(this.doubts);
    this.heads = wider(this.heads);
    this.heights = wider(this.heights);
  }

  /** Whether a point lies strictly in front of a face; exact. */
  private sees(face: number, v: number): boolean {
    const { corners, p } = this;
    const h = this.heightOver(face, v);
    if (h > this.doubts[face]!) return true;
    if (h < -this.doubts[face]!) return false;
    // Another point in the place of a corner is no more in front than that: exact signs would take long to say so.
    for (let k = face * 3; k < face * 3 + 3; k++) {
      const c = corners[k]! * 3;
      if (p[c] === p[v * 3] && p[c + 1] === p[v * 3 + 1] && p[c + 2] === p[v * 3 + 2]) return false;
    }
    return orient(p, corners[face * 3]!, corners[face * 3 + 1]!, corners[face * 3 + 2]!, v) > 0;
  }

  /** Give a point to the first face that sees it; a point that no face sees is inside for good. */
  private assign(v: number, faces: readonly number[]): void {
    const { planes, p, doubts, heads, heights, after } = this;
    const x = p[v * 3]!,
      y = p[v * 3 + 1]!,
      z = p[v * 3 + 2]!;
    for (let i = 0; i < faces.length; i++) {
      const face = faces[i]!;
      const f = face * 4;
      const h = planes[f]! * x + planes[f + 1]! * y + planes[f + 2]! * z - planes[f + 3]!;
      const doubt = doubts[face]!;
      if (h < -doubt || (h <= doubt && (this.rough || !this.sees(face, v)))) continue;
      const head = heads[face]!;
      if (head === NONE || h > heights[face]! || (h === heights[face] && comesBefore(p, v, head))) {
        heights[face] = h;
        after[v] = head;
        heads[face] = v;
      } else {
        after[v] = after[head]!;
        after[head] = v;
      }
      return;
    }
  }

  /** The farthest point above a face becomes a vertex: what it sees goes, a fan to it closes the horizon. */
  private take(seed: number): void {
    const { visible, horizon, fan } = this;
    const eye = this.heads[seed]!;
    this.findHorizon(seed, eye);
    fan.length = this.horizonCount;
    for (let i = 0; i < this.horizonCount; i++) {
      const outer = horizon[i]!;
      const inner = this.twins[outer]!;
      const face = this.addFace(this.corners[inner]!, this.corners[outer]!, eye);
      this.pair(face * 3, outer);
      fan[i] = face;
    }
    for (let i = 0; i < fan.length; i++) this.pair(fan[i]! * 3 + 1, fan[(i + 1) % fan.length]! * 3 + 2);
    for (let i = 0; i < this.visibleCount; i++) {
      const face = visible[i]!;
      this.sixfold += this.heightOver(face, eye);
      for (let v = this.heads[face]!; v !== NONE;) {
        const next = this.after[v]!;
        if (v !== eye) this.assign(v, fan);
        v = next;
      }
      this.heads[face] = NONE;
    }
    for (let i = 0; i < fan.length; i++) if (this.heads[fan[i]!] !== NONE) this.waiting.push(fan[i]!);
    for (let i = 0; i < this.visibleCount; i++) this.free.push(visible[i]!);
  }

  /**
   * Faces the eye sees into `visible` (they die), and into `horizon` the half-edges of those beyond, as one
   * closed loop in order: the visible region is walked edge by edge in turn.
   */
  private findHorizon(seed: number, eye: number): void {
    // Lists are counted beside: cutting them off at every step would take longer than the walk.
    const { visible, horizon, path, alive, twins } = this;
    let seen = 0;
    let beyond = 0;
    let top = 0;
    alive[seed] = 0;
    visible[seen++] = seed;
    path[top++] = seed * 3;
    path[top++] = 3;
    while (top) {
      const left = path[top - 1]!;
      if (left === 0) {
        top -= 2;
        continue;
      }
      const h = path[top - 2]!;
      path[top - 1] = left - 1;
      path[top - 2] = h % 3 === 2 ? h - 2 : h + 1;
      const twin = twins[h]!;
      const other = (twin / 3) | 0;
      if (!alive[other]) continue;
      if (this.sees(other, eye)) {
        alive[other] = 0;
        visible[seen++] = other;
        path[top++] = twin % 3 === 2 ? twin - 2 : twin + 1;
        path[top++] = 2;
      } else horizon[beyond++] = twin;
    }
    this.visibleCount = seen;
    this.horizonCount = beyond;
  }
}
