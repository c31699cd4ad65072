import { convexHull } from '../hull/index.js';
import { boundsOf } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import type { Mirror } from './mirror.js';
import { leavesOf, joinedPoints, type ConvexPart, type DecompositionContext } from './convex-part.js';

/** What lies farther than this share of the size from every piece was left out on purpose. */
const LEFT_OUT = 0.02;

/** Corners kept of each piece's hull: of a smooth one the rest would be cut back to few anyway. */
const MAX_CORNERS = 160;

/**
 * Every vertex of the art given to the piece it lies in or nearest to. Searching works on fewer triangles and
 * corners than the art has; shapes are laid round all of it.
 */
export class WholeArt {
  /** corners of the hull of all the art a cut piece stands for. Shape: [3n] */
  private readonly corners = new Map<ConvexPart, Float64Array>();

  constructor(
    mesh: Mesh,
    leaves: readonly ConvexPart[],
    mirror: Mirror | null,
    context: DecompositionContext,
  ) {
    const lists = leaves.map((): number[] => []);
    const { positions } = mesh;
    const used = new Uint8Array(positions.length / 3);
    for (const v of mesh.indices) used[v] = 1;
    const near = new Nearest(leaves, context.size);
    for (let v = 0; v < used.length; v++) {
      if (!used[v]) continue;
      if (v % 4096 === 0) context.progress(-1);
      const [x, y, z] = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
      const i = near.to(x, y, z);
      if (i >= 0) lists[i]!.push(x, y, z);
    }
    // An image has what its original has, on the other side.
    const own = new Map(leaves.map((leaf, i) => [leaf, lists[i]!]));
    for (const leaf of leaves) {
      if (mirror?.originalOf(leaf)) continue;
      const image = mirror?.knownImageOf(leaf);
      const others = image ? mirror!.mirrored(own.get(image) ?? []) : [];
      const corners = cornersOf(joinedPoints([leaf.points, own.get(leaf)!, others]));
      this.corners.set(leaf, corners);
      if (image && image !== leaf) this.corners.set(image, mirror!.mirrored(corners));
    }
  }

  /** Points whose hull holds all art of a piece. Shape: [3n] */
  pointsOf(piece: ConvexPart): Float64Array {
    return joinedPoints(leavesOf(piece).map((leaf) => this.corners.get(leaf) ?? leaf.points));
  }
}

function cornersOf(points: Float64Array): Float64Array {
  const result = convexHull(points, { maxVertices: MAX_CORNERS });
  return result.span === 'solid' ? result.hull.points : points;
}

/** Cells along each side of the grid that tells which pieces are near a place. */
const CELLS = 24;

/** Which piece holds a place, or lies nearest to it. */
class Nearest {
  private last = 0;
  private readonly least: number;
  private readonly box;
  /** [x + y * cells + z * cells * cells]: the pieces near a cell, once that was asked for */
  private readonly near = new Array<number[] | undefined>(CELLS ** 3);

  constructor(
    private readonly pieces: readonly ConvexPart[],
    private readonly size: number,
  ) {
    this.least = size * LEFT_OUT;
    const bodies = pieces.flatMap(({ body }) => body ?? []);
    this.box = boundsOf(bodies.flatMap(({ min, max }) => [...min, ...max]));
  }

  /** The pieces that come near a cell, in their order. */
  private nearCell(x: number, y: number, z: number): number[] {
    const slot = (z * CELLS + y) * CELLS + x;
    return (this.near[slot] ??= [...this.pieces.keys()].filter((i) => {
      const { body } = this.pieces[i]!;
      return (
        body &&
        [x, y, z].every(
          (at, k) =>
            at >= this.cell(body.min[k]! - this.least, k) && at <= this.cell(body.max[k]! + this.least, k),
        )
      );
    }));
  }

  to(x: number, y: number, z: number): number {
    const near = this.nearCell(this.cell(x, 0), this.cell(y, 1), this.cell(z, 2));
    let nearest = -1;
    let { least } = this;
    // Neighbours in the list are neighbours in space: where the one before lay is asked first.
    for (let i = -1; i < near.length; i++) {
      const at = i < 0 ? this.last : near[i]!;
      const body = this.pieces[at]?.body;
      if (!body || (i >= 0 && at === this.last)) continue;
      const { planes, min, max } = body;
      let out = Math.max(min[0]! - x, x - max[0]!, min[1]! - y, y - max[1]!, min[2]! - z, z - max[2]!);
      for (let p = 0; p < planes.length && out < least; p += 4)
        out = Math.max(out, planes[p]! * x + planes[p + 1]! * y + planes[p + 2]! * z - planes[p + 3]!);
      if (out >= least) continue;
      least = out;
      nearest = at;
      if (least <= this.size * 1e-6) break;
    }
    if (nearest >= 0) this.last = nearest;
    return nearest;
  }

  /** The cell a coordinate falls in; what lies beyond the pieces falls in the outermost. */
  private cell(value: number, k: number): number {
    const { min, max } = this.box;
    const at = Math.floor(((value - min[k]!) / (max[k]! - min[k]! || 1)) * CELLS);
    return at < 0 ? 0 : at < CELLS ? at : CELLS - 1;
  }
}
