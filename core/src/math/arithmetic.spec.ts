import fc from 'fast-check';
import { arithmetic } from './arithmetic.js';

describe('a sum in a field', () => {
  it('is worked out as it is written', () => {
    for (const [text, value] of [
      ['0.4+0.02', 0.42],
      ['1.2 - 0.05', 1.15],
      ['2*(3+4)/7', 2],
      ['-.5', -0.5],
      ['1 - -1', 2],
      ['0,25', 0.25],
      ['8/2/2', 2],
      ['2-3-4', -5],
      [' 7 ', 7],
    ] as const)
      expect(arithmetic(text)).withContext(text).toBeCloseTo(value, 12);
  });

  it('takes units, and answers in the field’s own', () => {
    expect(arithmetic('12 mm')).toBeCloseTo(0.012, 12);
    expect(arithmetic('1m + 20 cm')).toBeCloseTo(1.2, 12);
    expect(arithmetic('3 in', { unitMetres: 0.001 })).toBeCloseTo(76.2, 9);
    expect(arithmetic('0.5 m', { unitMetres: 0.001 })).toBeCloseTo(500, 9);
    expect(arithmetic('40', { unitMetres: 0.001 })).toBe(40);
    expect(arithmetic('1 FT')).toBeCloseTo(0.3048, 12);
  });

  it('is null for what is none', () => {
    for (const text of [
      '',
      '  ',
      'abc',
      '1+',
      '(1',
      '1)',
      '1 2',
      '1/0',
      '0/0',
      '1e9',
      '5 kg',
      '--',
      '1..2',
      '9'.repeat(400),
      '('.repeat(500),
    ])
      expect(arithmetic(text)).withContext(text.slice(0, 20)).toBeNull();
  });

  it('never throws, and agrees with the machine on plain sums', () =>
    fc.assert(
      fc.property(
        fc.string({ maxLength: 40 }),
        fc.double({ min: 0, max: 1e6, noNaN: true }),
        fc.nat(1e6),
        (text, a, b) => {
          const value = arithmetic(text);
          const [x, y] = [Number(a.toFixed(4)), b];
          return (
            (value === null || Number.isFinite(value)) &&
            Math.abs(arithmetic(`${x.toFixed(4)} - ${y} * 2`)! - (x - y * 2)) < 1e-6
          );
        },
      ),
    ));
});
