import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode } from './lib/build.mjs';
import { inHouse } from './lib/house.mjs';
import { run, say } from './lib/say.mjs';

// npm run fuzz -- [--files 5000] [--seed 1] [--reader obj]: spoiled files for every reader, two seconds for each.
await run(async () => {
  const { values } = parseArgs({
    options: { files: { type: 'string' }, seed: { type: 'string' }, reader: { type: 'string' } },
  });
  await bootstrap([]);
  await buildCode();
  const { fuzz } = await import('./lib/fuzz.mjs');
  const { bad, slowest } = await fuzz({
    files: Number(values.files ?? 5000),
    seed: Number(values.seed ?? 1),
    limitMs: 2000,
    readers: values.reader ? [values.reader] : undefined,
    say,
  });
  say(`slowest: ${Math.round(slowest.ms)} ms, ${slowest.name}`);
  const folder = inHouse('.build', 'fuzz');
  for (const { name, i, kind, text, bytes } of bad.slice(0, 20)) {
    mkdirSync(folder, { recursive: true });
    const kept = join(folder, `${i}-${name}`);
    writeFileSync(kept, bytes);
    say(`${kind}: ${kept}\n  ${text.slice(0, 300)}`);
  }
  process.exitCode = bad.length ? 1 : 0;
});
