import assert from 'node:assert/strict';
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { fileURLToPath } from 'node:url';
import { freePort, pause } from './lib/processes.mjs';

const START = fileURLToPath(new URL('./start.mjs', import.meta.url));
let data;
let port;

before(async () => {
  data = mkdtempSync(join(tmpdir(), 'yard-brace-start-'));
  port = await freePort();
});
after(() => rmSync(data, { recursive: true, force: true }));

/** Start the application; resolves when it is ready or has ended. */
function start(...args) {
  const child = spawn(process.execPath, [START, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
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
    child.once('exit', (code) => resolve(code));
    child.kill(signal);
  });
const runFile = () => JSON.parse(readFileSync(join(data, 'run.json'), 'utf8'));
const health = () => fetch(`http://127.0.0.1:${port}/api/health`).then((response) => response.json());

function lives(pid) {
  try {
    process.kill(pid, 0);
    return !/^State:\s+Z/m.test(readFileSync(`/proc/${pid}/status`, 'utf8'));
  } catch {
    return false;
  }
}

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
    for (let i = 0; i < 150 && runFile()[part] === before; i++) await pause(100);
    assert.notEqual(runFile()[part], before);
  }
  let well;
  for (let i = 0; i < 100 && well?.status !== 'ok'; i++) {
    well = await health().catch(() => undefined);
    await pause(100);
  }
  assert.deepEqual(well, { status: 'ok' });
  assert.equal(await end(child), 0);
});
