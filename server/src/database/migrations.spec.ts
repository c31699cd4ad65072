import { readFileSync } from 'node:fs';
import {
  deliveryListSchema,
  jobReportSchema,
  jobSchema,
  pieceSchema,
  routes,
  savedSchema,
  setOutListSchema,
  yardListSchema,
} from '@yard-brace/contract';
import {
  currentDocument,
  emptySetOut,
  MAX_PROXIES,
  pushEdit,
  type SetFacts,
  stepsBetween,
} from '@yard-brace/core';
import { DataSource } from 'typeorm';
import { Client } from '../testing/client.js';
import { cratePiece } from '../testing/sample-piece.js';
import { startTestServer } from '../testing/test-server.js';
import { ImportJobs1765200000000 } from './migrations/12-import-jobs.js';
import { FirstHouse1764000000000 } from './migrations/1-first-house.js';
import { Agents1764100000000 } from './migrations/2-agents.js';
import { ShelfFacts1764200000000 } from './migrations/3-shelf-facts.js';

const AGENTS =
  '[{"id":"docker","name":"docker","radius":0.3,"height":1.8,"step":0.3,"slopeDegrees":40,"detail":0.03}]';

/** The database of the tests, emptied and brought to where it stood before the fourth migration. */
async function databaseOfBefore(): Promise<DataSource> {
  const source = await new DataSource({
    type: 'mariadb',
    host: '127.0.0.1',
    port: Number(process.env['TEST_DATABASE_PORT']),
    username: 'yard',
    password: readFileSync(process.env['TEST_DATABASE_PASSWORD_FILE']!, 'utf8').trim(),
    database: 'yard_brace',
    charset: 'utf8mb4',
    timezone: 'Z',
    migrations: [FirstHouse1764000000000, Agents1764100000000, ShelfFacts1764200000000],
    extra: { connectionLimit: 1, jsonStrings: true },
  }).initialize();
  await source.query('SET FOREIGN_KEY_CHECKS = 0');
  for (const row of await source.query('SHOW TABLES'))
    await source.query(`DROP TABLE \`${String(Object.values(row)[0])}\``);
  await source.query('SET FOREIGN_KEY_CHECKS = 1');
  await source.runMigrations();
  return source;
}

/** As it was stored before edges were judged. */
function manyJudged(count: number): Omit<SetFacts, 'edges'> {
  const deviation = {
    mean: 0.0123456789,
    p95: 0.0234567891,
    max: 0.0345678912,
    at: [1.2345678, -2.3456789, 3.4567891] as [number, number, number],
  };
  return {
    key: 'd'.repeat(64),
    excess: deviation,
    uncovered: deviation,
    artVolume: 1,
    proxyVolume: 1,
    overfill: 0,
    underfill: 0,
    overlap: 0,
    corners: 8 * count,
    cost: count,
    shapes: Array.from({ length: count }, (_, i) => ({
      id: `s${i}`,
      excess: deviation,
      overfill: 0,
      away: 0,
    })),
    owners: [{ owner: null, shapes: count, excess: deviation, uncovered: deviation }],
    crossings: [],
    crossingCount: 0,
    bare: [],
    bareCount: 0,
    blocked: [],
  };
}

describe('a database of before', () => {
  const { history, blobs } = cratePiece('From before');
  const box = { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] };
  /** as edits were stored then */
  const edits = [
    { kind: 'set-pivot', anchor: 'numeric', position: [0.5, 0, 0.5] },
    { kind: 'resize', factor: 2, about: [0, 0, 0], what: 'twice as large' },
    {
      kind: 'set-proxies',
      proxies: [
        { id: 'a', shape: box },
        { id: 'b', shape: box },
      ],
    },
    { kind: 'remove-proxy', id: 'a' },
  ];

  it('is brought up to date with every revision, and goes on from there', async () => {
    const old = await databaseOfBefore();
    const now = new Date();
    const insert = async (table: string, row: Record<string, unknown>): Promise<number> => {
      const { insertId } = await old.query(
        `INSERT INTO ${table} (${Object.keys(row)
          .map((name) => `\`${name}\``)
          .join()}) VALUES (${Object.keys(row)
          .map(() => '?')
          .join()})`,
        Object.values(row),
      );
      return insertId;
    };
    const yard = await insert('yard', {
      name: 'Old yard',
      grid_metres: 4,
      target: 'prefix-tags',
      agents:
        '[{"id":"docker","name":"docker","radius":0.3,"height":1.8,"step":0.3,"slopeDegrees":40,"detail":0.03}]',
      changed_at: now,
    });
    await insert('yard', {
      name: 'Twice written',
      grid_metres: 4,
      target: 'prefix-tags',
      agents: JSON.stringify(AGENTS),
      changed_at: now,
    });
    const measured = { key: 'c'.repeat(64), artOutside: 0.01, proxyOutside: 0.02 };
    const piece = await insert('piece', {
      yard_id: yard,
      name: 'From before',
      version: 3,
      saved_at: now,
      measured: JSON.stringify(measured),
    });
    const base = await insert('history_base', {
      piece_id: piece,
      content: JSON.stringify(history.base),
      length: JSON.stringify(history.base).length,
    });
    const revision = { piece_id: piece, saved_at: now };
    // The first form: a whole history in one text.
    await insert('revision', {
      ...revision,
      version: 1,
      history: JSON.stringify({ base: history.base, edits: edits.slice(0, 1), cursor: 1 }),
    });
    await insert('revision', {
      ...revision,
      version: 2,
      base_id: base,
      edits: JSON.stringify(edits.slice(0, 2)),
      cursor: 2,
    });
    await insert('revision', {
      ...revision,
      version: 3,
      base_id: base,
      edits: JSON.stringify(edits),
      cursor: 4,
    });
    const bundle = await insert('`blob`', { sha256: 'e'.repeat(64), bytes: 3, created_at: now });
    await insert('delivery', {
      piece_id: piece,
      version: 2,
      target: 'prefix-tags',
      delivered_at: now,
      agreed: true,
      read_back: JSON.stringify({ target: 'prefix-tags', meshes: [], shapes: [], changed: [], ignored: [] }),
      comparison: '[]',
      bundle_id: bundle,
    });
    await old.destroy();

    const server = await startTestServer();
    try {
      const client = new Client(server);
      await client.store(blobs);
      await server.app.pieces.completeFacts();
      const yards = yardListSchema.parse((await client.ask('GET', routes.yards)).json);
      expect(
        yards.map(({ name, rules }) => [name, rules.agents[0]!.id, rules.targets, rules.gridMetres]),
      ).toEqual([
        ['Old yard', 'docker', ['prefix-tags'], 4],
        ['Twice written', 'docker', ['prefix-tags'], 4],
      ]);
      const opened = pieceSchema.parse((await client.ask('GET', routes.piece(piece))).json);
      const document = currentDocument(opened.history);
      expect(document.proxies.map(({ id }) => id)).toEqual(['b']);
      expect(document.pivot.position).toEqual([1, 0, 1]);
      expect(opened.measured).toEqual(measured);
      // A judged set of as many shapes as there can be has room.
      const judged = { ...measured, judged: manyJudged(MAX_PROXIES) };
      expect((await client.ask('PUT', routes.pieceMeasured(piece), { measured: judged })).status).toBe(200);
      // What was judged before edges were is read, with none.
      expect((await client.piece(piece)).measured).toEqual({
        ...measured,
        judged: { ...judged.judged, edges: [] },
      });
      // Before kept sets could leave, the one in use did.
      const { deliveries } = deliveryListSchema.parse(
        (await client.ask('GET', routes.pieceDeliveries(piece))).json,
      );
      expect(deliveries.map(({ version, choices, profile }) => [version, choices, profile])).toEqual([
        [2, {}, null],
      ]);
      // Edits that several revisions hold are one row.
      const [{ n }] = await server.source.query('SELECT COUNT(*) n FROM history_edit');
      expect(Number(n)).toBe(edits.length);
      const next = pushEdit(opened.history, { kind: 'rename-mesh', name: 'Later' });
      const saved = await client.ask('PUT', routes.piece(piece), {
        version: 3,
        steps: stepsBetween(opened.history, next),
      });
      expect(savedSchema.parse(saved.json).version).toBe(4);
      expect((await client.piece(piece)).history).toEqual(next);
      const back = await client.ask('POST', routes.pieceRestored(piece), { version: 4, from: 1 });
      expect(savedSchema.parse(back.json).version).toBe(5);
      expect(currentDocument((await client.piece(piece)).history).pivot.position).toEqual([0.5, 0, 0.5]);
      // A yard of before set-outs has none, and takes one in.
      const { yard } = await client.piece(piece);
      expect(setOutListSchema.parse((await client.ask('GET', routes.yardSetOuts(yard.id))).json)).toEqual([]);
      const laidOut = await client.ask('POST', routes.yardSetOuts(yard.id), { setOut: emptySetOut('Slip') });
      expect(laidOut.status).toBe(201);
    } finally {
      await server.close();
    }
  }, 30_000);

  it('keep the jobs of before there were imports, with what became of each piece', async () => {
    const before = await startTestServer();
    const client = new Client(before);
    const yard = await client.newYard('Jobs of before');
    const { id } = await client.addPiece(yard, 'Crate');
    const recipe = { format: 1, name: 'Clear', steps: [{ op: 'clear-shapes' }] };
    const begun = await client.ask('POST', routes.yardJobs(yard), { recipe, pieces: [id] });
    const report = async (asked: Client) =>
      jobReportSchema.parse((await asked.ask('GET', routes.job(jobSchema.parse(begun.json).id))).json);
    const then = await report(client);
    expect([then.job.kind, then.items[0]!.piece.id]).toEqual(['recipe', id]);
    // Back to how the tables were.
    const runner = before.source.createQueryRunner();
    await new ImportJobs1765200000000().down(runner);
    await runner.query("DELETE FROM migrations WHERE name = 'ImportJobs1765200000000'");
    await runner.release();
    await before.close();
    const now = await startTestServer();
    expect(await report(new Client(now))).toEqual(then);
    await now.close();
  });

  it('refuse data of a newer version with a sentence, and leave them as they are', async () => {
    const server = await startTestServer();
    const { source } = server;
    await source.query("INSERT INTO migrations (timestamp, name) VALUES (99, 'FromTheFuture99')");
    await expectAsync(startTestServer()).toBeRejectedWithError(/written by a newer version of Yard Brace/);
    await source.query("DELETE FROM migrations WHERE name = 'FromTheFuture99'");
    await server.close();
    await (await startTestServer()).close();
  });
});
