import { TestBed } from '@angular/core/testing';
import { Escape } from './escape';
import { isTyping } from './keys';
import { sentenceOf, Told } from './told';

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

describe('keys', () => {
  it('belong to a field that is typed in', () => {
    for (const html of [
      '<input>',
      '<input type="number">',
      '<textarea></textarea>',
      '<p contenteditable></p>',
    ])
      expect(isTyping(eventOn(html, 'z')))
        .withContext(html)
        .toBeTrue();
  });

  it('live on a check box, a slider and a select, which keep only what moves them', () => {
    for (const html of [
      '<input type="checkbox">',
      '<input type="range">',
      '<select></select>',
      '<span role="slider"></span>',
    ]) {
      for (const key of ['z', '5', 'd', '?', 'Escape'])
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

describe('Escape', () => {
  it('leaves the innermost thing and nothing else', () => {
    const escape = TestBed.inject(Escape);
    const there = new Set(['proposal', 'key list']);
    const way = (name: string) => () => there.delete(name);
    TestBed.runInInjectionContext(() => {
      escape.register('proposal', way('proposal'));
      escape.register('key list', way('key list'));
      escape.register('selection', () => false);
    });
    const press = () => document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    press();
    expect([...there]).toEqual(['proposal']);
    press();
    expect([...there]).toEqual([]);
    expect(escape.leave()).toBeNull();
  });
});

describe('sentenceOf', () => {
  it('never hands on a text of the language or a library', () => {
    let thrown: unknown;
    try {
      (undefined as unknown as { positions: number }).positions++;
    } catch (error) {
      thrown = error;
    }
    for (const error of [thrown, 'text', null, new Error('Invalid input: expected number, received string')])
      expect(sentenceOf(error)).toMatch(/^Something went wrong in Yard Brace/);
    expect(sentenceOf(new RangeError('Array buffer allocation failed'))).toMatch(/no memory left/);
    expect(sentenceOf(new Told('The disk is full.'))).toBe('The disk is full.');
    // What comes out of a worker has lost its class and kept its name.
    expect(sentenceOf(Object.assign(new Error('It is flat.'), { name: 'DecomposeError' }))).toBe(
      'It is flat.',
    );
  });
});
