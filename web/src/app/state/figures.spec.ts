import {
  type Agent,
  applyEdit,
  Comparer,
  FIRST_RULES,
  plainMesh,
  replaceProxies,
  type Shape,
  type Vec3,
} from '@yard-brace/core';
import { Subject } from 'rxjs';
import { boxRound } from '../testing/crate';
import { HandClock } from '../testing/hand-clock';
import { postDocument } from '../testing/post';
import { artFigures } from './change-figures';
import { cutPlace, cutPlane } from './cut-plane';
import { Drafts } from './drafts';
import { judge } from './judge';
import { clearanceShapes, millimetresOff, rungFigures, type ShownLadder } from './rung-figures';
import { settledFor } from './settled';

const proxy = (id: string, shape: Shape) => ({ id, shape });

describe('figures of a change', () => {
  it('show only what changes, before and after', () => {
    const now = postDocument(2);
    const next = applyEdit(now, { kind: 'resize', factor: 2, about: [0, 0, 0] });
    expect(artFigures(now, next)).toEqual([
      { name: 'Size', now: '2.00 × 2.00 × 2.00 m', next: '4.00 × 4.00 × 4.00 m' },
    ]);
    expect(artFigures(now, now)).toEqual([]);
  });
});

describe('figures of a rung', () => {
  const art = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1], [0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]);
  const comparer = new Comparer(art);
  const shapes = [boxRound([0.5, 0.5, 0.5], 0.5)];
  const ladder = (change: Partial<ShownLadder> = {}): ShownLadder => ({
    rungs: [{ shapes, figures: comparer.compare(shapes) }],
    goodEnough: 0,
    specks: 0,
    agent: null,
    whole: null,
    now: null,
    at: 0,
    ...change,
  });
  const rows = (shown: ShownLadder, document = postDocument()) =>
    Object.fromEntries(rungFigures(shown, document).map((row) => [row.name, row]));

  it('stand beside what is there now, a dash where nothing is', () => {
    const alone = rows(ladder());
    expect([alone['Shapes']!.now, alone['Shapes']!.next, alone['Corners']!.next]).toEqual(['—', '1', '8']);
    const beside = rows(ladder({ now: comparer.compare([...shapes, ...shapes]) }));
    expect(beside['Shapes']!.now).toBe('2');
    expect(millimetresOff(ladder().rungs[0]!)).toBeGreaterThan(100);
  });

  it('are good where the agent does not feel them', () => {
    const agent = { detail: 10 } as Agent;
    expect([rows(ladder())['Excess']!.good, rows(ladder({ agent }))['Excess']!.good]).toEqual([false, true]);
    expect(rows(ladder())['Uncovered']!.good).toBeTrue();
  });

  it('count the openings that stay free', () => {
    const opening = (center: Vec3) => ({
      id: center.join(),
      name: 'hatch',
      center,
      halfExtents: [0.1, 0.1, 0.1] as Vec3,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      through: 'z' as const,
    });
    const document = { ...postDocument(), clearances: [opening([0.5, 0.5, 0.5]), opening([9, 9, 9])] };
    expect(clearanceShapes(document).map(({ kind }) => kind)).toEqual(['box', 'box']);
    expect(rows(ladder(), document)['Openings kept free']).toEqual({
      name: 'Openings kept free',
      now: '—',
      next: '1 of 2',
      good: false,
    });
    expect(rows(ladder())['Openings kept free']).toBeUndefined();
  });
});

describe('a cut', () => {
  const bounds = { min: [0, 10, 0] as Vec3, max: [4, 20, 1] as Vec3 };

  it('runs through the bounds at its share, and keeps one side or the other', () => {
    const cut = { axis: 1 as const, at: 0.25, flipped: false };
    expect(cutPlace(cut, bounds)).toBe(12.5);
    for (const flipped of [false, true]) {
      const { normal, offset } = cutPlane({ ...cut, flipped }, bounds);
      const kept = (y: number) => normal[1] * y >= offset;
      expect([kept(11), kept(12.5), kept(19)]).toEqual([!flipped, true, flipped]);
    }
  });
});

describe('what has settled', () => {
  it('is the last value once nothing has followed it for a while', async () => {
    const clock = new HandClock();
    const source = new Subject<number>();
    const seen: number[] = [];
    const subscription = source.pipe(settledFor(clock, 100)).subscribe((value) => seen.push(value));
    source.next(1);
    await clock.move(60);
    source.next(2);
    await clock.move(99);
    expect(seen).toEqual([]);
    await clock.move(1);
    expect(seen).toEqual([2]);
    source.next(3);
    subscription.unsubscribe();
    await clock.move(1000);
    expect(seen).toEqual([2]);
  });
});

describe('drafts', () => {
  const drafts = new Drafts();
  const steps = { from: 0, added: [], cursor: 0 };
  afterEach(() => localStorage.clear());

  it('are there again, and gone when they are dropped', () => {
    const draft = { version: 3 };
    expect(drafts.put(5, draft)).toBeTrue();
    expect(drafts.take(5)).toEqual(draft);
    expect(drafts.take(6)).toBeNull();
    drafts.drop(5);
    expect(drafts.take(5)).toBeNull();
  });

  it('that cannot be kept leave none of an older state behind; torn ones are none', () => {
    drafts.put(5, { version: 3 });
    const full = spyOn(Storage.prototype, 'setItem').and.throwError(
      new DOMException('full', 'QuotaExceededError'),
    );
    expect(drafts.put(5, { version: 4, steps: steps as never })).toBeFalse();
    full.and.callThrough();
    expect(drafts.take(5)).toBeNull();
    localStorage.setItem('yard-brace.draft.5', '{"version":');
    expect(drafts.take(5)).toBeNull();
    localStorage.setItem('yard-brace.draft.5', '{"version":"three"}');
    expect(drafts.take(5)).toBeNull();
  });
});

describe('what is said of a piece', () => {
  it('depends on who collides in its yard', () => {
    const document = applyEdit(postDocument(2), replaceProxies([proxy('a', boxRound([0, 0, 0], 1))]));
    const said = judge(document, FIRST_RULES, {});
    expect(said.findings.map(({ id }) => id)).toContain('proxies-unmeasured');
    expect(said.tally.proxies).toBe('look');
    const tight = { ...FIRST_RULES, budgets: [{ upToMetres: 100, shapes: 1, corners: 4 }] };
    expect(judge(document, tight, {}).findings.map(({ id }) => id)).toContain('over-budget');
  });
});
