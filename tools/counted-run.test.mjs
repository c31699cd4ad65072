import assert from 'node:assert/strict';
import { test } from 'node:test';
import { lives, pause } from './lib/processes.mjs';
import { runCounted } from './lib/counted-run.mjs';

const counted = (program, options = {}) => {
  const said = [];
  return runCounted(process.execPath, ['-e', program], {
    count: (output) => ({
      passed: Number(/(\d+) ok/.exec(output)?.[1] ?? 0),
      failed: Number(/(\d+) bad/.exec(output)?.[1] ?? 0),
    }),
    show: (chunk) => said.push(String(chunk)),
    ...options,
  }).then((result) => ({ ...result, said: said.join('') }));
};

test('what a program counts is what it is counted as', async () => {
  const { passed, failed, code } = await counted('console.log("7 ok, 2 bad"); process.exitCode = 1');
  assert.deepEqual({ passed, failed, code }, { passed: 7, failed: 2, code: 1 });
});

test('a program that falls over without a word counts as one failure', async () => {
  const { passed, failed } = await counted('process.exit(3)');
  assert.deepEqual({ passed, failed }, { passed: 0, failed: 1 });
});

test('its last lines are kept, where it tells what failed', async () => {
  const { end } = await counted(
    'for (let i = 1; i <= 200; i++) console.log("line " + i); process.exitCode = 1',
  );
  assert.match(end, /^line 141\n[^]*\nline 200$/);
});

test('a program that runs aside gives way, as one of many and as a session', async () => {
  const { said } = await counted(
    `setTimeout(() => {
       console.log('priority ' + require('node:os').getPriority());
       try { console.log(require('node:fs').readFileSync('/proc/self/autogroup', 'utf8')); } catch {}
       console.log('1 ok');
     }, 300)`,
    { aside: true },
  );
  assert.match(said, /^priority 19$/m);
  if (said.includes('autogroup')) assert.match(said, /nice 19$/m);
});

test('a program that does not end is ended, with what it started, and counts as a failure', async () => {
  // The child of the child holds the pipe open: waiting for the program alone would not be enough.
  const { passed, failed, said } = await counted(
    `require('node:child_process').spawn(process.execPath, ['-e', 'console.log(process.pid); setInterval(() => {}, 1000)'], { stdio: 'inherit' });
     console.log('3 ok')`,
    { limitMin: 0.02 },
  );
  assert.deepEqual({ passed, failed }, { passed: 3, failed: 1 });
  assert.match(said, /did not end within 0\.02 minutes and was ended/);
  const grandchild = Number(/^(\d+)$/m.exec(said)[1]);
  for (let i = 0; i < 50 && lives(grandchild); i++) await pause(20);
  assert.equal(lives(grandchild), false);
});
