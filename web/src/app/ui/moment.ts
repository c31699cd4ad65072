/** "14:02", with the day when it was another one. */
export function momentText(iso: string, now = new Date()): string {
  const at = new Date(iso);
  const clock = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  if (at.toDateString() === now.toDateString()) return clock;
  return `${at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}, ${clock}`;
}
