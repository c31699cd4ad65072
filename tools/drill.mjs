import { parseArgs } from 'node:util';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { run, say } from './lib/say.mjs';

// npm run drill -- [--kills 100] [--seed 1]: server and database killed while four clients save.
await run(async () => {
  const { values } = parseArgs({ options: { kills: { type: 'string' }, seed: { type: 'string' } } });
  await bootstrap(['database']);
  await buildCode();
  await buildWeb();
  const { killDrill } = await import('./lib/kill-drill.mjs');
  const result = await killDrill({ kills: Number(values.kills ?? 100), seed: Number(values.seed ?? 1), say });
  process.stdout.write(`${JSON.stringify(result)}\n`);
  process.exitCode = result.lost || result.torn ? 1 : 0;
});
