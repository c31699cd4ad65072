import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode } from './lib/build.mjs';
import { run, say, Stop } from './lib/say.mjs';

/** Writes the files that come for sample pieces that are on the shelf already: their makers changed them. */
await run(async () => {
  const [folder] = process.argv.slice(2);
  if (!folder) throw new Stop('Name a folder: npm run new-art -- DIR');
  await bootstrap([]);
  await buildCode();
  const { changedPieces } = await import('@yard-brace/demo');
  mkdirSync(folder, { recursive: true });
  for (const { files } of await changedPieces())
    for (const { name, bytes } of files) {
      writeFileSync(join(folder, name), bytes);
      say(name);
    }
});
