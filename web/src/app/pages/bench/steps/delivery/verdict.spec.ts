import { verdictOf } from './verdict';

const point = (agrees: boolean, substituted = false) => ({
  point: 'x',
  expected: 'cylinder',
  found: 'hull',
  agrees,
  ...(substituted ? { substituted } : {}),
});

describe('the verdict of a read-back', () => {
  it('says "exactly" only when every point agrees', () => {
    expect(verdictOf([point(true), point(true)], true)).toBe(
      'An importer gets exactly what was drawn: 2 points compared, all agree.',
    );
    const substituted = verdictOf([point(true), point(false, true)], true);
    expect(substituted).not.toContain('exactly');
    expect(substituted).toContain('1 point of 2 differ');
    expect(verdictOf([point(true), point(false)], false)).toBe('1 of 2 points differ.');
  });
});
