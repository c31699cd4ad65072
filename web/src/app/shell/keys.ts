const TEXT_FIELDS = new Set(['text', 'search', 'number', 'email', 'password', 'url', 'tel']);
/** what a slider, a select, a radio or a check box does something with */
const MOVES = new Set([
  'ArrowLeft',
  'ArrowRight',
  'ArrowUp',
  'ArrowDown',
  'Home',
  'End',
  'PageUp',
  'PageDown',
  'Enter',
  ' ',
]);

/** Keys belong to the field that is typed in; a slider, a select or a box only keeps those that move it. */
export function isTyping(event: KeyboardEvent): boolean {
  const { target } = event;
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  if (target instanceof HTMLInputElement && TEXT_FIELDS.has(target.type)) return true;
  return (
    MOVES.has(event.key) &&
    (target instanceof HTMLInputElement ||
      target instanceof HTMLSelectElement ||
      ['slider', 'radio', 'listbox', 'option'].includes(target.getAttribute('role') ?? ''))
  );
}
