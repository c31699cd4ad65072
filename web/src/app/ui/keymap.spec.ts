import { TestBed } from '@angular/core/testing';
import { chordOf, isTyping, type KeyBinding, Keymap } from './keymap';

function eventOn(html: string, key: string): KeyboardEvent {
  const host = document.createElement('div');
  host.innerHTML = html;
  document.body.append(host);
  let seen!: KeyboardEvent;
  host.addEventListener('keydown', (event) => (seen = event));
  host.firstElementChild!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  host.remove();
  return seen;
}

const press = (key: string, init: KeyboardEventInit = {}, on: EventTarget = document) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...init });
  on.dispatchEvent(event);
  return event;
};

describe('typing', () => {
  it('keeps all keys of a field that is typed in', () => {
    for (const html of [
      '<input>',
      '<input type="number">',
      '<textarea></textarea>',
      '<p contenteditable></p>',
    ])
      expect(isTyping(eventOn(html, 'z')))
        .withContext(html)
        .toBeTrue();
    expect(isTyping(eventOn('<input readonly>', 'z'))).toBeFalse();
  });

  it('is not what a check box, a slider or a list is for: they keep only what moves them', () => {
    for (const html of [
      '<input type="checkbox">',
      '<span role="slider" tabindex="0"></span>',
      '<span role="combobox" tabindex="0"></span>',
      '<li role="treeitem" tabindex="0"></li>',
    ]) {
      for (const key of ['z', '5', 'd', '?'])
        expect(isTyping(eventOn(html, key)))
          .withContext(`${html} ${key}`)
          .toBeFalse();
      for (const key of ['ArrowLeft', 'Home', ' '])
        expect(isTyping(eventOn(html, key)))
          .withContext(`${html} ${key}`)
          .toBeTrue();
    }
    expect(isTyping(eventOn('<button></button>', 'Home'))).toBeFalse();
  });
});

describe('a chord', () => {
  it('is written one way, whatever the case and the machine', () => {
    const chord = (key: string, init: KeyboardEventInit = {}) =>
      chordOf(new KeyboardEvent('keydown', { key, ...init }));
    expect([
      chord('z', { ctrlKey: true }),
      chord('z', { metaKey: true }),
      chord('Z', { ctrlKey: true, shiftKey: true }),
      chord('?', { shiftKey: true }),
      chord('v'),
      chord('Home'),
      chord('v', { altKey: true }),
    ]).toEqual(['Ctrl+Z', 'Ctrl+Z', 'Ctrl+Shift+Z', '?', 'V', 'Home', '']);
  });
});

describe('Keymap', () => {
  let keymap: Keymap;
  let did: string[];
  beforeEach(() => {
    keymap = TestBed.inject(Keymap);
    did = [];
  });
  const bind = (...bindings: Partial<KeyBinding>[]) =>
    TestBed.runInInjectionContext(() =>
      keymap.bind(
        bindings.map((binding) => ({
          help: '',
          keys: [],
          act: () => void did.push(binding.keys![0]!),
          ...binding,
        })),
      ),
    );

  it('does what is bound to a key, and takes the key for itself', () => {
    bind({ keys: ['Ctrl+Z'] }, { keys: ['Ctrl+Y', 'Ctrl+Shift+Z'] }, { keys: ['V'] });
    expect(press('z', { ctrlKey: true }).defaultPrevented).toBeTrue();
    press('Z', { ctrlKey: true, shiftKey: true });
    press('v');
    expect(press('q').defaultPrevented).toBeFalse();
    expect(did).toEqual(['Ctrl+Z', 'Ctrl+Y', 'V']);
  });

  it('leaves typing fields alone, but for what is bound in them too', () => {
    const field = document.body.appendChild(document.createElement('input'));
    bind({ keys: ['V'] }, { keys: ['Ctrl+K'], inFields: true });
    press('v', {}, field);
    press('k', { ctrlKey: true }, field);
    field.remove();
    expect(did).toEqual(['Ctrl+K']);
  });

  it('rests while a dialog is open, but for what is bound there too', () => {
    const dialog = document.body.appendChild(document.createElement('div'));
    dialog.setAttribute('role', 'dialog');
    dialog.setAttribute('aria-modal', 'true');
    bind({ keys: ['V'] }, { keys: ['?'], inDialogs: true });
    press('v');
    press('?');
    dialog.remove();
    expect(did).toEqual(['?']);
    press('v');
    expect(did).toEqual(['?', 'V']);
  });

  it('tells when a held key is let go, whatever was held beside it', () => {
    let held = 0;
    bind({ keys: ['V'], act: () => void held++, release: () => void held-- });
    press('v');
    expect(held).toBe(1);
    document.dispatchEvent(new KeyboardEvent('keyup', { key: 'V', ctrlKey: true }));
    expect(held).toBe(0);
  });

  it('passes over what somebody has used already, and prefers what was bound last', () => {
    bind({ keys: ['A'] }, { keys: ['A'], act: () => void did.push('later') });
    const used = new KeyboardEvent('keydown', { key: 'a', cancelable: true });
    used.preventDefault();
    document.dispatchEvent(used);
    expect(did).toEqual([]);
    press('a');
    expect(did).toEqual(['later']);
  });

  it('lists what is bound, with what the mouse does', () => {
    bind({ keys: ['Ctrl+Z'], help: 'undo' }, { keys: ['+'], help: 'grow' }, { keys: ['X'], help: '' });
    TestBed.runInInjectionContext(() => keymap.note([{ label: 'drag', help: 'orbit' }]));
    expect(keymap.list().map(({ label, help }) => `${label}: ${help}`)).toEqual([
      'Ctrl Z: undo',
      '+: grow',
      'drag: orbit',
      jasmine.stringMatching(/^Esc: /),
    ]);
  });

  it('forgets the keys of what is gone', () => {
    bind({ keys: ['V'] });
    TestBed.resetTestingModule();
    press('v');
    expect(did).toEqual([]);
  });

  describe('Escape', () => {
    const leavable = (...levels: ('list' | 'pick' | 'drag' | 'selection' | 'proposal')[]) => {
      const there = new Set<string>(levels);
      TestBed.runInInjectionContext(() => {
        for (const level of levels) keymap.onEscape(level, () => there.delete(level));
      });
      return there;
    };

    it('leaves the innermost thing and nothing else', () => {
      const there = leavable('proposal', 'selection', 'drag', 'pick', 'list');
      for (const left of [4, 3, 2, 1, 0]) {
        press('Escape');
        expect(there.size).toBe(left);
        expect([...there]).toEqual(['proposal', 'selection', 'drag', 'pick', 'list'].slice(0, left));
      }
      expect(keymap.leave()).toBeNull();
    });

    it('belongs to a field that is typed in, and to a list that has used it', () => {
      const there = leavable('proposal');
      const field = document.body.appendChild(document.createElement('input'));
      press('Escape', {}, field);
      field.remove();
      const used = new KeyboardEvent('keydown', { key: 'Escape', cancelable: true });
      used.preventDefault();
      document.dispatchEvent(used);
      expect(there.size).toBe(1);
    });
  });
});
