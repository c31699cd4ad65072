import type { InputFile } from './input-file.js';

/** What a text file is written in, by its byte order mark; UTF-8 without one. */
function encodingOf(first: Uint8Array): { name: 'utf-8' | 'utf-16le' | 'utf-16be'; mark: number } {
  if (first[0] === 0xff && first[1] === 0xfe) return { name: 'utf-16le', mark: 2 };
  if (first[0] === 0xfe && first[1] === 0xff) return { name: 'utf-16be', mark: 2 };
  if (first[0] === 0xef && first[1] === 0xbb && first[2] === 0xbf) return { name: 'utf-8', mark: 3 };
  return { name: 'utf-8', mark: 0 };
}

/** The same text file as UTF-8 without a byte order mark, whichever it was written in. */
export function asUtf8(file: InputFile): InputFile {
  return {
    ...file,
    bytes: async () => {
      const bytes = await file.bytes();
      const { name, mark } = encodingOf(bytes);
      const rest = bytes.subarray(mark);
      return name === 'utf-8' ? rest : new TextEncoder().encode(new TextDecoder(name).decode(rest));
    },
    async *chunks() {
      let held = new Uint8Array(0);
      let known: ReturnType<typeof encodingOf> | undefined;
      let decoder: TextDecoder | undefined;
      const encoder = new TextEncoder();
      const written = (bytes: Uint8Array, stream: boolean) =>
        decoder ? encoder.encode(decoder.decode(bytes, { stream })) : bytes;
      for await (const chunk of file.chunks()) {
        if (known) {
          yield written(chunk, true);
          continue;
        }
        const start = new Uint8Array(held.length + chunk.length);
        start.set(held);
        start.set(chunk, held.length);
        held = start;
        // A mark has three bytes at most.
        if (held.length < 3) continue;
        known = encodingOf(held);
        if (known.name !== 'utf-8') decoder = new TextDecoder(known.name);
        yield written(held.subarray(known.mark), true);
      }
      if (!known) yield held;
      else if (decoder) yield encoder.encode(decoder.decode());
    },
  };
}
