import { distance, normalized, quatFromAxes, subtract, type Vec3 } from '@yard-brace/core';
import { GROUND, StillWorld } from '../still-world.js';
import type { TrialShape } from '../walk/trial-world.js';

export interface SlideInput {
  shapes: readonly TrialShape[];
  /** an edge, place by place, metres */
  line: readonly Vec3[];
  /** what rises or falls by more within a step jolts, metres. Default 0.003 */
  joltMetres?: number;
}

/** How a board slid along an edge. Lengths in metres, from the start of the edge. */
export interface Slid {
  length: number;
  /** where it rose or fell at once, and by how much; the worst first */
  jolts: { along: number; metres: number; at: Vec3; shape: string | null }[];
  /** where it was caught by something that stands up */
  snags: { along: number; at: Vec3; shape: string | null }[];
  /** how much of the edge carried it nowhere */
  lost: number;
}

/** Half the width, thickness and length of the board. */
const BOARD_METRES = [0.02, 0.01, 0.1] as const;
const STEP_METRES = 0.005;
/** The board is let down from so far over the edge to so far under it. */
const OVER_METRES = 0.12;
const UNDER_METRES = 0.05;
const JOLT_METRES = 0.003;
/** What rises more steeply than this catches it. */
const SNAG_SLOPE = 1;

/** A board slid along an edge, pressed onto what lies there: jolts, snags, and where it lies on nothing. */
export async function slide({ shapes, line, joltMetres = JOLT_METRES }: SlideInput): Promise<Slid> {
  const world = await StillWorld.at(line[0] ?? [0, 0, 0]);
  shapes.forEach(({ colliders }, i) => world.addShape(colliders, i));
  world.ready();
  const found: Slid = { length: 0, jolts: [], snags: [], lost: 0 };
  let before: number | null = null;
  line.slice(1).forEach((to, i) => {
    const from = line[i]!;
    const length = distance(from, to);
    const along = normalized(subtract(to, from));
    const level = Math.hypot(along[0], along[2]) || 1;
    const across: Vec3 = [along[2] / level, 0, -along[0] / level];
    const up: Vec3 = [
      along[1] * across[2] - along[2] * across[1],
      along[2] * across[0] - along[0] * across[2],
      along[0] * across[1] - along[1] * across[0],
    ];
    const turned = quatFromAxes(across, up, along);
    const steps = Math.max(1, Math.round(length / STEP_METRES));
    for (let step = 0; step <= steps; step++) {
      const t = (length * step) / steps;
      const place = from.map((v, k) => v + along[k]! * t) as Vec3;
      const start: Vec3 = [place[0], place[1] + OVER_METRES + BOARD_METRES[1], place[2]];
      const hit = world.sweepBox(BOARD_METRES, turned, start, [0, -(OVER_METRES + UNDER_METRES), 0]);
      const off = hit ? OVER_METRES - hit.distance : null;
      const shape = hit && hit.shape !== GROUND ? (shapes[hit.shape]?.id ?? null) : null;
      const gone = found.length + t;
      if (off === null) found.lost += length / steps;
      else if (before !== null && step > 0) {
        const rise = off - before;
        if (rise > STEP_METRES * SNAG_SLOPE) found.snags.push({ along: gone, at: place, shape });
        if (Math.abs(rise) > joltMetres)
          found.jolts.push({ along: gone, metres: Math.abs(rise), at: place, shape });
      }
      before = off;
    }
    found.length += length;
  });
  world.free();
  found.lost = Math.min(found.lost, found.length);
  found.jolts.sort((a, b) => b.metres - a.metres);
  return found;
}
