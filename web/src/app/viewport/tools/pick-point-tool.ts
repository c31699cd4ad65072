import type { Snap } from '../../drawing/snap';
import type { PointerAt, ScreenPoint, Tool } from '../tool';

/** A point that the pointer has caught, and the number of the part it is on. */
export type CaughtPoint = Snap & {
  part: number;
  /** number of the face in the drawn art */
  face?: number;
  /** name of the piece beside that it is on */
  beside?: string;
};

export interface PickPointOptions {
  snap: (at: ScreenPoint) => CaughtPoint | null;
  hover: (point: CaughtPoint | null) => void;
  pick: (point: CaughtPoint) => void;
}

/** Asks for one point of the piece. */
export class PickPointTool implements Tool {
  readonly cursor = 'crosshair';

  constructor(private readonly options: PickPointOptions) {}

  move({ at, pressed }: PointerAt): void {
    if (!pressed) this.options.hover(this.options.snap(at));
  }

  up({ at, still }: PointerAt): void {
    const point = still ? this.options.snap(at) : null;
    if (point) this.options.pick(point);
  }

  leave(): void {
    this.options.hover(null);
  }
}
