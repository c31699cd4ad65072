import {
  deliveryBookSchema,
  jointDeliveriesSchema,
  openSetOutSchema,
  routes,
  setOutEntrySchema,
  setOutListSchema,
} from '@yard-brace/contract';
import {
  currentSetOut,
  emptySetOut,
  MAX_UNDO_STEPS,
  placedAt,
  type Placement,
  pushSetOutEdit,
  type SetOutHistory,
  stepsBetween,
  undo,
} from '@yard-brace/core';
import { Client, renamed } from './testing/client.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

const placed = (id: string, x: number): Placement => ({
  id,
  piece: 1,
  version: null,
  ...placedAt([x, 0, 0]),
  group: null,
  locked: false,
  materials: {},
});

const moved = (history: SetOutHistory, id: string, x: number): SetOutHistory =>
  pushSetOutEdit(history, { kind: 'put-placements', act: 'move', changed: [placed(id, x)], removed: [] });

describe('set-outs on the server', () => {
  let server: TestServer;
  let client: Client;
  let yardId: number;

  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
    yardId = await client.newYard('Set-outs');
  });
  afterAll(() => server.close());

  const add = async (name = 'Slip', placements: Placement[] = []) => {
    const { json } = await client.ask('POST', routes.yardSetOuts(yardId), {
      setOut: { ...emptySetOut(name), placements },
    });
    return setOutEntrySchema.parse(json).id;
  };
  const open = async (id: number) =>
    openSetOutSchema.parse((await client.ask('GET', routes.setOut(id))).json);
  const save = (id: number, version: number, stored: SetOutHistory, now: SetOutHistory) =>
    client.ask('PUT', routes.setOut(id), { version, steps: stepsBetween(stored, now) });

  it('are listed with their yard, opened, and go with it', async () => {
    const id = await add('West slip', [placed('p1', 1), placed('p2', 4)]);
    const list = setOutListSchema.parse((await client.ask('GET', routes.yardSetOuts(yardId))).json);
    expect(list.find((each) => each.id === id)).toEqual(
      jasmine.objectContaining({ name: 'West slip', version: 1, placements: 2 }),
    );
    const opened = await open(id);
    expect(opened.yard.id).toBe(yardId);
    expect(currentSetOut(opened.history).placements.map((each) => each.id)).toEqual(['p1', 'p2']);
    expect((await client.ask('DELETE', routes.setOut(id))).status).toBe(204);
    expect((await client.ask('GET', routes.setOut(id))).status).toBe(404);
    const other = await client.newYard('Goes again');
    const { json } = await client.ask('POST', routes.yardSetOuts(other), { setOut: emptySetOut('Gone') });
    await client.ask('DELETE', routes.yard(other));
    expect((await client.ask('GET', routes.setOut(Number(json['id'])))).status).toBe(404);
  });

  it('are saved by their steps, undone and done again after they were loaded anew', async () => {
    const id = await add('Slip', [placed('p1', 0)]);
    const before = (await open(id)).history;
    const after = moved(moved(before, 'p1', 2), 'p2', 9);
    expect((await save(id, 1, before, after)).json['version']).toBe(2);
    const again = (await open(id)).history;
    expect(again).toEqual(after);
    const back = undo(again);
    expect((await save(id, 2, again, back)).status).toBe(200);
    const undone = (await open(id)).history;
    expect(currentSetOut(undone).placements.map(({ position }) => position[0])).toEqual([2]);
    // What was undone can come back, and goes when something else is done.
    expect(undone.edits.length).toBe(2);
    const other = moved(undone, 'p3', 5);
    await save(id, 3, undone, other);
    expect((await open(id)).history).toEqual(other);
  });

  it('are saved whole where nobody can tell the steps: a change that an earlier window could not save', async () => {
    const id = await add('Slip', [placed('p1', 0)]);
    const before = (await open(id)).history;
    await save(id, 1, before, moved(before, 'p1', 4));
    const own = moved(moved(before, 'p2', 2), 'p3', 3);
    expect((await client.ask('PUT', routes.setOut(id), { version: 2, history: own })).status).toBe(200);
    expect((await open(id)).history).toEqual(own);
    const next = moved(own, 'p4', 4);
    expect((await save(id, 3, own, next)).status).toBe(200);
    expect((await open(id)).history).toEqual(next);
  });

  it('write only what is new, and fold the eldest steps into what they began with', async () => {
    const id = await add();
    let stored = (await open(id)).history;
    let version = 1;
    for (let i = 0; i < MAX_UNDO_STEPS + 7; i++) {
      const now = moved(stored, `p${i % 5}`, i);
      expect((await save(id, version, stored, now)).status).toBe(200);
      version++;
      stored = now;
    }
    const opened = (await open(id)).history;
    expect(opened.edits.length).toBe(MAX_UNDO_STEPS);
    expect(currentSetOut(opened)).toEqual(currentSetOut(stored));
    expect(opened.base).toEqual(stored.base);
  });

  it('against an old version are told so, and nothing is lost', async () => {
    const id = await add();
    const before = (await open(id)).history;
    const first = moved(before, 'p1', 1);
    await save(id, 1, before, first);
    const second = await save(id, 1, before, moved(before, 'p1', 2));
    expect([second.status, second.json['code'], second.json['version']]).toEqual([409, 'conflict', 2]);
    expect((await open(id)).history).toEqual(first);
    const answers = await Promise.all([3, 4, 5, 6].map((x) => save(id, 2, first, moved(first, 'p1', x))));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409]);
  });

  it('that could not be opened again are refused with one sentence, and what is stored stays', async () => {
    const id = await add('Slip', [placed('p1', 0)]);
    const put = (steps: unknown) => client.ask('PUT', routes.setOut(id), { version: 1, steps });
    expect((await put({ fold: 0, keep: 3, edits: [], cursor: 0 })).json['message']).toContain('do not fit');
    const far = { ...placed('p1', 0), position: [0, 'up', 0] };
    const edit = { kind: 'put-placements', act: 'move', changed: [far], removed: [] };
    expect((await put({ fold: 0, keep: 0, edits: [edit], cursor: 1 })).status).toBe(400);
    const crowd = Array.from({ length: 20_001 }, (_, i) => placed(`q${i}`, i));
    const many = { kind: 'put-placements', act: 'place', changed: crowd, removed: [] };
    expect((await put({ fold: 0, keep: 0, edits: [many], cursor: 1 })).status).toBe(400);
    expect((await open(id)).version).toBe(1);
    const twice = { ...emptySetOut('Twice'), placements: [placed('p1', 0), placed('p1', 1)] };
    expect((await client.ask('POST', routes.yardSetOuts(yardId), { setOut: twice })).status).toBe(400);
    expect(server.errors).toEqual([]);
  });

  describe('that leave', () => {
    const deliver = (id: number, version: number, form: string, name = 'WestSlip') =>
      client.ask('POST', routes.setOutDeliveries(id), {
        version,
        target: 'prefix-tags',
        form,
        name,
      });
    const at = (id: string, piece: number, x: number, more: Partial<Placement> = {}): Placement => ({
      ...placed(id, x),
      piece,
      ...more,
    });

    it('go as one file, a file a piece with a list, or a file a group, and are read back', async () => {
      const [crate, other] = [await client.addPiece(yardId, 'Crate'), await client.addPiece(yardId, 'Chest')];
      const id = await add('West', [
        at('p1', crate.id, 0, { group: 'g1' }),
        at('p2', crate.id, 2, { mirrored: true, group: 'g1' }),
        at('p3', other.id, 4),
      ]);
      const names: Record<string, string[]> = {};
      for (const form of ['one-file', 'file-a-piece', 'grouped']) {
        const answer = await deliver(id, 1, form, `West_${form.replaceAll('-', '_')}`);
        expect([form, answer.status, answer.json['message']]).toEqual([form, 201, undefined]);
        const deliveries = jointDeliveriesSchema.parse(answer.json);
        expect(deliveries.map(({ piece }) => piece.id)).toEqual([crate.id, other.id]);
        expect(deliveries.every(({ agreed }) => agreed)).toBeTrue();
        names[form] = deliveries[0]!.files.map((file) => file.name).sort();
      }
      const papers = (mesh: string) => [`${mesh}.import.md`, `${mesh}.manifest.json`];
      expect(names['one-file']!.filter((name) => !name.startsWith('West'))).toEqual(
        [...papers('Chest'), ...papers('Crate')].sort(),
      );
      expect(names['one-file']).toContain('West_one_file.placements.json');
      expect(names['file-a-piece']!.some((name) => /^Chest\.(?!import|manifest)/.test(name))).toBeTrue();
      expect(names['file-a-piece']).toContain('West_file_a_piece.instances.glb');
      expect(names['grouped']!.some((name) => name.startsWith('West_grouped_g1.'))).toBeTrue();
      const book = deliveryBookSchema.parse((await client.ask('GET', routes.yardDeliveries(yardId))).json);
      expect(book.entries.length).toBe(6);
    });

    it('leave out what was removed, and say so when nothing is left or it was saved elsewhere', async () => {
      const [crate, gone] = [await client.addPiece(yardId, 'Box'), await client.addPiece(yardId, 'Gone')];
      const id = await add('Half', [at('p1', crate.id, 0), at('p2', gone.id, 2)]);
      await client.ask('DELETE', routes.piece(gone.id));
      const deliveries = jointDeliveriesSchema.parse((await deliver(id, 1, 'one-file')).json);
      expect(deliveries.map(({ piece }) => piece.id)).toEqual([crate.id]);
      expect((await deliver(id, 7, 'one-file')).json['code']).toBe('conflict');
      await client.ask('DELETE', routes.piece(crate.id));
      const none = await deliver(id, 1, 'one-file');
      expect([none.status, none.json['message']]).toEqual([
        422,
        'Nothing of the set-out is in the yard any more; place pieces first.',
      ]);
      expect((await open(id)).version).toBe(1);
    });

    it('hold a kept version where one stands', async () => {
      const crate = await client.addPiece(yardId, 'Versioned');
      await client.ask('PUT', routes.piece(crate.id), {
        version: 1,
        history: renamed(crate.history, 'Later'),
      });
      const id = await add('Both', [at('p1', crate.id, 0, { version: 1 }), at('p2', crate.id, 3)]);
      const deliveries = jointDeliveriesSchema.parse((await deliver(id, 1, 'file-a-piece')).json);
      expect(deliveries.map(({ version }) => version)).toEqual([1, 2]);
      const files = deliveries[0]!.files.map((file) => file.name);
      expect(files).toContain('Versioned.manifest.json');
      expect(files).toContain('Later.manifest.json');
    });
  });
});
