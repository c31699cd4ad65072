import type { ChooseHow } from '../../drawing/face-selection';
import type { PointerAt, ScreenPoint, Tool } from '../tool';
import { howOf } from './select-faces-tool';

export interface AreaToolOptions {
  shape: 'box' | 'lasso';
  /** an area was marked out: a closed line on the screen */
  mark: (area: readonly ScreenPoint[], how: ChooseHow) => void;
}

/** Marks out an area of the screen by a box or a free line. Escape takes back the one that is being drawn. */
export class AreaTool implements Tool {
  readonly drags = true;
  readonly cursor = 'crosshair';
  private from: ScreenPoint | null = null;
  private line: readonly ScreenPoint[] = [];

  constructor(private readonly options: AreaToolOptions) {}

  down({ at }: PointerAt): void {
    this.from = at;
    this.line = [at];
  }

  move({ at }: PointerAt): void {
    if (!this.from) return;
    const [x, y] = this.from;
    this.line = this.options.shape === 'lasso' ? [...this.line, at] : [[x, y], [at[0], y], at, [x, at[1]]];
  }

  up(pointer: PointerAt): void {
    const { line } = this;
    this.leave();
    if (line.length > 3 && !pointer.still) this.options.mark(line, howOf(pointer));
  }

  key({ key }: KeyboardEvent): boolean {
    const drawing = this.from !== null && key === 'Escape';
    if (drawing) this.leave();
    return drawing;
  }

  leave(): void {
    this.from = null;
    this.line = [];
  }

  overlay(): readonly ScreenPoint[] {
    return this.line.length > 1 ? this.line : [];
  }
}
