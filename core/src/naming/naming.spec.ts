import fc from 'fast-check';
import { characterRangeSchema, legalName, meshNameFrom, nameFault } from './mesh-name.js';

const rules = { legalCharacters: ['A-Z', 'a-z', '0-9', '_'], longest: 64 };

describe('names', () => {
  it('are made from what people call a piece', () => {
    expect(meshNameFrom('Slip winch 2')).toBe('SlipWinch_02');
    expect(meshNameFrom('quay wall 4 m')).toBe('QuayWall_04M');
    expect(meshNameFrom('Bœuf à l’île')).not.toContain(' ');
    expect(meshNameFrom('…')).toBe('Piece');
  });

  it('any name can be made legal, and a legal name stays', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200, unit: 'binary' }), (name) => {
        const legal = legalName(name, rules);
        expect(nameFault(legal, rules)).toBeNull();
        if (!nameFault(name, rules) && !/^_|_$/.test(name)) expect(legal).toBe(name);
      }),
    );
  });

  it('that are devices to a file system are refused, and given a number', () => {
    expect(nameFault('CON', rules)).toContain('device');
    expect(legalName('con', rules)).toBe('con_01');
    expect(
      legalName('Ünïcode Tür (final) v2', { legalCharacters: ['A-Z', 'a-z', '0-9', '_'], longest: 60 }),
    ).toBe('Unicode_Tur_final_v2');
  });

  it('ranges of legal characters are checked, not put into an expression', () => {
    for (const range of ['A-Z', '_', '-', 'é', 'а-я'])
      expect(characterRangeSchema.safeParse(range).success).toBeTrue();
    for (const range of ['', 'Z-A', 'AB', 'A-', ']', 'A-Z_'].filter((r) => r !== ']'))
      expect(characterRangeSchema.safeParse(range).success).withContext(range).toBeFalse();
    expect(nameFault('a]b', { legalCharacters: ['a-z', ']'], longest: 9 })).toBeNull();
    expect(nameFault('a^b', { legalCharacters: ['^', 'a-b'], longest: 9 })).toBeNull();
  });

  it('faults are said in words', () => {
    expect(nameFault('a b/c', rules)).toBe('The name holds a space, “/”, which the target does not take.');
    expect(nameFault('', rules)).toBe('The name is empty.');
    expect(nameFault('x'.repeat(65), rules)).toContain('65 characters');
    expect(nameFault('x'.repeat(60), rules)).toBeNull();
    const withShapes = { ...rules, tokens: 7 };
    expect(nameFault('x'.repeat(60), withShapes)).toBe(
      'The name has 60 characters; the names of its shapes come to 67 with it, and the target takes 64.',
    );
    expect(nameFault(legalName('x'.repeat(60), withShapes), withShapes)).toBeNull();
  });
});
