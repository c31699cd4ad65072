import assert from 'node:assert/strict';
import { spawn } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { after, afterEach, before, test } from 'node:test';
import { fileURLToPath } from 'node:url';
import { endProcess, freePort, lives, pause } from './lib/processes.mjs';
import { sweepTemporary, temporaryFolder } from './lib/temporary.mjs';

const START = fileURLToPath(new URL('./start.mjs', import.meta.url));
let data;
let port;
/** What a test started: a failed one leaves nothing running, which would keep this file from ending. */
const started = new Set();

before(async () => {
  data = temporaryFolder('start');
  port = await freePort();
});
afterEach(async () => {
  for (const child of started) await endProcess(child.pid);
  started.clear();
});
after(() => rmSync(data, { recursive: true, force: true }));

/** Start the application; resolves when it is ready or has ended. */
function start(...args) {
  const child = spawn(process.execPath, [START, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
  started.add(child);
  child.once('exit', () => started.delete(child));
  let output = '';
  return new Promise((resolve) => {
    const hear = (chunk) => {
      output += chunk;
      if (output.includes('is ready:')) resolve({ child, ready: true, output });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.once('exit', (code) => resolve({ child, ready: false, code, output }));
  });
}

const usual = () => start('--empty', '--data', data, '--port', String(port));
const end = (child, signal = 'SIGINT') =>
  new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode) return resolve(child.exitCode);
    child.once('exit', (code) => resolve(code));
    child.kill(signal);
  });
const runFile = () => JSON.parse(readFileSync(join(data, 'run.json'), 'utf8'));
const health = () => fetch(`http://127.0.0.1:${port}/api/health`).then((response) => response.json());

test('options that make no sense are a sentence and the usage', async () => {
  for (const [args, words] of [
    [['--port', 'abc'], 'not “abc”'],
    [['--port', '70000'], 'not “70000”'],
    [['--frobnicate'], '--frobnicate'],
  ]) {
    const { ready, code, output } = await start(...args);
    assert.equal(ready, false);
    assert.equal(code, 1);
    assert.match(output, new RegExp(words));
    assert.match(output, /npm start -- \[--port N\]/);
  }
});

test('a taken port is a clear error', async () => {
  const taken = createServer();
  await new Promise((resolve) => taken.listen(port, '127.0.0.1', resolve));
  const { ready, output } = await usual();
  taken.close();
  assert.equal(ready, false);
  assert.match(output, new RegExp(`Port ${port} is taken by another program; start with another one`));
});

test('Ctrl-C stops everything that was started', async () => {
  const { child, ready, output } = await usual();
  assert.ok(ready, output);
  const { server, database } = runFile();
  assert.deepEqual(await health(), { status: 'ok' });
  const second = await usual();
  assert.equal(second.ready, false);
  assert.match(second.output, /already running on this data at http:/);
  assert.equal(await end(child), 0);
  assert.deepEqual([lives(server), lives(database)], [false, false]);
  assert.equal(existsSync(join(data, 'run.json')), false);
});

test('after kill -9 of the starter the next start recovers', async () => {
  const first = await usual();
  const { server, database } = runFile();
  await end(first.child, 'SIGKILL');
  const again = await usual();
  assert.ok(again.ready, again.output);
  assert.deepEqual(await health(), { status: 'ok' });
  assert.deepEqual([lives(server), lives(database)], [false, false]);
  assert.equal(await end(again.child), 0);
});

test('after kill -9 of database and server they are started again', async () => {
  const { child } = await usual();
  for (const part of ['database', 'server']) {
    const before = runFile()[part];
    process.kill(before, 'SIGKILL');
    for (let i = 0; i < 600 && runFile()[part] === before; i++) await pause(100);
    assert.notEqual(runFile()[part], before);
  }
  let well;
  for (let i = 0; i < 300 && well?.status !== 'ok'; i++) {
    well = await health().catch(() => undefined);
    await pause(100);
  }
  assert.deepEqual(well, { status: 'ok' });
  assert.equal(await end(child), 0);
});

test('two starts at once on a new folder: one runs, the other says so', async () => {
  const fresh = temporaryFolder('start');
  const ports = [await freePort(), await freePort()];
  const both = await Promise.all(
    ports.map((other) => start('--empty', '--data', fresh, '--port', String(other))),
  );
  const [running] = both.filter(({ ready }) => ready);
  const [refused] = both.filter(({ ready }) => !ready);
  assert.ok(running && refused, both.map(({ output }) => output).join('\n---\n'));
  assert.match(refused.output, /already running on this data/);
  assert.equal(await end(running.child), 0);
  const again = await start('--empty', '--data', fresh, '--port', String(ports[0]));
  assert.ok(again.ready, again.output);
  assert.equal(await end(again.child), 0);
  rmSync(fresh, { recursive: true, force: true });
});

test('a copy of a data folder is no longer the one that runs', async () => {
  const { child } = await usual();
  const copy = `${data}-copy`;
  // As a backup tool would: nothing of the running database is consistent, so only the marks are copied.
  mkdirSync(copy);
  cpSync(join(data, 'run.json'), join(copy, 'run.json'));
  const other = await start('--empty', '--data', copy, '--port', String(await freePort()));
  assert.ok(other.ready, other.output);
  assert.deepEqual(await health(), { status: 'ok' });
  assert.equal(await end(other.child), 0);
  assert.deepEqual(await health(), { status: 'ok' });
  assert.equal(await end(child), 0);
  rmSync(copy, { recursive: true, force: true });
});

test('the database is closed: not root, no password of none, no files, folders of their own', async () => {
  const { child } = await usual();
  const { database } = runFile();
  const status = readFileSync(`/proc/${database}/status`, 'utf8');
  if (process.getuid() === 0) assert.notEqual(/^Uid:\s+(\d+)/m.exec(status)[1], '0');
  for (const folder of ['database', 'log'])
    assert.equal((statSync(join(data, folder)).mode & 0o777).toString(8), '700', folder);
  const words = readFileSync(`/proc/${database}/cmdline`, 'utf8').split('\0');
  const dbPort = Number(words.find((word) => word.startsWith('--port=')).slice(7));
  const { createConnection } = await import('mysql2/promise');
  const tried = (options) =>
    createConnection({ host: '127.0.0.1', port: dbPort, ...options }).then(
      async (connection) => {
        await connection.end();
        return 'let in';
      },
      (error) => error.code,
    );
  for (const options of [
    { user: 'root' },
    { user: '' },
    { user: 'yard' },
    { user: 'root', password: 'root' },
  ])
    assert.match(await tried(options), /ER_ACCESS_DENIED|ER_ACCESS_DENIED_NO_PASSWORD_ERROR/, options.user);
  const password = readFileSync(join(data, 'database', 'password'), 'utf8');
  const own = await createConnection({ host: '127.0.0.1', port: dbPort, user: 'yard', password });
  await assert.rejects(
    own.query("SELECT 1 INTO OUTFILE '/tmp/yard-brace-outfile'"),
    /Access denied|secure-file-priv/,
  );
  await assert.rejects(own.query('SELECT * FROM mysql.global_priv'), /denied/);
  await own.end();
  assert.equal(await end(child), 0);
});

test('a full disk is named before anything is started', async () => {
  const { diskFault } = await import('./lib/disk.mjs');
  assert.equal(diskFault(data), null);
  assert.match(
    diskFault(data, () => ({ bavail: 12, bsize: 2 ** 20 })),
    /^The disk is full: 12 MB left in .*, and the database needs 64 MB\. Make room there\.$/,
  );
});

test('folders that killed tests left behind are swept, those of the living stay', async () => {
  const root = temporaryFolder('sweep');
  const gone = await new Promise((resolve) => {
    const child = spawn(process.execPath, ['-e', '']);
    child.once('exit', () => resolve(child.pid));
  });
  for (const name of [`yard-brace-test-${gone}-a`, `yard-brace-test-${process.pid}-b`, 'other']) {
    mkdirSync(join(root, name));
    writeFileSync(join(root, name, 'file'), '');
  }
  await sweepTemporary(root);
  const left = ['test-' + gone + '-a', `test-${process.pid}-b`].map((name) =>
    existsSync(join(root, `yard-brace-${name}`)),
  );
  assert.deepEqual([...left, existsSync(join(root, 'other'))], [false, true, true]);
  rmSync(root, { recursive: true, force: true });
});
