import * as z from 'zod';
import { vec3Schema } from '../math/schemas.js';
import { sizeOf } from '../math/index.js';
import {
  artBounds,
  boundsSchema,
  familyDrift,
  familyFeature,
  familyShare,
  type PieceDocument,
  pivotSchema,
} from '../piece/index.js';
import { type CheckRules, type PieceSurroundings, WORKING_STEPS } from './finding.js';
import { findingsOf, hasDrifted } from './findings.js';
import { proxyKey } from './proxy-key.js';
import { type Stamp, stampsOf, type Tally } from './stamps.js';

const stampSchema = z.enum(['clear', 'look', 'stopped', 'none']) satisfies z.ZodType<Stamp>;
/** Facts of before there were trials have no stamp for them. */
const withTrial = (tally: unknown): unknown =>
  typeof tally === 'object' && tally !== null && !('trial' in tally) ? { ...tally, trial: 'none' } : tally;
export const tallySchema = z.preprocess(withTrial, z.record(z.enum(WORKING_STEPS), stampSchema));

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
  /** what it has in common with a family, and whether it is one of it by that; facts of before have none */
  feature: vec3Schema.nullable().default(null),
  joinedBy: z.enum(['feature', 'bounds']).default('bounds'),
  /** the file it came from */
  cameFrom: z.string(),
  /** what stops it or wants a decision; facts of before did not count that */
  faults: z.number().int().nonnegative().optional(),
  /** how far shapes and art lie apart at most, metres; null where that is not measured as it is now */
  deviation: z.number().nonnegative().nullable().default(null),
  /** for which targets it left, whether that agreed, and whether it has changed since */
  delivered: z.array(z.object({ target: z.string(), agreed: z.boolean(), changed: z.boolean() })).default([]),
  tally: tallySchema,
});
export type ShelfFacts = z.infer<typeof shelfFactsSchema>;

export function shelfFactsOf(
  document: PieceDocument,
  rules: CheckRules,
  around: Pick<PieceSurroundings, 'deliveries' | 'measured' | 'targets'>,
): ShelfFacts {
  const bounds = artBounds(document);
  const findings = findingsOf(document, rules, around);
  const { measured = null, deliveries = [] } = around;
  return {
    meshName: document.meshName,
    size: sizeOf(bounds),
    triangles: document.whole.triangles,
    shapes: document.proxies.length,
    bounds,
    pivot: document.pivot,
    family: document.family,
    feature: familyFeature(document),
    joinedBy: document.familyFeature ? 'feature' : 'bounds',
    cameFrom: document.source.files[0]!.name,
    faults: findings.filter(({ severity }) => severity !== 'info').length,
    deviation:
      measured && document.proxies.length && measured.key === proxyKey(document)
        ? Math.max(measured.artOutside, measured.proxyOutside)
        : null,
    delivered: deliveries.map(({ target, agreed, changes }) => ({
      target,
      agreed,
      changed: changes.length > 0,
    })),
    tally: stampsOf(document, findings, around),
  };
}

/** The tallies of pieces that stand on one shelf: two of one mesh name, and drifted families, want a look. */
export function talliesBeside(
  pieces: readonly {
    id: number;
    facts: Pick<ShelfFacts, 'meshName' | 'family' | 'bounds' | 'pivot' | 'tally' | 'feature' | 'joinedBy'>;
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
      const { tally, meshName, family, joinedBy } = facts;
      const first = family === null ? undefined : eldest.get(family);
      const member = { ...facts, feature: joinedBy === 'feature' ? facts.feature : null };
      const drifted =
        first !== undefined && first.id !== id && hasDrifted(familyDrift(member, familyShare(first.facts)));
      const shared = named.get(meshName)! > 1;
      // The very same where others have nothing to do with it: a shelf of thousands is told apart by it.
      if (!shared && !drifted) return [id, tally];
      return [
        id,
        {
          ...tally,
          ...(shared ? { names: look(tally.names) } : {}),
          ...(drifted ? { pivot: look(tally.pivot) } : {}),
        },
      ];
    }),
  );
}
