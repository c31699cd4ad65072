import { FormatError } from '../format-error.js';

/** The two halves of a GLB: its JSON text parsed, and its binary chunk when it has one. */
export interface GltfContainer {
  json: unknown;
  binary?: Uint8Array;
}

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BINARY_CHUNK = 0x004e4942;
const AGAIN = 'export or copy the file again';

/**
 * Take a GLB apart, checking every length against the bytes that are there.
 *
 * @throws FormatError with the byte offset of what does not fit
 */
export function openGlb(file: string, bytes: Uint8Array): GltfContainer {
  const fail = (wrong: string, byte: number): never => {
    throw new FormatError(file, wrong, AGAIN, { byte });
  };
  if (bytes.length < 20)
    fail(`the file ends after ${bytes.length} bytes, inside the GLB header`, bytes.length);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== MAGIC) fail('the file does not start with the GLB mark', 0);
  const version = view.getUint32(4, true);
  if (version !== 2) fail(`the file says glTF version ${version}, and only version 2 is read`, 4);
  const stated = view.getUint32(8, true);
  if (stated > bytes.length)
    fail(`the header promises ${stated} bytes and the file has ${bytes.length}: it is cut off`, 8);
  if (stated < bytes.length)
    fail(`the header gives a length of ${stated} bytes and the file has ${bytes.length}`, 8);

  let json: unknown;
  let binary: Uint8Array | undefined;
  let at = 12;
  for (let chunk = 0; at < bytes.length; chunk++) {
    if (at + 8 > bytes.length) fail('a chunk header is cut off', at);
    const length = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    const start = at + 8;
    if (start + length > bytes.length)
      fail(`chunk ${chunk} claims ${length} bytes and ${bytes.length - start} are left`, at);
    if (chunk === 0 && kind !== JSON_CHUNK) fail('the first chunk is not the JSON chunk', at + 4);
    if (chunk === 0) json = parseJson(file, bytes.subarray(start, start + length), start);
    else if (kind === BINARY_CHUNK && !binary) binary = bytes.subarray(start, start + length);
    at = start + length;
  }
  return { json, binary };
}

/** @throws FormatError when the bytes are not JSON text */
export function parseJson(file: string, bytes: Uint8Array, byte = 0): unknown {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new FormatError(file, 'the JSON part is not UTF-8 text', AGAIN, { byte });
  }
  try {
    return JSON.parse(text);
  } catch (error) {
    const at = /position (\d+)/.exec(String(error))?.[1];
    throw new FormatError(file, 'the JSON part cannot be parsed', AGAIN, { byte: byte + Number(at ?? 0) });
  }
}
