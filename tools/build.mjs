import { bootstrap } from './lib/bootstrap.mjs';
import { buildCode, buildWeb } from './lib/build.mjs';
import { run } from './lib/say.mjs';

// npm run build [-- code]: everything, or only what runs in Node.
await run(async () => {
  await bootstrap([]);
  await buildCode();
  if (!process.argv.includes('code')) await buildWeb();
});
