import { execFileSync } from 'node:child_process';
import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  rmSync,
  statfsSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { random } from '../fuzz/random.mjs';
import { pause } from '../processes.mjs';
import { temporaryFolder } from '../temporary.mjs';
import { DrillApplication, PARTS } from './application.mjs';
import { addCrate, editors, everyKind, newYard, saver, uploader } from './clients.mjs';
import { closePages } from './pages.mjs';

/** The starter gives up when it has to start things again too often within a minute. */
const BETWEEN_KILLS_MS = 2300;
const AFTERWARDS_MS = 2000;
const FAKE_TIME = '/usr/lib/x86_64-linux-gnu/faketime/libfaketimeMT.so.1';

/**
 * What is done to the application while clients save, upload, deliver and run jobs. Each answers with what was done, in
 * words, and the seconds until all was back, at most.
 */
export const DRILLS = {
  kills: {
    title: 'kill -9 of server, database, job process and starter, in turn as a seed says',
    async run({ amount, seed, say }) {
      const next = random(seed);
      return withClients(everyKind, async (app) => {
        const killed = Object.fromEntries(PARTS.map((part) => [part, 0]));
        let back = 0;
        for (let i = 0; i < amount; i++) {
          await pause(BETWEEN_KILLS_MS * (0.6 + next() * 0.4));
          const part = PARTS[Math.floor(next() * PARTS.length)];
          const seconds = await app.kill(part);
          killed[part]++;
          back = Math.max(back, seconds);
          say(`  ${i + 1}: ${part} killed, back after ${seconds.toFixed(1)} s`);
        }
        const each = PARTS.map((part) => `${part} ${killed[part]}`).join(', ');
        return { done: `${amount} kills: ${each}`, back };
      });
    },
  },
  away: {
    title: 'the database gone: killed, and nobody to start it again for a while',
    run: ({ seconds }) =>
      withClients(everyKind, async (app) => {
        const { starter, database } = app.pids;
        process.kill(starter, 'SIGSTOP');
        process.kill(database, 'SIGKILL');
        await pause(1000 * seconds);
        process.kill(starter, 'SIGCONT');
        return { done: `away for ${seconds} s`, back: await secondsOf(app.untilBack(database)) };
      }),
  },
  hangs: {
    title: 'the database stands still: it takes connections and answers nothing',
    run: ({ seconds }) =>
      withClients(everyKind, async (app) => {
        const { database } = app.pids;
        process.kill(database, 'SIGSTOP');
        await pause(1000 * seconds);
        process.kill(database, 'SIGCONT');
        return { done: `still for ${seconds} s`, back: await secondsOf(app.untilBack()) };
      }),
  },
  database: {
    title: 'the disk of the database is full to its last byte',
    run: ({ seconds }) => withFullDisk('database', seconds),
  },
  disk: {
    title: 'every other disk is full: logs, and the folder for deliveries',
    run: ({ seconds }) => withFullDisk('others', seconds),
  },
  clients: {
    title: 'fifty people who save, two of them on one piece beside them',
    run: ({ seconds }) =>
      withClients(
        async (app) => {
          const yard = await newYard(app, 'Fifty');
          const pieces = [];
          for (let i = 0; i < 51; i++) pieces.push(await addCrate(app, yard, `Crate ${i}`));
          const [shared, ...own] = pieces;
          return [editors(app, shared), ...own.map((piece) => saver(app, piece))];
        },
        async () => {
          await pause(1000 * seconds);
          return { done: `${seconds} s`, back: 0 };
        },
      ),
  },
  uploads: {
    title: 'every other upload is broken off in its middle',
    run: ({ seconds }) =>
      withClients(
        async (app) => [1, 2, 3, 4].map(() => uploader(app, { breakOff: true })),
        async () => {
          await pause(1000 * seconds);
          return { done: `${seconds} s`, back: 0 };
        },
      ),
  },
  clock: {
    title: 'the clock of the machine is set back by an hour while a job process is killed',
    async run({ seconds }) {
      if (!existsSync(FAKE_TIME)) return { skipped: 'it needs Debian’s package libfaketime' };
      const folder = temporaryFolder('clock');
      const file = join(folder, 'offset');
      writeFileSync(file, '+0');
      const env = {
        LD_PRELOAD: FAKE_TIME,
        FAKETIME_TIMESTAMP_FILE: file,
        FAKETIME_DONT_FAKE_MONOTONIC: '1',
        FAKETIME_CACHE_DURATION: '1',
      };
      try {
        return await withClients(
          everyKind,
          async (app) => {
            await pause(2000);
            const before = await clockOf(app);
            writeFileSync(file, '-3600');
            const back = await app.kill('job process');
            await pause(1000 * seconds);
            const set = (before - (await clockOf(app))) / 60_000;
            if (set < 55) throw new Error(`the clock was not set back: ${set.toFixed(1)} minutes`);
            return { done: 'an hour, once', back };
          },
          env,
        );
      } finally {
        rmSync(folder, { recursive: true, force: true });
      }
    },
  },
  pages: {
    title: 'a page that is edited is closed, at any moment',
    run: async ({ amount, seed, browser }) => {
      if (!browser) return { skipped: 'it needs Chromium' };
      const app = new DrillApplication();
      try {
        await app.start();
        return await closePages(app, { amount, seed, browser });
      } finally {
        await app.stop();
        app.remove();
      }
    },
  },
};

/** Clients at work while something is done to the application, and what of their work is there after it. */
async function withClients(clientsOf, work, env = {}, prepare = () => () => undefined) {
  const app = new DrillApplication(env);
  const undo = await prepare(app);
  try {
    await app.start();
    const clients = await clientsOf(app);
    const stop = new AbortController();
    const running = clients.map((each) => each.run(stop.signal));
    // A client that fails of itself ends the drill: nothing is counted that was not tried.
    const result = await Promise.race([work(app), Promise.all(running).then(() => null)]);
    // What clients do once all is back counts as well.
    await pause(AFTERWARDS_MS);
    stop.abort();
    await Promise.all(running);
    for (const each of clients) await each.check();
    return { ...result, ...summed(clients) };
  } finally {
    await app.stop();
    undo();
    app.remove();
  }
}

function summed(clients) {
  const sum = (name) => clients.reduce((all, { counts }) => all + counts[name], 0);
  const acknowledged = {};
  for (const { what, counts } of clients)
    acknowledged[what] = (acknowledged[what] ?? 0) + counts.acknowledged;
  return { acknowledged, refused: sum('refused'), lost: sum('lost'), torn: sum('torn') };
}

/** Small disks of their own for the database and for everything else, one of them filled for a while. */
async function withFullDisk(which, seconds) {
  if (process.getuid?.() !== 0) return { skipped: 'it needs root, who may mount a small disk' };
  const mounted = [];
  const mount = (folder, megabytes) => {
    mkdirSync(folder, { recursive: true });
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m,mode=711`, 'tmpfs', folder]);
    mounted.unshift(folder);
  };
  const unmount = () => mounted.forEach((folder) => execFileSync('umount', ['-l', folder]));
  return withClients(
    everyKind,
    async (app) => {
      await pause(2000);
      const full = which === 'database' ? [join(app.data, 'database')] : [app.data, app.deliveries];
      full.forEach(fill);
      await pause(1000 * seconds);
      full.forEach((folder) => rmSync(join(folder, FILLER)));
      return { done: `full for ${seconds} s`, back: await secondsOf(app.untilBack()) };
    },
    {},
    (app) => {
      try {
        mount(app.data, 16);
        mount(join(app.data, 'database'), 800);
        mount(app.deliveries, 4);
      } catch (error) {
        unmount();
        throw error;
      }
      return unmount;
    },
  );
}

const FILLER = 'filler';

/** Until not a byte is left. */
function fill(folder) {
  const file = openSync(join(folder, FILLER), 'w');
  try {
    for (let size = 1 << 20; size >= 1; size = size >> 1) {
      try {
        for (;;) if (writeSync(file, Buffer.alloc(size)) < size) break;
      } catch {
        // No room for as much: less of it.
      }
    }
  } finally {
    closeSync(file);
  }
  if (statfsSync(folder).bavail > 0) throw new Error(`${folder} could not be filled.`);
}

async function secondsOf(work) {
  const start = performance.now();
  await work;
  return (performance.now() - start) / 1000;
}

/** The time of day as the application has it, in ms. */
async function clockOf(app) {
  const response = await fetch(`${app.address}/api/health`);
  return Date.parse(response.headers.get('date'));
}
