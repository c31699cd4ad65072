import { applyEdit, type PieceDocument, replaceProxies } from '../piece/index.js';
import { agentFor, checkRulesFor, FIRST_RULES, triedLines } from '../rules/index.js';
import { SUFFIX_TAGS, takesOf } from '../target/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { FIRST_AGENTS } from './agents.js';
import { findingsOf } from './findings.js';
import { proxyFactsSchema, type ProxyFacts } from './proxy-facts.js';
import { proxyKey } from './proxy-key.js';
import { stampsOf } from './stamps.js';
import { bodyTrialKey, type WalkTrial, walkTrialKey } from './trial-facts.js';

const DECKHAND = FIRST_AGENTS[1]!;

const crate = (): PieceDocument =>
  applyEdit(
    pieceOf(sceneOf(boxMesh([1, 1, 1]))).document,
    replaceProxies([
      { id: 'a', shape: { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] } },
    ]),
  );
const rulesFor = (document: PieceDocument) => checkRulesFor(document, FIRST_RULES, SUFFIX_TAGS);

function walked(document: PieceDocument, changes: Partial<WalkTrial> = {}): { measured: ProxyFacts } {
  const { trials, takes } = rulesFor(document);
  const walk: WalkTrial = {
    key: walkTrialKey(document, DECKHAND, trials!, takes),
    agent: DECKHAND.id,
    runs: 200,
    openings: [],
    contacts: [],
    contactCount: 0,
    blocked: [],
    blockedCount: 0,
    stuck: [],
    falls: [],
    fallCount: 0,
    jolts: [],
    stumbles: [],
    slips: [],
    routes: [],
    ...changes,
  };
  const measured = {
    key: proxyKey(document),
    artOutside: 0,
    proxyOutside: 0,
    trials: { walks: [walk] },
  };
  return { measured: proxyFactsSchema.parse(JSON.parse(JSON.stringify(measured))) };
}

function told(document: PieceDocument, around: { measured?: ProxyFacts } = {}) {
  const findings = findingsOf(document, rulesFor(document), around);
  return {
    findings: findings.filter(({ step }) => step === 'trial'),
    stamp: stampsOf(document, findings, around).trial,
  };
}

const AT = { at: [1, 0, 0] as [number, number, number], shape: 'a', from: null };

describe('findings of trials', () => {
  it('say that nobody has walked yet, with no stamp', () => {
    const { findings, stamp } = told(crate());
    expect(stamp).toBe('none');
    expect(findings.map(({ says }) => says)).toEqual(['No deckhand has walked at these shapes yet.']);
  });

  it('are none, with a clear stamp, when all that the yard asks for was passed on the set as it is', () => {
    expect(told(crate(), walked(crate()))).toEqual({ findings: [], stamp: 'clear' });
  });

  it('ask for a look when shapes, openings or the agent have changed since', () => {
    const before = walked(crate());
    const moved = applyEdit(
      crate(),
      replaceProxies([{ id: 'a', shape: { kind: 'sphere', center: [0, 0, 0], radius: 1 } }]),
    );
    expect(told(moved, before).stamp).toBe('look');
    expect(told(moved, before).findings[0]!.says).toContain('something that matters has changed since');
    const taller = { ...DECKHAND, height: 2 };
    const { trials, takes } = rulesFor(crate());
    const keys = [
      walkTrialKey(crate(), DECKHAND, trials!, takes),
      walkTrialKey(crate(), taller, trials!, takes),
      walkTrialKey(crate(), DECKHAND, { joltMetres: 0.2 }, takes),
      walkTrialKey(crate(), DECKHAND, trials!, 'otherwise'),
    ];
    expect(new Set(keys).size).toBe(4);
    // What does not matter to who walks does not count.
    expect(walkTrialKey({ ...crate(), name: 'Other' }, { ...DECKHAND, name: 'Hand' }, trials!, takes)).toBe(
      keys[0]!,
    );
  });

  it('stop the step, and keep nobody from delivering, when it was not passed', () => {
    const fails: Partial<WalkTrial>[] = [
      { falls: [{ ...AT, metres: 1.1 }], fallCount: 1 },
      { stuck: [AT] },
      { blocked: [{ ...AT, metres: 0.55 }], blockedCount: 1 },
      { jolts: [{ ...AT, metres: 0.18, count: 8 }] },
      { routes: [{ opening: null, name: '', at: [0, 1, 0], found: false, metres: 0 }] },
    ];
    for (const change of fails) {
      const { findings, stamp } = told(crate(), walked(crate(), change));
      expect(stamp).withContext(JSON.stringify(change)).toBe('stopped');
      expect(findings.length).toBe(1);
      expect(findings[0]!.severity).toBe('warning');
    }
  });

  it('name the place, the shape to blame and what mends it', () => {
    const { findings } = told(
      crate(),
      walked(crate(), { blocked: [{ ...AT, metres: 0.55 }], blockedCount: 3 }),
    );
    expect(findings[0]).toEqual(
      jasmine.objectContaining({
        says: 'The deckhand is stopped by air in 3 places at shape 1, by up to 550.0 mm of it, where the art lets it pass.',
        at: [1, 0, 0],
        shapes: ['a'],
        setFix: { label: 'Refit shape 1', fix: { fix: 'refit', shapes: ['a'] } },
      }),
    );
  });

  it('say what an opening lacks, and only look at gaps that stop nobody', () => {
    const opening = {
      id: 'c1',
      name: 'cart hatch',
      at: [0, 1, 0] as [number, number, number],
      passes: false,
      width: 0.56,
      height: 2,
      missingWidth: 0.14,
      missingHeight: 0,
      missingMetres: 0.14,
      shape: 'a',
    };
    expect(told(crate(), walked(crate(), { openings: [opening] })).findings[0]!.says).toBe(
      'The deckhand does not get through “cart hatch”: 140.0 mm too narrow at shape 1.',
    );
    const gap = { ...AT, kind: 'air' as const, where: 'side' as const, metres: 0.06 };
    const looked = told(crate(), walked(crate(), { contacts: [gap], contactCount: 1 }));
    expect(looked.stamp).toBe('look');
    expect(looked.findings[0]!.says).toContain('60.0 mm of air');
  });

  it('go into the sheet while they tell of the piece as it leaves', () => {
    const document = crate();
    const lines = (around: { measured: ProxyFacts }) =>
      triedLines(document, FIRST_RULES, SUFFIX_TAGS, around.measured);
    expect(lines(walked(document))).toEqual(['Walked at from all sides by the deckhand: passes, 200 runs.']);
    expect(lines(walked(document, { falls: [{ ...AT, metres: 1 }], fallCount: 3, stuck: [AT] }))).toEqual([
      'Walked at from all sides by the deckhand: falls through in 3 places, gets stuck in 1 place.',
    ]);
    expect(lines(walked(document, { key: 'a'.repeat(64) }))).toEqual([]);
    const ask = { kind: 'pour', balls: 100 } as const;
    const key = bodyTrialKey(document, ask, takesOf(SUFFIX_TAGS));
    const { measured } = walked(document);
    const trials = {
      walks: [],
      felt: [],
      bodies: [{ kind: 'pour' as const, key, ask, balls: 100, inside: 97, leaks: [] }],
    };
    expect(lines({ measured: { ...measured, trials } })).toEqual(['Poured in: 97 of 100 balls stay inside.']);
  });

  it('tell trials with bodies that did not go as wanted, and stop where the yard asks for them', () => {
    const document = crate();
    const rules = { ...FIRST_RULES, trials: { ...FIRST_RULES.trials, asked: ['pour' as const] } };
    const asked = checkRulesFor(document, rules, SUFFIX_TAGS);
    const ask = { kind: 'pour', balls: 100 } as const;
    const key = bodyTrialKey(document, ask, takesOf(SUFFIX_TAGS));
    const poured = (inside: number, change = {}) => {
      const { measured } = walked(document);
      const body = {
        kind: 'pour' as const,
        key,
        ask,
        balls: 100,
        inside,
        leaks: [[1, 0, 0] as [number, number, number]],
        ...change,
      };
      return { measured: { ...measured, trials: { walks: [], bodies: [body], felt: [] } } };
    };
    const of = (around: { measured?: ProxyFacts }, by = asked) => {
      const findings = findingsOf(document, by, around).filter(({ step }) => step === 'trial');
      return { says: findings.map(({ says }) => says), stamp: stampsOf(document, findings, around).trial };
    };
    expect(of({})).toEqual({
      says: ['Nothing was poured into it yet; the yard asks for it.'],
      stamp: 'none',
    });
    expect(of(poured(100))).toEqual({ says: [], stamp: 'clear' });
    expect(of(poured(97))).toEqual({ says: ['Poured in: 97 of 100 balls stay inside.'], stamp: 'stopped' });
    expect(of(poured(100, { key: 'a'.repeat(64) })).stamp).toBe('look');
    // Where nobody asks, it is looked at.
    expect(of(poured(97), { ...asked, trials: { ...asked.trials!, bodies: [] } }).stamp).toBe('look');
  });

  it('ask for the agents that the rules name, or for the one that the piece is judged for', () => {
    const rules = { ...FIRST_RULES, trials: { ...FIRST_RULES.trials, walkers: ['gull', 'gantry-rig'] } };
    const asked = checkRulesFor(crate(), rules, SUFFIX_TAGS).trials!;
    expect(asked.walkers.map(({ id }) => id)).toEqual(['gantry-rig', 'gull']);
    expect(rulesFor(crate()).trials!.walkers).toEqual([agentFor(crate(), FIRST_RULES)!]);
    const none = { ...FIRST_RULES, trials: { ...FIRST_RULES.trials, asked: [] } };
    const found = findingsOf(crate(), checkRulesFor(crate(), none, SUFFIX_TAGS));
    expect(found.some(({ step }) => step === 'trial')).toBeFalse();
  });
});
