import { randomBytes } from 'node:crypto';
import { connect as connectSocket } from 'node:net';
import { request } from 'node:http';
import {
  deliveryListSchema,
  deliverySchema,
  jointDeliveriesSchema,
  pieceSchema,
  routes,
  yardListSchema,
  yardWithPiecesSchema,
} from '@yard-brace/contract';
import { currentDocument, MAX_FILE_BYTES, pivotEdit, proxyKey, pushEdit } from '@yard-brace/core';
import { strFromU8, unzipSync } from 'fflate';
import { Client, eventually, renamed, sha } from './testing/client.js';
import { cratePiece } from './testing/sample-piece.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

describe('the server', () => {
  let server: TestServer;
  let yardId: number;

  let client: Client;
  const ask: Client['ask'] = (...args) => client.ask(...args);
  const addPiece = (name?: string) => client.addPiece(yardId, name);
  const store = (blobs: Map<string, Uint8Array>) => client.store(blobs);
  const blobRows = async () => Number((await server.source.query('SELECT COUNT(*) n FROM `blob`'))[0].n);

  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
    yardId = await client.newYard();
  });
  afterAll(() => server.close());

  it('answers whether it is well', async () =>
    expect(await ask('GET', routes.health)).toEqual({ status: 200, json: { status: 'ok' } }));

  it('keeps utf8mb4 names and lists yards with their pieces', async () => {
    const { json } = await ask('POST', routes.yards, { name: '船坞 🚤' });
    const list = yardListSchema.parse((await ask('GET', routes.yards)).json);
    expect(list.find((yard) => yard.id === json['id'])?.name).toBe('船坞 🚤');
    expect((await ask('DELETE', routes.yard(json['id'] as number))).status).toBe(204);
    expect((await ask('GET', routes.yard(json['id'] as number))).status).toBe(404);
  });

  it('puts a piece on the shelf with size, tally and counts', async () => {
    const piece = await addPiece('Shelf crate');
    const yard = yardWithPiecesSchema.parse((await ask('GET', routes.yard(yardId))).json);
    const summary = yard.shelf.find((entry) => entry.id === piece.id)!;
    expect(summary).toEqual(
      jasmine.objectContaining({
        name: 'Shelf crate',
        meshName: 'ShelfCrate',
        size: [1, 1, 1],
        triangles: 12,
        shapes: 1,
        picture: null,
      }),
    );
    expect(summary.tally.delivery).toBe('none');
  });

  it('refuses a piece whose bytes are not stored, and one that breaks the schema, with the place', async () => {
    const { history } = cratePiece('Never stored');
    expect((await ask('POST', routes.yardPieces(yardId), { history })).json['message']).toContain(
      'are not stored yet',
    );
    const { history: good, blobs } = cratePiece();
    await store(blobs);
    const broken = { ...good, base: { ...good.base, pivot: { ...good.base.pivot, position: [0, 'up', 0] } } };
    const answer = await ask('POST', routes.yardPieces(yardId), { history: broken });
    expect([answer.status, answer.json['message']]).toEqual([
      400,
      '“history.base.pivot.position.1” has to be a number.',
    ]);
  });

  describe('saving', () => {
    it('counts the version up and gives back what was saved', async () => {
      const piece = await addPiece();
      const history = renamed(piece.history, 'Crate_A');
      expect((await ask('PUT', routes.piece(piece.id), { version: 1, history })).json['version']).toBe(2);
      const back = pieceSchema.parse((await ask('GET', routes.piece(piece.id))).json);
      expect([back.version, back.history]).toEqual([2, history]);
    });

    it('against an old version is a conflict, and nothing is lost', async () => {
      const piece = await addPiece();
      const first = renamed(piece.history, 'First');
      await ask('PUT', routes.piece(piece.id), { version: 1, history: first });
      const second = await ask('PUT', routes.piece(piece.id), {
        version: 1,
        history: renamed(piece.history, 'Second'),
      });
      expect([second.status, second.json['code'], second.json['version']]).toEqual([409, 'conflict', 2]);
      expect(pieceSchema.parse((await ask('GET', routes.piece(piece.id))).json).history).toEqual(first);
    });

    it('twenty times at once lets exactly one through', async () => {
      const piece = await addPiece();
      const answers = await Promise.all(
        Array.from({ length: 20 }, (_, i) =>
          ask('PUT', routes.piece(piece.id), { version: 1, history: renamed(piece.history, `N${i}`) }),
        ),
      );
      expect(answers.map((answer) => answer.status).sort()).toEqual([
        200,
        ...Array.from({ length: 19 }, () => 409),
      ]);
    });

    it('keeps the last states and drops older ones that were not delivered', async () => {
      const piece = await addPiece();
      for (let version = 1; version <= 25; version++)
        await ask('PUT', routes.piece(piece.id), { version, history: renamed(piece.history, `V${version}`) });
      const rows = await server.source.query('SELECT COUNT(*) n FROM revision WHERE piece_id = ?', [
        piece.id,
      ]);
      expect(Number(rows[0].n)).toBe(20);
    });
  });

  describe('stored bytes', () => {
    it('come back as they went in, over many chunks, and are stored once', async () => {
      const bytes = new Uint8Array(randomBytes(3_500_000));
      const before = await blobRows();
      for (let i = 0; i < 2; i++)
        expect((await ask('PUT', routes.blob(sha(bytes)), bytes)).json).toEqual({
          id: sha(bytes),
          bytes: bytes.length,
        });
      expect(await blobRows()).toBe(before + 1);
      const response = await fetch(server.address + routes.blob(sha(bytes)));
      expect(sha(new Uint8Array(await response.arrayBuffer()))).toBe(sha(bytes));
      expect(response.headers.get('cache-control')).toContain('immutable');
    });

    it('that are not what they claim leave nothing', async () => {
      const before = await blobRows();
      const answer = await ask('PUT', routes.blob('0'.repeat(64)), new Uint8Array(randomBytes(2_000_000)));
      expect([answer.status, answer.json['code']]).toEqual([400, 'bad-request']);
      expect(await blobRows()).toBe(before);
      expect((await ask('GET', routes.blob('0'.repeat(64)))).status).toBe(404);
    });

    it('uploads that break off leave nothing, and the next one works', async () => {
      const before = await blobRows();
      await new Promise<void>((resolve) => {
        const upload = request({
          port: server.port,
          host: '127.0.0.1',
          method: 'PUT',
          path: routes.blob('1'.repeat(64)),
          headers: { 'content-length': 5_000_000 },
        });
        upload.on('error', () => resolve());
        upload.write(randomBytes(2_500_000), () => setTimeout(() => upload.destroy(), 100));
      });
      await eventually(blobRows, before);
      await addPiece();
    });

    it('over the limit are refused before they are sent, and while they are', async () => {
      const path = routes.blob('2'.repeat(64));
      const status = await new Promise<number>((resolve, reject) => {
        const upload = request(
          {
            port: server.port,
            host: '127.0.0.1',
            method: 'PUT',
            path,
            headers: { 'content-length': MAX_FILE_BYTES + 1 },
          },
          (response) => resolve(response.statusCode!),
        );
        upload.on('error', reject);
        upload.write(Buffer.alloc(10));
      });
      expect(status).toBe(413);
    });

    it('that nothing names are swept after a day, the rest stay', async () => {
      const stray = new Uint8Array(randomBytes(100));
      await ask('PUT', routes.blob(sha(stray)), stray);
      const piece = await addPiece('Stays');
      await server.app.blobs.sweep();
      expect((await ask('GET', routes.blob(sha(stray)))).status).toBe(200);
      // Named again it is kept for another day.
      await server.source.query('UPDATE `blob` SET created_at = ? WHERE sha256 = ?', [
        new Date(0),
        sha(stray),
      ]);
      await ask('PUT', routes.blob(sha(stray)), stray);
      await server.app.blobs.sweep();
      expect((await ask('GET', routes.blob(sha(stray)))).status).toBe(200);
      await server.app.blobs.sweep(new Date(Date.now() + 2 * 24 * 3600 * 1000));
      expect((await ask('GET', routes.blob(sha(stray)))).status).toBe(404);
      expect(
        (await fetch(server.address + routes.blob(Object.keys(piece.history.base.meshes)[0]!))).status,
      ).toBe(200);
    });
  });

  describe('a delivery', () => {
    it('keeps its files and read-back, and its bundle unpacks', async () => {
      const piece = await addPiece('Oyster tray');
      const delivery = deliverySchema.parse(
        (await ask('POST', routes.pieceDeliveries(piece.id), { version: 1, target: 'prefix-tags' })).json,
      );
      expect(delivery.agreed).toBeTrue();
      expect(delivery.readBack.shapes.map((shape) => shape.name)).toEqual(['UBX_OysterTray_01']);
      const response = await fetch(server.address + routes.deliveryBundle(delivery.id));
      expect(response.headers.get('content-disposition')).toContain('OysterTray.zip');
      const files = unzipSync(new Uint8Array(await response.arrayBuffer()));
      expect(Object.keys(files)).toEqual([
        'OysterTray.glb',
        'OysterTray.manifest.json',
        'OysterTray.import.md',
      ]);
      expect(strFromU8(files['OysterTray.import.md']!)).toContain('UBX_OysterTray_01');
      const one = await fetch(server.address + routes.deliveryFile(delivery.id, 2));
      expect(one.headers.get('content-disposition')).toContain('OysterTray.import.md');
      expect(await one.text()).toBe(strFromU8(files['OysterTray.import.md']!));
      expect((await ask('GET', routes.deliveryFile(delivery.id, 3))).json['message']).toBe(
        `The delivery ${delivery.id} has no file 3.`,
      );
      const back = pieceSchema.parse((await ask('GET', routes.piece(piece.id))).json);
      expect(back.lastDeliveries).toEqual([
        jasmine.objectContaining({ id: delivery.id, version: 1, agreed: true, target: 'prefix-tags' }),
      ]);
      const again = deliverySchema.parse(
        (await ask('POST', routes.pieceDeliveries(piece.id), { version: 1, target: 'prefix-tags' })).json,
      );
      const list = async (path: string) => {
        const { deliveries, more } = deliveryListSchema.parse((await ask('GET', path)).json);
        return [deliveries.map(({ id }) => id), more];
      };
      expect(await list(routes.pieceDeliveries(piece.id))).toEqual([[again.id, delivery.id], 0]);
      expect(await list(routes.deliveriesBefore(piece.id, again.id))).toEqual([[delivery.id], 0]);
      expect((await ask('GET', `${routes.pieceDeliveries(piece.id)}?before=x`)).status).toBe(400);
      const bundle = await fetch(server.address + routes.deliveryBundle(again.id));
      expect(unzipSync(new Uint8Array(await bundle.arrayBuffer()))).toEqual(files);
    });

    it('is of a set that is kept beside the one in use, which stays in use', async () => {
      const piece = await addPiece('Oyster tray');
      const { proxies } = currentDocument(piece.history);
      const two = [proxies[0]!, { ...proxies[0]!, id: 'second' }];
      let history = pushEdit(piece.history, { kind: 'change-sets', keep: { name: 'rough' } });
      history = pushEdit(history, { kind: 'put-proxies', changed: two, removed: 'others' });
      const saved = await ask('PUT', routes.piece(piece.id), { version: 1, history });
      expect(saved.status).toBe(200);
      const send = async (set?: string) =>
        (
          await ask('POST', routes.pieceDeliveries(piece.id), {
            version: 2,
            target: 'prefix-tags',
            choices: set ? { set } : {},
          })
        ).json;
      const rough = deliverySchema.parse(await send('rough'));
      expect([rough.choices.set, rough.agreed, rough.readBack.shapes.length]).toEqual(['rough', true, 1]);
      const inUse = deliverySchema.parse(await send());
      expect([inUse.choices, inUse.readBack.shapes.length]).toEqual([{}, 2]);
      expect((await send('gone'))['message']).toBe('There is no set “gone” any more; choose another one.');
    });

    it('remembers how the shapes lay to the art, as long as they are the ones that were measured', async () => {
      const piece = await addPiece('Oyster tray');
      const measure = (key: string) =>
        ask('PUT', routes.pieceMeasured(piece.id), {
          measured: { key, artOutside: 0.002, proxyOutside: 0.012 },
        });
      const lying = async () =>
        deliverySchema.parse(
          (await ask('POST', routes.pieceDeliveries(piece.id), { version: 1, target: 'prefix-tags' })).json,
        ).inventory!.lying;
      expect(await lying()).toBeNull();
      await measure(proxyKey(currentDocument(piece.history)));
      expect(await lying()).toEqual({ excess: 0.012, uncovered: 0.002 });
      await measure('0'.repeat(64));
      expect(await lying()).toBeNull();
    });

    it('of several pieces is one file for all, a delivery of each, and is asked for as one bundle', async () => {
      const yard = await client.newYard('Quayside');
      const pieces = [await client.addPiece(yard, 'Oyster tray'), await client.addPiece(yard, 'Bollard')];
      const wanted = (together: string, ids = pieces.map(({ id }) => ({ id, version: 1 }))) =>
        ask('POST', routes.yardJointDeliveries(yard), {
          pieces: ids,
          target: 'prefix-tags',
          choices: { together },
        });
      const sent = jointDeliveriesSchema.parse((await wanted('Quayside')).json);
      expect(sent.map(({ piece, agreed }) => [piece.name, agreed])).toEqual([
        ['Oyster tray', true],
        ['Bollard', true],
      ]);
      const names = [
        'Quayside.glb',
        'OysterTray.manifest.json',
        'OysterTray.import.md',
        'Bollard.manifest.json',
        'Bollard.import.md',
      ];
      for (const { files } of sent) expect(files.map(({ name }) => name)).toEqual(names);
      const bundle = await fetch(server.address + routes.deliveryBundle(sent[1]!.id));
      expect(bundle.headers.get('content-disposition')).toContain('Quayside.zip');
      // A piece that leaves alone after that replaces nothing of it.
      expect(
        (await ask('POST', routes.pieceDeliveries(pieces[0]!.id), { version: 1, target: 'prefix-tags' }))
          .status,
      ).toBe(201);
      const stranger = await addPiece('Post');
      for (const [answer, says] of [
        [await wanted('Quay side'), /The file of several pieces, “Quay side”: The name holds a space/],
        [
          await wanted(
            'Quay',
            [...pieces, stranger].map(({ id }) => ({ id, version: 1 })),
          ),
          /is not of this yard/,
        ],
        [
          await wanted('Quay', [
            { id: pieces[0]!.id, version: 1 },
            { id: pieces[1]!.id, version: 7 },
          ]),
          /saved/,
        ],
      ] as const)
        expect(answer.json['message']).toMatch(says);
      expect((await wanted('Quay', [{ id: pieces[0]!.id, version: 1 }])).status).toBe(400);
      // What breaks placed copies is asked of the file that they are wired to.
      const moved = pushEdit(pieces[1]!.history, pivotEdit('numeric', [0, 3, 0]));
      await ask('PUT', routes.piece(pieces[1]!.id), { version: 1, history: moved });
      const now = pieces.map(({ id }, i) => ({ id, version: i + 1 }));
      expect((await wanted('Quayside', now)).json['message']).toMatch(
        /The pivot of “Bollard” moved by .*say so beside the file’s name/,
      );
      expect((await wanted('Another', now)).status).toBe(201);
    });

    it('of an old version, for no target, or with a name that stops is refused', async () => {
      const piece = await addPiece();
      await ask('PUT', routes.piece(piece.id), { version: 1, history: renamed(piece.history, 'a b') });
      expect(
        (await ask('POST', routes.pieceDeliveries(piece.id), { version: 1, target: 'prefix-tags' })).status,
      ).toBe(409);
      expect(
        (await ask('POST', routes.pieceDeliveries(piece.id), { version: 2, target: 'nowhere' })).json[
          'message'
        ],
      ).toContain('has no target “nowhere”');
      expect(
        (await ask('POST', routes.pieceDeliveries(piece.id), { version: 2, target: 'prefix-tags' })).json[
          'message'
        ],
      ).toContain('a space');
      expect((await ask('GET', routes.pieceDeliveries(piece.id))).json).toEqual({ deliveries: [], more: 0 });
    });
  });

  describe('the door', () => {
    it('answers only under its own address', async () => {
      const status = (headers: string) =>
        new Promise<string>((resolve) => {
          const socket = connectSocket(server.port, '127.0.0.1', () =>
            socket.write(`GET ${routes.yards} HTTP/1.1\r\n${headers}\r\nConnection: close\r\n\r\n`),
          );
          socket.once('data', (data) => resolve(data.toString().split(' ')[1]!));
        });
      expect(await status(`Host: 127.0.0.1:${server.port}`)).toBe('200');
      expect(await status('Host: yard.example')).toBe('403');
      expect(await status(`Host: 127.0.0.1:${server.port}\r\nOrigin: http://yard.example`)).toBe('403');
      expect(await status(`Host: 127.0.0.1:${server.port}\r\nOrigin: http://127.0.0.1:1`)).toBe('403');
      expect(await status(`Host: localhost:${server.port}\r\nOrigin: http://localhost:${server.port}`)).toBe(
        '200',
      );
    });

    it('answers nonsense with a sentence and stays up', async () => {
      const cases: [string, string, unknown, number][] = [
        ['GET', '/api/pieces/999999', undefined, 404],
        ['GET', '/api/pieces/../../etc', undefined, 404],
        ['GET', '/api/pieces/abc', undefined, 400],
        ['GET', '/api/blobs/..%2F..%2Fetc%2Fpasswd', undefined, 400],
        ['POST', routes.yards, { name: '' }, 400],
        ['POST', routes.yards, { name: 'x'.repeat(10000) }, 400],
        ['POST', routes.yards, { name: 'a\u0000b' }, 400],
        ['POST', routes.yards, new Uint8Array([1, 2, 3]), 400],
        ['PUT', routes.piece(1), { version: 'one' }, 400],
        ['GET', '/api/nothing', undefined, 404],
      ];
      for (const [method, path, body, status] of cases) {
        const answer = await ask(method, path, body);
        expect(answer.status).withContext(`${method} ${path}`).toBe(status);
        expect(String(answer.json['message']).length).withContext(path).toBeGreaterThan(10);
      }
      expect((await ask('GET', routes.health)).status).toBe(200);
    });
  });

  it('holds no memory of refused uploads', async () => {
    const bytes = new Uint8Array(randomBytes(2_000_000));
    const upload = () => ask('PUT', routes.blob('3'.repeat(64)), bytes);
    for (let i = 0; i < 5; i++) await upload();
    const before = await memoryHeld();
    for (let i = 0; i < 60; i++) await upload();
    expect((await memoryHeld()) - before).toBeLessThan(40_000_000);
  }, 60_000);
});

/** Bytes held once the collector has had its turns: buffers of bodies go some time after they are let go. */
async function memoryHeld(): Promise<number> {
  let least = Infinity;
  for (let turn = 0; turn < 20; turn++) {
    globalThis.gc?.();
    const { arrayBuffers, heapUsed } = process.memoryUsage();
    least = Math.min(least, arrayBuffers + heapUsed);
    await new Promise((done) => setTimeout(done, 50));
  }
  return least;
}
