import { findingsOf } from '../check/index.js';
import { applyEdit, plainNode, type Scene } from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { PROFILES } from '../target/index.js';
import { checkRulesOfYard, namesForTargets } from './names-for-targets.js';
import { FIRST_RULES } from './yard-rules.js';

const door = (): Scene => ({
  ...sceneOf(boxMesh([1, 1, 1])),
  nodes: [
    plainNode('Tür (final)', 0),
    plainNode('Knauf', 0),
    { ...plainNode('knauf', 0), translation: [3, 0, 0] },
  ],
});
const all = { ...FIRST_RULES, targets: PROFILES.map(({ id }) => id) };

describe('names for all targets of a yard', () => {
  const { document } = pieceOf(door(), 'Tür.obj');

  it('are refused by those that keep the parts, and taken by those that flatten them', () => {
    const { refused } = namesForTargets(document, all);
    expect(refused.map(({ target }) => target)).not.toContain('prefix tags');
    expect(refused.length).toBeGreaterThan(1);
    expect(refused.flatMap(({ says }) => says).join(' ')).toContain('“Tür (final)”');
    expect(namesForTargets(document, FIRST_RULES)).toEqual({ refused: [], fixes: [] });
  });

  it('are mended for every target in one step', () => {
    const { fixes } = namesForTargets(document, all);
    const mended = fixes.reduce((piece, { edit }) => applyEdit(piece, edit), document);
    expect(namesForTargets(mended, all)).toEqual({ refused: [], fixes: [] });
    expect(fixes.map(({ label }) => label)).toEqual([jasmine.stringMatching(/^Rename 2 parts$|^Name it /)]);
  });

  it('are a warning while some target takes them, an error when none does, with the same mend', () => {
    const found = (rules: typeof all) =>
      findingsOf(document, checkRulesOfYard(document, rules)).filter(({ step }) => step === 'names');
    const [warned] = found(all);
    expect([warned!.severity, warned!.fix!.edit.kind]).toEqual(['warning', 'rename-parts']);
    expect(warned!.says).toContain('“proxy nodes”');
    const [stopped] = found({ ...all, targets: ['proxy-nodes'] });
    expect([stopped!.severity, stopped!.says.startsWith('“Tür')]).toEqual(['error', true]);
    expect(found(FIRST_RULES)).toEqual([]);
  });

  it('of a delivery that some targets lack say which', () => {
    const deliveries = [{ target: 'prefix tags', agreed: true, changes: [] }];
    const of = (targets: string[]) =>
      findingsOf(document, checkRulesOfYard(document, FIRST_RULES), { deliveries, targets })
        .filter(({ step }) => step === 'delivery')
        .map(({ says }) => says);
    expect(of(['prefix tags'])).toEqual([]);
    expect(of(['prefix tags', 'twin file'])).toEqual([
      'Delivered for 1 target of 2, not yet for “twin file”.',
    ]);
    expect(
      findingsOf(document, checkRulesOfYard(document, FIRST_RULES), { targets: ['twin file'] }).some(
        ({ step }) => step === 'delivery',
      ),
    ).toBeFalse();
  });

  it('are asked anew when a name, the rules or the shapes change, and not when nothing does', () => {
    const once = namesForTargets(document, all);
    expect(namesForTargets({ ...document }, all)).toBe(once);
    const mended = applyEdit(document, once.fixes[0]!.edit);
    expect(namesForTargets(mended, all).refused).toEqual([]);
    expect(namesForTargets(document, FIRST_RULES).refused).toEqual([]);
    expect(namesForTargets(document, all).refused).toEqual(once.refused);
  });

  it('are asked for the default target alone where a tree has thousands of nodes', () => {
    const many = {
      ...document,
      nodes: Array.from({ length: 2001 }, (_, i) => ({
        ...document.nodes[0]!,
        id: `m${i}`,
        name: `Tür ${i}`,
      })),
    };
    expect(namesForTargets(many, all).refused).toEqual([]);
    const strict = { ...all, targets: ['proxy-nodes', 'twin-file'] };
    expect(namesForTargets(many, strict).refused.map(({ target }) => target)).toEqual(['proxy nodes']);
  });
});
