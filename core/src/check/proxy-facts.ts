import * as z from 'zod';
import { blobId, artKey, type PieceDocument } from '../piece/index.js';

/** How the shapes of a piece lie to its art, and the state that this was measured on. Lengths in metres. */
export const proxyFactsSchema = z.object({
  key: z.string().regex(/^[0-9a-f]{64}$/),
  /** art outside the shapes, at most */
  artOutside: z.number().nonnegative(),
  /** shapes outside the art, at most */
  proxyOutside: z.number().nonnegative(),
});
export type ProxyFacts = z.infer<typeof proxyFactsSchema>;

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
