import * as fc from 'fast-check';
import {
  FIRST_RULES,
  meshNameFrom,
  plainMesh,
  plainNode,
  pushEdit,
  startHistory,
  stepsBetween,
  takeIn,
} from '@yard-brace/core';
import { bundleName, numbersIn, rangesText, routes } from './routes.js';
import {
  conflictSchema,
  deliveryListSchema,
  idSchema,
  newDeliverySchema,
  newPieceSchema,
  newYardSchema,
  problemSchema,
  saveRulesSchema,
  saveStepsSchema,
  setMeasuredSchema,
  takeApartSchema,
  tryRulesSchema,
  versionsSchema,
} from './schemas.js';

/** A piece of one triangle, as it is after a file was read. */
function history(name = 'Cleat') {
  const mesh = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]);
  const scene = {
    unit: { metres: 1, stated: true },
    nodes: [plainNode(name, 0)],
    meshes: [{ name, mesh }],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  const files = [{ name: `${name}.obj`, blob: 'a'.repeat(64), bytes: 9 }];
  return startHistory(takeIn(scene, { files, meshName: meshNameFrom }).document);
}
const overTheWire = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
const refused = (result: { success: boolean; error?: { issues: { path: PropertyKey[] }[] } }) =>
  result.success ? 'taken' : result.error!.issues[0]!.path.join('.');

describe('routes', () => {
  it('are mounted as they are called: a pattern with its identities put in is the address', () => {
    for (const route of Object.values(routes)) {
      if (typeof route === 'string') continue;
      const ask = route as unknown as (...ids: (string | number)[]) => string;
      const names = [':id', ':version'];
      const pattern = ask(...names);
      if (pattern.includes('?')) continue;
      const [, id, version] = new RegExp(
        `^${pattern.replace(':id', '(\\d+)').replace(':version', '(\\d+)')}$`,
      ).exec(ask(12, 34))!;
      expect(id).withContext(pattern).toBe('12');
      if (pattern.includes(':version')) expect(version).toBe('34');
    }
  });

  it('are each their own', () => {
    const addresses = Object.values(routes).map((route) =>
      typeof route === 'string' ? route : (route as unknown as (...ids: number[]) => string)(1, 2),
    );
    expect(new Set(addresses).size).toBe(addresses.length);
  });

  it('name a bundle by its manifest, or its first file', () => {
    expect(bundleName(['Frame.glb', 'Leaf.glb', 'Gate.manifest.json', 'Gate.import.md'])).toBe('Gate.zip');
    expect(bundleName(['SM_Cleat.glb', 'SM_Cleat.json'])).toBe('SM_Cleat.zip');
    expect(bundleName(['SM_Cleat.v2.glb'])).toBe('SM_Cleat.v2.zip');
    expect(bundleName([])).toBe('delivery.zip');
  });
});

describe('what crosses the wire', () => {
  it('carries a piece and its steps as they are', () => {
    const before = history();
    const after = pushEdit(before, { kind: 'rename-mesh', name: 'Cleat_A' });
    expect(newPieceSchema.parse(overTheWire({ history: after })).history).toEqual(after);
    const steps = stepsBetween(before, after)!;
    expect(saveStepsSchema.parse(overTheWire({ version: 1, steps }))).toEqual({ version: 1, steps });
  });

  it('refuses what could not be opened again, and says where', () => {
    const piece = history();
    const nowhere = { ...piece, cursor: 4 };
    expect(newPieceSchema.safeParse({ history: nowhere }).success).toBeFalse();
    const spoiled = overTheWire({ history: piece }) as {
      history: { base: { nodes: { parent: unknown }[] } };
    };
    spoiled.history.base.nodes[0]!.parent = 'mast';
    expect(refused(newPieceSchema.safeParse(spoiled))).toMatch(/^history\.base\.nodes\.0/);
    const edits = [{ kind: 'paint', colour: 'red' }];
    const steps = { fold: 0, keep: 0, edits, cursor: 1 };
    expect(refused(saveStepsSchema.safeParse({ version: 1, steps }))).toMatch(/^steps\.edits\.0/);
    expect(refused(saveStepsSchema.safeParse({ version: 0, steps: { ...steps, edits: [] } }))).toBe(
      'version',
    );
  });

  it('takes identities as numbers or as an address writes them, and nothing else', () => {
    expect([idSchema.parse(7), idSchema.parse('7')]).toEqual([7, 7]);
    for (const bad of ['', '0', '-1', '1.5', 'seven', null, '1e999'])
      expect(idSchema.safeParse(bad).success).withContext(String(bad)).toBeFalse();
  });

  it('gives a yard a name that can be seen', () => {
    expect(newYardSchema.parse({ name: '  Saltgate Slip ' }).name).toBe('Saltgate Slip');
    for (const name of ['', '   ', '\u200b', 'x'.repeat(300), '\ud800'])
      expect(newYardSchema.safeParse({ name }).success).withContext(name).toBeFalse();
  });

  it('holds the rules of a yard within what can be worked with', () => {
    expect(saveRulesSchema.parse(overTheWire({ version: 1, rules: FIRST_RULES })).rules).toEqual(FIRST_RULES);
    expect(refused(saveRulesSchema.safeParse({ version: 1, rules: { ...FIRST_RULES, gridMetres: 0 } }))).toBe(
      'rules.gridMetres',
    );
    expect(refused(tryRulesSchema.safeParse({ rules: { ...FIRST_RULES, agents: [] } }))).toBe('rules.agents');
  });

  it('measures in metres that are none below nothing', () => {
    const measured = { key: 'b'.repeat(64), artOutside: 0.002, proxyOutside: 0 };
    expect(setMeasuredSchema.parse(overTheWire({ measured }))).toEqual({ measured });
    expect(refused(setMeasuredSchema.safeParse({ measured: { ...measured, artOutside: -1 } }))).toBe(
      'measured.artOutside',
    );
    // JSON has no infinity: it arrives as null.
    const endless = overTheWire({ measured: { ...measured, proxyOutside: Infinity } });
    expect(refused(setMeasuredSchema.safeParse(endless))).toBe('measured.proxyOutside');
  });

  it('takes a piece apart into at least one', () => {
    const pieces = [{ history: history('Cleat_A') }, { history: history('Cleat_B') }];
    expect(takeApartSchema.parse({ version: 3, pieces, remove: true }).pieces).toHaveSize(2);
    expect(refused(takeApartSchema.safeParse({ version: 3, pieces: [], remove: true }))).toBe('pieces');
  });

  it('delivers a version to a target, and lists with how many are older', () => {
    expect(refused(newDeliverySchema.safeParse({ version: 1, target: 'x'.repeat(61) }))).toBe('target');
    expect(deliveryListSchema.parse({ deliveries: [], more: 0 })).toEqual({ deliveries: [], more: 0 });
    expect(refused(deliveryListSchema.safeParse({ deliveries: [] }))).toBe('more');
    expect(refused(versionsSchema.safeParse([{ version: 1, savedAt: 'yesterday' }]))).toBe('0.savedAt');
  });

  it('tells a refusal from a conflict: that one says who was first', () => {
    const conflict = {
      code: 'conflict',
      message: 'Saved elsewhere.',
      version: 4,
      savedAt: '2026-01-02T03:04:05Z',
    };
    expect(conflictSchema.parse(conflict).version).toBe(4);
    expect(problemSchema.parse(conflict).code).toBe('conflict');
    expect(refused(conflictSchema.safeParse({ ...conflict, code: 'refused' }))).toBe('code');
    expect(refused(problemSchema.safeParse({ code: 'oops', message: '' }))).toBe('code');
  });
});

describe('numbers as few words', () => {
  it('come back as they went, sorted and each once', () => {
    expect(rangesText([5, 3, 4, 9, 4, 12, 11])).toBe('3-5,9,11-12');
    fc.assert(
      fc.property(fc.array(fc.nat(200), { minLength: 1 }), (numbers) => {
        expect(numbersIn(rangesText(numbers), 1000)).toEqual([...new Set(numbers)].sort((a, b) => a - b));
      }),
    );
  });

  it('are refused where they are something else, or too many', () => {
    for (const text of ['', '-', '3-', 'a', '3-1', '1,,2', '1-1e9', '1-99999999'])
      expect(numbersIn(text, 1000)).toBeNull();
  });
});
