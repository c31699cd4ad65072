import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { benchBrowser, benchSetOut } from './lib/bench-browser.mjs';
import { benchConvex, convexTable, recordedTimes } from './lib/bench-convex.mjs';
import { benchWalk } from './lib/bench-walk.mjs';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { inHouse } from './lib/house.mjs';
import { run, say, Stop } from './lib/say.mjs';
import { shell } from './lib/shell.mjs';

/** Every figure comes from a process of its own, so that memory is its own too; the best of three counts. */
const TASKS = [
  { name: 'OBJ, 1 000 000 triangles, ours', task: 'read', file: 'million.obj', aim: '3 s, 1 GB' },
  { name: 'OBJ, the same bytes, three OBJLoader', task: 'three-obj', file: 'million.obj' },
  { name: 'GLB, 1 000 000 triangles, ours', task: 'read', file: 'million.glb', aim: '3 s, 1 GB' },
  { name: 'GLB, the same bytes, three GLTFLoader', task: 'three-gltf', file: 'million.glb' },
  { name: 'weld, exact, 3 000 000 vertices', task: 'weld', file: 'million.glb' },
  { name: 'weld within 0.1 mm, 3 000 000 vertices', task: 'weld-near', file: 'million.glb' },
  { name: 'survey, 1 000 000 triangles', task: 'survey', file: 'million.glb' },
  { name: 'survey, 1 000 loose shells of 200 triangles', task: 'survey-shells' },
  {
    name: 'inside or outside, built, 1 000 000 triangles',
    task: 'winding',
    file: 'million.glb',
    aim: '2 s, 600 MB',
  },
  { name: 'STL, 1 000 000 triangles', task: 'stl', file: 'million.glb' },
  { name: 'COLLADA, 200 000 triangles', task: 'collada', file: 'kit.obj' },
  { name: 'deliver 200 000 triangles, hull per part', task: 'deliver', file: 'kit.obj' },
  { name: 'trial, set up with 64 shapes', task: 'trial-set-up-64' },
  { name: 'trial, set up with 500 shapes', task: 'trial-set-up-500' },
  { name: 'trial, set up with 5 000 shapes', task: 'trial-set-up-5000' },
  { name: 'trial, 600 steps among 64 shapes', task: 'trial-steps-64' },
  { name: 'trial, 600 steps among 500 shapes', task: 'trial-steps-500' },
  { name: 'trial, 600 steps among 5 000 shapes', task: 'trial-steps-5000' },
  { name: 'trial, a route among 500 shapes', task: 'trial-route' },
  { name: 'trial by itself, a stair of 16 steps', task: 'trial-by-itself', aim: '5 s' },
];

/** What `--convex` measures alone. */
const CONVEX_TASKS = [
  { name: 'hull, 100 000 points in a cube, ours', task: 'hull-cube' },
  { name: 'hull, the same points, three ConvexHull', task: 'three-hull-cube' },
  { name: 'hull, 100 000 points on a sphere, ours', task: 'hull-sphere' },
  { name: 'hull, the same points, three ConvexHull', task: 'three-hull-sphere' },
  { name: 'signed distance, built, 1 000 000 triangles', task: 'solid-distance', aim: '2 s, 600 MB' },
  { name: 'comparing, 50 000 triangles with 16 shapes', task: 'compare', aim: '300 ms' },
  {
    name: 'judging again after one of 64 boxes was moved, 51 200 triangles',
    task: 'judge-64',
    aim: '150 ms',
  },
  { name: 'judging again after one of 1 000 boxes was moved, 51 200 triangles', task: 'judge-1000', runs: 1 },
  { name: 'whole ladder to 32, 5 000 triangles', task: 'decompose-5k', aim: '1 s' },
  { name: 'whole ladder to 32, 51 200 triangles', task: 'decompose-50k', aim: '5 s' },
  {
    name: 'whole ladder to 32, 1 000 000 triangles',
    task: 'decompose-million',
    aim: '40 s, 1.5 GB',
    runs: 1,
  },
  { name: '1 000 000 loose crumbs, refused', task: 'decompose-crumbs', aim: '1 s' },
];

/** The table that was recorded last; `npm run bench -- --convex` stops after the new one. */
const RECORD = inHouse('docs/benchmarks.md');

await run(async () => {
  if (process.argv.includes('--walk')) {
    const { browser } = await bootstrap(['database', 'browser']);
    await buildCode();
    await buildWeb();
    return walk(browser);
  }
  const against = process.argv.indexOf('--against');
  if (against > 0) {
    const revision = process.argv[against + 1];
    if (!revision) throw new Stop('Against which revision? npm run bench -- --against HEAD');
    await bootstrap([]);
    await buildCode();
    const { benchAgainst } = await import('./lib/bench-against.mjs');
    const few = process.argv.includes('--few');
    process.stdout.write(`\n${await benchAgainst(revision, { few })}\n`);
    return;
  }
  if (process.argv.includes('--server')) {
    await bootstrap(['database']);
    await buildCode();
    const { benchServer } = await import('./lib/bench-server.mjs');
    return benchServer((line) => process.stdout.write(`${line}\n`));
  }
  if (process.argv.includes('--shelf')) {
    const { browser } = await bootstrap(['database', 'browser']);
    await buildCode();
    await buildWeb();
    const { benchShelf } = await import('./lib/bench-shelf.mjs');
    return benchShelf(browser, (line) => process.stdout.write(`${line}\n`));
  }
  if (process.argv.includes('--large')) {
    const { browser } = await bootstrap(['database', 'browser']);
    await buildCode();
    await buildWeb();
    const { benchLarge } = await import('./lib/bench-large.mjs');
    const folder = mkdtempSync(join(tmpdir(), 'yard-brace-bench-'));
    process.stdout.write(
      '| what | read and drawn | shapes | delivered | read back |\n|---|---|---|---|---|\n',
    );
    try {
      await benchLarge(browser, folder, (line) => process.stdout.write(`${line}\n`));
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
    return;
  }
  if (process.argv.includes('--yard')) {
    await bootstrap(['database']);
    await buildCode();
    const { benchYard } = await import('./lib/bench-yard.mjs');
    return benchYard((line) => process.stdout.write(`${line}\n`));
  }
  if (process.argv.includes('--reading')) {
    const { browser } = await bootstrap(['browser']);
    await buildCode();
    const { benchReading } = await import('./lib/bench-reading.mjs');
    for (const { format, megabytes, ours, theirs, ratio } of await benchReading(browser))
      process.stdout.write(
        `${format}, ${megabytes.toFixed(1)} MB: ours ${Math.round(ours)} ms, three's ${Math.round(theirs)} ms, ${ratio.toFixed(2)} times as fast\n`,
      );
    return;
  }
  if (process.argv.includes('--panels')) {
    const { browser } = await bootstrap(['database', 'browser']);
    await buildCode();
    await buildWeb();
    const { benchPanels } = await import('./lib/bench-panels.mjs');
    for (const nodes of [3, 5000]) {
      process.stdout.write(
        `\n| ${nodes} nodes | opened first, longest task in ms | again |\n|---|--:|--:|\n`,
      );
      for (const { panel, first, again } of await benchPanels(browser, nodes))
        process.stdout.write(`| ${panel} | ${first} | ${again} |\n`);
    }
    return;
  }
  const convexOnly = process.argv.includes('--convex');
  const { browser } = await bootstrap(['database', 'browser']);
  await buildCode();
  if (!convexOnly) await buildWeb();
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-bench-'));
  try {
    if (!convexOnly) {
      say('Writing the files …');
      await shell('node', [inHouse('tools/lib/bench-task.mjs'), 'write', folder], {
        what: 'writing the bench files',
      });
    }
    const results = [];
    for (const task of convexOnly ? CONVEX_TASKS : [...TASKS, ...CONVEX_TASKS])
      results.push(await measured(task, folder));
    report(results);
    const recorded = existsSync(RECORD) ? readFileSync(RECORD, 'utf8') : '';
    process.stdout.write(`\n${convexTable(await benchConvex(say), recordedTimes(recorded))}\n\n`);
    if (convexOnly) return;
    say('A piece of 1 000 000 triangles in the browser');
    reportBrowser(await benchBrowser(browser, join(folder, 'million.glb')));
    // The same page with few and with many: what its own thread does must not grow with them.
    for (const count of [20, 2000]) {
      say(`A set-out of ${count} pieces in the browser`);
      reportBrowser(await benchSetOut(browser, count));
    }
    await walk(browser);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

async function walk(browser) {
  for (const count of [20, 500]) {
    say(`A walk among ${count} shapes in the browser`);
    process.stdout.write(
      `\n| a walk among ${count} shapes | frames | median, ms | 95 of 100 under, ms | longest, ms |\n|---|--:|--:|--:|--:|\n`,
    );
    for (const [name, { frames, median, p95, longest }] of Object.entries(await benchWalk(browser, count)))
      process.stdout.write(`| ${name} | ${frames} | ${median} | ${p95} | ${longest} |\n`);
  }
}

/** The best of some runs, each in a process of its own. */
async function measured({ name, task, file, aim, runs: times = 3 }, folder) {
  say(name);
  const runs = [];
  for (let i = 0; i < times; i++)
    runs.push(
      JSON.parse(
        await shell('node', [inHouse('tools/lib/bench-task.mjs'), task, file ? join(folder, file) : ''], {
          what: name,
        }),
      ),
    );
  const best = runs.reduce((a, b) => (a.ms < b.ms ? a : b));
  return {
    name,
    ms: Math.round(best.ms),
    megabytes: Math.round(best.megabytes),
    aim,
    fileMegabytes: file && Math.round(statSync(join(folder, file)).size / 2 ** 20),
  };
}

function report(results) {
  const of = (name) => results.find((result) => result.name.startsWith(name));
  const lines = results.map(
    ({ name, ms, megabytes, aim, fileMegabytes }) =>
      `| ${name} | ${fileMegabytes ? `${fileMegabytes} MB` : ''} | ${ms} ms | ${megabytes} MB | ${aim ?? ''} |`,
  );
  const ratio = (words, ours, theirs, more = '') =>
    of(ours)
      ? [`${words} ${(of(theirs).ms / of(ours).ms).toFixed(2)} times as fast as three's loader${more}`]
      : [];
  const ratioOf = (shape) => {
    const at = results.findIndex(
      ({ name }) => name.startsWith('hull, 100 000 points') && name.includes(shape),
    );
    return (results[at + 1].ms / results[at].ms).toFixed(2);
  };
  process.stdout.write(
    [
      `${cpus().length} cores (${cpus()[0].model.trim()}), ${Math.round(totalmem() / 2 ** 30)} GB, Node ${process.versions.node}`,
      '',
      '| what | file | time | peak memory | aim |',
      '|---|---|---|---|---|',
      ...lines,
      '',
      ...ratio('OBJ: ours is', 'OBJ, 1 000 000', 'OBJ, the same'),
      ...ratio('GLB: ours is', 'GLB, 1 000 000', 'GLB, the same', ' (ours checks every number)'),
      `hull in a cube: ${ratioOf('cube')} times as fast as three's`,
      `hull on a sphere: ${ratioOf('sphere')} times as fast as three's`,
      '',
    ].join('\n'),
  );
}

function reportBrowser(figures) {
  process.stdout.write(
    '\n| in the browser | ms | longest task on the page, ms | tasks over 100 ms |\n|---|--:|--:|--:|\n',
  );
  for (const [name, { ms, longest, over100 }] of Object.entries(figures))
    process.stdout.write(`| ${name} | ${ms} | ${longest} | ${over100} |\n`);
}
