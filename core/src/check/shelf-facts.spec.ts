import type { Quat, Vec3 } from '../math/index.js';
import { applyEdit, type Pivot, pivotAt, replaceProxies } from '../piece/index.js';
import { checkRulesOf, PREFIX_TAGS } from '../target/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { proxyKey } from './proxy-key.js';
import { shelfFactsOf, shelfFactsSchema, talliesBeside } from './shelf-facts.js';

const rules = checkRulesOf(PREFIX_TAGS);
const facts = (meshName: string, family: string | null = null, pivot?: Pivot) => {
  const document = { ...pieceOf(sceneOf(boxMesh([1, 1, 1]))).document, meshName, family };
  return shelfFactsOf(pivot ? { ...document, pivot } : document, rules, {});
};
const looks = (pieces: ReturnType<typeof facts>[], step: 'names' | 'pivot') =>
  [...talliesBeside(pieces.map((each, i) => ({ id: i + 1, facts: each }))).values()].map(
    (tally) => tally[step],
  );

describe('what a shelf shows', () => {
  it('can be stored and read again', () => {
    const all = facts('Crate');
    expect(shelfFactsSchema.parse(JSON.parse(JSON.stringify(all)))).toEqual(all);
    expect(all.size).toEqual([2, 2, 2]);
  });

  it('reads what was stored before there were trials: none was made', () => {
    const { trial, ...tally } = facts('Crate').tally;
    expect(trial).toBe('none');
    expect(shelfFactsSchema.parse({ ...facts('Crate'), tally }).tally).toEqual({ ...tally, trial: 'none' });
  });

  it('counts what is wrong, and tells how far shapes lie off while that is measured as they are', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const shape = {
      kind: 'box' as const,
      center: [0, 0, 0] as Vec3,
      halfExtents: [1, 1, 1] as Vec3,
      rotation: [0, 0, 0, 1] as Quat,
    };
    const wrapped = applyEdit(document, replaceProxies([{ id: 'a', shape }]));
    const measured = { key: proxyKey(wrapped), artOutside: 0.01, proxyOutside: 0.04 };
    const deliveries = [{ target: 'prefix tags', agreed: true, changes: ['Its pivot has moved.'] }];
    const all = shelfFactsOf(wrapped, rules, { measured, deliveries });
    expect([all.deviation, all.delivered]).toEqual([
      0.04,
      [{ target: 'prefix tags', agreed: true, changed: true }],
    ]);
    expect(shelfFactsOf(applyEdit(wrapped, replaceProxies([])), rules, { measured }).deviation).toBeNull();
    const centimetres = { ...document, unit: { ...document.unit, confirmed: false, stated: false } };
    expect(shelfFactsOf(centimetres, rules, {}).faults).toBeGreaterThan(facts('Crate').faults!);
    const { faults: _, deviation: __, delivered: ___, ...before } = all;
    expect(shelfFactsSchema.parse(before)).toEqual({ ...before, deviation: null, delivered: [] });
  });

  it('asks for a look at two pieces of one name, and no longer when one is renamed', () => {
    expect(looks([facts('Crate'), facts('Crate'), facts('Post')], 'names')).toEqual([
      'look',
      'look',
      'clear',
    ]);
    expect(looks([facts('Crate'), facts('Crate_02'), facts('Post')], 'names')).toEqual([
      'clear',
      'clear',
      'clear',
    ]);
  });

  it('asks for a look at a pivot that drifted from where the eldest of the family has it', () => {
    const at = (position: Vec3) => pivotAt('numeric', position);
    const family = [
      facts('A', 'copings', at([1, -1, 1])),
      facts('B', 'copings', at([1, -1, 1])),
      facts('C', 'copings', at([1, -0.9, 1])),
      facts('D', 'others', at([0, -0.9, 0])),
    ];
    expect(looks(family, 'pivot')).toEqual(['clear', 'clear', 'look', 'clear']);
    // A step that is stopped already stays stopped.
    const stopped = { ...family[2]!, tally: { ...family[2]!.tally, pivot: 'stopped' as const } };
    expect(looks([family[0]!, stopped], 'pivot')).toEqual(['clear', 'stopped']);
  });
});
