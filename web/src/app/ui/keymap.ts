import { DestroyRef, inject, Injectable, signal } from '@angular/core';

/** What Escape can leave, from the innermost outwards. */
export const ESCAPES = ['list', 'pick', 'drag', 'selection', 'proposal'] as const;
export type EscapeLevel = (typeof ESCAPES)[number];

/** A key, or several that do the same, and what it does. */
export interface KeyBinding {
  /** "Ctrl+Z", "V", "Home", "?", "+" */
  keys: readonly string[];
  /** what it does, for the list of keys; empty for one that the list tells with another */
  help: string;
  /** how the list writes the keys. Default: the keys themselves */
  label?: string;
  act(event: KeyboardEvent): void;
  /** the key was let go */
  release?(): void;
  /** also while a field is typed in */
  inFields?: boolean;
  /** also while a dialog is open */
  inDialogs?: boolean;
}

/** A line of the list of keys. */
export interface KeyHelp {
  label: string;
  help: string;
}

/**
 * Owns the keyboard: every key of the application is bound here, Escape leaves the innermost thing that can be left,
 * and the list of keys is made of what is bound.
 */
@Injectable({ providedIn: 'root' })
export class Keymap {
  private readonly bindings = signal<readonly KeyBinding[]>([]);
  private readonly notes = signal<readonly KeyHelp[]>([]);
  private readonly leaves = new Map<EscapeLevel, () => boolean>();

  constructor() {
    const listening = new AbortController();
    const { signal } = listening;
    document.addEventListener('keydown', (event) => this.down(event), { signal });
    document.addEventListener('keyup', (event) => this.up(event), { signal });
    inject(DestroyRef).onDestroy(() => listening.abort());
  }

  /** Bind keys for as long as what binds them lives. */
  bind(bindings: readonly KeyBinding[], destroyed = inject(DestroyRef)): void {
    destroyed.onDestroy(this.add(bindings));
  }

  /** Bind keys until what is answered is called. */
  add(bindings: readonly KeyBinding[]): () => void {
    this.bindings.update((all) => [...all, ...bindings]);
    return () => this.bindings.update((all) => all.filter((binding) => !bindings.includes(binding)));
  }

  /** Lines of the list that are no keys: what the mouse does. */
  note(notes: readonly KeyHelp[], destroyed = inject(DestroyRef)): void {
    this.notes.update((all) => [...all, ...notes]);
    destroyed.onDestroy(() => this.notes.update((all) => all.filter((note) => !notes.includes(note))));
  }

  /** @param leave true when there was something to leave */
  onEscape(level: EscapeLevel, leave: () => boolean, destroyed = inject(DestroyRef)): void {
    this.leaves.set(level, leave);
    destroyed.onDestroy(() => {
      if (this.leaves.get(level) === leave) this.leaves.delete(level);
    });
  }

  /** Leave the innermost thing there is; null when there is none. */
  leave(): EscapeLevel | null {
    return ESCAPES.find((level) => this.leaves.get(level)?.()) ?? null;
  }

  /** All that is bound, for the list of keys. */
  list(): KeyHelp[] {
    const bound = this.bindings()
      .filter(({ help }) => help)
      .map(({ keys, label, help }) => ({ label: label ?? keys.map(written).join(', '), help }));
    return [
      ...bound,
      ...this.notes(),
      { label: 'Esc', help: 'leave a list, a question, a drag, a selection, a proposal' },
    ];
  }

  private down(event: KeyboardEvent): void {
    if (event.defaultPrevented) return;
    if (event.key === 'Escape') {
      if (!isTyping(event) && !inDialog() && this.leave()) event.preventDefault();
      return;
    }
    const binding = this.bindingOf(event);
    if (!binding) return;
    event.preventDefault();
    binding.act(event);
  }

  private up(event: KeyboardEvent): void {
    // Ctrl may have been let go before its letter: whoever waits for the letter is told all the same.
    const key = plainKey(event);
    for (const binding of this.bindings())
      if (binding.release && binding.keys.some((each) => each.split('+').at(-1) === key)) binding.release();
  }

  private bindingOf(event: KeyboardEvent): KeyBinding | undefined {
    const [typing, dialog, chord] = [isTyping(event), inDialog(), chordOf(event)];
    // What was bound last is nearest to the person.
    return [...this.bindings()]
      .reverse()
      .find(
        ({ keys, inFields, inDialogs }) =>
          keys.includes(chord) && (!typing || inFields) && (!dialog || inDialogs),
      );
  }
}

const plainKey = ({ key }: KeyboardEvent): string => (key.length === 1 ? key.toUpperCase() : key);

/** "Ctrl+Shift+Z", "Alt+Q", "V", "?": Shift is said only beside Ctrl, as it makes another sign of a key by itself. */
export function chordOf(event: KeyboardEvent): string {
  const ctrl = event.ctrlKey || event.metaKey;
  // Alt makes other signs of letters: the key itself is meant.
  if (event.altKey) return !ctrl && /^Key[A-Z]$/.test(event.code) ? `Alt+${event.code.at(-1)}` : '';
  return `${ctrl ? 'Ctrl+' : ''}${ctrl && event.shiftKey ? 'Shift+' : ''}${plainKey(event)}`;
}

const written = (chord: string): string =>
  chord === '+' ? '+' : chord === '-' ? '−' : chord.replaceAll('+', ' ');

const inDialog = (): boolean =>
  document.querySelector('[aria-modal="true"]:is([role="dialog"], [role="alertdialog"])') !== null;

const TEXT_FIELDS = new Set(['text', 'search', 'number', 'email', 'password', 'url', 'tel']);
/** what a slider, a list, a radio or a check box does something with */
const MOVING_KEYS = new Set([
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
const MOVED_ROLES = new Set([
  'slider',
  'radio',
  'listbox',
  'option',
  'combobox',
  'tree',
  'treeitem',
  'separator',
]);

/** Keys belong to a field that is typed in; a slider, a list or a box keeps only those that move it. */
export function isTyping({ target, key }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  if (target instanceof HTMLInputElement && TEXT_FIELDS.has(target.type) && !target.readOnly) return true;
  return (
    MOVING_KEYS.has(key) &&
    (target instanceof HTMLInputElement || MOVED_ROLES.has(target.getAttribute('role') ?? ''))
  );
}
