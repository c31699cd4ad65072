import { sentenceOf, Told } from './told';

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
