import * as z from 'zod';
import { vec3Schema } from '../math/schemas.js';
import { blobId, clearanceShape, partsLeftOut, type PieceDocument } from '../piece/index.js';
import type { Agent } from './agents.js';
import { proxyKey } from './proxy-key.js';

/** Entries of one list that are kept, the worst ones. */
export const MAX_TRIAL_ENTRIES = 200;

const metres = z.number().nonnegative();
const count = z.number().int().nonnegative();
const shapeId = z.string().min(1).max(40).nullable();

/** Where a run began, and which way it went on the level: it can be walked again. */
const startSchema = z.object({ at: vec3Schema, way: z.tuple([z.number(), z.number()]) });
export type RunStart = z.infer<typeof startSchema>;

const placeSchema = z.object({
  at: vec3Schema,
  /** id of the shape to blame; null where it is none */
  shape: shapeId,
  /** null where it was found without walking */
  from: startSchema.nullable(),
});

/** Where an agent touched a shape, and how the art that is seen lies to that. */
export const contactSchema = placeSchema.extend({
  /** air: stopped or held before the art; through: the art reaches into the agent */
  kind: z.enum(['air', 'through']),
  where: z.enum(['side', 'foot', 'head']),
  metres,
});
export type TrialContact = z.infer<typeof contactSchema>;

const lengthAt = placeSchema.extend({ metres });
export type TrialPlace = z.infer<typeof lengthAt>;

const openingSchema = z.object({
  /** id of the clearance; null for one that was found in the art */
  id: z.string().nullable(),
  name: z.string(),
  at: vec3Schema,
  passes: z.boolean(),
  width: metres,
  height: metres,
  missingWidth: metres,
  missingHeight: metres,
  /** the greater of both */
  missingMetres: metres,
  shape: shapeId,
});
export type TrialOpening = z.infer<typeof openingSchema>;

const routeSchema = z.object({
  /** id of the clearance that it goes through; null for one that was found, and for a way up to a level */
  opening: z.string().nullable(),
  /** of the opening; empty for a level */
  name: z.string(),
  /** the opening, or where it goes to */
  at: vec3Schema,
  found: z.boolean(),
  /** how long it is; 0 where there is none */
  metres,
});
export type TrialRoute = z.infer<typeof routeSchema>;

/** What agents did that were sent from all sides. Lengths in metres, the worst first. */
export const walkTrialSchema = z.object({
  /** see `walkTrialKey` */
  key: z.string().regex(/^[0-9a-f]{64}$/),
  agent: z.string().max(40),
  runs: count,
  openings: z.array(openingSchema),
  /** gaps of more than the agent's detail */
  contacts: z.array(contactSchema),
  contactCount: count,
  /** stopped where the art lets it pass: metres of air */
  blocked: z.array(lengthAt),
  blockedCount: count,
  stuck: z.array(placeSchema),
  /** the art carries it and the shapes do not: metres down */
  falls: z.array(lengthAt),
  fallCount: count,
  /** several jolts one soon after the other: metres of the greatest, and how many */
  jolts: z.array(lengthAt.extend({ count })),
  /** slides down what is too steep for it, where the art holds it */
  slips: z.array(lengthAt),
  /** through every opening, and up to every level that the art lets it reach */
  routes: z.array(routeSchema),
});
export type WalkTrial = z.infer<typeof walkTrialSchema>;

/** What was tried with a piece. */
export const trialFactsSchema = z.object({ walks: z.array(walkTrialSchema).max(12).default([]) });
export type TrialFacts = z.infer<typeof trialFactsSchema>;

/** What a walk is judged by, beside the agent. */
export interface WalkLimits {
  /** ground that rises or falls by more at once shakes who walks, metres */
  joltMetres: number;
}

/** Whether an agent got through everything. Gaps at contacts are looked at; they fail nobody. */
export const walkPassed = ({ openings, blockedCount, stuck, fallCount, jolts, routes }: WalkTrial): boolean =>
  openings.every(({ passes }) => passes) &&
  routes.every(({ found }) => found) &&
  blockedCount + stuck.length + fallCount + jolts.length === 0;

/** A name for everything that a walk depends on: art, shapes, openings, the agent, and how the target takes shapes. */
export function walkTrialKey(
  document: PieceDocument,
  agent: Agent,
  limits: WalkLimits,
  takes: string,
): string {
  const text = JSON.stringify([
    proxyKey(document),
    document.proxies.map(({ id }) => id),
    document.clearances.map((clearance) => [clearance.id, clearance.through, clearanceShape(clearance)]),
    partsLeftOut(document),
    document.noCollision,
    [agent.radius, agent.height, agent.step, agent.slopeDegrees, agent.jump, agent.detail],
    limits.joltMetres,
    takes,
  ]);
  return blobId(new TextEncoder().encode(text));
}
