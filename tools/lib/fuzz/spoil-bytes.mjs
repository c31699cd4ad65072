import { oneOf } from './random.mjs';

export const MAX_BYTES = 1 << 20;
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
      const word = Buffer.from(oneOf(STRANGE, next));
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
  const word = oneOf(STRANGE, next);
  return Buffer.concat([
    bytes.subarray(0, from + found.index),
    Buffer.from(word),
    bytes.subarray(from + found.index + found[0].length),
  ]);
}
