/** Pixels that a pointer moves while its button is held still. */
const STILL_PIXELS = 6;
const BUTTONS = 'button, [role=button], [role=tab]';

/**
 * A press on a button is that button's, though the page moves it from under the pointer before it is let go: answers
 * come all the time, and what they say opens and closes up above it. A pointer that moves away lets go of it, as ever.
 */
export function holdPresses(page: Document): void {
  let held: { button: Element; x: number; y: number } | null = null;
  const early = { capture: true };
  page.addEventListener(
    'pointerdown',
    (event) => {
      const { target, clientX: x, clientY: y } = event;
      const button = target instanceof Element ? target.closest(BUTTONS) : null;
      held = button && event.isTrusted && event.button === 0 ? { button, x, y } : null;
      held?.button.setPointerCapture(event.pointerId);
    },
    early,
  );
  page.addEventListener(
    'pointermove',
    ({ clientX, clientY, pointerId }) => {
      if (!held || Math.hypot(clientX - held.x, clientY - held.y) <= STILL_PIXELS) return;
      // What has taken the pointer since, as a handle that is dragged, keeps it.
      if (held.button.hasPointerCapture(pointerId)) held.button.releasePointerCapture(pointerId);
      held = null;
    },
    early,
  );
}
