/** A linear colour, 0 to 1 each, as a screen shows it. */
export function screenColour([r, g, b]: readonly number[]): string {
  const shown = (value: number) => Math.round(255 * Math.min(1, Math.max(0, value)) ** (1 / 2.2));
  return `rgb(${shown(r!)}, ${shown(g!)}, ${shown(b!)})`;
}
