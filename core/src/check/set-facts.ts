import * as z from 'zod';
import { type Deviation, type JudgedSet, type JudgeSetInput } from '../compare/index.js';
import { vec3Schema } from '../math/schemas.js';
import { blobId, clearanceShape, partsLeftOut, type PieceDocument } from '../piece/index.js';
import { shapeCorners, type ShapeKind } from '../shape/index.js';
import { artNameOf } from './left-by-art.js';
import { proxyKey } from './proxy-key.js';

/** Entries of one list that are kept, the worst ones. */
const MAX_LISTED = 200;

const metres = z.number().nonnegative();
const deviationSchema = z.object({
  mean: metres,
  p95: metres,
  max: metres,
  at: vec3Schema.nullable(),
}) satisfies z.ZodType<Deviation>;

/** A set of shapes as it was judged, and the state that it was judged on. Lengths in metres, volumes in cubic metres. */
export const setFactsSchema = z.object({
  /** see `setKey` */
  key: z.string().regex(/^[0-9a-f]{64}$/),
  /** the art that it was judged on, see `artNameOf`; absent where that was not kept yet */
  art: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
  /** what changes of the art have left, not looked at yet, see `withLeftByArt` */
  left: z
    .object({
      /** shapes that stand out more, and how far each did before the change */
      shapes: z.array(z.object({ id: z.string(), before: metres })),
      /** square metres that were bare before; null when nothing was laid bare */
      bareArea: metres.nullable(),
    })
    .optional(),
  excess: deviationSchema,
  uncovered: deviationSchema,
  artVolume: metres,
  proxyVolume: metres,
  overfill: metres,
  underfill: metres,
  overlap: metres,
  corners: z.number().nonnegative(),
  /** see `shapeCost`; a box is 1 */
  cost: metres,
  shapes: z.array(z.object({ id: z.string(), excess: deviationSchema, overfill: metres, away: metres })),
  owners: z.array(
    z.object({
      owner: z.string().nullable(),
      shapes: z.number().int().nonnegative(),
      excess: deviationSchema,
      uncovered: deviationSchema,
    }),
  ),
  crossings: z.array(
    z.object({ a: z.string(), b: z.string(), depth: metres, volume: metres, at: vec3Schema }),
  ),
  /** all of them, listed or not */
  crossingCount: z.number().int().nonnegative(),
  bare: z.array(
    z.object({ area: metres, most: metres, at: vec3Schema, faces: z.number().int().nonnegative() }),
  ),
  bareCount: z.number().int().nonnegative(),
  edges: z
    .array(
      z.object({ edge: z.string(), length: metres, bare: metres, off: metres.nullable(), at: vec3Schema }),
    )
    .default([]),
  blocked: z.array(z.object({ opening: z.string(), shape: z.string(), depth: metres, at: vec3Schema })),
});
export type SetFacts = z.infer<typeof setFactsSchema>;

/** Kinds that leave as they are for every target. */
const EVERYWHERE: ReadonlySet<ShapeKind> = new Set(['box', 'hull']);

/**
 * A name for everything that a judgement depends on: art, shapes, their owners, openings, what is felt, and how the target
 * takes shapes (see `CheckRules`).
 */
export function setKey(document: PieceDocument, toleranceMetres: number, takes: string): string {
  const { proxies, clearances } = document;
  const text = JSON.stringify([
    proxyKey(document),
    proxies.map(({ id, part }) => [id, part ?? null]),
    clearances.map((clearance) => [clearance.id, clearanceShape(clearance)]),
    toleranceMetres,
    partsLeftOut(document),
    // What no target replaces is measured alike for all.
    ...(proxies.every(({ shape }) => EVERYWHERE.has(shape.kind)) ? [] : [takes]),
    // Keys of before there were left out faces and ridden edges stay what they were.
    ...(document.noCollision.length ? [document.noCollision] : []),
    ...(document.riddenEdges.length ? [document.riddenEdges.map(({ id, line }) => [id, line])] : []),
  ]);
  return blobId(new TextEncoder().encode(text));
}

/** What `judgeSet` is asked of a document. */
export const setOf = (document: PieceDocument): Pick<JudgeSetInput, 'members' | 'openings' | 'edges'> => ({
  members: document.proxies.map(({ id, shape, part }) => ({ id, shape, owner: part ?? null })),
  openings: document.clearances.map((clearance) => ({ id: clearance.id, shape: clearanceShape(clearance) })),
  edges: document.riddenEdges,
});

/** What was judged, as it is kept with the piece. */
export function setFactsOf(
  document: PieceDocument,
  toleranceMetres: number,
  takes: string,
  { figures, shapes, owners, crossings, bare, blocked, edges }: JudgedSet,
): SetFacts {
  return {
    key: setKey(document, toleranceMetres, takes),
    art: artNameOf(document),
    excess: figures.proxyOutside,
    uncovered: figures.artOutside,
    artVolume: figures.artVolume,
    proxyVolume: figures.proxyVolume,
    overfill: figures.overfill,
    underfill: figures.underfill,
    overlap: figures.overlap,
    corners: document.proxies.reduce((sum, { shape }) => sum + shapeCorners(shape), 0),
    cost: figures.cost.cost,
    shapes,
    owners,
    crossings: crossings.slice(0, MAX_LISTED),
    crossingCount: crossings.length,
    bare: bare.slice(0, MAX_LISTED),
    bareCount: bare.length,
    blocked: blocked.slice(0, MAX_LISTED),
    edges,
  };
}
