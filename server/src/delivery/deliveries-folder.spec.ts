import { mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  deliveryBookSchema,
  deliverySchema,
  deliveryPlaceSchema,
  routes,
  yardSchema,
} from '@yard-brace/contract';
import { FIRST_RULES, pivotEdit, pushEdit } from '@yard-brace/core';
import { Client } from '../testing/client.js';
import { startTestServer, type TestServer } from '../testing/test-server.js';
import type { HttpProblem } from '../http/problems.js';
import { DeliveriesFolder, told } from './deliveries-folder.js';

const bytes = (text: string) => new TextEncoder().encode(text);

describe('the folder for deliveries', () => {
  let root: string;
  let folder: DeliveriesFolder;
  beforeEach(async () => {
    root = await mkdtemp(join(tmpdir(), 'yard-deliveries-'));
    folder = new DeliveriesFolder(root);
  });
  afterEach(() => rm(root, { recursive: true, force: true }));

  it('holds files under their names, replaces those that stand there, and leaves the others', async () => {
    await folder.put('a/b', [
      { name: 'one.glb', bytes: bytes('1') },
      { name: 'tex/x.png', bytes: bytes('x') },
    ]);
    await writeFile(join(root, 'a/b/note.txt'), 'mine');
    await folder.put('a/b', [{ name: 'one.glb', bytes: bytes('2') }]);
    expect(await folder.standing('a/b')).toEqual(['note.txt', 'one.glb', 'tex/x.png']);
    expect(await readFile(join(root, 'a/b/one.glb'), 'utf8')).toBe('2');
    expect(await folder.standing('nowhere')).toEqual([]);
  });

  it('never shows half a file to a program that reads it in a loop', async () => {
    const [a, b] = ['a', 'b'].map((c) => bytes(c.repeat(3_000_000)));
    await folder.put('p', [{ name: 'big.glb', bytes: a! }]);
    let reading = true;
    let reads = 0;
    const reader = (async () => {
      while (reading) {
        const text = await readFile(join(root, 'p/big.glb'), 'latin1');
        expect(text.length).toBe(3_000_000);
        expect(text[0] === text.at(-1)).toBeTrue();
        reads++;
      }
    })();
    for (let i = 0; i < 20; i++) await folder.put('p', [{ name: 'big.glb', bytes: i % 2 ? a! : b! }]);
    reading = false;
    await reader;
    expect(reads).toBeGreaterThan(5);
    expect(await readdir(join(root, 'p'))).toEqual(['big.glb']);
  });

  it('is not left through a link, and replaces nothing when a file cannot be written', async () => {
    const elsewhere = await mkdtemp(join(tmpdir(), 'yard-elsewhere-'));
    await symlink(elsewhere, join(root, 'link'));
    await expectAsync(folder.put('link', [{ name: 'x.glb', bytes: bytes('x') }])).toBeRejectedWithError(
      /leads out of the folder for deliveries by a link/,
    );
    await expectAsync(folder.put('link/below', [{ name: 'x.glb', bytes: bytes('x') }])).toBeRejected();
    expect(await readdir(elsewhere)).toEqual([]);
    await rm(elsewhere, { recursive: true });
    await folder.put('p', [{ name: 'one.glb', bytes: bytes('old') }]);
    await mkdir(join(root, 'p/.two.glb.part'));
    const both = [
      { name: 'one.glb', bytes: bytes('new') },
      { name: 'two.glb', bytes: bytes('new') },
    ];
    await expectAsync(folder.put('p', both)).toBeRejectedWithError(/holds a folder where a file is needed/);
    expect(await readFile(join(root, 'p/one.glb'), 'utf8')).toBe('old');
    expect((await readdir(join(root, 'p'))).sort()).toEqual(['.two.glb.part', 'one.glb']);
  });

  it('replaces nothing when a folder stands where its last file belongs', async () => {
    await folder.put('p', [{ name: 'one.glb', bytes: bytes('old') }]);
    await mkdir(join(root, 'p/two.glb'));
    const both = ['one.glb', 'two.glb'].map((name) => ({ name, bytes: bytes('new') }));
    await expectAsync(folder.put('p', both)).toBeRejectedWithError(/holds a folder where a file is needed/);
    expect(await readFile(join(root, 'p/one.glb'), 'utf8')).toBe('old');
    expect((await readdir(join(root, 'p'))).sort()).toEqual(['one.glb', 'two.glb']);
  });

  it('takes two deliveries for one place one after the other, and what a killed server left is written over', async () => {
    await mkdir(join(root, 'p'));
    await writeFile(join(root, 'p/.one.glb.part'), 'half');
    expect(await folder.standing('p')).toEqual([]);
    const [a, b] = ['a', 'b'].map((c) => [
      { name: 'one.glb', bytes: bytes(c.repeat(500_000)) },
      { name: 'two.glb', bytes: bytes(c) },
    ]);
    await Promise.all([folder.put('p', a!), folder.put('p', b!), folder.put('p', a!), folder.put('p', b!)]);
    expect(await readFile(join(root, 'p/one.glb'), 'utf8')).toBe('b'.repeat(500_000));
    expect(await readFile(join(root, 'p/two.glb'), 'utf8')).toBe('b');
    expect((await readdir(join(root, 'p'))).sort()).toEqual(['one.glb', 'two.glb']);
  });

  it('that is gone, or a file, is said in a sentence', async () => {
    await writeFile(join(root, 'file'), '');
    await expectAsync(folder.put('file/x', [{ name: 'a', bytes: bytes('a') }])).toBeRejectedWithError(
      'The folder for deliveries holds a file where a folder is needed; move that away.',
    );
    await rm(root, { recursive: true });
    await expectAsync(folder.put('p', [{ name: 'a', bytes: bytes('a') }])).toBeRejectedWithError(
      'The folder for deliveries is gone; make it again, or start with another one.',
    );
  });

  it('that is full, read-only or not ours to write to is said in a sentence, each with what to do', () => {
    const of = (code: string) => {
      const problem = told(Object.assign(new Error(`${code}: open '/x'`), { code })) as HttpProblem;
      return [problem.code, problem.message];
    };
    expect(of('ENOSPC')).toEqual(['full', 'The folder for deliveries is full; make room there.']);
    expect(of('EROFS')).toEqual([
      'refused',
      'The folder for deliveries can only be read; start with another one.',
    ]);
    expect(of('EACCES')[1]).toBe(
      'The folder for deliveries may not be written to; change who may, or start with another one.',
    );
    // What is no matter of the person's is not dressed up as one.
    const bug = new TypeError('x is undefined');
    expect(told(bug)).toBe(bug);
  });

  it('is where a piece is delivered into, by target and pattern, and what stands there is told before', async () => {
    const server: TestServer = await startTestServer(undefined, root);
    try {
      const client = new Client(server);
      const yard = yardSchema.parse((await client.ask('POST', routes.yards, { name: 'Out' })).json).id;
      const rules = {
        ...FIRST_RULES,
        names: { folder: 'kit/{subject:snake}' },
        folders: { models: 'mesh', pictures: 'tex', papers: '' },
      };
      await client.ask('PUT', routes.yardRules(yard), { version: 1, rules });
      const piece = await client.addPiece(yard, 'Oyster tray');
      const place = async () =>
        deliveryPlaceSchema.parse(
          (await client.ask('GET', routes.deliveryPlace(piece.id, 'prefix-tags'))).json,
        );
      expect(await place()).toEqual({ place: 'prefix-tags/kit/oyster_tray', standing: [] });
      const { json } = await client.ask('POST', routes.pieceDeliveries(piece.id), {
        version: 1,
        target: 'prefix-tags',
      });
      const delivery = deliverySchema.parse(json);
      expect([delivery.place, delivery.agreed]).toEqual(['prefix-tags/kit/oyster_tray', true]);
      const names = ['OysterTray.import.md', 'OysterTray.manifest.json', 'mesh/OysterTray.glb'];
      expect((await place()).standing).toEqual(names);
      const book = deliveryBookSchema.parse((await client.ask('GET', routes.yardDeliveries(yard))).json);
      expect(book.entries.map(({ id, place: put, points, differ }) => [id, put, points > 5, differ])).toEqual(
        [[delivery.id, delivery.place, true, 0]],
      );
      for (const { name, bytes: size } of delivery.files)
        expect((await readFile(join(root, delivery.place!, name))).length).toBe(size);
      // What breaks placed copies leaves only when somebody has seen to it.
      const moved = pushEdit(piece.history, pivotEdit('numeric', [0, 3, 0]));
      await client.ask('PUT', routes.piece(piece.id), { version: 1, history: moved });
      const send = (answered?: boolean) =>
        client.ask('POST', routes.pieceDeliveries(piece.id), { version: 2, target: 'prefix-tags', answered });
      const refused = await send();
      expect([refused.status, refused.json['message']]).toEqual([
        422,
        jasmine.stringMatching(/The pivot of “OysterTray” moved by .*answer that in step 8/),
      ]);
      expect((await send(true)).status).toBe(201);
      // What cannot be put into the folder was not delivered either: nothing is half done.
      const kept = async () =>
        deliveryBookSchema.parse((await client.ask('GET', routes.yardDeliveries(yard))).json).entries.length;
      const before = await kept();
      await rm(root, { recursive: true });
      const gone = await send(true);
      expect([gone.status, gone.json['message']]).toEqual([
        422,
        'The folder for deliveries is gone; make it again, or start with another one.',
      ]);
      expect(await kept()).toBe(before);
      const one = deliverySchema.parse((await client.ask('GET', routes.delivery(delivery.id))).json);
      expect(one.readBack.shapes[0]!.triangles!.indices.length).toBeGreaterThan(0);
    } finally {
      await server.close();
    }
  });
});
