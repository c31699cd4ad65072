import {
  type Agent,
  type Bounds,
  type Clearance,
  type CollisionShape,
  type Mesh,
  rotate,
  shapeTriangles,
  subtract,
  type TrialRoute,
  type Vec3,
} from '@yard-brace/core';
import { throughOpening } from '../walk/courses.js';
import { stepOf } from '../walk/walker.js';
import { type RouteFinder, type RouteGround } from './route-finder.js';

/** Ground that is left free round a piece: radii of the agent. */
const ROUND_RADII = 4;
/** Levels of the art that an agent reaches are told apart by steps; at most so many are gone to. */
const MAX_LEVELS = 12;

/** Shapes, or art, on level ground. */
export function routeGround(
  parts: readonly RouteGround[],
  { min, max }: Bounds,
  ground: number,
  { radius }: Pick<Agent, 'radius'>,
): RouteGround {
  const room = ROUND_RADII * radius;
  const [x0, x1, z0, z1] = [min[0] - room, max[0] + room, min[2] - room, max[2] + room];
  const points: number[] = [x0, ground, z0, x0, ground, z1, x1, ground, z1, x1, ground, z0];
  const indices: number[] = [0, 1, 2, 0, 2, 3];
  for (const part of parts) {
    const first = points.length / 3;
    for (let i = 0; i < part.points.length; i++) points.push(part.points[i]!);
    for (let i = 0; i < part.indices.length; i++) indices.push(part.indices[i]! + first);
  }
  return { points, indices };
}

export const groundOfShapes = (shapes: readonly (readonly CollisionShape[])[]): RouteGround[] =>
  shapes.flat().map((shape) => shapeTriangles(shape));

export const groundOfArt = ({ positions, indices }: Mesh): RouteGround => ({ points: positions, indices });

export interface TrialRoutesInput {
  agent: Agent;
  clearances: readonly Clearance[];
  bounds: Bounds;
  ground: number;
  shapes: RouteFinder;
  art: RouteFinder;
}

/** Whether an agent finds its way through each opening, and up to each level of the art that it reaches on the art. */
export function trialRoutes({
  agent,
  clearances,
  bounds,
  ground,
  shapes,
  art,
}: TrialRoutesInput): TrialRoute[] {
  const start: Vec3 = [bounds.min[0] - 2 * agent.radius, ground, bounds.min[2] - 2 * agent.radius];
  const openings = clearances.flatMap((clearance): TrialRoute[] => {
    const [there, back] = throughOpening(clearance, agent);
    if (!there || !back) return [];
    const ends = [there.at, back.at] as const;
    // Where the art has no ground in front of it nobody walks up to it.
    if (!art.route(...ends)) return [];
    const found = shapes.route(...ends);
    const complete =
      found !== null &&
      found.complete &&
      found.points.some((at, i) => i > 0 && goesThrough(clearance, found.points[i - 1]!, at));
    return [
      {
        opening: clearance.id || null,
        name: clearance.name,
        at: clearance.center,
        found: complete,
        metres: complete ? found.length : 0,
      },
    ];
  });
  const levels = levelsOf(art, start, agent).map((at): TrialRoute => {
    const found = shapes.route(start, at);
    return {
      opening: null,
      name: '',
      at,
      found: found !== null && found.complete,
      metres: found?.complete ? found.length : 0,
    };
  });
  return [...openings, ...levels];
}

/** Whether a stretch of a way crosses the middle of an opening within its width. */
function goesThrough({ center, halfExtents, rotation, through }: Clearance, from: Vec3, to: Vec3): boolean {
  const unit = (x: number, y: number, z: number): Vec3 => rotate(rotation, [x, y, z]);
  const own = (at: Vec3) => {
    const off = subtract(at, center);
    return [unit(1, 0, 0), unit(0, 1, 0), unit(0, 0, 1)].map(
      (axis) => off[0] * axis[0] + off[1] * axis[1] + off[2] * axis[2],
    );
  };
  const along = through === 'x' ? 0 : 2;
  const across = through === 'x' ? 2 : 0;
  const [a, b] = [own(from), own(to)];
  if (a[along]! * b[along]! > 0) return false;
  const t = a[along] === b[along] ? 0 : a[along]! / (a[along]! - b[along]!);
  return Math.abs(a[across]! + (b[across]! - a[across]!) * t) <= halfExtents[across];
}

/** A place on each level, a step or more over the ground, to which the art itself gives a way; the lowest first. */
function levelsOf(art: RouteFinder, start: Vec3, agent: Agent): Vec3[] {
  const step = stepOf(agent);
  const { positions, indices } = art.area;
  const levels = new Map<number, { area: number; at: Vec3 }>();
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k): Vec3 => {
      const v = indices[i + k]! * 3;
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!];
    }) as [Vec3, Vec3, Vec3];
    const at: Vec3 = [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3];
    const level = Math.floor((at[1] - start[1]) / step);
    const area = Math.abs((b[0] - a[0]) * (c[2] - a[2]) - (b[2] - a[2]) * (c[0] - a[0])) / 2;
    if (level > 0 && area > (levels.get(level)?.area ?? 0)) levels.set(level, { area, at });
  }
  return [...levels]
    .sort(([a], [b]) => a - b)
    .map(([, { at }]) => at)
    .filter((at) => art.route(start, at)?.complete)
    .slice(-MAX_LEVELS);
}
