import { writeFileSync } from 'node:fs';
import { buildCode } from './lib/build.mjs';
import { inHouse } from './lib/house.mjs';
import { run } from './lib/say.mjs';

// npm run recipe-schema: the JSON schema of recipes, read off what they are checked by.
await run(async () => {
  await buildCode();
  const { recipeJsonSchema } = await import('@yard-brace/core');
  writeFileSync(inHouse('docs/recipe.schema.json'), `${JSON.stringify(recipeJsonSchema(), null, 2)}\n`);
});
