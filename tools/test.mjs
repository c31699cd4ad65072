import { readdirSync, rmSync } from 'node:fs';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { Database } from './lib/database.mjs';
import { inHouse } from './lib/house.mjs';
import { run, say, Stop } from './lib/say.mjs';
import { runCounted } from './lib/counted-run.mjs';
import { sweepTemporary, temporaryFolder } from './lib/temporary.mjs';

/** Minutes that are far too many for the longest part: a slow machine takes twice as long as another. */
const LONG_MIN = 50;

/**
 * Each part runs one program and knows how that program counts. Those that take long come first: two go at a time,
 * and what is short fills the gaps.
 */
const PARTS = {
  e2e: ({ browser, ...options }) =>
    runCounted('npx', ['--no-install', 'playwright', 'test'], {
      ...options,
      cwd: inHouse('e2e'),
      env: { CHROME_BIN: browser },
      count: countPlaywright,
      limitMin: LONG_MIN,
    }),
  tools: (options) =>
    runCounted('node', ['--test', '--test-reporter=tap', ...testsOf('tools')], {
      ...options,
      count: countTap,
    }),
  core: (options) => jasmine('core', options),
  'core-browser': ({ browser, ...options }) =>
    runCounted('node', ['tools/lib/karma-core.mjs'], {
      ...options,
      env: { CHROME_BIN: browser },
      count: countKarma,
    }),
  web: ({ browser, ...options }) =>
    runCounted('npx', ['--no-install', 'ng', 'test', '--watch=false'], {
      ...options,
      cwd: inHouse('web'),
      env: { CHROME_BIN: browser, NG_CLI_ANALYTICS: 'false' },
      count: countKarma,
    }),
  server: (options) => withDatabase((env) => jasmine('server', { ...options, env })),
  lint: async (options) => {
    const none = () => ({ passed: 0, failed: 0 });
    const npx = (...args) => runCounted('npx', ['--no-install', ...args], { ...options, count: none });
    const done = [await npx('eslint', '.'), await npx('prettier', '--check', '--log-level', 'warn', '.')];
    const failures = done.filter(({ code }) => code);
    return {
      passed: done.length - failures.length,
      failed: failures.length,
      end: failures.map(({ end }) => end).join('\n'),
    };
  },
  demo: (options) => jasmine('demo', options),
  cli: (options) => jasmine('cli', options),
  trial: (options) => jasmine('trial', options),
  contract: (options) => jasmine('contract', options),
};

/** What only computes goes on beside the real interface, in what that leaves of the machine: its time-outs are real ones. */
const BESIDE_E2E = ['core', 'lint', 'demo', 'core-browser', 'contract'];

await run(async () => {
  const asked = process.argv.slice(2);
  const unknown = asked.find((part) => !(part in PARTS));
  if (unknown) throw new Stop(`There is no part “${unknown}”; there are ${Object.keys(PARTS).join(', ')}.`);
  const parts = asked.length ? asked : Object.keys(PARTS);
  await sweepTemporary();
  const { browser } = await bootstrap(['database', 'browser']);
  await buildCode();
  const total = { passed: 0, failed: 0 };
  const lines = [];
  const ends = [];
  const runPart = async (part, options = {}) => {
    const start = Date.now();
    const { passed, failed, end } = await PARTS[part]({ browser, ...options });
    total.passed += passed;
    total.failed += failed;
    if (failed) ends.push(`\n== ${part} failed, its end once more\n${end}\n`);
    lines.push(
      `${part.padEnd(14)}${String(passed).padStart(5)} passed, ${failed} failed, ${((Date.now() - start) / 1000).toFixed(0)} s`,
    );
  };
  /** As it goes. */
  const runShown = async (part) => {
    say(`\n== ${part}`);
    await runPart(part);
  };
  const waiting = new Set(parts.filter((part) => part !== 'e2e'));
  /** One after the other, each shown whole when it is done. */
  const lane = async (mayTake, options) => {
    for (;;) {
      const part = [...waiting].find(mayTake);
      if (!part) return;
      waiting.delete(part);
      const said = [];
      await runPart(part, { ...options, show: (chunk) => said.push(chunk) });
      say(`\n== ${part}\n${said.join('')}`);
    }
  };
  let e2eRuns = parts.includes('e2e');
  const beside = lane((part) => e2eRuns && BESIDE_E2E.includes(part), { aside: true, limitMin: LONG_MIN });
  if (e2eRuns || waiting.has('tools')) await buildWeb();
  if (e2eRuns) await runShown('e2e');
  e2eRuns = false;
  if (waiting.size === 1) await runShown([...waiting][0]);
  else await Promise.all([lane(() => true), lane(() => true)]);
  await beside;
  process.stdout.write(
    `${ends.join('')}\n${lines.join('\n')}\n${total.passed} passed, ${total.failed} failed\n`,
  );
  process.exitCode = total.failed === 0 ? 0 : 1;
});

function testsOf(folder) {
  return readdirSync(inHouse(folder))
    .filter((name) => name.endsWith('.test.mjs'))
    .map((name) => `${folder}/${name}`);
}

function jasmine(name, options) {
  return runCounted(
    'node',
    ['--expose-gc', inHouse('node_modules/jasmine/bin/jasmine.js'), '--config=jasmine.json'],
    { ...options, cwd: inHouse(name), count: countJasmine },
  );
}

async function withDatabase(work) {
  const folder = temporaryFolder('test');
  const database = new Database(folder);
  try {
    await database.start();
    return await work({
      TEST_DATABASE_PORT: String(database.port),
      TEST_DATABASE_PASSWORD_FILE: database.passwordFile,
    });
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

function countJasmine(output) {
  const [, specs, failures] = /(\d+) specs?, (\d+) failures?/.exec(output) ?? [];
  return { passed: Number(specs ?? 0) - Number(failures ?? 0), failed: Number(failures ?? 0) };
}

function countKarma(output) {
  const runs = [...output.matchAll(/Executed (\d+) of (\d+)(?: \((\d+) FAILED\))?/g)];
  const [, executed = 0, , failed = 0] = runs.at(-1) ?? [];
  return { passed: Number(executed) - Number(failed ?? 0), failed: Number(failed ?? 0) };
}

function countTap(output) {
  const number = (word) => Number(new RegExp(`^# ${word} (\\d+)`, 'm').exec(output)?.[1] ?? 0);
  return { passed: number('pass'), failed: number('fail') };
}

function countPlaywright(output) {
  const number = (word) =>
    Number([...output.matchAll(new RegExp(`^\\s+(\\d+) ${word}`, 'gm'))].at(-1)?.[1] ?? 0);
  return { passed: number('passed'), failed: number('failed') + number('did not run') };
}
