import fc from 'fast-check';
import {
  areaText,
  bytesText,
  coordinatesText,
  countText,
  counted,
  lengthText,
  measuredText,
  shownField,
  placeText,
  sizeText,
  volumeText,
} from './figures.js';

describe('figures', () => {
  it('read as people write them', () => {
    expect(sizeText([0.82, 0.644, 4])).toBe('0.82 × 0.64 × 4.00 m');
    expect(sizeText([0.0399, 0.0261, 0.0114])).toBe('39.9 × 26.1 × 11.4 mm');
    expect(sizeText([0.0342, 0.00716, 0.017])).toBe('34.2 × 7.2 × 17.0 mm');
    expect(sizeText([0.00342, 0.000716, 0.0017])).toBe('3.42 × 0.72 × 1.70 mm');
    expect([sizeText([1e-6, 2e-6, 0]), sizeText([0, 0, 0])]).toEqual([
      '0.00100 × 0.00200 × 0.00000 mm',
      '0.0 × 0.0 × 0.0 mm',
    ]);
    expect(coordinatesText([-0.57735, 0.8165, -0.0004])).toBe('-0.577, 0.817, 0.000');
    expect(placeText([-1e-9, 1.23456, 2])).toBe('0.000, 1.235, 2.000 m');
    expect([0.0000004, 0.00025, 0.0154, 0.7, 0.99999, 4.52, 1204].map(lengthText)).toEqual([
      '0.00 mm',
      '0.25 mm',
      '15.4 mm',
      '700.0 mm',
      '1.00 m',
      '4.52 m',
      '1,204.00 m',
    ]);
    expect([0.0154, 2.40312].map(measuredText)).toEqual(['15.4 mm', '2.4031 m']);
    expect(volumeText(7e-18)).toBe('0 m³');
    expect([0, 0.00005, 0.2512, 123.4, 12345].map(volumeText)).toEqual([
      '0 m³',
      '50.0 cm³',
      '0.251 m³',
      '123 m³',
      '12,345 m³',
    ]);
    expect([0.005, 0.25, 1500].map(areaText)).toEqual(['50.0 cm²', '0.250 m²', '1,500 m²']);
    expect([countText(1234567), counted(1, 'shape'), counted(2, 'vertex', 'vertices')]).toEqual([
      '1,234,567',
      '1 shape',
      '2 vertices',
    ]);
    expect([12, 77100, 5e6].map(bytesText)).toEqual(['12 B', '77.1 kB', '5.0 MB']);
  });

  it('a measured length is right to a tenth of a millimetre, whatever it is', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5000, noNaN: true }), (metres) => {
        const text = measuredText(metres);
        const value = Number(text.replaceAll(',', '').split(' ')[0]) / (text.endsWith('mm') ? 1000 : 1);
        expect(Math.abs(value - metres)).toBeLessThanOrEqual(0.5001e-4);
      }),
    );
  });

  it('a field of lengths shows as much in every unit as in its own', () => {
    expect(shownField('m', 4, 'm')).toEqual({ unit: 'm', factor: 1, digits: 4 });
    expect(shownField('°', 1, 'in')).toEqual({ unit: '°', factor: 1, digits: 1 });
    expect(shownField('m', 4, 'cm')).toEqual({ unit: 'cm', factor: 100, digits: 2 });
    fc.assert(
      fc.property(
        fc.constantFrom('m' as const, 'mm' as const),
        fc.integer({ min: 0, max: 6 }),
        fc.constantFrom('cm' as const, 'in' as const),
        fc.double({ min: -100, max: 100, noNaN: true }),
        (unit, digits, shown, value) => {
          const { factor, digits: decimals } = shownField(unit, digits, shown);
          const typed = Number((value * factor).toFixed(decimals)) / factor;
          expect(Math.abs(typed - value)).toBeLessThanOrEqual(0.5001 * 10 ** -digits + 1e-9);
        },
      ),
    );
  });
});

describe('lengths as people read them', () => {
  it('have no sign where they are shown as nothing', () => {
    expect([lengthText(-1e-9), lengthText(-4e-6), lengthText(-6e-6)]).toEqual([
      '0.00 mm',
      '0.00 mm',
      '-0.01 mm',
    ]);
    expect(coordinatesText([-1e-9, 0.0004, -2])).toBe('0.000, 0.000, -2.000');
  });
});
