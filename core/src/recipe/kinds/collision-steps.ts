import * as z from 'zod';
import { meantOpenings } from '../../check/index.js';
import { shapeDistance } from '../../compare/index.js';
import { counted } from '../../math/figures.js';
import {
  addClearances,
  clearanceShape,
  innerNameSchema,
  MAX_CLEARANCES,
  PROXY_ROLES,
  useProxies,
} from '../../piece/index.js';
import { findOpenings } from '../../solid/index.js';
import { StepError } from '../step-error.js';
import { type StepKind, stepKind } from '../step-kind.js';

const agentId = z.string().min(1).max(40);

const agent = stepKind({
  label: 'Choose who collides',
  parts: false,
  parameters: z.strictObject({ agent: agentId.nullable() }),
  run(work, { agent }) {
    const chosen = agent === null ? null : work.agentBy(agent);
    if (work.document.agent === agent) return 'It is judged for that agent already.';
    work.apply({ kind: 'set-agent', agent });
    return `It is judged for the ${(chosen ?? work.agent)?.name ?? 'yard’s usual agent'}.`;
  },
});

const collision = stepKind({
  label: 'Leave parts without collision',
  parts: true,
  parameters: z.strictObject({ collides: z.boolean().default(false) }),
  run(work, { collides }, { ids }) {
    const now = new Map(work.document.nodes.map(({ id, noCollision }) => [id, noCollision === undefined]));
    const changed = ids.filter((id) => now.get(id) !== collides);
    if (!changed.length) return 'That is so already.';
    work.apply({ kind: 'set-collision', parts: changed, collides });
    return `${counted(changed.length, 'part')} ${collides ? 'with' : 'without'} collision.`;
  },
});

const openings = stepKind({
  label: 'Keep openings free',
  parts: false,
  otherwise: 'skip',
  parameters: z.strictObject({
    /** only what is meant for this agent. Default: for whom the piece is judged; null: every way through */
    agent: agentId.nullable().optional(),
  }),
  run(work, { agent: id }) {
    const { document, colliding } = work;
    const agent = id === undefined ? work.agent : id === null ? undefined : work.agentBy(id);
    const found = agent ? meantOpenings(colliding.art.mesh, agent) : findOpenings(colliding.art.mesh);
    const kept = document.clearances.map((each) => shapeDistance(clearanceShape(each)));
    const fresh = found.filter(({ center: [x, y, z] }) => !kept.some((distance) => distance(x, y, z) < 0));
    if (!found.length)
      throw new StepError(`No way goes through it${agent ? ` that the ${agent.name} could take` : ''}.`);
    if (!fresh.length) return 'Every opening is kept free already.';
    const edit = addClearances(
      document,
      fresh.map(({ center, halfExtents, rotation }) => ({ center, halfExtents, rotation, through: 'z' })),
    );
    if (edit.clearances.length > MAX_CLEARANCES)
      throw new StepError(
        `A piece has at most ${MAX_CLEARANCES} clearances; this would make ${edit.clearances.length}.`,
      );
    work.apply(edit);
    return `${counted(fresh.length, 'opening')} kept free.`;
  },
});

const shapeUse = stepKind({
  label: 'Say what shapes do',
  parts: true,
  parameters: z.strictObject({
    role: z.enum(PROXY_ROLES).nullable().optional(),
    surface: innerNameSchema.nullable().optional(),
    response: innerNameSchema.nullable().optional(),
    /** kilograms a cubic metre */
    density: z.number().positive().max(100_000).nullable().optional(),
  }),
  run(work, use, { all, ids }) {
    const parts = new Set(ids);
    const shapes = work.document.proxies.filter(({ part }) => all || (part !== undefined && parts.has(part)));
    if (!shapes.length) throw new StepError('It has no such shapes yet.');
    const edit = useProxies(work.document, new Set(shapes.map(({ id }) => id)), use);
    if (!edit) return 'That is so already.';
    work.apply(edit);
    return `${counted(edit.changed.length, 'shape')} changed.`;
  },
});

/** Who collides with what, and what stays open. */
export const COLLISION_STEPS: Readonly<Record<string, StepKind>> = {
  agent,
  collision,
  openings,
  'shape-use': shapeUse,
};
