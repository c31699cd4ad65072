#!/usr/bin/env node
import { existsSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

// A fresh clone has no compiled code yet: compile it once, with stdout kept for the result.
const main = new URL('../dist/main.js', import.meta.url);
if (!existsSync(main)) {
  const build = fileURLToPath(new URL('../../tools/build.mjs', import.meta.url));
  execFileSync(process.execPath, [build, 'code'], { stdio: ['ignore', 2, 2] });
}
const { main: run } = await import(main.href);
process.exitCode = await run(process.argv.slice(2));
