import { blobId, artKey, type PieceDocument } from '../piece/index.js';
import type { SetFacts } from './set-facts.js';

/** A shape that stands out by so much more than before no longer fits, metres; and so does art out of the shapes. */
const WORSE_METRES = 2e-3;
/** Less newly bare art is how faces were cut, square metres. */
const WORSE_AREA = 1e-4;

/** A name for the art of a document as it stands. */
export const artNameOf = (document: PieceDocument): string =>
  blobId(new TextEncoder().encode(artKey(document)));

const bareArea = ({ bare }: Pick<SetFacts, 'bare'>): number => bare.reduce((sum, { area }) => sum + area, 0);

/**
 * Facts of a set with what changes of the art have left in it: shapes that stand out more than they did before the
 * change, and art that it laid bare. What was left earlier and has not been mended stays.
 *
 * @param before the facts that held last, of whatever state; null when there are none
 */
export function withLeftByArt(before: SetFacts | null, now: SetFacts): SetFacts {
  if (!before?.art) return now;
  const changed = before.art !== now.art;
  const old = new Map(before.shapes.map(({ id, excess }) => [id, excess.max]));
  const earlier = new Map(before.left?.shapes.map(({ id, before }) => [id, before]));
  const shapes = now.shapes.flatMap(({ id, excess }) => {
    const was = earlier.get(id) ?? (changed ? old.get(id) : undefined);
    return was !== undefined && excess.max > was + WORSE_METRES ? [{ id, before: was }] : [];
  });
  const worseBare = changed && now.uncovered.max > before.uncovered.max + WORSE_METRES;
  const areaBefore = before.left?.bareArea ?? (worseBare ? bareArea(before) : null);
  const bare = areaBefore !== null && bareArea(now) > areaBefore + WORSE_AREA ? areaBefore : null;
  const { left: _, ...facts } = now;
  return shapes.length || bare !== null ? { ...facts, left: { shapes, bareArea: bare } } : facts;
}

/** Somebody has looked at what a change of the art left. */
export function lookedAt({ left: _, ...facts }: SetFacts): SetFacts {
  return facts;
}

/** Square metres that a change of the art has laid bare. */
export const newlyBare = (facts: SetFacts): number =>
  facts.left?.bareArea === undefined || facts.left.bareArea === null
    ? 0
    : Math.max(0, bareArea(facts) - facts.left.bareArea);
