import * as core from '@yard-brace/core';
import { build } from 'esbuild';
import browserFlags from './browser-flags.cjs';
import { inHouse } from './house.mjs';
import { lumpy } from './lumpy.mjs';

/** Pairs of runs after one of each to warm up; the median of their ratios counts. */
const PAIRS = 5;

/** Both readers in one bundle: three's needs the documents of a browser. */
const READERS = `
  import { memoryFile, readFile } from '@yard-brace/core';
  import { ColladaLoader } from 'three/addons/loaders/ColladaLoader.js';
  import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
  const text = (bytes) => new TextDecoder().decode(bytes);
  globalThis.ours = (name, bytes) => readFile(memoryFile(name, bytes));
  globalThis.theirs = {
    dae: (bytes) => new ColladaLoader().parse(text(bytes), ''),
    ply: (bytes) => new PLYLoader().parse(text(bytes)),
  };
`;

/** COLLADA and PLY of 200,000 triangles by our reader and by three's, in turn, in one page. */
export async function benchReading(browser) {
  const bundle = await build({
    stdin: { contents: READERS, resolveDir: inHouse('.') },
    bundle: true,
    write: false,
    format: 'iife',
    external: ['node:fs', 'node:path', 'fs', 'path', 'module'],
    define: { 'import.meta.url': 'location.href' },
    logLevel: 'error',
    ignoreAnnotations: true,
  });
  const { chromium } = await import('@playwright/test');
  const chrome = await chromium.launch({ executablePath: browser, args: browserFlags });
  try {
    const page = await chrome.newPage();
    await page.addScriptTag({ content: bundle.outputFiles[0].text });
    const rows = [];
    for (const [format, bytes] of Object.entries(await files()))
      rows.push({ format, megabytes: bytes.length / 2 ** 20, ...(await pairs(page, format, bytes)) });
    return rows;
  } finally {
    await chrome.close();
  }
}

/** A lumpy ball of 200,000 triangles in each format. */
async function files() {
  const { positions, indices } = lumpy(400, 250);
  const places = Array.from({ length: positions.length / 3 }, (_, v) =>
    [0, 1, 2].map((k) => positions[v * 3 + k].toFixed(6)).join(' '),
  );
  const faces = Array.from({ length: indices.length / 3 }, (_, f) => [...indices.subarray(f * 3, f * 3 + 3)]);
  const bytes = (lines) => new globalThis.TextEncoder().encode(`${lines.join('\n')}\n`);
  const obj = bytes([
    'o kit',
    ...places.map((place) => `v ${place}`),
    ...faces.map((corners) => `f ${corners.map((v) => v + 1).join(' ')}`),
  ]);
  const [collada] = await core.writeScene(await core.readFile(core.memoryFile('kit.obj', obj)), 'dae', 'kit');
  const ply = bytes([
    'ply',
    'format ascii 1.0',
    `element vertex ${places.length}`,
    ...['x', 'y', 'z'].map((axis) => `property float ${axis}`),
    `element face ${faces.length}`,
    'property list uchar int vertex_indices',
    'end_header',
    ...places,
    ...faces.map((corners) => `3 ${corners.join(' ')}`),
  ]);
  return { dae: collada.bytes, ply };
}

/** Medians of milliseconds and of the ratios of pairs. */
async function pairs(page, format, bytes) {
  const times = await page.evaluate(
    async ([format, encoded, count]) => {
      const bytes = Uint8Array.from(globalThis.atob(encoded), (c) => c.charCodeAt(0));
      const timed = async (read) => {
        const start = performance.now();
        await read();
        return performance.now() - start;
      };
      const found = [];
      for (let i = 0; i <= count; i++)
        found.push({
          ours: await timed(() => globalThis.ours(`kit.${format}`, bytes)),
          theirs: await timed(() => globalThis.theirs[format](bytes)),
        });
      return found.slice(1);
    },
    [format, Buffer.from(bytes).toString('base64'), PAIRS],
  );
  const median = (values) => values.sort((a, b) => a - b)[values.length >> 1];
  return {
    ours: median(times.map(({ ours }) => ours)),
    theirs: median(times.map(({ theirs }) => theirs)),
    ratio: median(times.map(({ ours, theirs }) => theirs / ours)),
  };
}
