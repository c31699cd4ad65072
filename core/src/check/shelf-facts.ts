import * as z from 'zod';
import { vec3Schema } from '../math/schemas.js';
import { distance, sizeOf } from '../math/index.js';
import {
  artBounds,
  boundsSchema,
  familyPlace,
  familyShare,
  type PieceDocument,
  pivotSchema,
} from '../piece/index.js';
import { type CheckRules, type PieceSurroundings, WORKING_STEPS } from './finding.js';
import { FAMILY_DRIFT_METRES, findingsOf } from './findings.js';
import { type Stamp, stampsOf, type Tally } from './stamps.js';

const stampSchema = z.enum(['clear', 'look', 'stopped', 'none']) satisfies z.ZodType<Stamp>;
export const tallySchema = z.record(z.enum(WORKING_STEPS), stampSchema);

/**
 * What a shelf shows of a piece, worked out when it is saved: a shelf of thousands is then one query. The
 * tally is the piece's own; what other pieces of the yard have to do with it comes on top, see `talliesBeside`.
 */
export const shelfFactsSchema = z.object({
  meshName: z.string(),
  /** metres */
  size: vec3Schema,
  triangles: z.number(),
  shapes: z.number(),
  /** where its art stands, in metres, and its pivot */
  bounds: boundsSchema,
  pivot: pivotSchema,
  family: z.string().nullable(),
  /** the file it came from */
  cameFrom: z.string(),
  tally: tallySchema,
});
export type ShelfFacts = z.infer<typeof shelfFactsSchema>;

export function shelfFactsOf(
  document: PieceDocument,
  rules: CheckRules,
  around: Pick<PieceSurroundings, 'deliveries' | 'measured' | 'targets'>,
): ShelfFacts {
  const bounds = artBounds(document);
  return {
    meshName: document.meshName,
    size: sizeOf(bounds),
    triangles: document.whole.triangles,
    shapes: document.proxies.length,
    bounds,
    pivot: document.pivot,
    family: document.family,
    cameFrom: document.source.files[0]!.name,
    tally: stampsOf(document, findingsOf(document, rules, around), around),
  };
}

/** The tallies of pieces that stand on one shelf: two of one mesh name, and drifted families, want a look. */
export function talliesBeside(
  pieces: readonly {
    id: number;
    facts: Pick<ShelfFacts, 'meshName' | 'family' | 'bounds' | 'pivot' | 'tally'>;
  }[],
): Map<number, Tally> {
  const named = new Map<string, number>();
  const eldest = new Map<string, (typeof pieces)[number]>();
  for (const piece of pieces) {
    const { meshName, family } = piece.facts;
    named.set(meshName, (named.get(meshName) ?? 0) + 1);
    if (family !== null && piece.id < (eldest.get(family)?.id ?? Infinity)) eldest.set(family, piece);
  }
  const look = (stamp: Stamp): Stamp => (stamp === 'clear' ? 'look' : stamp);
  return new Map(
    pieces.map(({ id, facts }) => {
      const { tally, meshName, family, bounds, pivot } = facts;
      const first = family === null ? undefined : eldest.get(family);
      const drifted =
        first !== undefined &&
        first.id !== id &&
        distance(familyPlace(bounds, familyShare(first.facts.bounds, first.facts.pivot)), pivot.position) >
          FAMILY_DRIFT_METRES;
      return [
        id,
        {
          ...tally,
          ...(named.get(meshName)! > 1 ? { names: look(tally.names) } : {}),
          ...(drifted ? { pivot: look(tally.pivot) } : {}),
        },
      ];
    }),
  );
}
