import type { Viewport } from './viewport';

/**
 * Two views that always look from the same place: what is turned in one turns in the other.
 *
 * @returns what unties them
 */
export function tieViews(a: Viewport, b: Viewport): () => void {
  let following = false;
  const follow = (from: Viewport, to: Viewport) => () => {
    // The other one moves by being told to; that is no reason to be told back.
    if (following) return;
    following = true;
    to.rig.lookAs(from.rig);
    to.redraw();
    following = false;
  };
  a.onMoved = follow(a, b);
  b.onMoved = follow(b, a);
  return () => (a.onMoved = b.onMoved = () => undefined);
}
