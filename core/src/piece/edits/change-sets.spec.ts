import { pieceOf } from '../../testing/documents.js';
import { boxMesh, sceneOf } from '../../testing/meshes.js';
import type { Shape } from '../../shape/index.js';
import { documentFault, pieceDocumentSchema } from '../document.js';
import { applyEdit, editSchema, replaceProxies } from './index.js';

const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
const ball = (radius: number): Shape => ({ kind: 'sphere', center: [1, 0, 0], radius });
const withBall = (radius: number, of = document) =>
  applyEdit(of, replaceProxies([{ id: `r${radius}`, shape: ball(radius) }]));

describe('sets beside the one in use', () => {
  it('are kept, taken into use and forgotten, without losing any', () => {
    const rough = applyEdit(withBall(2), { kind: 'change-sets', keep: { name: 'rough' } });
    const gull = withBall(0.1, rough);
    const both = applyEdit(gull, { kind: 'change-sets', keep: { name: 'gull' }, use: 'rough' });
    expect(both.proxies).toEqual(rough.proxies);
    expect(both.sets.map(({ name, proxies }) => [name, proxies[0]!.id])).toEqual([
      ['rough', 'r2'],
      ['gull', 'r0.1'],
    ]);
    // Kept again under its name, it is replaced.
    const again = applyEdit(withBall(3, both), { kind: 'change-sets', keep: { name: 'rough' } });
    expect(again.sets.map(({ name }) => name)).toEqual(['gull', 'rough']);
    expect(again.sets[1]!.proxies[0]!.id).toBe('r3');
    expect(applyEdit(again, { kind: 'change-sets', use: 'unknown' }).proxies).toBe(again.proxies);
    expect(applyEdit(again, { kind: 'change-sets', remove: 'gull' }).sets.length).toBe(1);
    expect(pieceDocumentSchema.parse(JSON.parse(JSON.stringify(again)))).toEqual(again);
    expect(editSchema.safeParse({ kind: 'change-sets', keep: { name: ' ' } }).success).toBeFalse();
  });

  it('grow and turn with the piece, and two of one name cannot be stored', () => {
    const kept = applyEdit(withBall(2), { kind: 'change-sets', keep: { name: 'rough' } });
    const grown = applyEdit(kept, { kind: 'resize', factor: 2, about: [0, 0, 0] });
    expect(grown.sets[0]!.proxies).toEqual(grown.proxies);
    expect(documentFault({ ...kept, sets: [...kept.sets, ...kept.sets] })?.message).toBe(
      'two sets have one name',
    );
  });
});
