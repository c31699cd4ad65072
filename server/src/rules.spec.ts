import {
  deliverySchema,
  pieceSchema,
  routes,
  rulesEffectSchema,
  yardRulesStateSchema,
  yardSchema,
  yardWithPiecesSchema,
} from '@yard-brace/contract';
import { FIRST_RULES, PROFILES, SUFFIX_TAGS, type YardRules } from '@yard-brace/core';
import { Client } from './testing/client.js';
import { cratePiece } from './testing/sample-piece.js';
import { startTestServer } from './testing/test-server.js';

describe('the rules of a yard', () => {
  let server: Awaited<ReturnType<typeof startTestServer>>;
  let client: Client;
  let yard: number;
  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
  });
  afterAll(() => server.close());
  beforeEach(async () => {
    yard = yardSchema.parse((await client.ask('POST', routes.yards, { name: 'Ruled' })).json).id;
  });

  const rules = async () =>
    yardRulesStateSchema.parse((await client.ask('GET', routes.yardRules(yard))).json);
  const put = (version: number, change: Partial<YardRules>) =>
    client.ask('PUT', routes.yardRules(yard), { version, rules: { ...FIRST_RULES, ...change } });
  const addCrate = async () => {
    const { history, blobs } = cratePiece('Crate');
    await client.store(blobs);
    const { json } = await client.ask('POST', routes.yardPieces(yard), { history });
    return json['id'] as number;
  };

  it('begin as all do, and are saved over the version they were made from', async () => {
    expect(await rules()).toEqual({ version: 1, rules: FIRST_RULES, canUndo: false });
    expect((await put(1, { gridMetres: 2 })).status).toBe(200);
    expect(await rules()).toEqual({ version: 2, rules: { ...FIRST_RULES, gridMetres: 2 }, canUndo: true });
    const late = await put(1, { gridMetres: 8 });
    expect([late.status, late.json['code'], late.json['version']]).toEqual([409, 'conflict', 2]);
    expect((await rules()).rules.gridMetres).toBe(2);
  });

  it('that ten people save at once are those of one of them', async () => {
    const answers = await Promise.all(Array.from({ length: 10 }, (_, i) => put(1, { gridMetres: i + 1 })));
    expect(answers.filter(({ status }) => status === 200).length).toBe(1);
    expect(answers.filter(({ status }) => status === 409).length).toBe(9);
  });

  it('are undone step by step, to the first of them and no further', async () => {
    await put(1, { gridMetres: 2 });
    await put(2, { gridMetres: 3 });
    const undo = async (version: number) => client.ask('POST', routes.yardRulesUndone(yard), { version });
    const grids: unknown[] = [];
    for (let version = 3; version < 5; version++)
      grids.push(yardRulesStateSchema.parse((await undo(version)).json).rules.gridMetres);
    expect(grids).toEqual([2, 4]);
    expect(await rules()).toEqual({ version: 5, rules: FIRST_RULES, canUndo: false });
    const none = await undo(5);
    expect([none.status, none.json['message']]).toEqual([422, jasmine.stringContaining('nothing to undo')]);
  });

  it('that are wrong are refused with the place and a sentence', async () => {
    const answers = [
      await put(1, { gridMetres: -1 }),
      await put(1, { targets: ['nowhere'] }),
      await put(1, {
        profiles: [{ ...SUFFIX_TAGS, id: 'mine', kinds: { ...SUFFIX_TAGS.kinds, nearest: {} } }],
      }),
    ];
    expect(answers.map(({ status }) => status)).toEqual([400, 400, 400]);
    const says = answers.map(({ json }) => String(json['message']));
    expect(says[0]).toContain('gridMetres');
    expect(says[1]).toContain('There is no profile “nowhere”');
    expect(says[2]).toContain('ends nowhere');
    expect((await rules()).version).toBe(1);
  });

  it('say what they would do to the pieces, and do it when they are saved', async () => {
    const id = await addCrate();
    const tight = { budgets: [{ upToMetres: 1000, shapes: 1, corners: 4 }] };
    const tried = rulesEffectSchema.parse(
      (await client.ask('POST', routes.yardRulesTried(yard), { rules: { ...FIRST_RULES, ...tight } })).json,
    );
    const before = yardWithPiecesSchema.parse((await client.ask('GET', routes.yard(yard))).json).shelf[0]!;
    await put(1, tight);
    const after = yardWithPiecesSchema.parse((await client.ask('GET', routes.yard(yard))).json).shelf[0]!;
    expect(tried.pieces).toEqual(
      JSON.stringify(before.ownTally) === JSON.stringify(after.ownTally)
        ? []
        : [{ id, name: 'Crate', before: before.ownTally, after: after.ownTally }],
    );
    const opened = pieceSchema.parse((await client.ask('GET', routes.piece(id))).json);
    expect([opened.yard.rulesVersion, opened.yard.rules.budgets]).toEqual([2, tight.budgets]);
  });

  it('decide for which targets a piece can leave; the profile goes with the delivery', async () => {
    const id = await addCrate();
    const own = { ...SUFFIX_TAGS, id: 'ours', name: 'ours' };
    const targets = [...PROFILES.map((profile) => profile.id), 'ours'];
    await put(1, { targets, profiles: [own] });
    for (const target of targets) {
      const { json } = await client.ask('POST', routes.pieceDeliveries(id), { version: 1, target });
      const delivery = deliverySchema.parse(json);
      expect([delivery.target, delivery.profile?.id, delivery.agreed])
        .withContext(JSON.stringify(delivery.comparison.filter((point) => !point.agrees)))
        .toEqual([target, target, true]);
    }
    const none = await client.ask('POST', routes.pieceDeliveries(id), { version: 1, target: 'nowhere' });
    expect([none.status, none.json['message']]).toEqual([
      422,
      jasmine.stringContaining('no target “nowhere”'),
    ]);
  });
});
