import { roomForTags } from './room-for-tags';

const tag = (id: string, x: number, y = 0, behind = false) => ({ id, x, y, behind });

describe('roomForTags', () => {
  it('shows those that are free of others, and those that are wanted whatever lies there', () => {
    const tags = [
      tag('a', 0),
      tag('b', 10),
      tag('c', 40),
      tag('d', 45, 4),
      tag('e', 45, 30),
      tag('f', 0, 0, true),
    ];
    expect([...roomForTags(tags, new Set())]).toEqual(['a', 'c', 'e']);
    expect([...roomForTags(tags, new Set(['b', 'd']))].sort()).toEqual(['b', 'd', 'e']);
  });

  it('keeps as much between names as they are wide', () => {
    const tags = [tag('quay wall', 0), tag('post', 50), tag('oar', 70)];
    const wide = (id: string) => id.length * 10;
    expect([...roomForTags(tags, new Set(), wide)]).toEqual(['quay wall', 'oar']);
    expect([...roomForTags(tags, new Set())]).toEqual(['quay wall', 'post']);
  });

  it('leaves no two that lie over each other among thirty', () => {
    const tags = Array.from({ length: 30 }, (_, i) => tag(`${i}`, (i * 37) % 120, (i * 53) % 90));
    const shown = roomForTags(tags, new Set());
    const left = tags.filter(({ id }) => shown.has(id));
    expect(left.length).toBeGreaterThan(5);
    for (const a of left)
      for (const b of left)
        if (a !== b) expect(Math.abs(a.x - b.x) >= 26 || Math.abs(a.y - b.y) >= 20).toBeTrue();
  });
});
