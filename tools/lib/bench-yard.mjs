import { fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { benchApp, median, timed } from './bench-app.mjs';
import { yardMaker } from './bench-fill.mjs';
import { inHouse } from './house.mjs';
import { pause } from './processes.mjs';

const FEW = 16;
const RUNS = 9;
/** Of the pieces that a recipe is run over, those that it cannot be done to. */
const BATCH = 300;
const FAULTY = 12;
const KILLS = 3;

/**
 * The sample yard multiplied: what the shelf, opening, saving and delivering cost beside a yard of sixteen, and a recipe
 * over three hundred pieces by one process that is killed on the way, and by two.
 */
export async function benchYard(say, { pieces = 5000 } = {}) {
  const core = await import('@yard-brace/core');
  const { database, folder, ask, close } = await benchApp();
  const workers = [];
  try {
    const newYard = await yardMaker(ask);
    const few = await newYard('Few', FEW);
    let many;
    const filling = await timed(async () => (many = await newYard('Many', pieces)));
    say(
      `${pieces} pieces added in ${(filling / 1000).toFixed(0)} s, ${(filling / pieces).toFixed(1)} ms each`,
    );

    const shelf = async ({ id }) => {
      const times = [];
      let bytes = 0;
      for (let i = 0; i < RUNS; i++)
        times.push(await timed(async () => (bytes = (await ask('GET', `/api/yards/${id}`)).bytes)));
      return { ms: median(times), bytes };
    };
    const first = [await shelf(few), await shelf(many)];
    let last = (await ask('GET', `/api/yards/${many.id}`)).json.shelf.at(-1);
    let pages = 0;
    const rest = await timed(async () => {
      for (;;) {
        const path = `/api/yards/${many.id}/shelf?id=${last.id}&name=${encodeURIComponent(last.name)}`;
        const { json } = await ask('GET', path);
        if (!json.pieces.length) break;
        last = json.pieces.at(-1);
        pages++;
      }
    });
    const { changed } = (await ask('GET', `/api/yards/${many.id}`)).json;
    const changes = [];
    for (let i = 0; i < RUNS; i++)
      changes.push(await timed(() => ask('GET', `/api/yards/${many.id}/shelf/changes?since=${changed}`)));
    say(
      `shelf: first answer ${first[1].ms.toFixed(0)} ms, ${(first[1].bytes / 1000).toFixed(0)} kB (with ${FEW}: ${first[0].ms.toFixed(0)} ms, ${(first[0].bytes / 1000).toFixed(0)} kB; aim 200 ms, 200 kB); the rest in ${pages} answers ${rest.toFixed(0)} ms; what has changed ${median(changes).toFixed(0)} ms`,
    );

    // In turn, so that both see the same minutes.
    const cost = { opening: [[], []], saving: [[], []], delivering: [[], []] };
    for (let run = 0; run < RUNS; run++)
      for (const [k, { ids }] of [few, many].entries()) {
        const id = ids[run];
        let piece;
        cost.opening[k].push(await timed(async () => (piece = (await ask('GET', `/api/pieces/${id}`)).json)));
        const history = piece.history;
        const steps = (edits) => ({
          fold: 0,
          keep: history.edits.length,
          edits,
          cursor: history.edits.length + edits.length,
        });
        const made = [
          { kind: 'set-unit', unit: 'm' },
          core.replaceProxies([
            {
              id: 'b',
              shape: { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] },
            },
          ]),
        ];
        cost.saving[k].push(
          await timed(async () =>
            ask('PUT', `/api/pieces/${id}`, { version: piece.version, steps: steps(made) }),
          ),
        );
        cost.delivering[k].push(
          await timed(() =>
            ask('POST', `/api/pieces/${id}/deliveries`, {
              version: piece.version + 1,
              target: 'prefix-tags',
              answered: true,
            }),
          ),
        );
      }
    for (const [what, [a, b]] of Object.entries(cost))
      say(
        `${what}: ${median(b).toFixed(1)} ms with ${pieces}, ${median(a).toFixed(1)} ms with ${FEW}: ratio ${(median(b) / median(a)).toFixed(2)} (aim 1.3)`,
      );

    const recipe = {
      format: 1,
      name: 'Bench',
      steps: [
        { op: 'unit', parameters: { unit: 'm' } },
        { op: 'weld', parameters: { metres: 0.0002 } },
        { op: 'clear-shapes' },
        { op: 'wrap', parameters: { kind: 'box', per: 'part' } },
        { op: 'check', parameters: { maxShapes: 900 } },
      ],
    };
    const worker = () =>
      new Promise((resolve) => {
        const child = fork(
          inHouse('server/dist/jobs-main.js'),
          [
            `--db-port=${database.port}`,
            `--db-password-file=${database.passwordFile}`,
            `--log=${folder}/jobs.log`,
          ],
          { silent: true },
        );
        child.once('message', () => resolve(child));
        workers.push(child);
      });
    /** Faulty ones: no part of theirs is called so, and the recipe stops. */
    const batch = async (from, name) => {
      const chosen = many.ids.slice(from, from + BATCH);
      const steps = [{ op: 'bake', parts: { by: 'where', name: 'Nobody*', except: true } }, ...recipe.steps];
      for (const id of chosen.slice(0, FAULTY)) {
        const { json } = await ask('GET', `/api/pieces/${id}`);
        const { edits, base } = json.history;
        const names = base.nodes.map((node) => ({ part: node.id, name: `Nobody ${node.name}` }));
        await ask('PUT', `/api/pieces/${id}`, {
          version: json.version,
          steps: {
            fold: 0,
            keep: edits.length,
            edits: [{ kind: 'rename-parts', names }],
            cursor: edits.length + 1,
          },
        });
      }
      const versions = new Map();
      for (const id of chosen) versions.set(id, (await ask('GET', `/api/pieces/${id}`)).json.version);
      const job = (
        await ask('POST', `/api/yards/${many.id}/jobs`, {
          recipe: { ...recipe, name, steps },
          pieces: chosen,
        })
      ).json;
      return { job, versions };
    };
    const state = async ({ id }) => (await ask('GET', `/api/jobs/${id}`)).json.job;
    const untilEnd = async (job, meanwhile = async () => undefined) => {
      for (;;) {
        const now = await state(job);
        if (now.state === 'ended') return now;
        await meanwhile(now);
        await pause(200);
      }
    };
    const twice = async ({ job, versions }) => {
      let wrong = 0;
      for (let from = 0; from < BATCH; from += 100)
        for (const { piece, state } of (await ask('GET', `/api/jobs/${job.id}?from=${from}`)).json.items)
          if (piece.version !== versions.get(piece.id) + (state === 'done' ? 1 : 0)) wrong++;
      return wrong;
    };
    const endAll = async () => {
      for (const child of workers.splice(0)) {
        child.kill('SIGKILL');
        await new Promise((resolve) =>
          child.exitCode === null && child.signalCode === null ? child.once('exit', resolve) : resolve(),
        );
      }
    };

    const killed = await batch(1000, 'Killed');
    let kills = 0;
    await worker();
    const one = await timed(async () => {
      const end = await untilEnd(killed.job, async ({ done, failed }) => {
        if (kills >= KILLS || done + failed < ((kills + 1) * BATCH) / (KILLS + 1)) return;
        kills++;
        await endAll();
        await worker();
      });
      say(
        `a recipe over ${BATCH} pieces, ${FAULTY} of them faulty, its process killed ${kills} times: ${end.done} done, ${end.failed} failed`,
      );
    });
    say(
      `  in ${(one / 1000).toFixed(1)} s, waiting for leases included; pieces that are not at the version they should be at: ${await twice(killed)}`,
    );
    await endAll();

    const times = [];
    for (const count of [1, 2, 4, 8]) {
      const { job, versions } = await batch(1000 + count * BATCH, `By ${count}`);
      const begun = performance.now();
      for (let i = 0; i < count; i++) await worker();
      await untilEnd(job);
      times.push((performance.now() - begun) / 1000);
      say(
        `  by ${count} process${count > 1 ? 'es' : ''}: ${times.at(-1).toFixed(1)} s, at a wrong version ${await twice({ job, versions })}`,
      );
      await endAll();
    }
    const against = times.slice(1).map((seconds) => (times[0] / seconds).toFixed(2));
    say(
      `  two, four and eight against one: ${against.join(', ')} times as fast, on ${availableParallelism()} cores`,
    );
  } finally {
    for (const child of workers) child.kill('SIGKILL');
    await close();
  }
}
