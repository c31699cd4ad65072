import fc from 'fast-check';
import { MAX_FELT, type TrialContact, trialFactsSchema, withFelt } from './trial-facts.js';

const KEY = 'a'.repeat(64);

describe('what was tried, as it is kept', () => {
  it('is read as it was kept before stumbles, ways of faces and walks by hand were', () => {
    const before = {
      walks: [
        {
          key: KEY,
          agent: 'deckhand',
          runs: 3,
          openings: [],
          contacts: [],
          contactCount: 0,
          blocked: [],
          blockedCount: 0,
          stuck: [],
          falls: [],
          fallCount: 0,
          jolts: [],
          slips: [],
          routes: [],
        },
      ],
      bodies: [
        {
          kind: 'drive',
          key: KEY,
          ask: { kind: 'drive', track: 1, wheelbase: 1, wheelRadius: 0.1, clearance: 0.1, way: [1, 0] },
          end: 'through',
          metres: 4,
          at: [0, 0, 0],
          airborne: 2,
        },
      ],
    };
    const now = trialFactsSchema.parse(before);
    expect(now.felt).toEqual([]);
    expect(now.walks[0]).toEqual({ ...before.walks[0]!, stumbles: [] } as (typeof now.walks)[number]);
    expect(now.bodies[0]).toEqual(jasmine.objectContaining({ kind: 'drive', wrongWay: null, marks: [] }));
    expect(trialFactsSchema.parse(JSON.parse(JSON.stringify(now)))).toEqual(now);
  });

  it('of walks by hand is the worst of each shape, kind and side, whatever was felt first', () => {
    const contact = fc.record({
      at: fc.constant<[number, number, number]>([0, 0, 0]),
      shape: fc.constantFrom('a', 'b', 'c', 'd', null),
      from: fc.constant(null),
      kind: fc.constantFrom('air' as const, 'through' as const),
      where: fc.constantFrom('side' as const, 'foot' as const, 'head' as const),
      metres: fc.double({ min: 0, max: 2, noNaN: true }),
    });
    const of = ({ shape, kind, where }: TrialContact) => [shape, kind, where].join();
    fc.assert(
      fc.property(fc.array(contact), fc.array(contact), (before, now) => {
        const kept = withFelt(before, now);
        expect(kept.length).toBeLessThanOrEqual(MAX_FELT);
        expect(new Set(kept.map(of)).size).toBe(kept.length);
        const worst = new Map<string, number>();
        for (const each of [...before, ...now])
          worst.set(of(each), Math.max(worst.get(of(each)) ?? 0, each.metres));
        const wanted = [...worst.values()].sort((a, b) => b - a).slice(0, MAX_FELT);
        expect(kept.map(({ metres }) => metres)).toEqual(wanted);
      }),
    );
  });
});
