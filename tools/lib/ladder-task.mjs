import { readFileSync, writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';

/**
 * One whole ladder by the core of some revision, in a process of its own.
 *
 * node ladder-task.mjs CORE MESH cold|warm OUT: CORE is its `index.js`, MESH a JSON of positions and indices; OUT gets
 * the shapes at some counts. Told: milliseconds; warm is the median of three after two.
 */
const COUNTS = [8, 16, 32];
const [entry, file, how, out] = process.argv.slice(2);
const core = await import(pathToFileURL(entry).href);
const { positions, indices } = JSON.parse(readFileSync(file, 'utf8'));
const mesh = core.plainMesh(Float64Array.from(positions), Uint32Array.from(indices));

const timed = async () => {
  const start = performance.now();
  const ladder = await core.decompose(mesh, { maxShapes: 32 });
  return { ms: performance.now() - start, ladder };
};

const runs = [await timed()];
// What takes long does not wait for more of the same.
if (how === 'warm') {
  runs.push(await timed());
  const times = runs.at(-1).ms > 4000 ? 1 : 3;
  for (let i = 0; i < times; i++) runs.push(await timed());
  runs.splice(0, 2);
}
const sorted = runs.map(({ ms }) => ms).sort((a, b) => a - b);
if (out)
  writeFileSync(
    out,
    JSON.stringify(COUNTS.map((count) => core.rungWithin(runs[0].ladder, count)?.shapes ?? null)),
  );
process.stdout.write(JSON.stringify({ ms: sorted[(sorted.length - 1) >> 1] }));
