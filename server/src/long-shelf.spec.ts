import {
  binSchema,
  FIRST_SHELF_PIECES,
  routes,
  shelfChangesSchema,
  shelfPageSchema,
  yardListSchema,
  yardWithPiecesSchema,
} from '@yard-brace/contract';
import { Client, renamed } from './testing/client.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

describe('a long shelf', () => {
  let server: TestServer;
  let client: Client;
  let yard: number;
  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
  });
  afterAll(() => server.close());
  beforeEach(async () => {
    yard = await client.newYard('Long');
  });
  const add = async (name: string) => (await client.addPiece(yard, name)).id;
  const shelf = async () => yardWithPiecesSchema.parse((await client.ask('GET', routes.yard(yard))).json);
  const since = async (change: number) =>
    shelfChangesSchema.parse((await client.ask('GET', routes.shelfSince(yard, change))).json);
  /** Copies of a piece, straight in the database: a thousand are not sent one by one. */
  const copies = async (of: number, count: number) => {
    const { source } = server;
    await source.query(
      `INSERT INTO piece (yard_id, name, version, saved_at, facts)
        SELECT yard_id, CONCAT('Copy ', LPAD(seq, 5, '0')), 1, saved_at, facts FROM piece, seq_1_to_${count} WHERE id = ?`,
      [of],
    );
  };

  it('is had page by page, each piece once, the first page with how many are left', async () => {
    await copies(await add('Crate'), 1000);
    const first = await shelf();
    expect([first.pieces, first.shelf.length, first.more]).toEqual([
      1001,
      FIRST_SHELF_PIECES,
      1001 - FIRST_SHELF_PIECES,
    ]);
    const all = [...first.shelf];
    for (;;) {
      const { pieces } = shelfPageSchema.parse(
        (await client.ask('GET', routes.shelfAfter(yard, all.at(-1)!))).json,
      );
      if (!pieces.length) break;
      all.push(...pieces);
    }
    expect(new Set(all.map(({ id }) => id)).size).toBe(1001);
    expect(all.map(({ name }) => name)).toEqual(all.map(({ name }) => name).sort());
  });

  it('tells what has changed since: saved, measured, added, removed and put back', async () => {
    const [a, b, c] = [await add('A'), await add('B'), await add('C')];
    const { changed } = await shelf();
    // Some that are told again are no fault: changes may come out of their order.
    const anew = (told: Awaited<ReturnType<typeof since>>, before: number) =>
      server.source
        .query('SELECT id FROM piece WHERE yard_id = ? AND changed > ?', [yard, before])
        .then((rows: { id: number }[]) =>
          told.pieces.map(({ id }) => id).filter((id) => rows.some((row) => row.id === id)),
        );
    const { version, history } = await client.piece(a!);
    await client.ask('PUT', routes.piece(a!), { version, history: renamed(history, 'Renamed') });
    const d = await add('D');
    const told = await since(changed);
    expect((await anew(told, changed)).sort()).toEqual([a!, d].sort());
    expect(told.pieces.find(({ id }) => id === a)?.meshName).toBe('Renamed');
    expect(told.yard.pieces).toBe(4);
    await client.ask('DELETE', routes.piece(b!));
    const after = await since(told.changed);
    expect([after.gone, after.yard.pieces]).toEqual([[b!], 3]);
    await client.ask('POST', routes.piecePutBack(b!));
    expect(await anew(await since(after.changed), after.changed)).toEqual([b!]);
    expect(c).toBeGreaterThan(0);
    expect((await since(after.changed)).changed).toBeGreaterThan(after.changed);
  });

  it('names other pieces of the same mesh name only, and the eldest of a family, by an index', async () => {
    const a = await add('Crate');
    await add('Crate');
    await copies(a, 50);
    expect((await client.piece(a)).otherMeshNames).toEqual(['Crate']);
    await server.source.query('ANALYZE TABLE piece');
    const [plan] = await server.source.query(
      'EXPLAIN SELECT DISTINCT mesh_name FROM piece WHERE yard_id = ? AND mesh_name = ? AND id <> 1 AND removed_at IS NULL',
      [yard, 'Nobody'],
    );
    expect(plan.key).toBe('piece_by_mesh_name');
  });
});

describe('the bin', () => {
  let server: TestServer;
  let client: Client;
  let yard: number;
  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
  });
  afterAll(() => server.close());
  beforeEach(async () => {
    yard = await client.newYard('Binned');
  });
  const bin = async () => binSchema.parse((await client.ask('GET', routes.yardBin(yard))).json);
  const count = async () =>
    yardWithPiecesSchema.parse((await client.ask('GET', routes.yard(yard))).json).shelf.length;

  it('keeps a removed piece with its versions and deliveries, and gives it back as it was', async () => {
    const piece = await client.addPiece(yard, 'Crate');
    await client.ask('POST', routes.pieceDeliveries(piece.id), { version: 1, target: 'prefix-tags' });
    expect((await client.ask('DELETE', routes.piece(piece.id))).status).toBe(204);
    expect((await client.ask('GET', routes.piece(piece.id))).status).toBe(404);
    expect((await client.ask('DELETE', routes.piece(piece.id))).status).toBe(404);
    expect([await count(), (await bin()).map(({ name }) => name)]).toEqual([0, ['Crate']]);
    expect((await client.ask('POST', routes.piecePutBack(piece.id))).status).toBe(204);
    const back = await client.piece(piece.id);
    expect([back.history, back.lastDeliveries.length, await count(), await bin()]).toEqual([
      piece.history,
      1,
      1,
      [],
    ]);
  });

  it('keeps a removed yard with all that is in it', async () => {
    const piece = await client.addPiece(yard);
    await client.ask('DELETE', routes.yard(yard));
    const yards = async () =>
      yardListSchema.parse((await client.ask('GET', routes.yards)).json).map(({ id }) => id);
    expect(await yards()).not.toContain(yard);
    expect((await client.ask('GET', routes.piece(piece.id))).status).toBe(404);
    const binned = binSchema.parse((await client.ask('GET', routes.bin)).json);
    expect(binned.map(({ id }) => id)).toContain(yard);
    await client.ask('POST', routes.yardPutBack(yard));
    expect(await yards()).toContain(yard);
    expect((await client.piece(piece.id)).version).toBe(1);
  });

  it('is emptied of what has lain in it for thirty days, and its bytes a day later', async () => {
    const piece = await client.addPiece(yard, 'Forgotten');
    const stored = async (table: string, column: string, value: unknown) =>
      Number(
        (await server.source.query(`SELECT COUNT(*) n FROM ${table} WHERE ${column} = ?`, [value]))[0].n,
      );
    const blob = piece.history.base.source.files[0]!.blob;
    await client.ask('DELETE', routes.piece(piece.id));
    const days = (n: number) => new Date(Date.now() + n * 86_400_000);
    await server.app.blobs.sweep(days(29));
    expect([await stored('piece', 'id', piece.id), await stored('`blob`', 'sha256', blob)]).toEqual([1, 1]);
    await server.app.blobs.sweep(days(31));
    expect(await stored('piece', 'id', piece.id)).toBe(0);
    expect((await client.ask('POST', routes.piecePutBack(piece.id))).status).toBe(404);
    expect(await stored('`blob`', 'sha256', blob)).toBe(0);
  });
});
