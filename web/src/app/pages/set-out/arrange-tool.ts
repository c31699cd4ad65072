import { subtract, type Vec3 } from '@yard-brace/core';
import type { SetOutDrag } from '../../state/set-out-drag';
import type { SetOutSelection } from '../../state/set-out-selection';
import type { PlacedHit } from '../../viewport/layers/placed-layer';
import type { PointerAt, ScreenPoint, Tool } from '../../viewport/tool';
import type { Caught } from './catch-place';

export interface ArrangeOptions {
  pick: (at: ScreenPoint) => PlacedHit | null;
  /** where the pivot of what is moved would come to stand */
  catchAt: (at: ScreenPoint, free: boolean) => Caught | null;
  onScreen: (at: Vec3) => ScreenPoint;
  selection: SetOutSelection;
  drag: SetOutDrag;
}

/**
 * Choosing and moving what stands in a set-out: a click chooses, what is chosen is dragged by itself, and what is in
 * the hand is put by a click. Beside that the view is turned.
 */
export class ArrangeTool implements Tool {
  private pressed: PlacedHit | null = null;
  private moved = false;
  /** from where the pointer took it to its pivot, on the screen */
  private grip: ScreenPoint = [0, 0];

  constructor(private readonly options: ArrangeOptions) {}

  /** What is chosen, and not locked, is taken by the pointer: the view stays where it is. */
  grabs({ at, shift }: PointerAt): boolean {
    const { pick, selection, drag } = this.options;
    if (drag.inHand || shift) return false;
    const hit = pick(at);
    if (!hit || !selection.ids.has(hit.id)) return false;
    if (!selection.moving.some(({ id }) => id === hit.id)) return false;
    drag.begin(hit.id);
    const pivot = drag.moving[0]?.placement.position;
    if (!pivot) return false;
    this.pressed = hit;
    const [x, y] = this.options.onScreen(pivot);
    this.grip = [x - at[0], y - at[1]];
    return true;
  }

  move({ at, pressed, still, alt }: PointerAt): void {
    const { pick, selection, drag, catchAt } = this.options;
    if (drag.inHand) {
      const caught = catchAt(at, alt);
      if (caught) drag.hover(caught.at, caught.word);
      return;
    }
    if (!this.pressed) {
      if (!pressed) selection.point(pick(at)?.id ?? null);
      return;
    }
    if (still && !this.moved) return;
    const [from] = drag.moving;
    const [dx, dy] = this.grip;
    const caught = from && catchAt([at[0] + dx, at[1] + dy], alt);
    if (!from || !caught) return;
    this.moved = true;
    drag.move(subtract(caught.at, from.placement.position), caught.word);
  }

  up(pointer: PointerAt): void {
    const { pick, selection, drag } = this.options;
    const { moved } = this;
    this.pressed = null;
    this.moved = false;
    if (moved) {
      drag.drop();
      return;
    }
    drag.cancel();
    if (!pointer.still) return;
    if (drag.inHand) drag.put({ more: pointer.shift });
    else selection.choose(pick(pointer.at)?.id ?? null, { more: pointer.shift, alone: pointer.alt });
  }

  leave(): void {
    this.options.drag.cancel();
    this.options.selection.point(null);
    this.pressed = null;
    this.moved = false;
  }

  key({ key }: Pick<KeyboardEvent, 'key'>): boolean {
    if (key !== 'Escape' || !this.pressed) return false;
    this.leave();
    return true;
  }
}
