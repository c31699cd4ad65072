import { readdirSync, rmSync } from 'node:fs';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { Database } from './lib/database.mjs';
import { inHouse } from './lib/house.mjs';
import { run, say, Stop } from './lib/say.mjs';
import { runCounted } from './lib/counted-run.mjs';
import { sweepTemporary, temporaryFolder } from './lib/temporary.mjs';

/**
 * Each part runs one program and knows how that program counts. Those that take long come first: two go at a time,
 * and what is short fills the gaps.
 */
const PARTS = {
  tools: async ({ show }) => {
    await buildWeb();
    return runCounted('node', ['--test', '--test-reporter=tap', ...testsOf('tools')], {
      count: countTap,
      show,
    });
  },
  core: ({ show }) => jasmine('core', { show }),
  cli: ({ show }) => jasmine('cli', { show }),
  trial: ({ show }) => jasmine('trial', { show }),
  web: async ({ browser, show }) =>
    runCounted('npx', ['--no-install', 'ng', 'test', '--watch=false'], {
      cwd: inHouse('web'),
      env: { CHROME_BIN: browser, NG_CLI_ANALYTICS: 'false' },
      count: countKarma,
      show,
    }),
  'core-browser': async ({ browser, show }) =>
    runCounted('node', ['tools/lib/karma-core.mjs'], {
      env: { CHROME_BIN: browser },
      count: countKarma,
      show,
    }),
  lint: async ({ show }) => {
    const none = () => ({ passed: 0, failed: 0 });
    const npx = (...args) => runCounted('npx', ['--no-install', ...args], { count: none, show });
    const codes = [
      (await npx('eslint', '.')).code,
      (await npx('prettier', '--check', '--log-level', 'warn', '.')).code,
    ];
    const failed = codes.filter(Boolean).length;
    return { passed: codes.length - failed, failed };
  },
  demo: ({ show }) => jasmine('demo', { show }),
  contract: ({ show }) => jasmine('contract', { show }),
  server: ({ show }) => withDatabase((env) => jasmine('server', { env, show })),
  e2e: async ({ browser }) => {
    await buildWeb();
    return runCounted('npx', ['--no-install', 'playwright', 'test'], {
      cwd: inHouse('e2e'),
      env: { CHROME_BIN: browser },
      count: countPlaywright,
      // Twenty minutes and more on two cores, and twice as long on a slower machine.
      limitMin: 50,
    });
  },
};

/** What has the machine to itself: real time-outs run in it, as for a person. */
const ALONE = new Set(['e2e']);

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
  const runPart = async (part, show) => {
    const start = Date.now();
    const { passed, failed } = await PARTS[part]({ ...programs, ...(show ? { show } : {}) });
    total.passed += passed;
    total.failed += failed;
    lines.push(
      `${part.padEnd(14)}${String(passed).padStart(5)} passed, ${failed} failed, ${((Date.now() - start) / 1000).toFixed(0)} s`,
    );
  };
  // Two at a time, each shown whole when it is done; one alone is shown as it goes.
  const waiting = parts.filter((part) => !ALONE.has(part));
  const alone = waiting.length === 1 ? waiting.splice(0) : [];
  const lane = async () => {
    for (let part = waiting.shift(); part; part = waiting.shift()) {
      const said = [];
      await runPart(part, (chunk) => said.push(chunk));
      say(`\n== ${part}\n${said.join('')}`);
    }
  };
  await Promise.all([lane(), lane()]);
  for (const part of [...alone, ...parts.filter((each) => ALONE.has(each))]) {
    say(`\n== ${part}`);
    await runPart(part);
  }
  process.stdout.write(`\n${lines.join('\n')}\n${total.passed} passed, ${total.failed} failed\n`);
  process.exitCode = total.failed === 0 ? 0 : 1;
});

function testsOf(folder) {
  return readdirSync(inHouse(folder))
    .filter((name) => name.endsWith('.test.mjs'))
    .map((name) => `${folder}/${name}`);
}

function jasmine(name, { env = {}, show }) {
  return runCounted(
    'node',
    ['--expose-gc', inHouse('node_modules/jasmine/bin/jasmine.js'), '--config=jasmine.json'],
    { cwd: inHouse(name), env, count: countJasmine, show },
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
