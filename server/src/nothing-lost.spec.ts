import { randomBytes } from 'node:crypto';
import { connect as connectSocket } from 'node:net';
import { pieceSchema, routes, savedSchema, versionsSchema, yardWithPiecesSchema } from '@yard-brace/contract';
import {
  currentDocument,
  type Edit,
  encodeMesh,
  type History,
  plainMesh,
  proxyKey,
  pushEdit,
  replaceProxies,
  stepsBetween,
} from '@yard-brace/core';
import { Client, eventually, renamed, sha } from './testing/client.js';
import { cratePiece, hullProxy } from './testing/sample-piece.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

describe('nothing is lost:', () => {
  let server: TestServer;
  let client: Client;
  let yardId: number;
  const shelf = async (yard = yardId) =>
    yardWithPiecesSchema.parse((await client.ask('GET', routes.yard(yard))).json).shelf;

  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
    yardId = await client.newYard();
  });
  afterAll(() => server.close());

  describe('what could not be opened again', () => {
    let history: History;
    beforeAll(async () => {
      const crate = cratePiece();
      await client.store(crate.blobs);
      history = crate.history;
    });
    const withBase = (change: Partial<History['base']>): History => ({
      ...history,
      base: { ...history.base, ...change },
    });
    const node = () => history.base.nodes[0]!;
    const grow: Edit = { kind: 'resize', factor: 1e200, about: [0, 0, 0] };
    const cases: [string, () => unknown, RegExp][] = [
      ['grown beyond all numbers', () => ({ ...history, edits: [grow, grow], cursor: 2 }), /no longer open/],
      ['redone into that', () => ({ ...history, edits: [grow, grow], cursor: 0 }), /no longer open/],
      [
        'a parent after its child',
        () =>
          withBase({
            nodes: [
              { ...node(), parent: 1 },
              { ...node(), id: 'n2' },
            ],
          }),
        /parent stands before/,
      ],
      ['two nodes of one id', () => withBase({ nodes: [node(), node()] }), /two parts have one id/],
      [
        'a mesh that is not listed',
        () => withBase({ nodes: [{ ...node(), mesh: 'f'.repeat(64) }] }),
        /not listed/,
      ],
      ['no part with faces', () => withBase({ nodes: [{ ...node(), mesh: null }] }), /no part with faces/],
      [
        'too many nodes',
        () => withBase({ nodes: Array.from({ length: 20_001 }, (_, i) => ({ ...node(), id: `n${i}` })) }),
        /larger than 20000/,
      ],
      [
        'half a character in a name',
        () => withBase({ nodes: [{ ...node(), name: 'crate \ud800' }] }),
        /half of a character/,
      ],
      ['a name that nobody sees', () => withBase({ name: '\u200b\u2060' }), /can be seen/],
      ['a name kept for a device', () => withBase({ name: 'con.obj' }), /device/],
      [
        'endless bounds',
        () => withBase({ whole: { ...history.base.whole, max: [1e308, 1e308, 1e308] } }),
        /larger than/,
      ],
    ];
    for (const [what, broken, words] of cases)
      it(`is refused with a sentence: ${what}`, async () => {
        const answer = await client.ask('POST', routes.yardPieces(yardId), { history: broken() });
        expect([answer.status, answer.json['message']]).toEqual([400, jasmine.stringMatching(words)]);
        expect(String(answer.json['message'])).not.toMatch(/Invalid input|expected/);
      });

    it('is refused when it is saved over a good state, which stays', async () => {
      const piece = await client.addPiece(yardId, 'Stays good');
      const next = { ...piece.history, edits: [grow, grow], cursor: 2 };
      const answer = await client.ask('PUT', routes.piece(piece.id), { version: 1, history: next });
      expect(answer.status).toBe(400);
      expect((await client.piece(piece.id)).history).toEqual(piece.history);
    });

    it('is refused when bytes that it names as meshes are none', async () => {
      const junk = new Uint8Array(randomBytes(64));
      await client.store(new Map([[sha(junk), junk]]));
      const facts = Object.values(history.base.meshes)[0]!;
      const named = withBase({ nodes: [{ ...node(), mesh: sha(junk) }], meshes: { [sha(junk)]: facts } });
      const answer = await client.ask('POST', routes.yardPieces(yardId), { history: named });
      expect([answer.status, answer.json['message']]).toEqual([400, jasmine.stringContaining('are no mesh')]);
      const mesh = encodeMesh(plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]));
      await client.store(new Map([[sha(mesh), mesh]]));
      const packed = withBase({
        meshes: { [node().mesh!]: { ...facts, facts: facts.facts, pack: sha(mesh) } },
      });
      const other = await client.ask('POST', routes.yardPieces(yardId), { history: packed });
      expect([other.status, other.json['message']]).toEqual([
        400,
        jasmine.stringContaining('do not hold the mesh'),
      ]);
    });
  });

  it('a piece that was stored damaged stands on the shelf as such, takes no other with it, and has older versions', async () => {
    const yard = await client.newYard('With a damaged one');
    const good = await client.addPiece(yard, 'Good');
    const bad = await client.addPiece(yard, 'Bad');
    await client.ask('PUT', routes.piece(bad.id), { version: 1, history: renamed(bad.history, 'Second') });
    // As an earlier version of the server let it in: what it starts from is damaged.
    const damaged = JSON.stringify({ ...bad.history.base, pivot: null });
    const { insertId } = await server.source.query(
      'INSERT INTO history_base (piece_id, content, length, hash) VALUES (?, ?, ?, SHA1(content))',
      [bad.id, damaged, damaged.length],
    );
    await server.source.query('UPDATE revision SET base_id = ? WHERE piece_id = ? AND version = 2', [
      insertId,
      bad.id,
    ]);
    await server.source.query('UPDATE piece SET facts = NULL WHERE id = ?', [bad.id]);
    await server.app.pieces.completeFacts();
    const [broken, fine] = await shelf(yard);
    expect([broken!.name, broken!.broken, broken!.tally.intake]).toEqual([
      'Bad',
      jasmine.stringMatching(/pivot/),
      'stopped',
    ]);
    expect([fine!.id, fine!.broken]).toEqual([good.id, null]);
    const opened = await client.ask('GET', routes.piece(bad.id));
    expect([opened.status, opened.json['code']]).toEqual([422, 'broken']);
    const versions = versionsSchema.parse((await client.ask('GET', routes.pieceVersions(bad.id))).json);
    expect(versions.map(({ version }) => version)).toEqual([2, 1]);
    const back = await client.ask('POST', routes.pieceRestored(bad.id), { version: 2, from: 1 });
    expect(savedSchema.parse(back.json).version).toBe(3);
    expect((await client.piece(bad.id)).history).toEqual(bad.history);
    expect((await shelf(yard)).every((piece) => piece.broken === null)).toBeTrue();
  });

  it('a save sends its steps only, and comes to the same state; steps that do not fit are refused', async () => {
    const piece = await client.addPiece(yardId, 'In steps');
    let now = piece.history;
    for (let version = 1; version <= 130; version++) {
      const next = renamed(now, `Name${version}`);
      const body = { version, steps: stepsBetween(now, next) };
      expect(JSON.stringify(body).length).toBeLessThan(300);
      expect((await client.ask('PUT', routes.piece(piece.id), body)).status).toBe(200);
      now = next;
    }
    // Past a hundred undo steps the oldest have become part of the base.
    expect(now.edits.length).toBe(100);
    expect((await client.piece(piece.id)).history).toEqual(now);
    const undone = { ...now, cursor: 90 };
    expect(
      (await client.ask('PUT', routes.piece(piece.id), { version: 131, steps: stepsBetween(now, undone) }))
        .status,
    ).toBe(200);
    expect(currentDocument((await client.piece(piece.id)).history)).toEqual(currentDocument(undone));
    const astray = { fold: 0, keep: 500, edits: [], cursor: 0 };
    const refused = await client.ask('PUT', routes.piece(piece.id), { version: 132, steps: astray });
    expect([refused.status, refused.json['message']]).toEqual([400, jasmine.stringContaining('do not fit')]);
    const bases = await server.source.query('SELECT COUNT(*) n FROM history_base WHERE piece_id = ?', [
      piece.id,
    ]);
    expect(Number(bases[0].n)).toBeLessThanOrEqual(20);
    // What no kept state names has gone; what they share is stored once.
    const edits = await server.source.query('SELECT COUNT(*) n FROM history_edit WHERE piece_id = ?', [
      piece.id,
    ]);
    expect(Number(edits[0].n)).toBeLessThanOrEqual(120);
  }, 30_000);

  it('moving one of 64 hulls sends and stores that one, with a hundred edits of all 64 behind it', async () => {
    const piece = await client.addPiece(yardId, 'Many hulls');
    const hulls = (step: number) => Array.from({ length: 64 }, (_, i) => hullProxy(`h${i}`, i + step / 1000));
    let now = piece.history;
    for (let step = 1; step <= 100; step++) now = pushEdit(now, replaceProxies(hulls(step)));
    const sent = await client.ask('PUT', routes.piece(piece.id), { version: 1, history: now });
    expect(sent.status).toBe(200);
    const stored = async () => {
      const rows = await server.source.query(
        'SELECT COALESCE(SUM(length), 0) n, COUNT(*) rows_ FROM history_edit WHERE piece_id = ?',
        [piece.id],
      );
      return Number(rows[0].n);
    };
    for (let version = 2; version <= 6; version++) {
      const before = await stored();
      const next = pushEdit(now, { kind: 'put-proxies', changed: [hullProxy('h7', version)], removed: [] });
      const body = JSON.stringify({ version, steps: stepsBetween(now, next) });
      expect(body.length).toBeLessThan(64_000);
      expect((await client.ask('PUT', routes.piece(piece.id), body)).status).toBe(200);
      expect((await stored()) - before).toBeLessThan(8_000);
      now = next;
    }
    expect(currentDocument((await client.piece(piece.id)).history)).toEqual(currentDocument(now));
  }, 30_000);

  it('sixteen clients that add to one yard at once are all answered 201, and one that removes it at last 204', async () => {
    const yard = await client.newYard('Crowded');
    const { blobs } = cratePiece('Any');
    await client.store(blobs);
    const each = Array.from({ length: 160 }, (_, i) => cratePiece(`Crate ${i}`));
    for (const { blobs: own } of each) await client.store(own);
    const statuses: number[] = [];
    await Promise.all(
      Array.from({ length: 16 }, async (_, worker) => {
        for (let i = worker; i < each.length; i += 16)
          statuses.push(
            (await client.ask('POST', routes.yardPieces(yard), { history: each[i]!.history })).status,
          );
      }),
    );
    expect([statuses.length, new Set(statuses)]).toEqual([160, new Set([201])]);
    const pieces = await shelf(yard);
    const { pieces: count } = yardWithPiecesSchema.parse((await client.ask('GET', routes.yard(yard))).json);
    expect(count).toBe(160);
    const saves = pieces.slice(0, 40).map(async ({ id }) => {
      const { history } = await client.piece(id).catch(() => ({ history: null }));
      if (!history) return 404;
      return (await client.ask('PUT', routes.piece(id), { version: 1, history: renamed(history, 'Beside') }))
        .status;
    });
    const removed = client.ask('DELETE', routes.yard(yard));
    for (const status of await Promise.all(saves))
      expect([200, 404])
        .withContext(String(server.errors.at(-1)))
        .toContain(status);
    expect((await removed).status).toBe(204);
    expect((await client.ask('GET', routes.yard(yard))).status).toBe(404);
  }, 60_000);

  it('pieces taken out of one come all or not at all, with the removal or without', async () => {
    const whole = await client.addPiece(yardId, 'Two in one');
    const pieces = ['First half', 'Second half'].map((name) => ({
      history: { ...whole.history, base: { ...whole.history.base, name, meshName: name.replace(' ', '') } },
    }));
    const before = (await shelf()).length;
    const broken = [...pieces, { history: { ...whole.history, cursor: 7 } }];
    expect(
      (await client.ask('POST', routes.pieceApart(whole.id), { version: 1, pieces: broken, remove: true }))
        .status,
    ).toBe(400);
    expect((await shelf()).length).toBe(before);
    expect(
      (await client.ask('POST', routes.pieceApart(whole.id), { version: 9, pieces, remove: true })).status,
    ).toBe(409);
    expect((await shelf()).length).toBe(before);
    expect(
      (await client.ask('POST', routes.pieceApart(whole.id), { version: 1, pieces, remove: true })).status,
    ).toBe(201);
    const names = (await shelf()).map(({ name }) => name);
    expect([names.includes('First half'), names.includes('Two in one')]).toEqual([true, false]);
  });

  it('what was measured makes the proxies clear, until art or shapes change', async () => {
    const piece = await client.addPiece(yardId, 'Measured');
    const tally = async () => (await shelf()).find(({ id }) => id === piece.id)!.tally.proxies;
    expect(await tally()).toBe('look');
    const measured = { key: proxyKey(currentDocument(piece.history)), artOutside: 0.001, proxyOutside: 0.03 };
    await client.ask('PUT', routes.pieceMeasured(piece.id), { measured });
    expect(await tally()).toBe('clear');
    await client.ask('PUT', routes.pieceMeasured(piece.id), { measured: { ...measured, proxyOutside: 0.3 } });
    expect(await tally()).toBe('look');
    await client.ask('PUT', routes.pieceMeasured(piece.id), { measured });
    const grown = pushEdit(piece.history, { kind: 'resize', factor: 2, about: [0, 0, 0] });
    await client.ask('PUT', routes.piece(piece.id), { version: 1, history: grown });
    expect(await tally()).toBe('look');
  });

  describe('what is refused while it is read is answered as that:', () => {
    it('13 MB of JSON are read, 40 MB are too many, sent with their length or in chunks', async () => {
      const long = (bytes: number) => `{"name":"${'x'.repeat(bytes)}"}`;
      const answer = await client.ask('POST', routes.yardPieces(yardId), long(13e6));
      expect([answer.status, answer.json['code']]).toEqual([400, 'bad-request']);
      const told = await client.ask('POST', routes.yardPieces(yardId), long(40e6));
      expect([told.status, told.json['message']]).toEqual([
        413,
        jasmine.stringContaining('larger than 32 MB'),
      ]);
      const chunked = await fetch(server.address + routes.yardPieces(yardId), {
        method: 'POST',
        body: new ReadableStream({
          async start(controller) {
            for (let i = 0; i < 40; i++) controller.enqueue(new Uint8Array(1e6));
            controller.close();
          },
        }),
        duplex: 'half',
      } as RequestInit);
      expect([chunked.status, ((await chunked.json()) as { code: string }).code]).toEqual([413, 'too-large']);
    });

    it('a request without a piece has 1 MB, and says so when it has more or is no JSON', async () => {
      const told = async (body: string) => {
        const { status, json } = await client.ask('POST', routes.yards, body);
        return [status, json['message']];
      };
      expect(await told(`{"name":"${'x'.repeat(2 ** 20)}"}`)).toEqual([
        413,
        'The request is larger than 1 MB; send less.',
      ]);
      expect(await told('{"name":')).toEqual([400, 'The request is no JSON; send it again.']);
      expect(await told('null')).toEqual([400, jasmine.stringContaining('an object')]);
    });

    it('JSON that nests without end holds nobody up', async () => {
      const nested = `{"name":${'['.repeat(5e6)}${']'.repeat(5e6)}}`;
      const answer = await client.ask('POST', routes.yardPieces(yardId), nested);
      expect([answer.status, answer.json['message']]).toEqual([
        400,
        jasmine.stringContaining('nests deeper'),
      ]);
    });

    it('bytes that are no UTF-8, wrong bytes under a stored name', async () => {
      const bad = new Uint8Array([0x7b, 0x22, 0xff, 0xfe, 0x22, 0x7d]);
      expect((await client.ask('POST', routes.yardPieces(yardId), bad)).json['message']).toContain(
        'no UTF-8',
      );
      const bytes = new Uint8Array(randomBytes(1000));
      await client.store(new Map([[sha(bytes), bytes]]));
      const wrong = await client.ask('PUT', routes.blob(sha(bytes)), new Uint8Array(randomBytes(1000)));
      expect([wrong.status, wrong.json['code']]).toEqual([400, 'bad-request']);
    });

    it('a database that goes away in the middle of an upload is 503, not 404', async () => {
      const bytes = new Uint8Array(randomBytes(4_000_000));
      const query = server.source.query.bind(server.source);
      let chunks = 0;
      spyOn(server.source, 'query').and.callFake(((sql: string, ...rest: never[]) => {
        if (/INSERT INTO blob_chunk/.test(sql) && ++chunks === 3)
          return Promise.reject(Object.assign(new Error('gone'), { code: 'PROTOCOL_CONNECTION_LOST' }));
        return query(sql, ...rest);
      }) as typeof query);
      const answer = await client.ask('PUT', routes.blob(sha(bytes)), bytes);
      expect([answer.status, answer.json['code']]).toEqual([503, 'unavailable']);
    });

    it('an upload that a client broke off leaves no error in the log', async () => {
      const before = server.errors.length;
      await new Promise<void>((resolve) => {
        const socket = connectSocket(server.port, '127.0.0.1', () => {
          socket.write(
            `PUT ${routes.blob('e'.repeat(64))} HTTP/1.1\r\nHost: 127.0.0.1:${server.port}\r\nContent-Length: 9000000\r\n\r\n`,
          );
          socket.write(randomBytes(2_000_000), () => setTimeout(() => resolve(void socket.destroy()), 100));
        });
        socket.on('error', () => undefined);
      });
      const left = async () =>
        Number((await server.source.query('SELECT COUNT(*) n FROM `blob` WHERE sha256 IS NULL'))[0].n);
      await eventually(left, 0);
      expect(server.errors.slice(before)).toEqual([]);
    });
  });

  it('a full disk is said before anything is written, reading goes on, and it comes back by itself', async () => {
    let free = 12 * 2 ** 20;
    const full = await startTestServer({ folder: 'the data folder', freeBytes: async () => free });
    const other = new Client(full);
    try {
      const refused = await other.ask('POST', routes.yards, { name: 'No room' });
      expect([refused.status, refused.json['message']]).toEqual([
        507,
        'The disk is full: 12 MB left in the data folder. Make room there; nothing is lost meanwhile.',
      ]);
      const bytes = new Uint8Array(randomBytes(100));
      expect((await other.ask('PUT', routes.blob(sha(bytes)), bytes)).status).toBe(507);
      const { id } = (await shelf())[0]!;
      const { version, history } = pieceSchema.parse((await other.ask('GET', routes.piece(id))).json);
      expect((await other.ask('PUT', routes.piece(id), { version, history })).status).toBe(507);
      free = 10 ** 9;
      await new Promise((resolve) => setTimeout(resolve, 600));
      expect((await other.ask('PUT', routes.piece(id), { version, history })).status).toBe(200);
    } finally {
      await full.close();
    }
  });

  it('a sweep takes only uploads that nobody has touched for an hour, by one process at a time', async () => {
    const row = async (hours: number) =>
      (
        await server.source.query('INSERT INTO `blob` (sha256, bytes, created_at) VALUES (NULL, 0, ?)', [
          new Date(Date.now() - hours * 3600e3),
        ])
      ).insertId as number;
    const [running, left] = [await row(0.5), await row(2)];
    const there = async (id: number) =>
      (await server.source.query('SELECT 1 FROM `blob` WHERE id = ?', [id])).length;
    const runner = server.source.createQueryRunner();
    await runner.query("SELECT GET_LOCK('yard-brace-sweep', 0)");
    await server.app.blobs.sweep();
    expect(await there(left)).toBe(1);
    await runner.query("DO RELEASE_LOCK('yard-brace-sweep')");
    await runner.release();
    await server.app.blobs.sweep();
    expect([await there(running), await there(left)]).toEqual([1, 0]);
    await server.source.query('DELETE FROM `blob` WHERE id = ?', [running]);
  });
});
