import { createRequire } from 'node:module';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import karma from 'karma';
import { inHouse } from './house.mjs';

// The core's specs once more, in Chromium: one bundle, made from what was compiled.
const require = createRequire(import.meta.url);
const folder = mkdtempSync(join(tmpdir(), 'yard-brace-karma-'));
const specs = readdirSync(inHouse('core/dist'), { recursive: true })
  .filter((name) => name.endsWith('.spec.js'))
  .sort();
const entry = join(folder, 'specs.js');
writeFileSync(entry, specs.map((name) => `import ${JSON.stringify(inHouse('core/dist', name))};`).join('\n'));
const bundle = join(folder, 'bundle.js');
await build({
  entryPoints: [entry],
  outfile: bundle,
  bundle: true,
  format: 'iife',
  platform: 'browser',
  external: ['node:fs', 'node:path', 'fs', 'path'],
  logLevel: 'error',
  ignoreAnnotations: true,
});

const config = karma.config.parseConfig(
  null,
  {
    basePath: folder,
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    files: [bundle],
    reporters: ['dots'],
    browsers: ['Chromium'],
    customLaunchers: require('./karma-browser.cjs'),
    client: { jasmine: { random: false, timeoutInterval: 60000 } },
    browserNoActivityTimeout: 240000,
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
