import { request } from 'node:http';
import { deliverySchema, jobSchema, routes, versionsSchema } from '@yard-brace/contract';
import { personFrom } from './http/person.js';
import { requestRate, uploadRate } from './http/request-rate.js';
import { Client, renamed } from './testing/client.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

describe('behind a proxy that signs people in', () => {
  let server: TestServer;
  let client: Client;
  const door = { host: 'yard.example', 'x-person': 'Ada' };
  beforeAll(async () => {
    server = await startTestServer(undefined, undefined, 0, {
      origin: 'https://yard.example',
      personHeader: 'x-person',
    });
    client = new Client(server, door);
  });
  afterAll(() => server.close());

  const status = (headers: Record<string, string>) =>
    new Promise<number>((resolve, reject) =>
      request({ port: server.port, host: '127.0.0.1', path: routes.yards, headers }, (response) => {
        response.resume();
        resolve(response.statusCode!);
      })
        .once('error', reject)
        .end(),
    );

  it('answers only under the address that people know, and only to somebody who is named', async () => {
    expect(await status(door)).toBe(200);
    expect(await status({ ...door, origin: 'https://yard.example' })).toBe(200);
    for (const headers of [
      { host: 'yard.example' },
      { host: 'yard.example', 'x-person': '  ' },
      { host: 'yard.example', 'x-person': 'a'.repeat(121) },
      { host: `127.0.0.1:${server.port}`, 'x-person': 'Ada' },
      { host: 'other.example', 'x-person': 'Ada' },
      { ...door, origin: 'http://yard.example' },
      { ...door, origin: 'https://other.example' },
    ])
      expect([headers, await status(headers as unknown as Record<string, string>)]).toEqual([
        headers,
        403,
      ] as never);
  });

  it('keeps who saved, delivered and began a job', async () => {
    const yard = await client.newYard('Shared');
    const piece = await client.addPiece(yard);
    const bea = new Client(server, { ...door, 'x-person': Buffer.from('Béa Öz', 'utf8').toString('latin1') });
    await bea.ask('PUT', routes.piece(piece.id), { version: 1, history: renamed(piece.history, 'Hers') });
    const versions = versionsSchema.parse((await client.ask('GET', routes.pieceVersions(piece.id))).json);
    expect(versions.map(({ version, person }) => [version, person])).toEqual([
      [2, 'Béa Öz'],
      [1, 'Ada'],
    ]);
    const delivery = await bea.ask('POST', routes.pieceDeliveries(piece.id), {
      version: 2,
      target: 'prefix-tags',
    });
    expect(deliverySchema.parse(delivery.json).person).toBe('Béa Öz');
    const recipe = { format: 1, name: 'x', steps: [{ op: 'clear-shapes' }] };
    const job = await client.ask('POST', routes.yardJobs(yard), { recipe, pieces: [piece.id] });
    expect(jobSchema.parse(job.json).person).toBe('Ada');
  });

  it('lets one person have no more than fifty jobs that are not at their end', async () => {
    const yard = await client.newYard('Busy');
    const { id } = await client.addPiece(yard);
    const recipe = { format: 1, name: 'x', steps: [{ op: 'clear-shapes' }] };
    const cleo = new Client(server, { ...door, 'x-person': 'Cleo' });
    const begin = () => cleo.ask('POST', routes.yardJobs(yard), { recipe, pieces: [id] });
    for (let i = 0; i < 50; i++) expect((await begin()).status).toBe(201);
    const refused = await begin();
    expect([refused.status, refused.json['message']]).toEqual([
      422,
      jasmine.stringContaining('50 jobs are not at their end'),
    ]);
  });
});

describe('the name of a person', () => {
  it('is read as UTF-8, and not at all where it cannot be kept', () => {
    expect(personFrom(Buffer.from('Łucja', 'utf8').toString('latin1'))).toBe('Łucja');
    expect(
      [undefined, '', ' ', 'a\u0000b', '\u00ff', 'x'.repeat(121)].map((header) => personFrom(header)),
    ).toEqual(Array.from({ length: 6 }, () => null));
  });
});

describe('the rate of requests', () => {
  it('lets through what a page makes, and as much again as time goes by, for each by itself', async () => {
    let now = 0;
    let who = 'a';
    const rate = requestRate(
      () => who,
      () => now,
    );
    const passed = async (count: number) => {
      let through = 0;
      for (let i = 0; i < count; i++)
        await rate({} as never, async () => void through++).catch(() => undefined);
      return through;
    };
    expect(await passed(2000)).toBe(1200);
    now += 1000;
    expect(await passed(2000)).toBe(200);
    who = 'b';
    expect(await passed(10)).toBe(10);
    who = 'a';
    now += 600_000;
    expect(await passed(2000)).toBe(1200);
  });
});

describe('the bytes that are sent', () => {
  it('are counted a person: whoever has sent too many waits, the others do not', async () => {
    let now = 0;
    let who = 'Ann';
    const rate = uploadRate(
      () => who,
      () => now,
    );
    const socket = { bytesRead: 0 };
    const send = async (gigabytes: number, method = 'PUT'): Promise<string> => {
      const ctx = { method, req: { socket } } as never;
      try {
        await rate(ctx, async () => void (socket.bytesRead += gigabytes * 2 ** 30));
        return 'taken';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(await send(20)).toBe('taken');
    // A file that was begun is taken to its end.
    expect(await send(20)).toBe('taken');
    expect(await send(1)).toBe('You have sent more than 32 GB within an hour; go on in some minutes.');
    // What is there is read all the same.
    expect(await send(0, 'GET')).toBe('taken');
    who = 'Ben';
    expect(await send(1)).toBe('taken');
    who = 'Ann';
    now += 60_000;
    expect(await send(1)).toBe('taken');
  });
});
