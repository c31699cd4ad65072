import { type Agent, distance, type Vec3 } from '@yard-brace/core';
import { stepOf } from '../walk/walker.js';
import type { WalkableArea } from './route-finder.js';

/** A jump up from one island to another, and down again the same way. */
export interface JumpLink {
  from: Vec3;
  to: Vec3;
}

/** Both islands keep the agent's radius off the edge between them; a little more is jumped across. */
const REACH_RADII = 2.6;
/** Along a border it is looked for jumps so often: radii. */
const EVERY_RADII = 1;
/** Links between the same islands are at least so far apart: radii. */
const APART_RADII = 4;
const MAX_LINKS = 256;
const MAX_BORDER_PLACES = 20_000;

/**
 * Where an agent can jump from one island up to another: from border to border, no farther aside than both keep off
 * their edges, and no higher than it jumps and steps.
 *
 * @param isClear whether nothing stands between two places over the higher ground
 */
export function jumpLinks(
  area: WalkableArea,
  agent: Agent,
  isClear: (from: Vec3, to: Vec3) => boolean = () => true,
): JumpLink[] {
  if (agent.jump === 0 || area.islands.length < 2) return [];
  const reach = agent.radius * REACH_RADII;
  const highest = agent.jump + stepOf(agent);
  const places = borderPlaces(area, agent.radius * EVERY_RADII);
  const cells = new Map<string, typeof places>();
  const cellOf = (v: number) => Math.floor(v / reach);
  for (const place of places) {
    const key = `${cellOf(place.at[0])} ${cellOf(place.at[2])}`;
    const own = cells.get(key);
    if (own) own.push(place);
    else cells.set(key, [place]);
  }
  const found: (JumpLink & { islands: string; across: number })[] = [];
  for (const { at: from, island } of places)
    for (let dx = -1; dx <= 1; dx++)
      for (let dz = -1; dz <= 1; dz++)
        for (const other of cells.get(`${cellOf(from[0]) + dx} ${cellOf(from[2]) + dz}`) ?? []) {
          const rise = other.at[1] - from[1];
          if (other.island === island || rise <= 0 || rise > highest) continue;
          const across = Math.hypot(other.at[0] - from[0], other.at[2] - from[2]);
          if (across <= reach)
            found.push({ from, to: other.at, islands: `${island} ${other.island}`, across });
        }
  found.sort((a, b) => a.across - b.across);
  const kept: typeof found = [];
  for (const link of found) {
    if (kept.length >= MAX_LINKS) break;
    const near = kept.some(
      ({ islands, from }) =>
        islands === link.islands && distance(from, link.from) < agent.radius * APART_RADII,
    );
    if (!near && isClear(link.from, link.to)) kept.push(link);
  }
  return kept.map(({ from, to }) => ({ from, to }));
}

/** Places along the sides that only one triangle has, so far apart at most. */
function borderPlaces(
  { positions, indices, island }: WalkableArea,
  every: number,
): { at: Vec3; island: number }[] {
  const at = (v: number): Vec3 => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
  const key = (v: number) =>
    at(v)
      .map((x) => Math.round(x * 1e3))
      .join();
  const sides = new Map<string, { a: number; b: number; island: number } | null>();
  for (let i = 0; i < indices.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [indices[i + k]!, indices[i + ((k + 1) % 3)]!];
      const [ka, kb] = [key(a), key(b)];
      const side = ka < kb ? `${ka} ${kb}` : `${kb} ${ka}`;
      sides.set(side, sides.has(side) ? null : { a, b, island: island[i / 3]! });
    }
  const places: { at: Vec3; island: number }[] = [];
  for (const side of sides.values()) {
    if (!side || places.length > MAX_BORDER_PLACES) continue;
    const [from, to] = [at(side.a), at(side.b)];
    const steps = Math.max(1, Math.ceil(distance(from, to) / every));
    for (let i = 0; i < steps; i++) {
      const t = (i + 0.5) / steps;
      places.push({ at: from.map((v, k) => v + (to[k]! - v) * t) as Vec3, island: side.island });
    }
  }
  return places;
}
