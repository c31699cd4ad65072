/** An error whose message is a sentence for the person. */
export class Told extends Error {
  override readonly name: string = 'Told';
}

/** Errors that speak to people, by name: what comes out of a worker has lost its class. */
const SPEAKS = new Set([
  'Told',
  'Stopped',
  'ApiError',
  'FormatError',
  'ReshapeError',
  'DecomposeError',
  'WrapError',
  'AssembleError',
  'ManifestError',
  'PutTogetherError',
  'NothingToTryError',
]);

/**
 * What a person reads of an error: its own sentence when it has one, and never a text of the language or of
 * a library. That goes to the console, for whoever is asked for help.
 */
export function sentenceOf(error: unknown): string {
  if (error instanceof Error && SPEAKS.has(error.name)) return error.message;
  console.warn('unexpected:', error);
  if (error instanceof RangeError || (error instanceof Error && error.name === 'RangeError'))
    return 'The browser has no memory left for this; close other tabs, or try it with a smaller file. Nothing was changed.';
  return 'Something went wrong in Yard Brace that it did not expect; nothing was changed. Try again, and load the page anew if it stays so.';
}
