/** Where in a file something is wrong. */
export interface Place {
  line?: number;
  byte?: number;
  /** e.g. `accessor 3` or `node “Leaf”` */
  part?: string;
}

/** A file that cannot be read: one sentence that names the file, the place and what to do. */
export class FormatError extends Error {
  override readonly name = 'FormatError';

  /**
   * @param file name of the file
   * @param wrong what is wrong, without a full stop
   * @param advice what to do, as an imperative clause
   */
  constructor(
    readonly file: string,
    readonly wrong: string,
    readonly advice: string,
    readonly place: Place = {},
  ) {
    super(`${shown(file)}${describePlace(place)}: ${wrong}; ${advice}.`);
  }
}

/** A name cut to a length that fits a sentence, without characters that would break it. */
export function shown(name: string, most = 80): string {
  // eslint-disable-next-line no-control-regex
  const clean = name.replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]/g, '�');
  return clean.length > most ? `${clean.slice(0, most)}…` : clean;
}

function describePlace({ line, byte, part }: Place): string {
  return [
    line === undefined ? '' : `, line ${line}`,
    byte === undefined ? '' : `, byte ${byte}`,
    part === undefined ? '' : `, ${part}`,
  ].join('');
}
