import type { PointerAt, ScreenPoint, Tool } from '../tool';

export interface DragOptions<Where> {
  /** what the pointer is at, as far as the drag is concerned; null where it says nothing */
  where: (at: ScreenPoint, begins: boolean) => Where | null;
  /** Alt is held: nothing is caught */
  move: (from: Where, to: Where, free: boolean) => void;
  drop: () => void;
  cancel: () => void;
  /** the left button is the tool's while it is in use, and not only for one handle */
  drags?: boolean;
}

/** Drags something by a handle: what moves is told with every move, and once that it is let go, or never was. */
export class DragTool<Where> implements Tool {
  private from: Where | null = null;
  private moved = false;

  readonly drags: boolean;

  constructor(private readonly options: DragOptions<Where>) {
    this.drags = options.drags ?? false;
  }

  down({ at }: PointerAt): void {
    this.from = this.options.where(at, true);
  }

  move({ at, still, alt }: PointerAt): void {
    if (this.from === null || (still && !this.moved)) return;
    const to = this.options.where(at, false);
    if (to === null) return;
    this.moved = true;
    this.options.move(this.from, to, alt);
  }

  up(): void {
    if (this.moved) this.options.drop();
    this.end();
  }

  leave(): void {
    if (this.moved) this.options.cancel();
    this.end();
  }

  key({ key }: Pick<KeyboardEvent, 'key'>): boolean {
    if (key !== 'Escape' || this.from === null) return false;
    this.leave();
    return true;
  }

  private end(): void {
    this.from = null;
    this.moved = false;
  }
}
