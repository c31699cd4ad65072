import {
  type Job,
  type JobReport,
  jobReportSchema,
  jobSchema,
  type NewImport,
  routes,
  takenBackSchema,
} from '@yard-brace/contract';
import { Client, renamed, sha } from './testing/client.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

const DAY_MS = 86_400_000;
const text = (lines: readonly string[]) => new TextEncoder().encode(`${lines.join('\n')}\n`);
/** A corner of three triangles in a material of a library beside it. */
const corner = (size: number) =>
  text([
    'mtllib yard.mtl',
    'o corner',
    ...['0 0 0', '1 0 0', '0 1 0', '0 0 1'].map(
      (at) =>
        `v ${at
          .split(' ')
          .map((v) => Number(v) * size)
          .join(' ')}`,
    ),
    'usemtl tarred oak',
    'f 1 3 2',
    'f 1 2 4',
    'f 1 4 3',
  ]);
const library = (red: number) => text(['newmtl tarred oak', `Kd ${red} 0 0`]);

describe('imports of many files', () => {
  let server: TestServer;
  let client: Client;
  let yard: number;
  const workers: TestServer[] = [];
  const worker = async () => workers.push(await startTestServer(undefined, undefined, 1));
  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
  });
  afterAll(() => server.close());
  beforeEach(async () => {
    yard = await client.newYard('Imports');
  });
  afterEach(async () => {
    for (const each of workers.splice(0)) await each.close();
  });

  const filesOf = async (files: Record<string, Uint8Array>): Promise<NewImport['files']> => {
    await client.store(new Map(Object.values(files).map((bytes) => [sha(bytes), bytes])));
    return Object.entries(files).map(([path, bytes]) => ({
      name: path.split('/').pop()!,
      path,
      blob: sha(bytes),
    }));
  };
  const begin = async (files: NewImport['files'], meshes: number[]): Promise<Job> => {
    const { status, json } = await client.ask('POST', routes.yardImports(yard), { files, meshes });
    expect(status).toBe(201);
    return jobSchema.parse(json);
  };
  const report = async (id: number) => jobReportSchema.parse((await client.ask('GET', routes.job(id))).json);
  const ended = async (id: number): Promise<JobReport> => {
    for (let i = 0; i < 300; i++) {
      const found = await report(id);
      if (found.job.state === 'ended') return found;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the job did not end');
  };

  it('read each file with what stands nearest beside it, and say what became of each, failures first', async () => {
    const files = await filesOf({
      'quay/corner.obj': corner(1),
      'quay/yard.mtl': library(0.25),
      'loft/post.obj': corner(2),
      'loft/yard.mtl': library(0.75),
      'loft/torn.obj': text(['v 0 0', 'f 1 2 3']),
    });
    const job = await begin(files, [0, 2, 4]);
    expect([job.kind, job.name, job.pieces, job.waiting]).toEqual(['import', 'Import of 3 files', 3, 3]);
    await worker();
    await worker();
    const { job: end, items, recipe } = await ended(job.id);
    expect([end.done, end.failed, recipe]).toEqual([2, 1, null]);
    expect(items.map(({ piece, state }) => [piece.name, state])).toEqual([
      ['loft/torn.obj', 'failed'],
      ['Corner', 'done'],
      ['Post', 'done'],
    ]);
    expect(items[0]!.piece.id).toBeNull();
    expect(items[0]!.says).toMatch(/^torn.obj, line 1: .+; .+\.$/);
    expect(items[1]!.says).toBe('1 part, 3 triangles, 0 shapes');
    const [, quay, loft] = items;
    const pieces = [await client.piece(quay!.piece.id!), await client.piece(loft!.piece.id!)];
    expect(pieces.map(({ version }) => version)).toEqual([1, 1]);
    const red = pieces.map(({ history }) => history.base.materials[0]!.baseColor[0]);
    expect(red[0]).toBeLessThan(red[1]!);
    expect(pieces.map(({ history }) => history.base.source.files.map(({ name }) => name))).toEqual([
      ['corner.obj', 'yard.mtl'],
      ['post.obj', 'yard.mtl'],
    ]);
  });

  it('bring each file in once, whichever process is closed in the middle', async () => {
    const files = await filesOf(
      Object.fromEntries(Array.from({ length: 24 }, (_, i) => [`kit/corner ${i}.obj`, corner(1 + i)])),
    );
    const job = await begin(
      files,
      files.map((_, i) => i),
    );
    for (const share of [0.2, 0.5, 1]) {
      await worker();
      while ((await report(job.id)).job.share < share)
        await new Promise((resolve) => setTimeout(resolve, 20));
      if (share < 1) await workers.pop()!.close();
    }
    const { job: end } = await ended(job.id);
    expect([end.done, end.failed]).toEqual([24, 0]);
    const names: { name: string }[] = await server.source.query('SELECT name FROM piece WHERE yard_id = ?', [
      yard,
    ]);
    expect(new Set(names.map(({ name }) => name)).size).toBe(24);
    expect(names.length).toBe(24);
  });

  it('are taken back into the bin, but for pieces that were changed since', async () => {
    const files = await filesOf({ 'a.obj': corner(1), 'b.obj': corner(2) });
    const job = await begin(files, [0, 1]);
    await worker();
    const [a, b] = (await ended(job.id)).items;
    const { history } = await client.piece(b!.piece.id!);
    await client.ask('PUT', routes.piece(b!.piece.id!), { version: 1, history: renamed(history, 'mine') });
    const { json } = await client.ask('POST', routes.jobTakenBack(job.id), { positions: null });
    const { pieces, refused } = takenBackSchema.parse(json);
    expect(pieces).toEqual([a!.piece.id!]);
    expect(refused).toEqual([{ name: 'B', says: 'It was changed since; look at its versions.' }]);
    expect((await client.ask('GET', routes.piece(a!.piece.id!))).status).toBe(404);
    const after = (await report(job.id)).items.map(({ piece, takenBack }) => [piece.version, takenBack]);
    expect(after).toEqual([
      [null, true],
      [2, false],
    ]);
  });

  it('blame no file for a database that was away while it was read', async () => {
    const files = await filesOf({ 'a.obj': corner(1) });
    await worker();
    const { blobs } = workers[0]!.app;
    const read = blobs.readBytes.bind(blobs);
    const spy = spyOn(blobs, 'readBytes').and.callFake((sha256) =>
      spy.calls.count() === 1
        ? Promise.reject(Object.assign(new Error('away'), { code: 'ECONNREFUSED' }))
        : read(sha256),
    );
    const job = await begin(files, [0]);
    const { job: end, items } = await ended(job.id);
    expect([end.done, end.failed, items[0]!.says]).toEqual([1, 0, '1 part, 3 triangles, 0 shapes']);
  }, 40_000);

  it('refuse what is not stored, and begin nothing then', async () => {
    const [file] = await filesOf({ 'a.obj': corner(1) });
    const ask = async (body: NewImport) => {
      const { status, json } = await client.ask('POST', routes.yardImports(yard), body);
      return [status, json['message'] as string];
    };
    expect(await ask({ files: [{ ...file!, blob: 'a'.repeat(64) }], meshes: [0] })).toEqual([
      400,
      'The bytes aaaaaaaaaaaa… are not stored yet; send them first.',
    ]);
    expect(await ask({ files: [file!], meshes: [1] })).toEqual([
      422,
      'There is no file 1 among the 1; import them again.',
    ]);
    expect((await ask({ files: [file!], meshes: [] }))[0]).toBe(400);
    expect((await client.ask('GET', routes.yardJobs(yard))).json).toEqual([] as never);
  });

  it('keep their files until a month after their end, so that they can be tried again', async () => {
    const files = await filesOf({ 'torn.obj': text(['v 0 0', 'v of a torn file']) });
    const job = await begin(files, [0]);
    await worker();
    await ended(job.id);
    const stored = async () =>
      (await server.source.query('SELECT id FROM `blob` WHERE sha256 = ?', [files[0]!.blob])).length;
    await server.app.blobs.sweep(new Date(Date.now() + 29 * DAY_MS));
    expect(await stored()).toBe(1);
    await server.app.blobs.sweep(new Date(Date.now() + 32 * DAY_MS));
    expect(await stored()).toBe(0);
    await client.ask('POST', routes.jobTriedAgain(job.id), { positions: [0] });
    const [item] = (await ended(job.id)).items;
    expect(item!.says).toBe('Its bytes are not kept any more; import the file again.');
  });

  it('wait while their yard lies in the bin, and go on when it is put back', async () => {
    const files = await filesOf({ 'a.obj': corner(1) });
    const job = await begin(files, [0]);
    await client.ask('DELETE', routes.yard(yard));
    await worker();
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect(
      (await server.source.query('SELECT state FROM job_item WHERE job_id = ?', [job.id]))[0].state,
    ).toBe('waiting');
    await client.ask('POST', routes.yardPutBack(yard));
    expect((await ended(job.id)).job.done).toBe(1);
  });
});
