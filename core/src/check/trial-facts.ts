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
  /** a single jolt: metres that it is higher than what the art has there */
  stumbles: z.array(lengthAt).default([]),
  /** slides down what is too steep for it, where the art holds it */
  slips: z.array(lengthAt),
  /** through every opening, and up to every level that the art lets it reach */
  routes: z.array(routeSchema),
});
export type WalkTrial = z.infer<typeof walkTrialSchema>;

const key = z.string().regex(/^[0-9a-f]{64}$/);

/** Entries of a walk by hand that are kept, the worst ones. */
export const MAX_FELT = 12;

/** What an agent felt that was walked by hand, the worst first; `key` as of a walk by itself. */
export const feltSchema = z.object({
  key,
  agent: z.string().max(40),
  contacts: z.array(contactSchema).max(MAX_FELT),
});
export type Felt = z.infer<typeof feltSchema>;

/** What was felt before and now: of each shape, kind and side the worst. */
export function withFelt(before: readonly TrialContact[], now: readonly TrialContact[]): TrialContact[] {
  const worst = new Map<string, TrialContact>();
  for (const contact of [...before, ...now].sort((a, b) => b.metres - a.metres)) {
    const of = [contact.shape, contact.kind, contact.where].join();
    if (!worst.has(of)) worst.set(of, contact);
  }
  return [...worst.values()].slice(0, MAX_FELT);
}

const alongEdge = z.object({ along: metres, at: vec3Schema, shape: shapeId });

/** What a trial with bodies is asked for; what is not said is as it is usual. */
export const bodyTrialAskSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('pour'), balls: z.number().int().min(1).max(500) }),
  z.object({
    kind: z.literal('roll'),
    what: z.enum(['ball', 'barrel']),
    radius: z.number().positive().max(100),
    sides: z.number().int().min(3).max(64).nullable(),
    /** level way: x and z */
    way: z.tuple([z.number(), z.number()]),
  }),
  z.object({
    kind: z.literal('drop'),
    side: z.enum(['−y', '+y', '−x', '+x', '−z', '+z']),
    /** kilograms a cubic metre */
    density: z.number().positive().max(100_000),
  }),
  z.object({ kind: z.literal('swing'), part: z.string().max(40) }),
  z.object({ kind: z.literal('slide'), edge: z.string().max(40) }),
  z.object({
    kind: z.literal('drive'),
    track: z.number().positive().max(100),
    wheelbase: z.number().positive().max(100),
    wheelRadius: z.number().positive().max(10),
    clearance: z.number().positive().max(10),
    way: z.tuple([z.number(), z.number()]),
  }),
]);
export type BodyTrialAsk = z.infer<typeof bodyTrialAskSchema>;

const asked = { key, ask: bodyTrialAskSchema };

/** Trials with bodies that move, each with what was asked for. Lengths in metres. */
export const bodyTrialSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('pour'),
    ...asked,
    balls: count,
    inside: count,
    /** where the first of those left that did not stay */
    leaks: z.array(vec3Schema).max(MAX_TRIAL_ENTRIES),
  }),
  z.object({
    kind: z.literal('roll'),
    ...asked,
    what: z.enum(['ball', 'barrel']),
    /** of a barrel; null for a round one */
    sides: count.nullable(),
    metres: z.number(),
    wobble: metres,
    jolts: count,
    stoppedBy: shapeId,
  }),
  z.object({
    kind: z.literal('drop'),
    ...asked,
    side: z.string().max(4),
    /** seconds; null when it never lay still */
    settled: metres.nullable(),
    tipped: z.number(),
    rolled: metres,
  }),
  z.object({
    kind: z.literal('swing'),
    ...asked,
    /** id of the part, and its range in degrees */
    part: z.string().max(40),
    opens: z.tuple([z.number(), z.number()]),
    hits: z.array(z.object({ degrees: z.number(), leaf: shapeId, rest: shapeId })),
  }),
  z.object({
    kind: z.literal('slide'),
    ...asked,
    /** id of the ridden edge */
    edge: z.string().max(40),
    length: metres,
    jolts: z.array(alongEdge.extend({ metres })).max(MAX_TRIAL_ENTRIES),
    snags: z.array(alongEdge).max(MAX_TRIAL_ENTRIES),
    lost: metres,
  }),
  z.object({
    kind: z.literal('drive'),
    ...asked,
    end: z.enum(['through', 'falls', 'stopped', 'tips']),
    metres: z.number(),
    at: vec3Schema,
    airborne: count,
    /** a surface whose faces look away from who drives on it */
    wrongWay: shapeId.default(null),
    /** a wheel that rose or fell at once (metres), or the trolley that was caught (metres a second that it lost) */
    marks: z
      .array(z.object({ kind: z.enum(['jolt', 'caught']), at: vec3Schema, metres, shape: shapeId }))
      .max(MAX_TRIAL_ENTRIES)
      .default([]),
  }),
]);
export type BodyTrial = z.infer<typeof bodyTrialSchema>;
export type BodyTrialKind = BodyTrial['kind'];

const costPoint = z.object({ copies: count, build: metres, step: metres, bytes: count });
/** What copies of the set cost on the machine that it was measured on: milliseconds and bytes. */
export const trialCostSchema = z.object({ key, shapes: z.array(costPoint), triangles: z.array(costPoint) });
export type TrialCost = z.infer<typeof trialCostSchema>;

/** What was tried with a piece. */
export const trialFactsSchema = z.object({
  walks: z.array(walkTrialSchema).max(12).default([]),
  bodies: z.array(bodyTrialSchema).max(64).default([]),
  felt: z.array(feltSchema).max(12).default([]),
  cost: trialCostSchema.optional(),
});
export type TrialFacts = z.infer<typeof trialFactsSchema>;

/** Trials with walks of agents in the place of those that they made before; of agents that are gone none are left. */
export const withWalks = (
  { walks: before, ...trials }: TrialFacts,
  walks: readonly WalkTrial[],
  agents: readonly Pick<Agent, 'id'>[],
): TrialFacts => ({
  ...trials,
  walks: [
    ...before.filter(
      ({ agent }) => !walks.some((walk) => walk.agent === agent) && agents.some(({ id }) => id === agent),
    ),
    ...walks,
  ],
});

/** What a trial is of: two of the same take each other's place. */
export function bodyTrialSubject(trial: BodyTrial | BodyTrialAsk): string {
  switch (trial.kind) {
    case 'roll':
      return `roll ${trial.what} ${trial.sides ?? 'round'}`;
    case 'drop':
      return `drop ${trial.side}`;
    case 'swing':
      return `swing ${trial.part}`;
    case 'slide':
      return `slide ${trial.edge}`;
    default:
      return trial.kind;
  }
}

/** Whether what moved did as one wants: stays in, lies still, swings free, slides smoothly, gets through. */
export function bodyTrialPassed(trial: BodyTrial): boolean {
  switch (trial.kind) {
    case 'pour':
      return trial.inside === trial.balls;
    case 'roll':
      return true;
    case 'drop':
      return trial.settled !== null;
    case 'swing':
      return trial.hits.length === 0;
    case 'slide':
      return trial.jolts.length + trial.snags.length === 0 && trial.lost <= trial.length * 0.01;
    case 'drive':
      return trial.end === 'through';
  }
}

/** A name for everything that a trial with bodies depends on; `ask` null for what copies cost. */
export function bodyTrialKey(document: PieceDocument, ask: BodyTrialAsk | null, takes: string): string {
  const text = JSON.stringify([
    proxyKey(document),
    document.proxies.map(({ id, part }) => [id, part ?? null]),
    ask,
    ask?.kind === 'slide' ? document.riddenEdges.find(({ id }) => id === ask.edge)?.line : null,
    ask?.kind === 'swing' ? document.nodes.find(({ id }) => id === ask.part)?.pivot : null,
    takes,
  ]);
  return blobId(new TextEncoder().encode(text));
}

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
