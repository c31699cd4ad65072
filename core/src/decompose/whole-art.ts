import { convexHull } from '../hull/index.js';
import type { Mesh } from '../mesh/index.js';
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

  constructor(mesh: Mesh, leaves: readonly ConvexPart[], context: DecompositionContext) {
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
    leaves.forEach((leaf, i) => this.corners.set(leaf, cornersOf(joinedPoints([leaf.points, lists[i]!]))));
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

/** Which piece holds a place, or lies nearest to it. */
class Nearest {
  private last = 0;

  constructor(
    private readonly pieces: readonly ConvexPart[],
    private readonly size: number,
  ) {}

  to(x: number, y: number, z: number): number {
    const { pieces, size } = this;
    let nearest = -1;
    let least = size * LEFT_OUT;
    // Neighbours in the list are neighbours in space: where the one before lay is asked first.
    for (let i = -1; i < pieces.length; i++) {
      const at = i < 0 ? this.last : i;
      const body = pieces[at]?.body;
      if (!body || (i >= 0 && at === this.last)) continue;
      const { planes, min, max } = body;
      let out = Math.max(min[0]! - x, x - max[0]!, min[1]! - y, y - max[1]!, min[2]! - z, z - max[2]!);
      for (let p = 0; p < planes.length && out < least; p += 4)
        out = Math.max(out, planes[p]! * x + planes[p + 1]! * y + planes[p + 2]! * z - planes[p + 3]!);
      if (out >= least) continue;
      least = out;
      nearest = at;
      if (least <= size * 1e-6) break;
    }
    if (nearest >= 0) this.last = nearest;
    return nearest;
  }
}
