import { cross, type Vec3 } from '../math/index.js';
import type { Distance } from '../hull/index.js';
import type { Mesh } from '../mesh/index.js';
import { firstHit, type SolidDistance } from '../solid/index.js';
import { covering, type Measured } from './measured-shape.js';

/** Shapes that a ray goes through one after the other; more is as good as out. */
const MAX_SHAPES = 64;
/** Where a ray leaves a shape is known to within this share of the art's size, and the next one begins there. */
const EXIT_SHARE = 1e-9;
const NEXT_SHARE = 1e-7;

/**
 * For each vertex of the art that shapes cover, how much of what is filled lies in front of its faces: the way
 * out along a face's normal until no shape or the art itself is met. A hollow that is filled is as deep as
 * that, however thin the wall behind it. From one set to the next only rays are asked anew that a shape which
 * came or went lies in the way of.
 */
export class FilledAhead {
  /** [3f]: the way out of the shapes from each corner of each face; NaN until asked */
  private readonly out: Float64Array;
  /** [3f]: the same, or as far as the art; NaN until asked */
  private readonly ahead: Float64Array;
  private set: readonly Measured[] = [];

  /** @param size diagonal of the art, metres */
  constructor(
    private readonly mesh: Pick<Mesh, 'positions' | 'indices'>,
    private readonly distance: SolidDistance,
    private readonly size: number,
  ) {
    this.out = new Float64Array(distance.solid.faces * 3).fill(NaN);
    this.ahead = new Float64Array(distance.solid.faces * 3).fill(NaN);
  }

  /** @param vertices [n]: metres outside the shapes, negative inside; what is covered is lowered in place */
  mark(vertices: Float32Array, shapes: readonly Measured[]): void {
    const { solid, surface } = this.distance;
    const { indices } = this.mesh;
    const [before, now] = [new Set(this.set), new Set(shapes)];
    const changed = [...this.set.filter((one) => !now.has(one)), ...shapes.filter((one) => !before.has(one))];
    this.set = [...shapes];
    const normal: Vec3 = [0, 0, 0];
    const from: Vec3 = [0, 0, 0];
    for (let f = 0; f < solid.faces; f++) {
      const face = solid.source[f]! * 3;
      let faces = false;
      for (let c = 0; c < 3; c++) {
        const ray = f * 3 + c;
        const v = indices[face + c]!;
        const covered = !(vertices[v]! > 0);
        const known = this.out[ray]!;
        if (!covered && (known !== known || !changed.length)) continue;
        if (!faces && !(faces = this.faceNormal(f, normal))) break;
        this.startOf(face, c, normal, from);
        if (known === known && meetsAny(changed, from, normal, known + this.size * NEXT_SHARE * 2))
          this.out[ray] = this.ahead[ray] = NaN;
        if (!covered) continue;
        if (this.out[ray] !== this.out[ray]) this.out[ray] = wayOut(from, normal, shapes, this.size);
        const out = this.out[ray]!;
        if (out <= -vertices[v]!) continue;
        if (this.ahead[ray] !== this.ahead[ray]) this.ahead[ray] = firstHit(surface, from, normal, out);
        vertices[v] = -Math.max(-vertices[v]!, this.ahead[ray]!);
      }
    }
  }

  /** A little from a corner into its face, so that the walls beside it are not met at once. */
  private startOf(face: number, corner: number, normal: Readonly<Vec3>, from: Vec3): void {
    const { positions: p, indices } = this.mesh;
    const [a, b, c] = [indices[face]! * 3, indices[face + 1]! * 3, indices[face + 2]! * 3];
    const own = indices[face + corner]! * 3;
    for (let k = 0; k < 3; k++) {
      const middle = (p[a + k]! + p[b + k]! + p[c + k]!) / 3;
      from[k] = p[own + k]! + (middle - p[own + k]!) * 1e-3 + normal[k]! * this.size * 1e-7;
    }
  }

  /** The normal of a face, in `normal`; false when it has no area. */
  private faceNormal(f: number, normal: Vec3): boolean {
    const { positions: p, indices } = this.distance.solid;
    const [a, b, c] = [indices[f * 3]! * 3, indices[f * 3 + 1]! * 3, indices[f * 3 + 2]! * 3];
    const n = cross(
      [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!],
      [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!],
    );
    const length = Math.hypot(...n);
    for (let k = 0; k < 3; k++) normal[k] = n[k]! / length;
    return length > 0;
  }
}

/** Whether the bounds of a shape come near a ray before it is `out` metres on. */
function meetsAny(
  shapes: readonly Measured[],
  from: Readonly<Vec3>,
  way: Readonly<Vec3>,
  out: number,
): boolean {
  for (const { low, high } of shapes) {
    let [enter, leave] = [0, out];
    for (let k = 0; k < 3 && enter <= leave; k++) {
      const [a, b] = [low[k]! - from[k]!, high[k]! - from[k]!];
      if (way[k] === 0) {
        if (a > 0 || b < 0) leave = -1;
        continue;
      }
      const [near, far] = way[k]! > 0 ? [a / way[k]!, b / way[k]!] : [b / way[k]!, a / way[k]!];
      if (near > enter) enter = near;
      if (far < leave) leave = far;
    }
    if (enter <= leave) return true;
  }
  return false;
}

/** Along a ray until no shape covers it: a convex shape is left once, and then the next may go on. */
function wayOut(
  from: Readonly<Vec3>,
  way: Readonly<Vec3>,
  shapes: readonly Measured[],
  size: number,
): number {
  let along = 0;
  for (let i = 0; i < MAX_SHAPES; i++) {
    const next = along + size * NEXT_SHARE;
    const distance = covering(
      shapes,
      from[0] + way[0] * next,
      from[1] + way[1] * next,
      from[2] + way[2] * next,
    );
    if (!distance) break;
    const exit = exitOf(distance, from, way, along, size);
    if (exit <= along) break;
    along = exit;
  }
  return along;
}

/** Where a ray leaves a shape that holds it at `inside` metres: false position, an end that stays twice counts half (Illinois). */
function exitOf(
  distance: Distance,
  from: Readonly<Vec3>,
  way: Readonly<Vec3>,
  inside: number,
  size: number,
): number {
  const off = (t: number) => distance(from[0] + way[0] * t, from[1] + way[1] * t, from[2] + way[2] * t);
  const enough = size * EXIT_SHARE;
  let outside = inside + 2 * size;
  let [low, high] = [off(inside), off(outside)];
  let side = 0;
  for (let i = 0; i < 64 && outside - inside > enough; i++) {
    const t = low < 0 && i < 48 ? (inside * high - outside * low) / (high - low) : (inside + outside) / 2;
    const here = off(t);
    if (here <= 0) {
      [inside, low] = [t, here];
      if (here > -enough) break;
      if (side < 0) high /= 2;
      side = -1;
    } else {
      [outside, high] = [t, here];
      if (side > 0) low /= 2;
      side = 1;
    }
  }
  return inside;
}
