/**
 * A square PNG without compression: enough for pictures of our own making. `color` gives red, green, blue, and alpha
 * when that is wanted for every pixel, 0 to 255. PNG, ISO/IEC 15948.
 */
export function plainPng(size: number, color: (x: number, y: number) => readonly number[]): Uint8Array {
  const channels = color(0, 0).length;
  const row = 1 + size * channels;
  const raw = new Uint8Array(row * size);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) raw.set(color(x, y), y * row + 1 + x * channels);
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, size);
  view.setUint32(4, size);
  header.set([8, channels === 4 ? 6 : 2, 0, 0, 0], 8);
  return join([
    Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a),
    chunk('IHDR', header),
    chunk('IDAT', stored(raw)),
    chunk('IEND', new Uint8Array()),
  ]);
}

/** A zlib stream of stored blocks. */
function stored(bytes: Uint8Array): Uint8Array {
  const parts: Uint8Array[] = [Uint8Array.of(0x78, 0x01)];
  for (let at = 0; at < bytes.length; at += 65535) {
    const part = bytes.subarray(at, at + 65535);
    const last = at + part.length === bytes.length ? 1 : 0;
    parts.push(
      Uint8Array.of(last, part.length & 255, part.length >> 8, ~part.length & 255, (~part.length >> 8) & 255),
      part,
    );
  }
  let [a, b] = [1, 0];
  for (const byte of bytes) {
    a = (a + byte) % 65521;
    b = (b + a) % 65521;
  }
  const sum = new Uint8Array(4);
  new DataView(sum.buffer).setUint32(0, b * 65536 + a);
  return join([...parts, sum]);
}

function chunk(kind: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + data.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, data.length);
  out.set(
    [...kind].map((c) => c.charCodeAt(0)),
    4,
  );
  out.set(data, 8);
  view.setUint32(8 + data.length, crc(out.subarray(4, 8 + data.length)));
  return out;
}

function crc(bytes: Uint8Array): number {
  let value = 0xffffffff;
  for (const byte of bytes) {
    value ^= byte;
    for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1;
  }
  return ~value >>> 0;
}

function join(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
