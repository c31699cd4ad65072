import { spawn } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
  statSync,
} from 'node:fs';
import { isIP } from 'node:net';
import { availableParallelism } from 'node:os';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { Database } from './lib/database.mjs';
import { diskFault } from './lib/disk.mjs';
import { inHouse } from './lib/house.mjs';
import { holdAlone } from './lib/only-one.mjs';
import { endProcess, isOurs, pause, portIsFree } from './lib/processes.mjs';
import { run, say, Stop } from './lib/say.mjs';

const USAGE = `npm start -- [--port N] [--data DIR] [--deliveries DIR] [--workers N] [--empty]
                [--listen ADDRESS --origin https://NAME --person-header HEADER]

  --port N          port on loopback, default 4300
  --data DIR        where the database keeps its files, default .yard in this folder
  --deliveries DIR  put deliveries into this folder as well, for programs that watch it
  --workers N       processes that work on jobs, each on a piece at a time; default: one for two cores
  --listen, --origin, --person-header
                    behind a proxy that signs people in: where it finds this, the address that people know, and the
                    header in which it names who asks; all three or none
  --empty           do not fill an empty database with the sample yard`;

await run(async () => {
  const options = readOptions();
  const runFile = join(options.data, 'run.json');
  if (!(await holdAlone(options.data))) throw new Stop(alreadyRunning(runFile));
  await clearLeftOver(runFile, options);
  if (!(await portIsFree(options.port))) {
    throw new Stop(
      `Port ${options.port} is taken by another program; start with another one, for example: npm start -- --port ${options.port + 1}`,
    );
  }
  await bootstrap(['database']);
  await buildCode();
  await buildWeb();

  say('Starting the database …');
  const database = new Database(join(options.data, 'database'));
  let server;
  /** processes that work on jobs */
  const workers = [];
  let stopping = false;
  const record = () => {
    const run = {
      starter: process.pid,
      server: server?.pid,
      workers: workers.map(({ pid }) => pid),
      database: database.pid,
      port: options.port,
      ...(options.proxy ? { proxy: options.proxy } : {}),
    };
    try {
      // Whole or not at all: who looks meanwhile never finds half of it.
      writeFileSync(`${runFile}.new`, JSON.stringify(run));
      renameSync(`${runFile}.new`, runFile);
    } catch (error) {
      say(
        `${runFile} cannot be written (${error.code}); a start after a crash will have more to clear away.`,
      );
    }
  };
  const stop = async (code = 0) => {
    if (stopping) return;
    stopping = true;
    say('\nStopping …');
    await Promise.all([server, ...workers].map((child) => child?.exitCode === null && endProcess(child.pid)));
    await database.stop();
    rmSync(runFile, { force: true });
    process.exit(code);
  };
  process.on('SIGINT', () => stop());
  process.on('SIGTERM', () => stop());
  process.on('SIGHUP', () => stop());

  try {
    await database.start();
    record();
    server = await startServer(options, database);
    for (let i = 0; i < options.workers; i++) workers.push(await startWorker(i, options, database));
    record();
    const address = `http://127.0.0.1:${options.port}`;
    // Behind a proxy nobody comes in without a name: an empty database stays empty.
    if (!options.empty && !options.proxy) await fill(address, options.data);
    const tooOften = restartCounter();
    database.onLost = async () => {
      if (stopping) return;
      say('The database stopped unexpectedly; starting it again …');
      if (tooOften()) return stop(1);
      await pause(200);
      await roomIn(join(options.data, 'database'), () => stopping);
      if (stopping) return;
      await database.restart().catch((error) => {
        say(error.message);
        return stop(1);
      });
      record();
    };
    watchServer();
    workers.forEach((_, i) => watchWorker(i));
    process.stdout.write(`Yard Brace is ready: ${options.proxy?.origin ?? address}\n`);

    /** Another one is started for each that ends; while the database is away that is tried again. */
    async function watchWorker(i) {
      while (!stopping) {
        await new Promise((resolve) => workers[i].once('exit', resolve));
        for (let started = false; !started && !stopping;) {
          say('A process that works on jobs stopped unexpectedly; starting another one …');
          if (tooOften()) return stop(1);
          started = await startWorker(i, options, database).then(
            (worker) => (workers[i] = worker),
            () => pause(1000),
          );
        }
        record();
      }
    }

    function watchServer() {
      server.once('exit', async () => {
        if (stopping) return;
        say('The server stopped unexpectedly; starting it again …');
        if (tooOften()) return stop(1);
        try {
          server = await startServer(options, database);
          record();
          watchServer();
        } catch (error) {
          say(error.message);
          stop(1);
        }
      });
    }
  } catch (error) {
    say(error instanceof Stop ? error.message : error.stack);
    await stop(1);
  }
});

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: 'string' },
        data: { type: 'string' },
        deliveries: { type: 'string' },
        workers: { type: 'string' },
        listen: { type: 'string' },
        origin: { type: 'string' },
        'person-header': { type: 'string' },
        empty: { type: 'boolean' },
        help: { type: 'boolean' },
      },
    });
    if (values.help) {
      process.stdout.write(`${USAGE}\n`);
      process.exit(0);
    }
    const port = Number(values.port ?? 4300);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      throw new Stop(`--port takes a number from 1 to 65535, not “${values.port}”.\n${USAGE}`);
    const data = values.data ? resolve(process.env.INIT_CWD ?? '.', values.data) : inHouse('.yard');
    mkdirSync(data, { recursive: true, mode: 0o711 });
    // The account of the database has to get through; nobody can look around here.
    chmodSync(data, 0o711);
    const deliveries = values.deliveries && resolve(process.env.INIT_CWD ?? '.', values.deliveries);
    if (deliveries && !statSync(deliveries, { throwIfNoEntry: false })?.isDirectory())
      throw new Stop(`${deliveries} is no folder; make it first, or leave --deliveries out.`);
    const workers = Number(values.workers ?? Math.max(1, Math.floor(availableParallelism() / 2)));
    if (!Number.isInteger(workers) || workers < 0 || workers > 64)
      throw new Stop(`--workers takes a number from 0 to 64, not “${values.workers}”.\n${USAGE}`);
    const proxy = proxyDoor(values);
    return { proxy, port, data, deliveries, workers, empty: values.empty ?? false };
  } catch (error) {
    if (error instanceof Stop) throw error;
    throw new Stop(`${error.message}\n${USAGE}`);
  }
}

/** All that is needed to stand behind a proxy, or nothing of it. @throws Stop for less */
function proxyDoor({ listen, origin, 'person-header': header }) {
  if (listen === undefined && origin === undefined && header === undefined) return null;
  if (listen === undefined || origin === undefined || header === undefined)
    throw new Stop(
      `Behind a proxy --listen, --origin and --person-header are needed together: without one of them anybody could come in.\n${USAGE}`,
    );
  if (!isIP(listen))
    throw new Stop(`--listen takes the address of a network of this machine, not “${listen}”.`);
  if (!URL.canParse(origin) || new URL(origin).origin !== origin || !origin.startsWith('https://'))
    throw new Stop(
      `--origin takes the address that people know, such as https://yard.example, not “${origin}”.`,
    );
  if (!/^[a-z][a-z0-9-]{2,60}$/i.test(header))
    throw new Stop(`--person-header takes the name of a header, not “${header}”.`);
  return { listen, origin, header };
}

function alreadyRunning(runFile) {
  const { port } = leftIn(runFile);
  return `Yard Brace is already running on this data${port ? ` at http://127.0.0.1:${port}` : ' (it is just starting)'}; use that, or start with another folder: npm start -- --data DIR`;
}

function leftIn(runFile) {
  try {
    return JSON.parse(readFileSync(runFile, 'utf8'));
  } catch {
    // None, or spoiled: nothing in it can be trusted.
    return {};
  }
}

/** What a killed starter left behind on this data goes. */
async function clearLeftOver(runFile, { data }) {
  const { server, workers = [] } = leftIn(runFile);
  if (isOurs(server, 'server/dist/main.js', `--data=${data}`)) await endProcess(server);
  for (const worker of workers)
    if (isOurs(worker, 'server/dist/jobs-main.js', `--data=${data}`)) await endProcess(worker);
  rmSync(runFile, { force: true });
}

/** True when something had to be started again more than thirty times within a minute: it will not get better. */
function restartCounter() {
  const moments = [];
  return () => {
    const now = Date.now();
    moments.push(now);
    return moments.filter((moment) => now - moment < 60_000).length > 30;
  };
}

/** Waits for room on the disk: without any the database cannot start. */
async function roomIn(folder, givenUp) {
  for (let said = false; !givenUp(); said = true) {
    const full = diskFault(folder);
    if (!full) return;
    if (!said) say(`${full} It is started again as soon as there is.`);
    await pause(2000);
  }
}

function startServer(options, database) {
  say('Starting the server …');
  const { proxy } = options;
  const own = [
    `--port=${options.port}`,
    `--web=${inHouse('web/dist/browser')}`,
    ...(proxy
      ? [`--listen=${proxy.listen}`, `--origin=${proxy.origin}`, `--person-header=${proxy.header}`]
      : []),
  ];
  return startPart('server', 'main.js', own, options, database);
}

function startWorker(i, options, database) {
  return startPart(`jobs-${i + 1}`, 'jobs-main.js', [], options, database);
}

/** A process of ours on the database. @throws Stop when it ends before it is ready */
function startPart(name, file, own, { data, deliveries }, database) {
  const log = join(data, 'log', `${name}.log`);
  const child = spawn(
    process.execPath,
    [
      inHouse('server/dist', file),
      ...own,
      `--db-port=${database.port}`,
      `--db-password-file=${database.passwordFile}`,
      `--log=${log}`,
      `--data=${data}`,
      ...(deliveries ? [`--deliveries=${deliveries}`] : []),
    ],
    { stdio: ['ignore', 'inherit', 'inherit', 'ipc'], detached: true },
  );
  return new Promise((resolve, reject) => {
    child.once('message', (message) =>
      message.ready ? resolve(child) : reject(new Stop(`The ${name} could not start: ${message.failed}.`)),
    );
    child.once('exit', (code) =>
      reject(new Stop(`The ${name} process ended at once (exit ${code}); its log is ${log}.`)),
    );
  });
}

/** The sample yard goes into an empty database, through the same reader and the same API as anyone's files. */
async function fill(address, data) {
  const { fillSampleYard } = await import('@yard-brace/demo');
  const marker = join(data, 'filling');
  const again = existsSync(marker);
  writeFileSync(marker, '');
  if (await fillSampleYard(address, { say, again })) say('The sample yard Saltgate Slip is there.');
  rmSync(marker);
}
