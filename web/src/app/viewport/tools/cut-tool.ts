import type { PointerAt, ScreenPoint, Tool } from '../tool';

export interface CutToolOptions {
  /** where two points of the cut's axis, one bounds' length apart, are on the screen */
  axis: () => readonly [ScreenPoint, ScreenPoint];
  /** share of the bounds that the cut was moved by */
  move: (share: number) => void;
}

/** An axis shorter than this on the screen runs at the eye: then up and down move the cut. */
const MIN_AXIS_PIXELS = 2;
/** up and down over so many pixels go through the whole bounds then */
const PIXELS_THROUGH = 200;

/** Drags the cut along its axis. */
export class CutTool implements Tool {
  private last: ScreenPoint | null = null;

  constructor(private readonly options: CutToolOptions) {}

  down({ at }: PointerAt): void {
    this.last = at;
  }

  move({ at }: PointerAt): void {
    if (!this.last) return;
    this.options.move(shareAlong(this.options.axis(), this.last, at));
    this.last = at;
  }

  up(): void {
    this.last = null;
  }

  leave(): void {
    this.last = null;
  }
}

/** How far a way on the screen leads along an axis, in lengths of it. */
export function shareAlong(
  [[x0, y0], [x1, y1]]: readonly [ScreenPoint, ScreenPoint],
  from: ScreenPoint,
  to: ScreenPoint,
): number {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const [ax, ay] = [x1 - x0, y1 - y0];
  const squared = ax * ax + ay * ay;
  if (squared < MIN_AXIS_PIXELS ** 2) return -dy / PIXELS_THROUGH;
  return (dx * ax + dy * ay) / squared;
}
