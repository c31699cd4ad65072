import { artNodes } from './geometry.js';
import { documentFault, type PieceDocument } from './document.js';
import { currentDocument, type History } from './history.js';
import { issueSentence } from './issue-sentence.js';

/** A lone half of a surrogate pair, as JSON writes it: a text that no database takes. */
const HALF_CHARACTER = /(?<!\\)(?:\\\\)*\\ud[89a-f][0-9a-f]{2}/;

export type Openable = { document: PieceDocument } | { refused: string };

/**
 * Whether what is about to be stored can be opened again: the document that the history leads to, and the one
 * that redoing leads to, are read as they will be read.
 *
 * @param json what of the history is stored anew, as it will be stored
 * @param good a document that is known to open: what is the same in it is not looked at again
 */
export function openable(
  history: History,
  { json = JSON.stringify(history), good }: { json?: string; good?: PieceDocument } = {},
): Openable {
  if (HALF_CHARACTER.test(json))
    return { refused: 'A name or text of the piece holds half of a character; type it again.' };
  for (const cursor of new Set([history.edits.length, history.cursor])) {
    const document = currentDocument(cursor === history.cursor ? history : { ...history, cursor });
    const fault = documentFault(document, good);
    if (fault)
      return { refused: `The piece would no longer open: ${issueSentence(fault)} Undo the last change.` };
    if (cursor === history.cursor && artNodes(document.nodes).length === 0)
      return { refused: 'The piece has no part with faces; keep at least one.' };
  }
  return { document: currentDocument(history) };
}
