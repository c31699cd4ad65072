import fc from 'fast-check';
import { type Element, numbers } from './xml-tree.js';

const holding = (text: string): Element => ({
  name: 'float_array',
  attributes: {},
  children: [],
  text,
  line: 7,
});

describe('numbers in a document', () => {
  it('are those that the language reads, to the last bit, however they are written', () => {
    const written = fc
      .tuple(
        fc.oneof(
          fc.double({ min: -1e300, max: 1e300, noNaN: true }),
          fc.double({ min: -2000, max: 2000, noNaN: true }),
          fc.integer(),
        ),
        fc.nat({ max: 16 }),
        fc.constantFrom('plain', 'fixed', 'exponent', 'small', 'plus'),
      )
      .map(([value, places, how]) => {
        if (how === 'fixed') return value.toFixed(places);
        if (how === 'exponent') return value.toExponential(places);
        if (how === 'small') return (value % 1000).toFixed(places);
        return how === 'plus' && value > 0 ? `+${value}` : `${value}`;
      });
    fc.assert(
      fc.property(fc.array(written, { maxLength: 40 }), fc.constantFrom(' ', '\n', '\t  '), (words, gap) => {
        expect([...numbers('kit.dae', holding(gap + words.join(gap)))]).toEqual(words.map(Number));
      }),
    );
  });

  it('may have decimal commas, and are refused with the line when they are none', () => {
    expect([...numbers('kit.dae', holding('1,5 -0,25 ,5 2'))]).toEqual([1.5, -0.25, 0.5, 2]);
    for (const bad of ['1.2.3', '-', '.', '1e', '0x10g', 'NaN', 'Infinity', '1,2,3', '--1', '9'.repeat(400)])
      expect(() => numbers('kit.dae', holding(`1 ${bad} 2`)))
        .withContext(bad)
        .toThrowError(/line 7.*is not a finite number/s);
  });
});
