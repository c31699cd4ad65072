import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { run } from './lib/say.mjs';

await run(async () => {
  await bootstrap([]);
  await buildCode();
  await buildWeb();
});
