/** What of a frame is drawn while something moves. */
export interface Detail {
  /** share of the pixels each way */
  pixels: number;
  /** lines of many pieces are drawn too */
  inked: boolean;
}

export const WHOLE: Detail = { pixels: 1, inked: true };
const DETAILS: readonly Detail[] = [WHOLE, { pixels: 0.5, inked: true }, { pixels: 0.5, inked: false }];

/** A frame that takes longer is seen to stutter, milliseconds. */
const SLOW_MS = 50;
/** One slow frame may have had another reason. */
const SLOW_FRAMES = 2;

/**
 * As much of each frame as this machine draws in time, while something moves: learnt from the frames before, and
 * forgotten when there is something else to draw. What rests is drawn whole.
 */
export class MovingDetail {
  private level = 0;
  private slow = 0;
  private triangles = 0;

  get now(): Detail {
    return DETAILS[this.level]!;
  }

  /** A frame of a movement has been drawn. */
  drew(triangles: number, milliseconds: number): void {
    if (triangles !== this.triangles) this.level = this.slow = 0;
    this.triangles = triangles;
    this.slow = milliseconds > SLOW_MS ? this.slow + 1 : 0;
    if (this.slow < SLOW_FRAMES || this.level === DETAILS.length - 1) return;
    this.level++;
    this.slow = 0;
  }
}
