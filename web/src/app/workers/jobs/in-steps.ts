/** A share that a person can see the difference of. */
const STEP = 0.01;
/** Work that is not seen to go on for longer has stopped, for who waits for it: milliseconds. */
const QUIET_MS = 80;

/** Tells how far work is in steps that a person can see, and that it goes on: every word crosses to the page. */
export function inSteps(
  tell: (share: number) => void,
  now = () => performance.now(),
): (share: number) => void {
  let [told, at] = [0, -Infinity];
  return (share) => {
    const time = now();
    if (share < told + STEP && time - at < QUIET_MS) return;
    [told, at] = [share, time];
    tell(share);
  };
}
