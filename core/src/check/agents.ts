import * as z from 'zod';
import { type Clearance, clearanceAxes, isHatch, type PieceDocument } from '../piece/index.js';

/** Who collides: how much room it takes, what it can climb, and how small a detail it still feels. */
export const agentSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/),
  name: z.string().trim().min(1).max(60),
  /** metres */
  height: z.number().positive().max(1000),
  radius: z.number().positive().max(1000),
  step: z.number().nonnegative().max(1000),
  slopeDegrees: z.number().min(0).max(90),
  /** metres that it jumps up */
  jump: z.number().nonnegative().max(1000).default(0),
  /** metres from its feet to its eyes. Default: a little below its height */
  eye: z.number().positive().max(1000).optional(),
  /** below this length, in metres, detail does not matter to it */
  detail: z.number().nonnegative().max(1000),
});
export type Agent = z.infer<typeof agentSchema>;

/** The agents a new yard starts with. */
export const FIRST_AGENTS: readonly Agent[] = [
  {
    id: 'gantry-rig',
    name: 'gantry rig',
    height: 3.2,
    radius: 1.1,
    step: 0.3,
    slopeDegrees: 10,
    jump: 0,
    detail: 0.25,
  },
  {
    id: 'deckhand',
    name: 'deckhand',
    height: 1.8,
    radius: 0.35,
    step: 0.35,
    slopeDegrees: 45,
    jump: 0.5,
    detail: 0.04,
  },
  { id: 'gull', name: 'gull', height: 0.4, radius: 0.15, step: 0.2, slopeDegrees: 60, jump: 2, detail: 0.01 },
];

/** For whom a piece of a yard is judged where nobody was chosen: neither the coarsest nor the finest of its agents. */
export const usualAgent = (agents: readonly Agent[]): Agent | undefined =>
  [...agents].sort((a, b) => b.detail - a.detail)[Math.floor((agents.length - 1) / 2)];

/** For whom a piece is judged: the agent that was chosen for it, while the yard has it, or the usual one. */
export const judgedAgent = (
  { agent }: Pick<PieceDocument, 'agent'>,
  agents: readonly Agent[],
): Agent | undefined => agents.find(({ id }) => id === agent) ?? usualAgent(agents);

export interface Passage {
  /** free width and height, in metres */
  width: number;
  height: number;
  /** what is left of each beside the agent, in metres; negative when it does not fit */
  widthLeft: number;
  heightLeft: number;
  passes: boolean;
}

/** Whether an agent gets through a clearance, by its width and height across the way through. */
export function passageOf(clearance: Clearance, { height, radius }: Agent, marginMetres = 0): Passage {
  const axes = clearanceAxes(clearance);
  const width = 2 * clearance.halfExtents[axes.width];
  const free = 2 * clearance.halfExtents[axes.height];
  const widthLeft = width - 2 * (radius + marginMetres);
  // Through a hatch one climbs upright: it is as wide to all sides.
  const heightLeft = free - (isHatch(clearance) ? 2 * (radius + marginMetres) : height);
  return { width, height: free, widthLeft, heightLeft, passes: widthLeft >= 0 && heightLeft >= 0 };
}

/** The least factor by which a piece has to grow for an agent to get through a clearance; 1 where it does already. */
export function growthFor(clearance: Clearance, agent: Agent, marginMetres = 0): number {
  const { width, height, widthLeft, heightLeft } = passageOf(clearance, agent, marginMetres);
  return Math.max(1, (width - widthLeft) / width, (height - heightLeft) / height);
}
