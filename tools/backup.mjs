import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
} from 'node:fs';
import { get } from 'node:http';
import { join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { parseArgs } from 'node:util';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode } from './lib/build.mjs';
import { Database } from './lib/database.mjs';
import { inHouse } from './lib/house.mjs';
import { holdAlone } from './lib/only-one.mjs';
import { isOurs } from './lib/processes.mjs';
import { run, say, Stop } from './lib/say.mjs';

const USAGE = `npm run backup -- --out FILE [--data DIR]       everything into one file, while it runs or not
npm run backup -- --restore FILE --data DIR     into a data folder that holds nothing`;

await run(async () => {
  const { values } = options();
  const here = (path) => resolve(process.env.INIT_CWD ?? '.', path);
  const data = values.data ? here(values.data) : inHouse('.yard');
  if (values.restore) return restore(here(values.restore), data);
  if (values.out) return backup(here(values.out), data);
  throw new Stop(USAGE);
});

function options() {
  try {
    return parseArgs({
      options: { out: { type: 'string' }, restore: { type: 'string' }, data: { type: 'string' } },
    });
  } catch (error) {
    throw new Stop(`${error.message}\n${USAGE}`);
  }
}

/** Written beside its place and swapped in: what stood there before is only replaced by a whole one. */
async function backup(out, data) {
  const part = `${out}.part`;
  try {
    const door = doorOf(data);
    if (door) await download(door, part);
    else
      await onDatabase(data, { must: true }, ({ source }, { writeArchive }) =>
        pipeline(writeArchive(source), createWriteStream(part)),
      );
    renameSync(part, out);
  } finally {
    rmSync(part, { force: true });
  }
  process.stdout.write(`Everything is in ${out}.\n`);
}

async function download(door, file) {
  const response = await new Promise((resolve, reject) =>
    get({ ...door, path: '/api/backup' }, resolve).once('error', (error) =>
      reject(new Stop(`The server on port ${door.port} cannot be reached (${error.code}); try again.`)),
    ),
  );
  if (response.statusCode !== 200)
    throw new Stop(`The server refused the backup (${response.statusCode}); its log says more.`);
  await pipeline(response, createWriteStream(file));
}

async function restore(file, data) {
  if (!existsSync(file)) throw new Stop(`${file}: there is no such file.`);
  mkdirSync(data, { recursive: true, mode: 0o711 });
  await onDatabase(data, { must: false }, async ({ source, app }, { readArchive }) => {
    const { counts } = await readArchive(createReadStream(file), {
      source,
      blobs: app.blobs,
      keepNumbers: true,
    }).catch((error) => {
      throw error.name === 'HttpProblem' ? new Stop(`${file}: ${error.message}`) : error;
    });
    // Every piece is opened once, as the bench opens it.
    const pieces = await source.query('SELECT id, name FROM piece WHERE removed_at IS NULL ORDER BY id');
    const broken = [];
    for (const { id, name } of pieces)
      await app.pieces.piece(id).catch((error) => broken.push(`${name}: ${error.message}`));
    for (const line of broken) say(line);
    process.stdout.write(
      `Restored into ${data}: ${counts.rows.yard ?? 0} yards, ${pieces.length} pieces, ${counts.rows.revision ?? 0} versions, ${counts.rows.delivery ?? 0} deliveries, ${counts.blobs} files; ${broken.length ? `${broken.length} pieces cannot be opened` : 'every piece opens'}.\nStart it: npm start -- --data ${data}\n`,
    );
    if (broken.length) process.exitCode = 1;
  });
}

/** Where the server that runs on a data folder answers; null where none does. */
function doorOf(data) {
  try {
    const { server, port, proxy } = JSON.parse(readFileSync(join(data, 'run.json'), 'utf8'));
    if (!isOurs(server, 'server/dist/main.js', `--data=${data}`)) return null;
    if (!proxy) return { host: '127.0.0.1', port, headers: {} };
    // Whoever is on this machine may speak as the proxy does.
    const headers = { host: new URL(proxy.origin).host, [proxy.header]: 'backup' };
    return { host: proxy.listen, port, headers };
  } catch {
    return null;
  }
}

async function onDatabase(data, { must }, work) {
  if (must && !existsSync(join(data, 'database'))) throw new Stop(`${data} holds no data of Yard Brace.`);
  if (!(await holdAlone(data)))
    throw new Stop(`Yard Brace is just starting or stopping on ${data}; try again.`);
  await bootstrap(['database']);
  await buildCode();
  const load = (path) => import(inHouse('server/dist', path));
  const { connect } = await load('database/connect.js');
  const { createApp } = await load('app.js');
  const database = new Database(join(data, 'database'));
  await database.start();
  try {
    const password = readFileSync(database.passwordFile, 'utf8').trim();
    const source = await connect({
      host: '127.0.0.1',
      port: database.port,
      user: 'yard',
      password,
      database: 'yard_brace',
    });
    const { default: pino } = await import('pino');
    const app = createApp({ source, log: pino({ level: 'silent' }) });
    try {
      await work(
        { source, app },
        { ...(await load('archive/read-archive.js')), ...(await load('archive/write-archive.js')) },
      );
    } finally {
      await app.close();
      await source.destroy();
    }
  } finally {
    await database.stop();
  }
}
