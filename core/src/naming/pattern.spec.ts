import fc from 'fast-check';
import {
  NAME_FIELDS,
  type NameField,
  namePattern,
  type NameValues,
  PatternError,
  patternFault,
} from './pattern.js';

const word = fc
  .string({ minLength: 1, maxLength: 12, unit: fc.constantFrom(...'abcXYZ0189 -_é') })
  .filter((s) => s.trim() !== '');
const count = fc.nat(99_999).map(String);
const values: fc.Arbitrary<NameValues> = fc.record(
  Object.fromEntries(
    NAME_FIELDS.map((field) => [field, field === 'variant' || field === 'number' ? count : word]),
  ) as Record<NameField, fc.Arbitrary<string>>,
);

/** Patterns of any fields, each set off by text. */
const pattern = fc
  .tuple(
    fc.shuffledSubarray([...NAME_FIELDS], { minLength: 1, maxLength: 6 }),
    fc.array(fc.constantFrom('_', '-', '__', '.', ' of ', '/'), { minLength: 6, maxLength: 6 }),
    fc.constantFrom('', 'SM_', 'x-'),
    fc.constantFrom('', '_end', '.v'),
    fc.integer({ min: 1, max: 4 }),
  )
  .map(([fields, between, head, tail, digits]) => {
    const braces = fields.map((field) =>
      field === 'variant' || field === 'number' ? `{${field}:${digits}}` : `{${field}}`,
    );
    return head + braces.map((brace, i) => (i ? between[i]! : '') + brace).join('') + tail;
  });

describe('name patterns', () => {
  it('parse back whatever they format', () => {
    let formatted = 0;
    fc.assert(
      fc.property(pattern, values, (text, given) => {
        const made = namePattern(text);
        let name: string;
        try {
          name = made.format(given);
        } catch (error) {
          // What could not be taken apart again is not made, and that is said.
          expect(error).toBeInstanceOf(PatternError);
          return;
        }
        formatted++;
        const back = made.parse(name)!;
        expect(back)
          .withContext(`${text}: ${name}`)
          .toEqual(Object.fromEntries(made.fields.map((field) => [field, given[field]])));
        expect(made.format(back)).toBe(name);
      }),
      { numRuns: 2000 },
    );
    expect(formatted).toBeGreaterThan(300);
  });

  it('give words the style that is asked for, and the same again from what they made', () => {
    const pascal = namePattern('SM_{subject:pascal}_{variant:2}');
    expect(pascal.format({ subject: 'quay wall, long', variant: '3' })).toBe('SM_QuayWallLong_03');
    expect(pascal.parse('SM_QuayWallLong_03')).toEqual({ subject: 'QuayWallLong', variant: '3' });
    expect(pascal.format({ subject: 'QuayWallLong', variant: '103' })).toBe('SM_QuayWallLong_103');
    expect(namePattern('{subject:snake}').format({ subject: 'Net Loft wall' })).toBe('net_loft_wall');
    expect(
      namePattern('{subject:kebab}_{part:snake}').format({ subject: 'netLoft', part: 'Cart hatch' }),
    ).toBe('net-loft_cart_hatch');
  });

  it('tell a name that they did not make', () => {
    const made = namePattern('SM_{subject}_{variant:2}');
    for (const name of ['SM_Wall', 'Wall_01', 'SM_Wall_1', 'SM_Wall_001', 'SM__01', 'sm_Wall_01', ''])
      expect(made.parse(name)).withContext(name).toBeNull();
    expect(made.parse('SM_Wall_01_02')).toEqual({ subject: 'Wall_01', variant: '2' });
  });

  it('are refused with a sentence where names could not be taken apart', () => {
    const faults: [string, RegExp][] = [
      ['', /empty/],
      ['SM_wall', /no field/],
      ['{subject}{variant}', /Nothing stands between/],
      ['{subjekt}', /no field \{subjekt\}/],
      ['{subject}_{subject}', /twice/],
      ['{subject', /not closed/],
      ['subject}', /not opened/],
      ['{variant:9}', /1 to 6 digits/],
      ['{variant:2}0_{subject}', /run together/],
      ['{subject}_0{number}', /run together/],
      ['{subject:shout}', /pascal, snake, kebab/],
      [`{subject}${'_'.repeat(10_000)}`, /at most 200 characters/],
    ];
    for (const [text, says] of faults) expect(patternFault(text)).withContext(text).toMatch(says);
    expect(patternFault('{type}_{subject:pascal}_{variant:2}')).toBeNull();
  });

  it('take a name of ten thousand characters at once', () => {
    const made = namePattern('{type}_{origin}_{subject}_{code}_{variant:2}');
    expect(made.parse('_'.repeat(10_000))).toBeNull();
    expect(made.parse(`a_b_${'c_'.repeat(5000)}d_e_01`)?.code).toBe('e');
  });
});
