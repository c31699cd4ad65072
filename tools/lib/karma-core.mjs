import { createRequire } from 'node:module';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import karma from 'karma';
import { inHouse } from './house.mjs';

// The core's specs once more, in Chromium: one bundle, made from what was compiled. Those that only compute, or take long
// (`*.long.spec.ts`), run in Node alone: that engines agree, byte for byte, is what `same-everywhere.spec` holds them to.
const COMPUTES = /^(decompose|fit|compare|hull)\//;
const require = createRequire(import.meta.url);
const folder = mkdtempSync(join(tmpdir(), 'yard-brace-karma-'));
const specs = readdirSync(inHouse('core/dist'), { recursive: true })
  .filter((name) => name.endsWith('.spec.js') && !name.endsWith('.long.spec.js') && !COMPUTES.test(name))
  .sort();
if (!specs.includes('testing/same-everywhere.spec.js'))
  throw new Error(
    'The spec that compares engines, core/src/testing/same-everywhere.spec.ts, is not among those for the browser.',
  );
const entry = join(folder, 'specs.js');
// What Node works out, for the browser to be compared with: set before any spec is loaded.
const { sameEverywhere, sameRecipe } = await import(inHouse('core/dist/testing/same-everywhere.js'));
const texts = { ladder: JSON.stringify(await sameEverywhere()), recipe: await sameRecipe() };
const fromNode = join(folder, 'from-node.js');
writeFileSync(fromNode, `globalThis.fromNode = ${JSON.stringify(texts)};`);
const seeded = inHouse('core/dist/testing/seeded.js');
const imported = [seeded, fromNode, ...specs.map((name) => inHouse('core/dist', name))];
writeFileSync(entry, imported.map((path) => `import ${JSON.stringify(path)};`).join('\n'));
const bundle = join(folder, 'bundle.js');
await build({
  entryPoints: [entry],
  outfile: bundle,
  bundle: true,
  format: 'iife',
  platform: 'browser',
  external: ['node:fs', 'node:path', 'fs', 'path', 'module'],
  // Where watlas looks for its WebAssembly: beside the page.
  define: { 'import.meta.url': 'location.href' },
  logLevel: 'error',
  ignoreAnnotations: true,
});

const wasm = inHouse('node_modules/watlas/dist/watlas.wasm');
const config = karma.config.parseConfig(
  null,
  {
    basePath: folder,
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    files: [bundle, { pattern: wasm, included: false }],
    proxies: { '/watlas.wasm': `/absolute${wasm}` },
    reporters: ['dots'],
    browsers: ['Chromium'],
    customLaunchers: require('./karma-browser.cjs'),
    client: { jasmine: { random: false, timeoutInterval: 60000 } },
    browserNoActivityTimeout: 240000,
    // A spec that computes for long answers no ping meanwhile: that is no browser that went away.
    pingTimeout: 120000,
    browserDisconnectTimeout: 30000,
    singleRun: true,
    autoWatch: false,
  },
  { throwErrors: true },
);
const server = new karma.Server(config, (code) => {
  rmSync(folder, { recursive: true, force: true });
  process.exit(code);
});
await server.start();
