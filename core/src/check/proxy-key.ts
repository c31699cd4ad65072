import { artKey, blobId, type PieceDocument } from '../piece/index.js';

const keys = new WeakMap<PieceDocument, string>();

/** A name for art and shapes as they stand: what was measured holds as long as it stays the same. */
export function proxyKey(document: PieceDocument): string {
  const known = keys.get(document);
  if (known !== undefined) return known;
  const text = artKey(document) + JSON.stringify(document.proxies.map(({ shape }) => shape));
  const key = blobId(new TextEncoder().encode(text));
  keys.set(document, key);
  return key;
}
