import { mkdirSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode } from './lib/build.mjs';
import { inHouse } from './lib/house.mjs';
import { run, say } from './lib/say.mjs';

// npm run fuzz -- [--count 10000] [--seed 1] [--kind readers] [--only obj]: spoiled files for every reader, spoiled
// meshes, manifests and archives, spoiled deliveries for every target's read-back, spoiled values for every schema: two
// seconds and a gigabyte for each.
await run(async () => {
  const text = { type: 'string' };
  const { values } = parseArgs({ options: { count: text, seed: text, kind: text, only: text } });
  await bootstrap(['database']);
  await buildCode();
  const { fuzz } = await import('./lib/fuzz/fuzz.mjs');
  const { bad, slowest } = await fuzz({
    count: Number(values.count ?? 10_000),
    seed: Number(values.seed ?? 1),
    limitMs: 2000,
    kinds: values.kind ? [values.kind] : undefined,
    only: values.only,
    lanes: availableParallelism(),
    say,
  });
  say(`slowest: ${Math.round(slowest.ms)} ms, ${slowest.name}`);
  const folder = inHouse('.build', 'fuzz');
  for (const { subject, i, label, kind, text, task } of bad.slice(0, 20)) {
    mkdirSync(folder, { recursive: true });
    const kept = join(folder, `${subject.replaceAll(/[^a-z0-9.]+/gi, '-')}-${i}`);
    writeFileSync(kept, task.bytes ?? JSON.stringify(task));
    say(`${kind}: ${kept} (${label})\n  ${text.slice(0, 300)}`);
  }
  process.exitCode = bad.length ? 1 : 0;
});
