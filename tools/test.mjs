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

const FUZZ = 'tools/fuzz.test.mjs';

/** Each part runs one program and knows how that program counts. */
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
    nodeTests(
      testsOf('tools').filter((name) => name !== FUZZ),
      options,
    ),
  fuzz: (options) => nodeTests([FUZZ], options),
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
  format: (options) => checker(['prettier', '--check', '--log-level', 'warn', '.'], options),
  lint: (options) => checker(['eslint', '.'], options),
  demo: (options) => jasmine('demo', options),
  cli: (options) => jasmine('cli', options),
  trial: (options) => jasmine('trial', options),
  contract: (options) => jasmine('contract', options),
};

/**
 * What only computes goes on at the lowest priority beside the rest, in what that leaves of the machine: the real
 * interface has real time-outs. Those that take long come first.
 */
const ASIDE = ['format', 'core', 'core-browser', 'web', 'lint', 'demo', 'cli', 'fuzz', 'trial', 'contract'];
const NEEDS_CLIENT = ['e2e', 'tools'];

await run(async () => {
  const asked = process.argv.slice(2);
  const unknown = asked.find((part) => !(part in PARTS));
  if (unknown) throw new Stop(`There is no part “${unknown}”; there are ${Object.keys(PARTS).join(', ')}.`);
  const parts = asked.length ? asked : Object.keys(PARTS);
  const shown = parts.length === 1 ? parts[0] : 'e2e';
  await sweepTemporary();
  const { browser } = await bootstrap(['database', 'browser']);
  const total = { passed: 0, failed: 0 };
  const lines = [];
  const ends = [];
  /** One of them is shown as it goes, the others whole when they are done. */
  const runPart = async (part, options = {}) => {
    if (!parts.includes(part)) return;
    const said = [];
    if (part === shown) say(`\n== ${part}`);
    else options.show = (chunk) => said.push(chunk);
    const start = Date.now();
    const { passed, failed, end } = await PARTS[part]({ browser, ...options });
    if (part !== shown) say(`\n== ${part}\n${said.join('')}`);
    total.passed += passed;
    total.failed += failed;
    if (failed) ends.push(`\n== ${part} failed, its end once more\n${end}\n`);
    lines.push(
      `${part.padEnd(14)}${String(passed).padStart(5)} passed, ${failed} failed, ${((Date.now() - start) / 1000).toFixed(0)} s`,
    );
  };
  const code = buildCode();
  const client = parts.some((part) => NEEDS_CLIENT.includes(part)) ? code.then(buildWeb) : code;
  const inTurn = async () => {
    await client;
    await runPart('e2e');
    await runPart('tools');
  };
  const aside = async () => {
    for (const part of ASIDE) {
      if (part !== 'format') await code;
      // It compiles the client as well, with the same cache.
      if (part === 'web') await client;
      await runPart(part, { aside: parts.length > 1, limitMin: LONG_MIN });
    }
  };
  await Promise.all([inTurn(), code.then(() => runPart('server')), aside()]);
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

function nodeTests(files, options) {
  return runCounted('node', ['--test', '--test-reporter=tap', '--test-concurrency=2', ...files], {
    ...options,
    count: countTap,
  });
}

/** A program that counts nothing: it finds something or it does not. */
async function checker(command, options) {
  const { code, end } = await runCounted('npx', ['--no-install', ...command], {
    ...options,
    count: () => ({ passed: 0, failed: 0 }),
  });
  return { passed: code ? 0 : 1, failed: code ? 1 : 0, end };
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
