import { diagonalOf } from '../math/index.js';
import type { SolidDistance } from './solid-distance.js';
import { boundsOfFaces } from './voxels.js';

/**
 * How far a place can lie outside a solid at most, told from the middle of its cell in a coarse grid: no place is
 * farther than the middle and the way there. Each middle is asked once, when first needed, so that many
 * places near each other cost one question.
 */
export class DistanceBound {
  private readonly counts: number[];
  private readonly origin: readonly number[];
  private readonly cell: number;
  /** [x * y * z]: metres from the middle of the cell, negative inside; NaN until asked */
  private readonly known: Float64Array;
  private off = 0;

  /** @param cells along the longest side */
  constructor(
    private readonly solid: SolidDistance,
    cells = 64,
  ) {
    const { min, max } = boundsOfFaces(solid.solid);
    const sides = max.map((v, k) => v - min[k]!);
    this.cell = Math.max(...sides) / cells || diagonalOf({ min, max }) || 1;
    this.origin = min;
    this.counts = sides.map((side) => Math.min(cells, Math.max(1, Math.ceil(side / this.cell))));
    this.known = new Float64Array(this.counts[0]! * this.counts[1]! * this.counts[2]!).fill(NaN);
  }

  /** Metres; 0 or less when the place is inside for certain. Places beyond the solid's bounds are taken to the nearest cell. */
  most(x: number, y: number, z: number): number {
    return this.middle(x, y, z) + this.off;
  }

  /** As `most`, the least that it can lie outside; 0 near the surface, where its cell cannot tell. */
  least(x: number, y: number, z: number): number {
    const middle = this.middle(x, y, z);
    return middle > this.cell ? middle - this.off : 0;
  }

  /** What is known of the middle of a place's cell; `off` is the way there. */
  private middle(x: number, y: number, z: number): number {
    const { counts, origin, cell, known } = this;
    const i = clamped((x - origin[0]!) / cell, counts[0]!);
    const j = clamped((y - origin[1]!) / cell, counts[1]!);
    const k = clamped((z - origin[2]!) / cell, counts[2]!);
    const cx = origin[0]! + (i + 0.5) * cell;
    const cy = origin[1]! + (j + 0.5) * cell;
    const cz = origin[2]! + (k + 0.5) * cell;
    const slot = (k * counts[1]! + j) * counts[0]! + i;
    this.off = Math.sqrt((x - cx) ** 2 + (y - cy) ** 2 + (z - cz) ** 2) * (1 + 1e-9);
    const at = known[slot]!;
    return at === at ? at : (known[slot] = this.asked(cx, cy, cz));
  }

  private asked(x: number, y: number, z: number): number {
    const off = this.solid.distance(x, y, z);
    // Nearer the surface than its cell is wide it does not matter which side the middle is on.
    return off > this.cell && this.solid.inside([x, y, z]) ? -off : off;
  }
}

const clamped = (at: number, count: number): number => Math.min(count - 1, Math.max(0, Math.floor(at)));
