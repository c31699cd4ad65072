import { artKey, blobId, type PieceDocument } from '../piece/index.js';
import type { Shape } from '../shape/index.js';

const keys = new WeakMap<PieceDocument, string>();
const texts = new WeakMap<Shape, string>();

/** Characters from which a shape stands by the hash of its text: no shape of before was so large. */
const LARGE_CHARACTERS = 400_000;

/** A name for art and shapes as they stand: what was measured holds as long as it stays the same. */
export function proxyKey(document: PieceDocument): string {
  const known = keys.get(document);
  if (known !== undefined) return known;
  const shapes = document.proxies.map(({ shape }) => textOf(shape));
  const key = hashOf(`${artKey(document)}[${shapes.join(',')}]`);
  keys.set(document, key);
  return key;
}

/** Shapes stay the same object from change to change: a surface of thousands of triangles is written out once. */
function textOf(shape: Shape): string {
  const known = texts.get(shape);
  if (known !== undefined) return known;
  const whole = JSON.stringify(shape);
  const text = whole.length > LARGE_CHARACTERS ? hashOf(whole) : whole;
  texts.set(shape, text);
  return text;
}

const hashOf = (text: string): string => blobId(new TextEncoder().encode(text));
