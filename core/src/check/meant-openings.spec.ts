import { blocks } from '../testing/solids.js';
import { FIRST_AGENTS } from './agents.js';
import { meantOpenings } from './meant-openings.js';

describe('openings that are meant for an agent', () => {
  const [rig, deckhand, gull] = FIRST_AGENTS;
  /** A wall of six metres with a doorway of a width, two metres high, from a sill. */
  const wall = (width: number, sill = 0) =>
    blocks([[0, 0, 0, 6, 3, 0.4]], [[3 - width / 2, sill, -1, 3 + width / 2, sill + 2, 1]]);

  it('are those that let it through, and doorways that nearly do', () => {
    expect(meantOpenings(wall(1), deckhand!).length).toBe(1);
    // 0.6 m of the 0.7 m that it takes: it is to be told what is missing.
    const [narrow] = meantOpenings(wall(0.6), deckhand!);
    expect(narrow!.halfExtents[0]).toBeCloseTo(0.3, 6);
    expect(meantOpenings(wall(0.6), gull!).length).toBe(1);
  });

  it('are none that nobody would think of, and no window that is too small', () => {
    expect(meantOpenings(wall(1), rig!)).toEqual([]);
    expect(meantOpenings(wall(0.6, 0.8), deckhand!)).toEqual([]);
    expect(meantOpenings(blocks([[0, 0, 0, 6, 3, 0.4]]), deckhand!)).toEqual([]);
  });
});
