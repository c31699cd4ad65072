import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as core from '@yard-brace/core';
import { mm, percent } from './bench-convex.mjs';
import { CLEAN, UNSEEN, yardPieces } from './convex-pieces.mjs';
import { compile } from './build.mjs';
import { inHouse } from './house.mjs';
import { say } from './say.mjs';
import { shell } from './shell.mjs';

const COUNTS = [8, 16, 32];
/** Pairs of runs; the median of their ratios counts. */
const PAIRS = 3;
/** What stands for all in two minutes: a clean case, a bent one, round and hollow art, a large piece. */
export const FEW = ['stair of six', 'ring', 'Bollard', 'Launch channel', 'funnel, hollow', 'lumpy ball'];

/**
 * The whole ladder by this build and by the build of another revision, in turn, so that what else the machine does
 * meets both. Figures of both are measured by this build's comparer.
 *
 * @param few only pieces that stand for all, one pair each
 */
export async function benchAgainst(revision, { few = false } = {}) {
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-against-'));
  try {
    say(`Building ${revision} …`);
    const other = await builtCore(revision, join(folder, 'other'));
    const rows = [];
    for (const { name, mesh } of await pieces(few)) {
      say(name);
      rows.push(await pairOf(name, mesh, { folder, other, pairs: few ? 1 : PAIRS }));
    }
    return table(revision, rows);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The core of a revision, compiled in a folder of its own with the packages of this one. */
async function builtCore(revision, folder) {
  mkdirSync(folder);
  const archive = join(folder, 'core.tar');
  await shell('git', ['archive', '-o', archive, revision, 'core', 'tsconfig.base.json'], {
    what: `reading revision ${revision}`,
  });
  await shell('tar', ['-xf', archive, '-C', folder], { what: 'unpacking the revision' });
  symlinkSync(inHouse('node_modules'), join(folder, 'node_modules'));
  await compile('-p', join(folder, 'core'));
  return join(folder, 'core', 'dist', 'index.js');
}

async function pieces(few) {
  const all = [
    ...CLEAN.map(({ name, mesh }) => ({ name, mesh: mesh() })),
    ...(await yardPieces()),
    ...UNSEEN.map(({ name, mesh }) => ({ name, mesh: mesh() })),
  ];
  return few ? all.filter(({ name }) => FEW.includes(name)) : all;
}

async function pairOf(name, mesh, { folder, other, pairs }) {
  const file = join(folder, 'mesh.json');
  writeFileSync(
    file,
    JSON.stringify({ positions: Array.from(mesh.positions), indices: Array.from(mesh.indices) }),
  );
  const builds = [
    { entry: other, out: join(folder, 'before.json') },
    { entry: inHouse('core/dist/index.js'), out: join(folder, 'now.json') },
  ];
  const ladder = async ({ entry, out }, how) => {
    const task = [inHouse('tools/lib/ladder-task.mjs'), entry, file, how, out];
    return JSON.parse(await shell('node', task, { what: `the ladder of ${name}` })).ms;
  };
  const times = {};
  for (const how of ['cold', 'warm']) {
    times[how] = [];
    for (let i = 0; i < pairs; i++) {
      // Whoever goes first is not always the same.
      const order = i % 2 ? [1, 0] : [0, 1];
      const pair = [];
      for (const which of order) pair[which] = await ladder(builds[which], how);
      times[how].push(pair);
    }
  }
  const comparer = new core.Comparer(mesh);
  const figures = builds.map(({ out }) =>
    JSON.parse(readFileSync(out, 'utf8')).map((shapes) => shapes && figuresOf(comparer.compare(shapes))),
  );
  return { name, triangles: mesh.indices.length / 3, times, figures };
}

const figuresOf = ({ cost, artVolume, overfill, underfill, proxyOutside, artOutside }) => ({
  shapes: cost.shapes,
  misfit: artVolume > 0 ? (overfill + underfill) / artVolume : 0,
  deviation: Math.max(proxyOutside.max, artOutside.max),
});

function table(revision, rows) {
  const cell = (before, now) => {
    const told = (at) => (at ? `${at.shapes}: ${percent(at.misfit)}, ${mm(at.deviation)}` : 'none');
    return told(before) === told(now) ? told(now) : `${told(before)} → ${told(now)}`;
  };
  const lines = rows.map(({ name, triangles, times, figures: [before, now] }) => {
    const [cold, warm] = [medianPair(times.cold), medianPair(times.warm)];
    return `| ${name} | ${triangles} | ${cold.told} | ${warm.told} | ${COUNTS.map((_, i) => cell(before[i], now[i])).join(' | ')} |`;
  });
  const mean = (how) =>
    Math.exp(
      rows.reduce((sum, { times }) => sum + Math.log(medianPair(times[how]).ratio), 0) / rows.length,
    ).toFixed(2);
  return [
    `Against ${revision}. Cold: a fresh process; warm: after two runs. ms before → now, and how many times as fast.`,
    `Each cell: shapes: over- and underfill in % of the art, deviation in mm, before → now. At most so many shapes:`,
    '',
    `| piece | triangles | cold | warm | ${COUNTS.join(' | ')} |`,
    `|---|--:|--:|--:|${COUNTS.map(() => '---').join('|')}|`,
    ...lines,
    '',
    `Geometric mean: cold ${mean('cold')} times as fast, warm ${mean('warm')} times.`,
  ].join('\n');
}

/** The pair with the median ratio. */
function medianPair(pairs) {
  const sorted = pairs
    .map(([before, now]) => ({ ratio: before / now, before, now }))
    .sort((a, b) => a.ratio - b.ratio);
  const { ratio, before, now } = sorted[(sorted.length - 1) >> 1];
  return { ratio, told: `${before.toFixed(0)} → ${now.toFixed(0)}, ${ratio.toFixed(2)}` };
}
