import { lookedAt, withLeftByArt } from './left-by-art.js';
import type { SetFacts } from './set-facts.js';
import { setFindings } from './set-findings.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';

const EVEN = { mean: 0, p95: 0 };
const facts = (
  art: string,
  excess: Record<string, number>,
  { bare = 0, left }: { bare?: number; left?: SetFacts['left'] } = {},
): SetFacts => ({
  key: '0'.repeat(64),
  art: art.repeat(64),
  excess: { ...EVEN, max: Math.max(...Object.values(excess)), at: null },
  uncovered: { ...EVEN, max: bare > 0 ? 0.5 : 0, at: null },
  artVolume: 1,
  proxyVolume: 1,
  overfill: 0,
  underfill: 0,
  overlap: 0,
  corners: 8,
  cost: 1,
  shapes: Object.entries(excess).map(([id, max]) => ({
    id,
    excess: { ...EVEN, max, at: [1, 2, 3] as [number, number, number] },
    overfill: 0,
    away: 0,
  })),
  owners: [],
  crossings: [],
  crossingCount: 0,
  bare: bare > 0 ? [{ area: bare, most: 0.5, at: [4, 5, 6], faces: 2 }] : [],
  bareCount: bare > 0 ? 1 : 0,
  edges: [],
  blocked: [],
  ...(left ? { left } : {}),
});

describe('what a change of the art leaves', () => {
  it('is nothing as long as only shapes change, or nothing was measured before', () => {
    expect(withLeftByArt(null, facts('a', { s1: 0.5 })).left).toBeUndefined();
    const moved = withLeftByArt(facts('a', { s1: 0 }), facts('a', { s1: 0.5 }, { bare: 1 }));
    expect(moved.left).toBeUndefined();
  });

  it('is the shapes that stand out more than before, and the art that is bare now', () => {
    const after = withLeftByArt(
      facts('a', { s1: 0.01, s2: 0.01 }),
      facts('b', { s1: 0.2, s2: 0.011 }, { bare: 0.25 }),
    );
    expect(after.left).toEqual({ shapes: [{ id: 's1', before: 0.01 }], bareArea: 0 });
    const document = {
      ...pieceOf(sceneOf(boxMesh([1, 1, 1]))).document,
      proxies: [{ id: 's1' }, { id: 's2' }] as never,
    };
    const [said, ...more] = setFindings(document, after, undefined);
    expect(more).toEqual([]);
    expect(said!.says).toBe(
      'The art has changed since: shape 1 stands out by 200.0 mm instead of 10.0 mm; 0.250 m² more of it is bare.',
    );
    expect(said!.shapes).toEqual(['s1']);
    expect(said!.at).toEqual([1, 2, 3]);
    expect(said!.setFix!.fix).toEqual({ fix: 'refit', shapes: ['s1'] });
  });

  it('is said through later changes until it is mended or was looked at', () => {
    const left = withLeftByArt(facts('a', { s1: 0, s2: 0 }), facts('b', { s1: 0.2, s2: 0.3 }));
    const later = withLeftByArt(left, facts('b', { s1: 0.2, s2: 0.001, s3: 0.9 }));
    expect(later.left!.shapes).toEqual([{ id: 's1', before: 0 }]);
    const again = withLeftByArt(later, facts('c', { s1: 0.1, s3: 0.95 }));
    expect(again.left!.shapes).toEqual([
      { id: 's1', before: 0 },
      { id: 's3', before: 0.9 },
    ]);
    expect(withLeftByArt(again, facts('c', { s1: 0, s3: 0.9 })).left).toBeUndefined();
    const seen = lookedAt(again);
    expect(seen.left).toBeUndefined();
    expect(withLeftByArt(seen, facts('c', { s1: 0.1, s3: 0.95 })).left).toBeUndefined();
  });

  it('forgets a bare area that was covered again', () => {
    const left = withLeftByArt(facts('a', { s1: 0 }), facts('b', { s1: 0 }, { bare: 1 }));
    expect(left.left).toEqual({ shapes: [], bareArea: 0 });
    expect(withLeftByArt(left, facts('b', { s1: 0 }, { bare: 0.5 })).left).toBeDefined();
    expect(withLeftByArt(left, facts('b', { s1: 0 })).left).toBeUndefined();
  });
});
