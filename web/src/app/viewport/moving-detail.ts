/** What of a frame is drawn while something moves. */
export interface Detail {
  /** share of the pixels each way */
  pixels: number;
  /** lines of many pieces are drawn too */
  inked: boolean;
  /** what is large is drawn roughly */
  rough: boolean;
}

export const WHOLE: Detail = { pixels: 1, inked: true, rough: false };
const DETAILS: readonly Detail[] = [
  WHOLE,
  { pixels: 1 / 2, inked: true, rough: false },
  { pixels: 1 / 2, inked: false, rough: false },
  { pixels: 1 / 2, inked: false, rough: true },
  { pixels: 1 / 3, inked: false, rough: true },
];

/** A frame that takes longer is seen to stutter, milliseconds. */
const SLOW_MS = 33;
/** A whole frame that takes longer than each of these goes down by a step more, milliseconds. */
const RESTED_MS = [SLOW_MS, 2 * SLOW_MS, 5 * SLOW_MS];
/** One slow frame may have had another reason. */
const SLOW_FRAMES = 2;
/** Frames that come so soon, and so many of them, have time to spare. */
const QUICK_MS = 20;
const QUICK_FRAMES = 20;

/**
 * As much of each frame as this machine draws in time, while something moves: learnt from the frames before, and
 * forgotten when there is something else to draw. What rests is drawn whole.
 */
export class MovingDetail {
  private level = 0;
  /** with more than at this level frames of a movement came late */
  private least = 0;
  private slow = 0;
  private quick = 0;
  private triangles = 0;
  /** how long the whole frame before took, milliseconds */
  private before = 0;

  get now(): Detail {
    return DETAILS[this.level]!;
  }

  /**
   * A whole frame has been drawn: what moves next need not find out anew that it takes long. The first of something
   * may have taken long for what was made ready in it: two must have.
   */
  rested(triangles: number, milliseconds: number): void {
    if (triangles !== this.triangles) {
      this.go((this.least = 0));
      this.before = 0;
    }
    this.triangles = triangles;
    const sure = Math.min(milliseconds, this.before);
    this.before = milliseconds;
    const steps = RESTED_MS.filter((limit) => sure > limit).length;
    this.level = Math.max(this.level, steps);
  }

  /** A frame of a movement has been drawn. */
  drew(milliseconds: number): void {
    this.slow = milliseconds > SLOW_MS ? this.slow + 1 : 0;
    this.quick = milliseconds < QUICK_MS ? this.quick + 1 : 0;
    if (this.slow === SLOW_FRAMES && this.level < DETAILS.length - 1) this.go((this.least = this.level + 1));
    // What else the machine did may be over.
    else if (this.quick === QUICK_FRAMES && this.level > this.least) this.go(this.level - 1);
  }

  private go(level: number): void {
    this.level = level;
    this.slow = this.quick = 0;
  }
}
