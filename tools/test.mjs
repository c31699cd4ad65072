import { rmSync } from 'node:fs';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { Database } from './lib/database.mjs';
import { inHouse } from './lib/house.mjs';
import { run, say, Stop } from './lib/say.mjs';
import { runCounted } from './lib/counted-run.mjs';
import { sweepTemporary, temporaryFolder } from './lib/temporary.mjs';

/** Each part runs one program and knows how that program counts. */
const PARTS = {
  lint: async () => {
    const { code } = await runCounted('npx', ['--no-install', 'eslint', '.'], {
      count: () => ({ passed: 0, failed: 0 }),
    });
    const format = await runCounted(
      'npx',
      ['--no-install', 'prettier', '--check', '--log-level', 'warn', '.'],
      { count: () => ({ passed: 0, failed: 0 }) },
    );
    return {
      passed: 2 - (code ? 1 : 0) - (format.code ? 1 : 0),
      failed: (code ? 1 : 0) + (format.code ? 1 : 0),
    };
  },
  core: () => jasmine('core'),
  'core-browser': async ({ browser }) =>
    runCounted('node', ['tools/lib/karma-core.mjs'], { env: { CHROME_BIN: browser }, count: countKarma }),
  cli: () => jasmine('cli'),
  demo: () => jasmine('demo'),
  tools: async () => {
    await buildWeb();
    return runCounted(
      'node',
      ['--test', '--test-reporter=tap', 'tools/start.test.mjs', 'tools/fuzz.test.mjs'],
      { count: countTap },
    );
  },
  server: () => withDatabase((env) => jasmine('server', env)),
  web: async ({ browser }) =>
    runCounted('npx', ['--no-install', 'ng', 'test', '--watch=false'], {
      cwd: inHouse('web'),
      env: { CHROME_BIN: browser, NG_CLI_ANALYTICS: 'false' },
      count: countKarma,
    }),
  e2e: async ({ browser }) => {
    await buildWeb();
    return runCounted('npx', ['--no-install', 'playwright', 'test'], {
      cwd: inHouse('e2e'),
      env: { CHROME_BIN: browser },
      count: countPlaywright,
    });
  },
};

await run(async () => {
  const asked = process.argv.slice(2);
  const unknown = asked.find((part) => !(part in PARTS));
  if (unknown) throw new Stop(`There is no part “${unknown}”; there are ${Object.keys(PARTS).join(', ')}.`);
  const parts = asked.length ? asked : Object.keys(PARTS);
  await sweepTemporary();
  const programs = await bootstrap(['database', 'browser']);
  await buildCode();
  const total = { passed: 0, failed: 0 };
  const lines = [];
  for (const part of parts) {
    say(`\n== ${part}`);
    const start = Date.now();
    const { passed, failed } = await PARTS[part](programs);
    total.passed += passed;
    total.failed += failed;
    lines.push(
      `${part.padEnd(14)}${String(passed).padStart(5)} passed, ${failed} failed, ${((Date.now() - start) / 1000).toFixed(0)} s`,
    );
  }
  process.stdout.write(`\n${lines.join('\n')}\n${total.passed} passed, ${total.failed} failed\n`);
  process.exitCode = total.failed === 0 ? 0 : 1;
});

function jasmine(name, env = {}) {
  return runCounted(
    'node',
    ['--expose-gc', inHouse('node_modules/jasmine/bin/jasmine.js'), '--config=jasmine.json'],
    { cwd: inHouse(name), env, count: countJasmine },
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
