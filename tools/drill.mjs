import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { inHouse } from './lib/house.mjs';
import { run, say, Stop } from './lib/say.mjs';

const USAGE = `npm run drill -- [--kills 100] [--seconds 60] [--seed 1] [--only NAME] [--write]

  --write   keep the table in docs/reliability.md`;

// Parts of the application killed, disks filled, pages closed, while clients work: what was lost of their work.
await run(async () => {
  const { values } = parseArgs({
    options: {
      kills: { type: 'string', default: '100' },
      seconds: { type: 'string', default: '60' },
      seed: { type: 'string', default: '1' },
      only: { type: 'string' },
      write: { type: 'boolean' },
    },
  });
  const { browser } = await bootstrap(['database', 'browser']);
  await buildCode();
  await buildWeb();
  const { DRILLS } = await import('./lib/drill/drills.mjs');
  const { drillTable, rowOf } = await import('./lib/drill/table.mjs');
  if (values.only && !(values.only in DRILLS))
    throw new Stop(
      `There is no drill “${values.only}”; there are ${Object.keys(DRILLS).join(', ')}.\n${USAGE}`,
    );
  const options = {
    amount: Number(values.kills),
    seconds: Number(values.seconds),
    seed: Number(values.seed),
  };
  const rows = [];
  let bad = 0;
  for (const [name, drill] of Object.entries(DRILLS)) {
    if (values.only && name !== values.only) continue;
    say(`${name}: ${drill.title}`);
    const result = await drill.run({ ...options, browser, say });
    rows.push(rowOf(drill, result));
    say(`  ${JSON.stringify(result)}`);
    if (result.lost || result.torn) bad++;
  }
  process.stdout.write(`${drillTable(rows)}\n`);
  if (values.write) {
    const file = inHouse('docs/reliability.md');
    const page = readFileSync(file, 'utf8');
    const table = /(?<=<!-- table -->\n)[^]*(?=<!-- end of table -->)/;
    writeFileSync(
      file,
      page.replace(table, () => `${drillTable(rows)}\n`),
    );
  }
  process.exitCode = bad ? 1 : 0;
});
