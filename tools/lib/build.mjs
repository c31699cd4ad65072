import { copyFileSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { inHouse, whenChanged } from './house.mjs';
import { say } from './say.mjs';
import { shell } from './shell.mjs';

const CODE = ['tsconfig.base.json', 'tsconfig.json', 'package-lock.json'];
/** The core as `core/package.json` gives it to Node. */
const CORE_FOR_NODE = 'core/dist/node.js';
const packageFiles = (name) => [`${name}/src`, `${name}/package.json`, `${name}/tsconfig.json`];

/** Compile everything that runs in Node; nothing happens when nothing changed. */
export function buildCode() {
  const packages = ['core', 'trial', 'contract', 'server', 'cli', 'demo'];
  const outputs = [
    'core/dist/index.js',
    CORE_FOR_NODE,
    'trial/dist/index.js',
    'server/dist/main.js',
    'cli/dist/main.js',
    'demo/dist/index.js',
  ];
  return whenChanged('code', [...CODE, ...packages.flatMap(packageFiles)], outputs, async () => {
    say('Compiling …');
    await compile('-b');
    await bundleCore();
  });
}

/** The client's compiler needs TypeScript 5; what runs in Node is compiled by its native successor, to the same code in a third of the time. */
export const compile = (...options) =>
  shell(process.execPath, [inHouse('node_modules/typescript-7/bin/tsc'), ...options], { what: 'compiling' });

/** Every process and thread loads the core: hundreds of small modules take Node twice as long as one of them all. */
function bundleCore() {
  const options = ['--bundle', '--format=esm', '--platform=node', '--packages=external', '--sourcemap'];
  const args = ['core/dist/index.js', ...options, `--outfile=${CORE_FOR_NODE}`, '--log-level=warning'];
  return shell('npx', ['--no-install', 'esbuild', ...args], { what: 'bundling the core' });
}

/** The guide ships with the client, with its pictures. */
function copyGuide() {
  const guide = inHouse('web/public/guide');
  rmSync(guide, { recursive: true, force: true });
  mkdirSync(join(guide, 'pictures'), { recursive: true });
  const copy = (from, to, which) => {
    for (const name of readdirSync(inHouse(from)))
      if (which.test(name)) copyFileSync(inHouse(from, name), join(guide, to, name));
  };
  copy('docs/guide', '', /^\d+-.*\.md$/);
  copy('docs', '', /^recipe/);
  copy('docs/screenshots', 'pictures', /^bench-.*\.png$/);
}

/** Build the client; nothing happens when neither it nor what it stands on changed. */
export function buildWeb() {
  const sources = [
    ...CODE,
    ...packageFiles('core'),
    ...packageFiles('trial'),
    ...packageFiles('contract'),
    'web/src',
    'web/public/mark.svg',
    'web/angular.json',
    'web/package.json',
    'web/tsconfig.json',
    'docs/guide',
    'docs/recipes.md',
    'docs/screenshots',
  ];
  // Served beside the client: its decoder is only fetched when a file needs it.
  copyFileSync(inHouse('node_modules/draco3d/draco_decoder.wasm'), inHouse('web/public/draco_decoder.wasm'));
  copyFileSync(inHouse('node_modules/watlas/dist/watlas.wasm'), inHouse('web/public/watlas.wasm'));
  copyGuide();
  return whenChanged('web', sources, ['web/dist/browser/index.html'], async () => {
    say('Building the client (about a minute the first time) …');
    await shell('npx', ['--no-install', 'ng', 'build'], {
      cwd: inHouse('web'),
      env: { NG_CLI_ANALYTICS: 'false' },
      what: 'building the client',
    });
  });
}
