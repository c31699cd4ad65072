import { boundsOf, diagonalOf } from '../math/index.js';
import { firstTetrahedron } from './first-tetrahedron.js';
import { comesBefore, orient, triangleHeight } from './orientation.js';
import { planeOf } from './plane.js';
import { corner, type Face, polyhedron } from './polyhedron.js';

/** A closed convex polyhedron. */
export interface ConvexHull {
  /** [3n], each a corner of the hull: no vertex lies inside a face or an edge */
  points: Float64Array;
  /** polygons as vertex numbers, counter-clockwise seen from outside; exactly coplanar triangles are one face */
  faces: number[][];
}

/** What the points turned out to span, exactly. Only a solid has a hull. */
export type HullResult = { span: 'solid'; hull: ConvexHull } | { span: 'empty' | 'point' | 'line' | 'plane' };

export interface HullOptions {
  /** stop after so many corners: an inner approximation, the farthest points first. Default: no limit */
  mostVertices?: number;
}

/**
 * The convex hull of packed points (shape [3n], finite, any order, duplicates welcome).
 *
 * Quickhull (Barber, Dobkin and Huhdanpaa 1996) with a global farthest-point order: distances choose
 * which point comes next, exact orientation predicates (Shewchuk 1997) decide what it sees. So the
 * polyhedron is exactly convex and closed at every step, and its corners do not depend on the order
 * of the input.
 */
export function convexHull(points: ArrayLike<number>, options: HullOptions = {}): HullResult {
  const conditioned = withinRange(points);
  const start = firstTetrahedron(conditioned);
  if (start.span !== 'solid') return { span: start.span };
  const builder = new HullBuilder(conditioned, start.corners);
  builder.grow(options.mostVertices ?? Infinity);
  const { corners, faces } = builder.polyhedron();
  return { span: 'solid', hull: { points: gather(points, corners), faces } };
}

/**
 * The points scaled by a power of two to about 1, with what is 2^200 times smaller than the largest set to
 * zero: the exact predicates are exact only while no product underflows or overflows.
 */
function withinRange(points: ArrayLike<number>): Float64Array {
  let reach = 0;
  for (let i = 0; i < points.length; i++) reach = Math.max(reach, Math.abs(points[i]!));
  const exponent = reach > 0 ? Math.floor(Math.log2(reach)) : 0;
  const half = 2 ** -Math.trunc(exponent / 2);
  const rest = 2 ** -(exponent - Math.trunc(exponent / 2));
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i++) {
    const value = points[i]! * half * rest;
    out[i] = Math.abs(value) < 2 ** -200 ? 0 : value;
  }
  return out;
}

/** How far the farthest of `points` lies outside the hull's faces; 0 when all are inside. */
export function farthestOutside(hull: ConvexHull, points: ArrayLike<number>): number {
  let farthest = 0;
  for (const face of hull.faces) {
    const [nx, ny, nz, d] = planeOf(hull.points, face);
    for (let i = 0; i < points.length; i += 3) {
      farthest = Math.max(farthest, nx * points[i]! + ny * points[i + 1]! + nz * points[i + 2]! - d);
    }
  }
  return farthest;
}

const gather = (points: ArrayLike<number>, vertices: readonly number[]): Float64Array =>
  Float64Array.from(vertices.flatMap((v) => [points[v * 3]!, points[v * 3 + 1]!, points[v * 3 + 2]!]));

/** The hull while it grows: triangles, each with the points it still sees. */
class HullBuilder {
  private faces: Face[] = [];
  private readonly waiting: Face[] = [];
  private visit = 0;
  /** largest coordinate, and the size of the point set */
  private readonly reach: number;
  private readonly size: number;

  constructor(
    private readonly p: ArrayLike<number>,
    corners: readonly number[],
  ) {
    const bounds = boundsOf(p);
    this.reach = Math.max(...bounds.min.map(Math.abs), ...bounds.max.map(Math.abs));
    this.size = diagonalOf(bounds);
    const [a, b, c, d] = corners as [number, number, number, number];
    const base = this.face(a, b, c);
    const side = [this.face(b, a, d), this.face(c, b, d), this.face(a, c, d)] as const;
    base.next = [side[0], side[1], side[2]];
    side[0].next = [base, side[2], side[1]];
    side[1].next = [base, side[0], side[2]];
    side[2].next = [base, side[1], side[0]];
    const outside: number[] = [];
    for (let v = 0; v < p.length / 3; v++) outside.push(v);
    this.assign(outside, [base, ...side]);
  }

  /** The finished hull. */
  polyhedron(): { corners: number[]; faces: number[][] } {
    return polyhedron(
      this.p,
      this.faces.filter((face) => face.alive),
    );
  }

  grow(mostVertices: number): void {
    let vertices = 4;
    while (vertices < mostVertices) {
      const face = this.pick(mostVertices !== Infinity);
      if (!face) return;
      this.addPoint(face);
      vertices++;
    }
  }

  /** With a budget the farthest point of all comes first; without one any order gives the same hull. */
  private pick(farthestFirst: boolean): Face | undefined {
    if (!farthestFirst) {
      for (let face = this.waiting.pop(); face; face = this.waiting.pop()) {
        if (face.alive && face.above.length) return face;
      }
      return undefined;
    }
    let best: Face | undefined;
    for (const face of this.faces) {
      if (!face.alive || !face.above.length) continue;
      const further = !best || face.farthest > best.farthest;
      const tie =
        best && face.farthest === best.farthest && comesBefore(this.p, face.above[0]!, best.above[0]!);
      if (further || tie) best = face;
    }
    return best;
  }

  private face(a: number, b: number, c: number): Face {
    const [nx, ny, nz, d] = planeOf(this.p, [a, b, c]);
    const { p } = this;
    const height = Math.min(
      triangleHeight(p, a, b, c),
      triangleHeight(p, b, c, a),
      triangleHeight(p, c, a, b),
    );
    // The normal of a sliver is itself uncertain, and its error grows with the distance it is carried.
    const doubt = 64 * Number.EPSILON * this.reach * (1 + this.size / height);
    const face: Face = {
      a,
      b,
      c,
      nx,
      ny,
      nz,
      d,
      doubt: Number.isNaN(doubt) ? Infinity : doubt,
      next: [] as unknown as Face['next'],
      above: [],
      farthest: 0,
      alive: true,
      mark: 0,
    };
    this.faces.push(face);
    return face;
  }

  private height(face: Face, v: number): number {
    const { p } = this;
    return face.nx * p[v * 3]! + face.ny * p[v * 3 + 1]! + face.nz * p[v * 3 + 2]! - face.d;
  }

  private sees(face: Face, v: number): boolean {
    const h = this.height(face, v);
    if (Math.abs(h) > face.doubt) return h > 0;
    return orient(this.p, face.a, face.b, face.c, v) > 0;
  }

  /** Give each point to the first face that sees it; points that no face sees are inside for good. */
  private assign(points: readonly number[], faces: readonly Face[]): void {
    for (const v of points) {
      for (const face of faces) {
        if (v === face.a || v === face.b || v === face.c) continue;
        if (!this.sees(face, v)) continue;
        const h = this.height(face, v);
        const first = face.above[0];
        if (
          first === undefined ||
          h > face.farthest ||
          (h === face.farthest && comesBefore(this.p, v, first))
        ) {
          face.farthest = h;
          face.above.push(face.above[0] ?? v);
          face.above[0] = v;
          if (first === undefined) face.above.length = 1;
        } else face.above.push(v);
        break;
      }
    }
    for (const face of faces) if (face.above.length) this.waiting.push(face);
  }

  private addPoint(seed: Face): void {
    const eye = seed.above[0]!;
    const visible: Face[] = [];
    const horizon: { face: Face; edge: number; from: number; to: number }[] = [];
    this.visit++;
    // Walks the visible region edge by edge in turn, so the horizon comes out as one closed loop in order.
    const stack: { face: Face; edge: number; left: number }[] = [];
    const enter = (face: Face, edge: number, left: number) => {
      face.mark = this.visit;
      face.alive = false;
      visible.push(face);
      stack.push({ face, edge, left });
    };
    enter(seed, 0, 3);
    while (stack.length) {
      const top = stack[stack.length - 1]!;
      if (top.left === 0) {
        stack.pop();
        continue;
      }
      const { face, edge } = top;
      top.left--;
      top.edge = (edge + 1) % 3;
      const other = face.next[edge]!;
      if (other.mark === this.visit && !other.alive) continue;
      const back = other.next.indexOf(face);
      if (this.sees(other, eye)) enter(other, (back + 1) % 3, 2);
      else horizon.push({ face: other, edge: back, from: corner(face, edge), to: corner(face, edge + 1) });
    }
    const fan = horizon.map(({ face: outer, edge, from, to }) => {
      const face = this.face(from, to, eye);
      face.next[0] = outer;
      outer.next[edge] = face;
      return face;
    });
    fan.forEach((face, i) => {
      face.next[1] = fan[(i + 1) % fan.length]!;
      face.next[2] = fan[(i + fan.length - 1) % fan.length]!;
    });
    const orphans: number[] = [];
    for (const face of visible) {
      for (const v of face.above) if (v !== eye) orphans.push(v);
      face.above = [];
    }
    this.assign(orphans, fan);
    if (this.faces.length > 64 && this.faces.length > 4 * visible.length) this.sweep();
  }

  private dead = 0;
  /** Forget dead faces now and then; `pick` walks this list. */
  private sweep(): void {
    if (++this.dead < this.faces.length / 4) return;
    this.dead = 0;
    this.faces = this.faces.filter((face) => face.alive);
  }
}
