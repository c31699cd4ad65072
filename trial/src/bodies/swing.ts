import { type CollisionShape, multiplyQuats, quatAbout, rotate, type Vec3 } from '@yard-brace/core';
import type { Shape } from '@dimforge/rapier3d-compat';
import { colliderDesc, xyz, xyzw } from '../collider-desc.js';
import { engine } from '../engine.js';
import type { TrialShape } from '../walk/trial-world.js';

export interface SwingInput {
  /** what swings, and what stands still */
  leaf: readonly TrialShape[];
  rest: readonly TrialShape[];
  /** a place of the hinge and its axis, unit length */
  at: Vec3;
  axis: Vec3;
  /** degrees of its range */
  from: number;
  to: number;
}

/** Where a swing is stopped. */
export interface Swung {
  /** degrees at which it meets something, on the way from 0 to either end; null where it swings free */
  hits: { degrees: number; leaf: string; rest: string }[];
}

const STEP_DEGREES = 0.5;
/** What it lies against where it starts it may go into by so much more before that is a stop, metres. */
const REST_METRES = 0.005;
/** What it is free of where it starts it meets at once: as deep as the engine's single precision tells, metres. */
const MET_METRES = 1e-4;

/**
 * A part swung through its range against the rest: on each way from where it is, the angle at which it first goes
 * deeper into something than it lies in it already; to a hundredth of a degree.
 */
export async function swing({ leaf, rest, at, axis, from, to }: SwingInput): Promise<Swung> {
  const rapier = await engine();
  const shapeOf = (shape: CollisionShape) => {
    const desc = colliderDesc(rapier, shape, at);
    return desc && { shape: desc.shape, at: desc.translation, turned: desc.rotation };
  };
  const placed = (shapes: readonly TrialShape[]) =>
    shapes.flatMap(({ id, colliders }) =>
      colliders.flatMap((collider) => {
        const made = shapeOf(collider);
        return made ? [{ id, ...made }] : [];
      }),
    );
  const [moving, standing] = [placed(leaf), placed(rest)];
  const deepest = (degrees: number, a: (typeof moving)[number], b: (typeof standing)[number]): number => {
    const turn = quatAbout(axis, (degrees * Math.PI) / 180);
    const place = rotate(turn, [a.at.x, a.at.y, a.at.z]);
    const q = multiplyQuats(turn, [a.turned.x, a.turned.y, a.turned.z, a.turned.w]);
    const contact = (a.shape as Shape).contactShape(xyz(place), xyzw(q), b.shape as Shape, b.at, b.turned, 0);
    return contact ? Math.max(0, -contact.distance) : 0;
  };
  const hits: Swung['hits'] = [];
  for (const end of [from, to]) {
    if (end === 0) continue;
    const found = firstHit(end, moving, standing, deepest);
    if (found) hits.push(found);
  }
  return { hits };
}

function firstHit<A extends { id: string }, B extends { id: string }>(
  end: number,
  moving: readonly A[],
  standing: readonly B[],
  deepest: (degrees: number, a: A, b: B) => number,
): { degrees: number; leaf: string; rest: string } | null {
  const steps = Math.ceil(Math.abs(end) / STEP_DEGREES);
  const pairs = moving.flatMap((a) =>
    standing.map((b) => {
      const depth = deepest(0, a, b);
      return { a, b, lies: depth + (depth > 0 ? REST_METRES : MET_METRES) };
    }),
  );
  for (let i = 1; i <= steps; i++) {
    const degrees = (end * i) / steps;
    const pair = pairs.find(({ a, b, lies }) => deepest(degrees, a, b) > lies);
    if (!pair) continue;
    let [free, met] = [(end * (i - 1)) / steps, degrees];
    while (Math.abs(met - free) > 0.01) {
      const middle = (free + met) / 2;
      if (deepest(middle, pair.a, pair.b) > pair.lies) met = middle;
      else free = middle;
    }
    return { degrees: met, leaf: pair.a.id, rest: pair.b.id };
  }
  return null;
}
