import { Readable } from 'node:stream';
import {
  deliveryListSchema,
  importedYardsSchema,
  openSetOutSchema,
  piecesArchive,
  routes,
  setOutListSchema,
  yardRulesStateSchema,
  yardWithPiecesSchema,
} from '@yard-brace/contract';
import { emptySetOut, FIRST_RULES, type Placement } from '@yard-brace/core';
import { extract, pack } from 'tar-stream';
import { Client, renamed } from './testing/client.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

type Entries = [name: string, content: Buffer][];

const placement = (piece: number): Placement => ({
  id: 'p1',
  piece,
  version: null,
  position: [1, 0, 2],
  rotation: [0, 0, 0, 1],
  mirrored: false,
  locked: false,
  group: null,
  materials: {},
});

async function entriesOf(archive: Buffer): Promise<Entries> {
  const entries: Entries = [];
  const reader = extract();
  Readable.from([archive]).pipe(reader);
  for await (const entry of reader) {
    const chunks: Buffer[] = [];
    for await (const chunk of entry as AsyncIterable<Buffer>) chunks.push(chunk);
    entries.push([entry.header.name, Buffer.concat(chunks)]);
  }
  return entries;
}

async function archiveOf(entries: Entries): Promise<Buffer> {
  const archive = pack();
  for (const [name, content] of entries) archive.entry({ name }, content);
  archive.finalize();
  const chunks: Buffer[] = [];
  for await (const chunk of archive as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

describe('a yard as one file', () => {
  let server: TestServer;
  let client: Client;
  let yard: number;
  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
  });
  afterAll(() => server.close());

  const download = async (path: string) =>
    Buffer.from(await (await fetch(server.address + path)).arrayBuffer());
  const take = (archive: Buffer) => client.ask('POST', routes.archives, new Uint8Array(archive));
  const shelf = async (id: number) =>
    yardWithPiecesSchema.parse((await client.ask('GET', routes.yard(id))).json).shelf;

  beforeEach(async () => {
    yard = await client.newYard('Kept in a file');
    const rules = { ...FIRST_RULES, gridMetres: 3 };
    await client.ask('PUT', routes.yardRules(yard), { version: 1, rules });
    const piece = await client.addPiece(yard, 'Crate');
    await client.ask('PUT', routes.piece(piece.id), {
      version: 1,
      history: renamed(piece.history, 'Crate_B'),
    });
    await client.ask('POST', routes.pieceDeliveries(piece.id), { version: 2, target: 'prefix-tags' });
    const gone = await client.addPiece(yard, 'Gone');
    await client.ask('DELETE', routes.piece(gone.id));
    const setOut = { ...emptySetOut('Stand'), placements: [placement(piece.id)] };
    expect((await client.ask('POST', routes.yardSetOuts(yard), { setOut })).status).toBe(201);
  });

  it('comes in elsewhere with its pieces, versions, rules, set-outs and deliveries, bit by bit the same', async () => {
    const [there] = await shelf(yard);
    const archive = await download(routes.yardArchive(yard));
    // Nobody saved meanwhile: the same yard gives the same file.
    expect((await download(routes.yardArchive(yard))).equals(archive)).toBeTrue();
    const { status, json } = await take(archive);
    expect([status, json['message']]).toEqual([201, undefined]);
    const [copy] = importedYardsSchema.parse(json).yards;
    expect(copy).not.toBe(yard);
    const pieces = await shelf(copy!);
    expect(pieces.map(({ name }) => name)).toEqual(['Crate']);
    const [original, imported] = [await client.piece(there!.id), await client.piece(pieces[0]!.id)];
    expect(imported.history).toEqual(original.history);
    expect([imported.version, imported.savedAt]).toEqual([original.version, original.savedAt]);
    const rules = yardRulesStateSchema.parse((await client.ask('GET', routes.yardRules(copy!))).json);
    expect([rules.version, rules.rules.gridMetres, rules.canUndo]).toEqual([2, 3, true]);
    const bundles = await Promise.all(
      [there!.id, pieces[0]!.id].map(async (id) => {
        const { deliveries } = deliveryListSchema.parse(
          (await client.ask('GET', routes.pieceDeliveries(id))).json,
        );
        return (await download(routes.deliveryBundle(deliveries[0]!.id))).toString('base64');
      }),
    );
    expect(bundles[1]).toBe(bundles[0]!);
    const setOuts = setOutListSchema.parse((await client.ask('GET', routes.yardSetOuts(copy!))).json);
    const stand = openSetOutSchema.parse((await client.ask('GET', routes.setOut(setOuts[0]!.id))).json);
    expect(stand.history.base.placements.map(({ piece }) => piece)).toEqual([imported.id]);
    // It is a piece like any other.
    const saved = { version: imported.version, history: renamed(imported.history, 'Crate_C') };
    expect((await client.ask('PUT', routes.piece(imported.id), saved)).status).toBe(200);
  });

  it('holds chosen pieces alone, with their versions and deliveries, and the rules', async () => {
    const { id, history } = await client.addPiece(yard, 'Other');
    await client.ask('PUT', routes.piece(id), { version: 1, history: renamed(history, 'Other_B') });
    await client.ask('POST', routes.pieceDeliveries(id), { version: 2, target: 'prefix-tags' });
    const taken = await take(await download(piecesArchive(yard, [id, 99_999])));
    expect(taken.status).toBe(201);
    const [there] = importedYardsSchema.parse(taken.json).yards;
    const pieces = await shelf(there!);
    expect(pieces.map(({ name, meshName, version }) => [name, meshName, version])).toEqual([
      ['Other', 'Other_B', 2],
    ]);
    const left = await client.ask('GET', routes.pieceDeliveries(pieces[0]!.id));
    expect(deliveryListSchema.parse(left.json).deliveries.map(({ version }) => version)).toEqual([2]);
    const { json } = await client.ask('GET', routes.yardRules(there!));
    expect(yardRulesStateSchema.parse(json).rules.gridMetres).toBe(3);
    expect(setOutListSchema.parse((await client.ask('GET', routes.yardSetOuts(there!))).json)).toEqual([]);
    const wrong = await client.ask('GET', `${routes.yardArchive(yard)}?pieces=1-`);
    expect([wrong.status, wrong.json['message']]).toEqual([
      400,
      'Pieces are given by their numbers, such as 3-9,14.',
    ]);
  });

  it('is taken in whole or not at all: torn, changed, of a newer version, or no archive', async () => {
    const archive = await download(routes.yardArchive(yard));
    const entries = await entriesOf(archive);
    const before = (await client.ask('GET', routes.yards)).json;
    const refused = async (sent: Buffer) => {
      const { status, json } = await take(sent);
      expect(status).toBeGreaterThanOrEqual(400);
      return json['message'] as string;
    };
    const changed = (change: (name: string, content: string) => string | null) =>
      archiveOf(
        entries.flatMap(([name, content]): Entries => {
          if (name.startsWith('blobs/')) return [[name, content]];
          const next = change(name, content.toString());
          return next === null ? [] : [[name, Buffer.from(next)]];
        }),
      );
    const within = (table: string, from: string | RegExp, to: string) =>
      changed((name, text) => (name.startsWith(`rows/${table}/`) ? text.replaceAll(from, to) : text));
    expect(await refused(Buffer.from('Dear all, this is a letter.'))).toContain('no archive of yards');
    expect(await refused(archive.subarray(0, archive.length >> 1))).toContain('Nothing was taken in');
    expect(await refused(await changed((name, text) => (name === 'end.json' ? null : text)))).toContain(
      'ends too early',
    );
    expect(
      await refused(await changed((_, text) => text.replace('"schema":"', '"schema":"Future'))),
    ).toContain('newer version');
    expect(
      await refused(await changed((_, text) => text.replace('"version":1,"schema"', '"version":9,"schema"'))),
    ).toContain('newer version');
    expect(await refused(await within('yard_rules', 'gridMetres', 'gridmetres'))).toContain('gridMetres');
    expect(await refused(await within('piece', '"yard_id":', '"yard":'))).toContain('damaged at rows/piece');
    const bent = await archiveOf(
      entries.map(([name, content]) => [
        name,
        name.startsWith('blobs/') ? Buffer.concat([content.subarray(1), Buffer.of(7)]) : content,
      ]),
    );
    expect(await refused(bent)).toContain('not what their name says');
    // A letter that makes no row unreadable, and one that makes the text in it no JSON any more.
    expect(await refused(await within('history_edit', 'Crate_B', 'Crate_C'))).toContain(
      'damaged at its rows',
    );
    expect(await refused(await within('history_base', '{\\"format\\"', '{\\"form'))).toContain(
      'damaged at rows/history_base/',
    );
    // A character that no hash has, in a number, in what the database keeps, and in the name of bytes.
    for (const [table, from, to] of [
      ['history_base', /"length":\d+/g, '"length":""'],
      ['history_base', '"hash":"', '"hash":"\ufffd'],
      ['revision_blob', '"blob_id":"', '"blob_id":"\ufffd'],
    ] as const)
      expect(await refused(await within(table, from, to))).toContain(`damaged at rows/${table}/`);
    // Broken off within heads, between entries and within their bytes.
    for (let at = 600; at < Math.min(6000, archive.length); at += 97)
      expect(await refused(archive.subarray(0, at))).toMatch(/ends too early|no archive/);
    expect((await client.ask('GET', routes.yards)).json).toEqual(before);
    expect(server.errors).toEqual([]);
  });

  it('of everything is as it stood at one moment, though somebody saves all the while', async () => {
    let saving = true;
    const acknowledged: number[] = [];
    const piece = await client.addPiece(yard, 'Busy');
    const saves = (async () => {
      let { version, history } = piece;
      while (saving) {
        history = renamed(history, `Busy_${version}`);
        const { json } = await client.ask('PUT', routes.piece(piece.id), { version, history });
        version = json['version'] as number;
        acknowledged.push(version);
      }
    })();
    while (acknowledged.length < 5) await new Promise((resolve) => setTimeout(resolve, 20));
    const least = acknowledged.at(-1)!;
    const entries = await entriesOf(await download(routes.backup));
    saving = false;
    await saves;
    const rows = (table: string) =>
      entries
        .filter(([name]) => name.startsWith(`rows/${table}/`))
        .flatMap(([, content]) => content.toString().trim().split('\n'))
        .map((line) => JSON.parse(line) as Record<string, unknown>);
    const stored = rows('piece').find(({ id }) => id === piece.id)!;
    expect(stored['version'] as number).toBeGreaterThanOrEqual(least);
    const revision = rows('revision').find(
      (row) => row['piece_id'] === piece.id && row['version'] === stored['version'],
    )!;
    const edits = new Set(rows('history_edit').map(({ id }) => id));
    for (const [id] of JSON.parse(revision['edits'] as string) as [number][])
      expect(edits.has(id)).toBeTrue();
    // What lies in the bin is part of it.
    expect(rows('piece').some((row) => row['removed_at'] !== null)).toBeTrue();
  });
});
