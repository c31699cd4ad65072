import { Worker } from 'node:worker_threads';
import { samplePieces } from '@yard-brace/demo';

const MAX_BYTES = 1 << 20;
/** Words that readers trip over. */
const STRANGE = [
  '1e308',
  '-1e999',
  'nan',
  '4294967296',
  '-2147483649',
  '0',
  '""',
  '<a>',
  '\0',
  '{',
  ']',
  '999999999',
  '\ud83d',
];
const EXTENSIONS = ['obj', 'mtl', 'glb', 'gltf', 'dae', 'stl', 'ply'];

/** Numbers that are the same for the same seed. (Mulberry32.) */
export function random(seed) {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Good files to spoil, by the extension of their reader: the sample yard, in every format that it comes in. */
export async function goodFiles() {
  const byReader = new Map(EXTENSIONS.map((extension) => [extension, []]));
  for (const { files } of await samplePieces()) {
    const [main, ...beside] = files;
    for (const file of files) {
      const extension = /\.([^.]+)$/.exec(file.name)?.[1].toLowerCase();
      if (!byReader.has(extension) || file.bytes.length > MAX_BYTES) continue;
      byReader.get(extension).push({ spoil: file, main, beside });
    }
  }
  return new Map([...byReader].filter(([, list]) => list.length));
}

/** The bytes with a few things wrong. */
export function spoiled(bytes, next) {
  let out = Buffer.from(bytes);
  const at = () => Math.floor(next() * out.length);
  for (let n = 1 + Math.floor(next() * 4); n > 0; n--) {
    const kind = Math.floor(next() * 7);
    if (kind === 0) out[at()] = Math.floor(next() * 256);
    else if (kind === 1) out = out.subarray(0, at());
    else if (kind === 2) {
      // A stretch again and again, as far as a megabyte goes.
      const from = at();
      const part = out.subarray(from, from + 1 + Math.floor(next() * 400));
      const times = Math.floor(next() * Math.min(4000, MAX_BYTES / (part.length + 1)));
      out = Buffer.concat([
        out.subarray(0, from),
        ...Array.from({ length: times }, () => part),
        out.subarray(from),
      ]);
    } else if (kind === 3) {
      const from = at();
      out = Buffer.concat([out.subarray(0, from), out.subarray(from + Math.floor(next() * 200))]);
    } else if (kind === 4) out = replacedNumber(out, next);
    else if (kind === 5) {
      const from = at();
      const word = Buffer.from(STRANGE[Math.floor(next() * STRANGE.length)]);
      out = Buffer.concat([out.subarray(0, from), word, out.subarray(from)]);
    } else if (out.length > 8)
      out.writeUInt32LE(Math.floor(next() * 2 ** 32), Math.min(at(), out.length - 4));
    if (out.length > MAX_BYTES) out = out.subarray(0, MAX_BYTES);
    if (out.length === 0) return out;
  }
  return out;
}

/** One of the numbers in a text becomes a strange one. */
function replacedNumber(bytes, next) {
  const from = Math.floor(next() * bytes.length);
  const window = bytes.subarray(from, from + 4000).toString('latin1');
  const found = /-?\d+(\.\d+)?/.exec(window);
  if (!found) return bytes;
  const word = STRANGE[Math.floor(next() * STRANGE.length)];
  return Buffer.concat([
    bytes.subarray(0, from + found.index),
    Buffer.from(word),
    bytes.subarray(from + found.index + found[0].length),
  ]);
}

/** A file may take so many times its reader's limit until its document is judged. */
const PATIENCE = 5;

/** Reads spoiled files on a thread that may take so much time and memory for each. */
export class FuzzReader {
  #worker;

  constructor({ limitMs, heapMb = 1024 }) {
    this.limitMs = limitMs;
    this.heapMb = heapMb;
  }

  /** What came of a file: read, refused, or what should not be: thrown, not a sentence, not storable, too slow, died. */
  async read(name, bytes, beside) {
    const worker = (this.#worker ??= new Worker(new URL('./fuzz-thread.mjs', import.meta.url), {
      resourceLimits: { maxOldGenerationSizeMb: this.heapMb },
      stderr: false,
    }));
    const outcome = await new Promise((resolve) => {
      const timer = setTimeout(() => ended({ kind: 'read', ms: Infinity }), this.limitMs * PATIENCE);
      const ended = (result) => {
        clearTimeout(timer);
        worker.off('message', ended).off('error', died);
        resolve(result);
      };
      const died = (error) => ended({ kind: 'died', text: String(error), ms: 0 });
      worker.on('message', ended).on('error', died);
      worker.postMessage({ name, bytes, beside });
    });
    if (outcome.ms > this.limitMs)
      Object.assign(outcome, { kind: 'too slow', text: `over ${this.limitMs} ms` });
    if (outcome.kind === 'too slow' || outcome.kind === 'died') await this.close();
    return outcome;
  }

  async close() {
    await this.#worker?.terminate();
    this.#worker = undefined;
  }
}

export const GOOD_ENDS = new Set(['read', 'refused']);

/** Spoil and read so many files for each reader. Answers with what should not have been, and the slowest. */
export async function fuzz({ files, seed, limitMs, readers, say = () => undefined }) {
  const reader = new FuzzReader({ limitMs });
  const bad = [];
  const counts = {};
  const slowest = { ms: 0, name: '' };
  for (const [extension, good] of await goodFiles()) {
    if (readers && !readers.includes(extension)) continue;
    const next = random(seed);
    const count = (counts[extension] = { read: 0, refused: 0 });
    for (let i = 0; i < files; i++) {
      const { spoil, main, beside } = good[Math.floor(next() * good.length)];
      const bytes = spoiled(spoil.bytes, next);
      const spoiledMain = spoil === main ? { ...main, bytes } : main;
      const others = beside.map((file) => (file === spoil ? { ...file, bytes } : file));
      const outcome = await reader.read(spoiledMain.name, spoiledMain.bytes, others);
      if (GOOD_ENDS.has(outcome.kind)) count[outcome.kind]++;
      else bad.push({ extension, i, seed, name: spoiledMain.name, bytes, ...outcome });
      if (outcome.ms > slowest.ms)
        Object.assign(slowest, { ms: outcome.ms, name: `${extension} ${i} of ${spoil.name}` });
    }
    say(
      `${extension.padEnd(5)} ${files} files: ${count.read} read, ${count.refused} refused, ${bad.filter((each) => each.extension === extension).length} otherwise`,
    );
  }
  await reader.close();
  return { bad, counts, slowest };
}
