import {
  type Job,
  jobListSchema,
  jobReportSchema,
  jobSchema,
  routes,
  takenBackSchema,
} from '@yard-brace/contract';
import {
  currentDocument,
  describeEdit,
  FIRST_RULES,
  meshReader,
  type Recipe,
  recipeEdit,
  recipeSchema,
  recipeYard,
  runRecipe,
} from '@yard-brace/core';
import { JobStore } from './jobs/job-store.js';
import { Client, eventually, renamed } from './testing/client.js';
import { cratePiece } from './testing/sample-piece.js';
import { startTestServer, type TestServer } from './testing/test-server.js';

const recipe = (...steps: { op: string; parameters?: unknown }[]): Recipe =>
  recipeSchema.parse({ format: 1, name: 'For crates', steps });
const WRAP = { op: 'wrap', parameters: { kind: 'hull', per: 'piece' } };
const DELIVER = { op: 'deliver', parameters: { target: 'prefix-tags' } };
/** No crate has a part of that name. */
const NOBODY = { op: 'flip', parts: { by: 'name', names: ['nobody'] } };

describe('jobs', () => {
  let server: TestServer;
  let client: Client;
  let yard: number;
  const workers: TestServer[] = [];
  /** A process that works on jobs, as it were. */
  const worker = async () => {
    const started = await startTestServer(undefined, undefined, 1);
    workers.push(started);
    return started;
  };
  beforeAll(async () => {
    server = await startTestServer();
    client = new Client(server);
  });
  afterAll(() => server.close());
  beforeEach(async () => {
    yard = await client.newYard('Jobs');
  });
  afterEach(async () => {
    for (const each of workers.splice(0)) await each.close();
  });

  const add = async (name: string) => (await client.addPiece(yard, name)).id;
  const crates = async (count: number) => {
    const ids: number[] = [];
    for (let i = 1; i <= count; i++) ids.push(await add(`Crate ${String(i).padStart(2, '0')}`));
    return ids;
  };
  const begin = async (of: Recipe, pieces: readonly number[]): Promise<Job> => {
    const { status, json } = await client.ask('POST', routes.yardJobs(yard), { recipe: of, pieces });
    expect(status).toBe(201);
    return jobSchema.parse(json);
  };
  const report = async (id: number) => jobReportSchema.parse((await client.ask('GET', routes.job(id))).json);
  const ended = async (id: number) => {
    for (let i = 0; i < 400; i++) {
      const found = await report(id);
      if (found.job.state === 'ended') return found;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the job did not end');
  };

  it('do a recipe to each piece, save and deliver it, and say what became of each, failures first', async () => {
    const pieces = await crates(3);
    const broken = pieces[1]!;
    // One that cannot leave: no target takes such a name.
    const { version, history } = await client.piece(broken);
    await client.ask('PUT', routes.piece(broken), { version, history: renamed(history, 'x'.repeat(90)) });
    const job = await begin(recipe({ op: 'clear-shapes' }, WRAP, DELIVER), pieces);
    expect([job.state, job.pieces, job.waiting, job.share]).toEqual(['running', 3, 3, 0]);
    await worker();
    const { job: end, items, recipe: kept } = await ended(job.id);
    expect([end.done, end.failed, end.share, kept?.name]).toEqual([2, 1, 1, 'For crates']);
    expect(items.map(({ piece, state }) => [piece.id, state])).toEqual([
      [broken, 'failed'],
      [pieces[0]!, 'done'],
      [pieces[2]!, 'done'],
    ]);
    expect(items[0]!.says).toMatch(/^Stopped at step 3, deliver: .*90 characters/);
    expect((await client.piece(broken)).version).toBe(2);
    const [, first] = items;
    expect(first!.says).toBe('1 part, 12 triangles, 1 shape, 0.00 mm off');
    expect(first!.deliveries).toEqual([jasmine.objectContaining({ target: 'prefix-tags', agreed: true })]);
    expect([first!.foundVersion, first!.savedVersion]).toEqual([1, 2]);
    const piece = await client.piece(pieces[0]!);
    expect(currentDocument(piece.history).proxies.map(({ shape }) => shape.kind)).toEqual(['hull']);
    expect(piece.measured?.judged?.excess.max).toBeCloseTo(0, 9);
    expect(piece.history.edits.map(describeEdit)).toEqual(['recipe “For crates”']);
    const list = jobListSchema.parse((await client.ask('GET', routes.yardJobs(yard))).json);
    expect(list.map(({ id, state, name }) => [id, state, name])).toEqual([[job.id, 'ended', 'For crates']]);
  });

  it('come to the same as the core does', async () => {
    const [piece] = await crates(1);
    const of = recipe(
      { op: 'unit', parameters: { unit: 'cm' } },
      { op: 'pivot', parameters: { anchor: 'base-centre' } },
      WRAP,
    );
    const job = await begin(of, [piece!]);
    await worker();
    await ended(job.id);
    const { history, blobs } = cratePiece('Crate 01');
    const run = await runRecipe({
      recipe: of,
      document: currentDocument(history),
      meshOf: meshReader(blobs),
      yard: recipeYard(FIRST_RULES),
    });
    const stored = (await client.piece(piece!)).history;
    expect(stored.edits).toEqual(JSON.parse(JSON.stringify([recipeEdit(of.name, run.edits)])));
  });

  it('are shared by several processes, and no piece is done twice', async () => {
    const pieces = await crates(24);
    const job = await begin(recipe(WRAP), pieces);
    await Promise.all([worker(), worker(), worker()]);
    const { job: end } = await ended(job.id);
    expect([end.done, end.failed]).toEqual([24, 0]);
    for (const id of pieces) expect((await client.piece(id)).version).toBe(2);
  });

  it('are taken over at once when the clock was set back while a killed process held them', async () => {
    const [id] = await crates(1);
    const job = await begin(recipe(WRAP), [id!]);
    await server.source.query(
      "UPDATE job_item SET state = 'running', owner = 'killed', leased_until = UTC_TIMESTAMP(3) + INTERVAL 1 HOUR WHERE job_id = ?",
      [job.id],
    );
    await worker();
    const { job: end } = await ended(job.id);
    expect([end.done, (await client.piece(id!)).version]).toEqual([1, 2]);
  });

  it('wait while the disk is full, say so, and fail nothing for it', async () => {
    const pieces = await crates(3);
    let freeBytes = 0;
    const job = await begin(recipe(WRAP), pieces);
    workers.push(
      await startTestServer({ folder: 'the data folder', freeBytes: async () => freeBytes }, undefined, 1),
    );
    const waitingForRoom = async () =>
      (await report(job.id)).items.filter(({ says }) => /^The disk is full/.test(says));
    await eventually(async () => (await waitingForRoom()).length, 1);
    await new Promise((resolve) => setTimeout(resolve, 2000));
    expect((await report(job.id)).job).toEqual(jasmine.objectContaining({ done: 0, failed: 0 }));
    freeBytes = 2 ** 40;
    const { job: end, items } = await ended(job.id);
    expect([end.done, items.some(({ says }) => /full/.test(says))]).toEqual([3, false]);
  });

  it('never write over what a person saved meanwhile', async () => {
    const [id] = await crates(1);
    const job = await begin(recipe(WRAP), [id!]);
    // A process claims it and stands still, and somebody saves it before it is done.
    await server.source.query(
      "UPDATE job_item SET state = 'running', owner = 'another', leased_until = UTC_TIMESTAMP(3) + INTERVAL 15 SECOND WHERE job_id = ?",
      [job.id],
    );
    await worker();
    const { version, history } = await client.piece(id!);
    await client.ask('PUT', routes.piece(id!), { version, history: renamed(history, 'Mine') });
    const saved = await server.app.pieces
      .saveRun(id!, { version, body: null, measured: null, pictureStays: true }, async () => undefined)
      .catch((error: { code: string }) => error.code);
    expect(saved).toBe('conflict');
    expect(currentDocument((await client.piece(id!)).history).meshName).toBe('Mine');
    expect((await report(job.id)).items[0]!.state).toBe('running');
  });

  it('go on with a piece whose process was killed once its lease has run out', async () => {
    const pieces = await crates(2);
    const job = await begin(recipe(WRAP), pieces);
    await server.source.query(
      "UPDATE job_item SET state = 'running', owner = 'killed', tries = 1, leased_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE job_id = ? AND piece_id = ?",
      [job.id, pieces[0]],
    );
    await worker();
    expect((await ended(job.id)).job.done).toBe(2);
    expect((await client.piece(pieces[0]!)).version).toBe(2);
  });

  it('are reported as ended only with no piece under way, whatever ends while the report is put together', async () => {
    const job = await begin(recipe(WRAP), await crates(1));
    const set = (table: string, values: string, key: string) =>
      server.source.query(`UPDATE ${table} SET ${values} WHERE ${key} = ?`, [job.id]);
    await set('job_item', "state = 'running', leased_until = UTC_TIMESTAMP(3) + INTERVAL 1 HOUR", 'job_id');
    class Meanwhile extends JobStore {
      override async job(id: number): Promise<Job> {
        await set('job_item', "state = 'failed'", 'job_id');
        await set('job', 'ended_at = UTC_TIMESTAMP(3)', 'id');
        return super.job(id);
      }
    }
    const unused = null as never;
    const found = await new Meanwhile(server.source, unused, unused, unused).report(job.id);
    expect([found.job.state, ...found.items.map(({ state }) => state)]).toEqual(['ended', 'failed']);
  });

  it('deliver what a killed process had saved, and do not save it again', async () => {
    const [id] = await crates(1);
    const job = await begin(recipe({ op: 'clear-shapes' }, WRAP, DELIVER), [id!]);
    // It had come as far as the save: version 2 is there, and the delivery is still wanted.
    const { version, history } = await client.piece(id!);
    await client.ask('PUT', routes.piece(id!), { version, history: renamed(history, 'Saved') });
    const left = {
      fault: null,
      steps: [],
      before: null,
      after: null,
      leaving: [{ target: 'prefix-tags', choices: {} }],
      deliveries: [],
    };
    await server.source.query(
      "UPDATE job_item SET state = 'running', owner = 'killed', leased_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND, version_before = 1, version_after = 2, report = ? WHERE job_id = ?",
      [JSON.stringify(left), job.id],
    );
    await worker();
    const { items } = await ended(job.id);
    expect(items[0]!.deliveries.length).toBe(1);
    expect((await client.piece(id!)).version).toBe(2);
  });

  it('say nothing any more of a delivery that failed once it has left', async () => {
    const [id] = await crates(1);
    const job = await begin(recipe({ op: 'clear-shapes' }, WRAP, DELIVER), [id!]);
    const { version, history } = await client.piece(id!);
    await client.ask('PUT', routes.piece(id!), { version, history: renamed(history, 'Saved') });
    const left = {
      fault: 'Copies that are placed would break by it.',
      steps: [],
      before: null,
      after: null,
      leaving: [{ target: 'prefix-tags', choices: {} }],
      deliveries: [],
    };
    await server.source.query(
      "UPDATE job_item SET state = 'failed', version_before = 1, version_after = 2, report = ? WHERE job_id = ?",
      [JSON.stringify(left), job.id],
    );
    await client.ask('POST', routes.jobTriedAgain(job.id), { positions: null });
    expect((await report(job.id)).items.map(({ state, says }) => [state, says])).toEqual([['waiting', '']]);
    await worker();
    const { items } = await ended(job.id);
    expect([items[0]!.state, items[0]!.says, items[0]!.deliveries.length]).toEqual(['done', '', 1]);
  });

  it('give up on a piece that ends its process time and again', async () => {
    const [id] = await crates(1);
    const job = await begin(recipe(WRAP), [id!]);
    await server.source.query('UPDATE job_item SET tries = 5 WHERE job_id = ?', [job.id]);
    await worker();
    const { items } = await ended(job.id);
    expect([items[0]!.state, items[0]!.says]).toEqual([
      'failed',
      'It ended the process 5 times; try a smaller piece or recipe.',
    ]);
  });

  it('stop, go on, and come in the order of their priority', async () => {
    const [a, b] = await crates(2);
    const first = await begin(recipe(WRAP), [a!]);
    const second = await begin(recipe(WRAP), [b!]);
    expect(jobSchema.parse((await client.ask('POST', routes.jobStopped(first.id))).json).state).toBe(
      'stopped',
    );
    await client.ask('PUT', routes.jobPriority(second.id), { priority: 5 });
    await worker();
    const { job } = await ended(second.id);
    expect(job.priority).toBe(5);
    expect((await report(first.id)).job.waiting).toBe(1);
    await client.ask('POST', routes.jobGoesOn(first.id));
    expect((await ended(first.id)).job.done).toBe(1);
  });

  it('are tried again where they failed, and taken back where nobody changed the piece since', async () => {
    const pieces = await crates(3);
    const job = await begin(recipe(NOBODY, WRAP), pieces);
    await worker();
    expect((await ended(job.id)).job.failed).toBe(3);
    expect((await client.ask('POST', routes.jobTriedAgain(job.id), { positions: [0] })).status).toBe(200);
    const again = await ended(job.id);
    expect(again.job.failed).toBe(3);
    expect((await client.ask('POST', routes.jobTriedAgain(job.id), { positions: [999_999] })).status).toBe(
      422,
    );

    const done = await begin(recipe({ op: 'clear-shapes' }), pieces);
    await ended(done.id);
    const { version, history } = await client.piece(pieces[2]!);
    await client.ask('PUT', routes.piece(pieces[2]!), {
      version,
      history: renamed(history, 'Changed since'),
    });
    const back = takenBackSchema.parse(
      (await client.ask('POST', routes.jobTakenBack(done.id), { positions: null })).json,
    );
    expect(back.pieces).toEqual(pieces.slice(0, 2));
    expect(back.refused).toEqual([{ name: 'Crate 03', says: 'It was changed since; look at its versions.' }]);
    const one = await client.piece(pieces[0]!);
    expect([one.version, currentDocument(one.history).proxies.length]).toEqual([3, 1]);
    expect((await report(done.id)).items.map(({ takenBack }) => takenBack)).toEqual([true, true, false]);
    const twice = takenBackSchema.parse(
      (await client.ask('POST', routes.jobTakenBack(done.id), { positions: [0] })).json,
    );
    expect(twice.refused[0]!.says).toBe('The job left it as it was.');
  });

  it('refuse what is no recipe, and pieces of other yards, and begin nothing then', async () => {
    const [id] = await crates(1);
    const ask = async (body: unknown) => {
      const { status, json } = await client.ask('POST', routes.yardJobs(yard), body);
      return [status, json['message'] as string];
    };
    expect(
      await ask({ recipe: { format: 1, name: 'x', steps: [{ op: 'nonsense' }] }, pieces: [id] }),
    ).toEqual([400, '“recipe.steps.0.op” names no step of a recipe: “nonsense”.']);
    expect((await ask({ recipe: recipe(WRAP), pieces: [id, 999_999] }))[0]).toBe(422);
    expect((await ask({ recipe: recipe(WRAP), pieces: [] }))[0]).toBe(400);
    expect(jobListSchema.parse((await client.ask('GET', routes.yardJobs(yard))).json)).toEqual([]);
    expect((await client.ask('GET', routes.job(999_999))).status).toBe(404);
  });
});
