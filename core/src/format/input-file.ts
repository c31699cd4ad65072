import { BlobHasher, hasControlCharacters, MAX_INNER_NAME_CHARACTERS } from '../piece/index.js';
import { FormatError, type Place } from './format-error.js';

/** A file to read: from a disk, a drop or memory. */
export interface InputFile {
  name: string;
  /** bytes */
  size: number;
  bytes(): Promise<Uint8Array>;
  chunks(): AsyncIterable<Uint8Array>;
}

/** Largest file that is taken in, in bytes. */
export const MAX_FILE_BYTES = 512 * 1024 * 1024;
export const MAX_FILE_NAME_CHARACTERS = 255;

export function memoryFile(name: string, bytes: Uint8Array): InputFile {
  return {
    name,
    size: bytes.length,
    bytes: async () => bytes,
    // A plain generator keeps one chunk for all: readers take it in slices of their own.
    async *chunks() {
      yield bytes;
    },
  };
}

/** The name under which the bytes of a file are stored. */
export async function hashOfFile(file: Pick<InputFile, 'chunks'>): Promise<string> {
  const hasher = new BlobHasher();
  for await (const chunk of file.chunks()) hasher.add(chunk);
  return hasher.id();
}

/** The extension in small letters, without its dot. */
export const extensionOf = (name: string): string => /\.([^.]*)$/.exec(name)?.[1]?.toLowerCase() ?? '';

/** @throws FormatError when the name or the size of a file rules it out before reading */
export function checkInputFile(file: Pick<InputFile, 'name' | 'size'>): void {
  const { name, size } = file;
  if (name.length > MAX_FILE_NAME_CHARACTERS) {
    throw new FormatError(
      name,
      `the file name has ${name.length} characters, more than ${MAX_FILE_NAME_CHARACTERS}`,
      'rename the file',
    );
  }
  if (/[\\/]/.test(name))
    throw new FormatError(
      name,
      'the file name holds a path separator',
      'rename the file without “/” and “\\”',
    );
  if (hasControlCharacters(name))
    throw new FormatError(name, 'the file name holds a control character', 'rename the file');
  if (/\p{Surrogate}/u.test(name))
    throw new FormatError(name, 'the file name holds half of a character', 'rename the file');
  if (size === 0) throw new FormatError(name, 'the file is empty', 'export it again');
  if (size > MAX_FILE_BYTES) {
    throw new FormatError(
      name,
      `the file has ${(size / 2 ** 20).toFixed(0)} MB, more than the limit of ${MAX_FILE_BYTES / 2 ** 20} MB`,
      'reduce or split it before importing it',
    );
  }
}

/** @throws FormatError when a name inside a file cannot be kept as it is */
export function checkInnerName(file: string, what: string, name: string, place: Place): string {
  if (name.length > MAX_INNER_NAME_CHARACTERS) {
    throw new FormatError(
      file,
      `the ${what} name “${name.slice(0, 30)}…” has ${name.length} characters, more than ${MAX_INNER_NAME_CHARACTERS}`,
      'shorten it and export again',
      place,
    );
  }
  if (hasControlCharacters(name)) {
    throw new FormatError(
      file,
      `the ${what} name holds a control character`,
      'rename it and export again',
      place,
    );
  }
  return name;
}

/** A file among those beside, by the last part of a path and without regard to capitals. */
export function findBeside(files: readonly InputFile[], path: string): InputFile | undefined {
  const wanted = path.split(/[\\/]/).pop()!.toLowerCase();
  return files.find((file) => file.name.toLowerCase() === wanted);
}

/** What kind of picture the bytes are, by their first bytes; undefined when none that is known. */
export function pictureType(bytes: Uint8Array): 'image/png' | 'image/jpeg' | 'image/webp' | undefined {
  const starts = (...mark: number[]) => mark.every((value, i) => bytes[i] === value);
  if (starts(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'image/png';
  if (starts(0xff, 0xd8, 0xff)) return 'image/jpeg';
  if (starts(0x52, 0x49, 0x46, 0x46) && String.fromCharCode(...bytes.subarray(8, 12)) === 'WEBP')
    return 'image/webp';
  return undefined;
}
