import {
  bytesText,
  countText,
  counted,
  lengthText,
  momentText,
  placeText,
  sizeText,
  volumeText,
} from './figures';

describe('figures', () => {
  it('read as people write them', () => {
    expect(sizeText([0.82, 0.644, 4])).toBe('0.82 × 0.64 × 4.00 m');
    expect(sizeText([0.0399, 0.0261, 0.0114])).toBe('39.9 × 26.1 × 11.4 mm');
    expect(placeText([-1e-9, 1.23456, 2])).toBe('0.000, 1.235, 2.000 m');
    expect([lengthText(0.0000004), lengthText(0.0154), lengthText(4.52)]).toEqual([
      '0.00 mm',
      '15 mm',
      '4.52 m',
    ]);
    expect([volumeText(0), volumeText(0.00005), volumeText(0.2512), volumeText(123.4)]).toEqual([
      '0 m³',
      '50.0 cm³',
      '0.251 m³',
      '123 m³',
    ]);
    expect([countText(1234567), counted(1, 'shape'), counted(2, 'vertex', 'vertices')]).toEqual([
      '1 234 567',
      '1 shape',
      '2 vertices',
    ]);
    expect([bytesText(12), bytesText(77100), bytesText(5e6)]).toEqual(['12 B', '77.1 kB', '5.0 MB']);
  });

  it('say the day only when it was another', () => {
    const now = new Date(2026, 4, 3, 15, 0);
    expect(momentText(new Date(2026, 4, 3, 14, 2).toISOString(), now)).toBe('14:02');
    expect(momentText(new Date(2026, 3, 30, 9, 5).toISOString(), now)).toBe('30 Apr, 09:05');
  });
});
