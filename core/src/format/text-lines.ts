import { FormatError } from './format-error.js';

/** Longest line that is read, in characters. */
const MAX_LINE_CHARACTERS = 1_000_000;

/** Lines of a file that comes in chunks, without their ends; a line that never ends is refused. */
export async function* textLines(file: string, chunks: AsyncIterable<Uint8Array>): AsyncGenerator<string> {
  const decoder = new TextDecoder();
  let rest = '';
  for await (const chunk of chunks) {
    const lines = (rest + decoder.decode(chunk, { stream: true })).split('\n');
    rest = lines.pop()!;
    for (const line of lines) yield line.endsWith('\r') ? line.slice(0, -1) : line;
    if (rest.length > MAX_LINE_CHARACTERS)
      throw new FormatError(
        file,
        `a line has more than ${MAX_LINE_CHARACTERS} characters`,
        'export the file again',
      );
  }
  rest += decoder.decode();
  if (rest) yield rest;
}
