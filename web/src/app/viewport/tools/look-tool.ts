import type { PointerAt, ScreenPoint, Tool } from '../tool';

export interface LookToolOptions<Hit> {
  pick: (at: ScreenPoint) => Hit | null;
  hover: (hit: Hit | null) => void;
  /** what a click does; absent for a tool that has its own clicks */
  click?: (hit: Hit | null, pointer: PointerAt) => void;
}

/** Turning the view, reading what is under the pointer, and choosing it by a click. */
export class LookTool<Hit> implements Tool {
  constructor(private readonly options: LookToolOptions<Hit>) {}

  move({ at, pressed }: PointerAt): void {
    if (!pressed) this.options.hover(this.options.pick(at));
  }

  up(pointer: PointerAt): void {
    if (pointer.still) this.options.click?.(this.options.pick(pointer.at), pointer);
  }

  leave(): void {
    this.options.hover(null);
  }
}
