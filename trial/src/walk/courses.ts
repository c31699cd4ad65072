import {
  type Agent,
  type Bounds,
  type Clearance,
  clearanceAxes,
  isHatch,
  rotate,
  type Vec3,
} from '@yard-brace/core';
import type { TrialArt } from './trial-art.js';
import { COMPASS, isWalkable, stepOf, type Way } from './walker.js';

/** Where an agent starts, and which way it goes. */
export interface Course {
  at: Vec3;
  way: Way;
  /** metres that it has to go to be through */
  length: number;
}

/** Most lanes side by side that a piece is crossed in one direction. */
const MAX_LANES = 24;
/** Metres that are walked across a piece in all, in one of its directions: a large one is crossed in fewer lanes. */
const MAX_LANE_METRES = 400;
/** Metres before a piece where an agent starts. */
const RUN_UP_METRES = 0.25;
/** Most places of art that are stood on. */
const MAX_STANDS = 900;

/** Lanes across a piece from eight sides, no farther apart than the agent is wide where that is not too many. */
export function lanesAcross({ min, max }: Bounds, { radius }: Agent, ground: number): Course[] {
  const middle = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2] as const;
  const half = [(max[0] - min[0]) / 2, (max[2] - min[2]) / 2] as const;
  return COMPASS.flatMap((way) => {
    const side: Way = [-way[1], way[0]];
    const reach = (w: Way) => Math.abs(w[0]) * half[0] + Math.abs(w[1]) * half[1];
    const wide = reach(side) + radius;
    const long = reach(way) + radius + RUN_UP_METRES;
    const most = Math.min(MAX_LANES, Math.floor(MAX_LANE_METRES / (2 * long)));
    const lanes = Math.max(3, Math.min(most, Math.ceil((2 * wide) / radius)));
    return Array.from({ length: lanes }, (_, i) => {
      const off = -wide + (2 * wide * (i + 0.5)) / lanes;
      const at: Vec3 = [
        middle[0] - way[0] * long + side[0] * off,
        ground,
        middle[1] - way[1] * long + side[1] * off,
      ];
      return { at, way, length: 2 * long };
    });
  });
}

/** Straight through an opening from both sides; none through a hatch. */
export function throughOpening(clearance: Clearance, { radius }: Agent): Course[] {
  if (isHatch(clearance)) return [];
  const axes = clearanceAxes(clearance);
  const unit = (k: number): Vec3 => [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0];
  const along = rotate(clearance.rotation, unit(axes.through));
  const level = Math.hypot(along[0], along[2]);
  const way: Way = [along[0] / level, along[2] / level];
  const up = rotate(clearance.rotation, unit(axes.height));
  const sill = clearance.center[1] - Math.abs(up[1]) * clearance.halfExtents[axes.height];
  const long = clearance.halfExtents[axes.through] + radius + RUN_UP_METRES;
  return [way, [-way[0], -way[1]] as Way].map((one) => ({
    at: [clearance.center[0] - one[0] * long, sill, clearance.center[2] - one[1] * long] as Vec3,
    way: one,
    length: 2 * long,
  }));
}

/** A place where the art carries an agent, or the ground below and between it does. */
export interface Stand {
  at: Vec3;
  onGround: boolean;
}

/** Places on and under the art where it has room for an agent, on a grid seen from above. */
export function standsOn(
  art: TrialArt,
  agent: Agent,
  ground: number,
  hasRoom: (feet: Vec3) => boolean,
): Stand[] {
  const { min, max } = art.bounds;
  const [wide, deep] = [max[0] - min[0], max[2] - min[2]];
  const grid = Math.max(agent.radius / 2, Math.sqrt((wide * deep) / MAX_STANDS), Math.max(wide, deep) / 90);
  const across = Math.max(1, Math.ceil(wide / grid));
  const along = Math.max(1, Math.ceil(deep / grid));
  const stands: Stand[] = [];
  for (let i = 0; i < across; i++) {
    for (let k = 0; k < along; k++) {
      const x = min[0] + (wide * (i + 0.5)) / across;
      const z = min[2] + (deep * (k + 0.5)) / along;
      let above = Infinity;
      for (const { height, normal } of heightsAt(art, x, z, ground)) {
        // What lies closer below something than a step is not stood on: one stands on that.
        const covered = above - height <= stepOf(agent);
        above = height;
        if (covered) continue;
        const onGround = height <= ground + 1e-4;
        if (isWalkable(normal, agent) && hasRoom([x, height, z]))
          stands.push({ at: [x, height, z], onGround });
      }
    }
  }
  return stands;
}

/** Most layers of art one over the other that are looked through. */
const MAX_LAYERS = 32;

/** Every height at which something lies below a place, from above. */
function heightsAt(art: TrialArt, x: number, z: number, ground: number): { height: number; normal: Vec3 }[] {
  const found: { height: number; normal: Vec3 }[] = [];
  const skip = Math.max(1e-4, (art.bounds.max[1] - art.bounds.min[1]) * 1e-5);
  let from = art.bounds.max[1] + 1;
  for (let layer = 0; layer < MAX_LAYERS; layer++) {
    const hit = art.world.below([x, from, z], from - ground + 1);
    if (!hit) break;
    found.push({ height: hit.at[1], normal: hit.normal });
    if (hit.at[1] <= ground + 1e-4) break;
    from = hit.at[1] - skip;
  }
  return found;
}

/** Stands far apart from each other: the first, then always the one farthest from those taken. */
export function spread(stands: readonly Stand[], count: number): Stand[] {
  const taken: Stand[] = [];
  const away = stands.map(() => Infinity);
  let next = 0;
  while (taken.length < Math.min(count, stands.length)) {
    const one = stands[next]!;
    taken.push(one);
    stands.forEach(({ at }, i) => {
      away[i] = Math.min(away[i]!, Math.hypot(at[0] - one.at[0], at[1] - one.at[1], at[2] - one.at[2]));
    });
    next = away.reduce((best, d, i) => (d > away[best]! ? i : best), 0);
    if (away[next]! <= 0) break;
  }
  return taken;
}
