import { savingText, savingWhy } from './saving-text';

describe('how the last change stands with the server', () => {
  it('is said in a word, and why it is not saved in a sentence', () => {
    expect(savingText({ state: 'saved', at: '2026-01-01T10:00:00.000Z' } as never)).toMatch(/^Saved /);
    expect(savingText({ state: 'saving' } as never)).toBe('Saving …');
    expect(savingText({ state: 'refused', why: 'x' } as never)).toBe('Not saved');
    expect(savingWhy({ state: 'saving' } as never)).toBe('');
    expect(savingWhy({ state: 'refused', why: 'It is too large.' } as never)).toBe(
      'The last change could not be saved: It is too large.',
    );
  });

  it('says where the work is meanwhile', () => {
    const waiting = (kept: boolean) =>
      savingWhy({ state: 'waiting', why: 'The server is away.', kept } as never);
    expect(waiting(true)).toContain('kept in this browser');
    expect(waiting(false)).toContain('only in this window: leave it open');
  });
});
