import { momentText } from './moment';

describe('momentText', () => {
  it('says the day only when it was another', () => {
    const now = new Date(2026, 4, 3, 15, 0);
    expect(momentText(new Date(2026, 4, 3, 14, 2).toISOString(), now)).toBe('14:02');
    expect(momentText(new Date(2026, 3, 30, 9, 5).toISOString(), now)).toBe('30 Apr, 09:05');
  });
});
