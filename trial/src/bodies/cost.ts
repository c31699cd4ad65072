import { diagonalOf, type Mesh, meshBounds, type Vec3 } from '@yard-brace/core';
import { colliderDesc, localPoints } from '../collider-desc.js';
import { type Engine, engine } from '../engine.js';
import type { TrialShape } from '../walk/trial-world.js';

/** What copies of a piece cost an engine, as measured on this machine. */
export interface CostPoint {
  copies: number;
  /** milliseconds to put them all there */
  build: number;
  /** milliseconds of a step with bodies that move among them: the median */
  step: number;
  /** bytes that the engine needs to remember them */
  bytes: number;
}

export interface Cost {
  shapes: CostPoint[];
  /** of the art's own triangles */
  triangles: CostPoint[];
}

export const COST_COPIES = [1, 10, 100, 500] as const;
/** Bodies that move among the copies. */
const MOVING = 60;
const STEPS = 45;
/** Copies of more triangles than this all together are not built: their figures go on as they grew. */
const MAX_TRIANGLES = 500_000;

/** Build and step times, and memory, of copies of a set and of its art. Figures of time differ from run to run. */
export async function cost(
  shapes: readonly TrialShape[],
  art: Mesh,
  progress: (share: number) => void = () => undefined,
): Promise<Cost> {
  const rapier = await engine();
  const bounds = meshBounds(art);
  const origin: Vec3 = [bounds.min[0], bounds.min[1], bounds.min[2]];
  const descs = shapes.flatMap(({ colliders }) =>
    colliders.flatMap((collider) => {
      const desc = colliderDesc(rapier, collider, origin);
      return desc ? [{ desc, surface: collider.kind === 'surface' }] : [];
    }),
  );
  const convex = descs.filter(({ surface }) => !surface).map(({ desc }) => desc);
  // As an engine has them: the solids of a piece are one body.
  const solids = (world: InstanceType<Engine['World']>, at: Vec3) => {
    if (convex.length) {
      const compound = rapier.ColliderDesc.compound(
        convex.map(({ shape }) => shape),
        convex.map(({ translation }) => translation),
        convex.map(({ rotation }) => rotation),
      );
      world.createCollider(compound.setTranslation(...at));
    }
    for (const { desc, surface } of descs) if (surface) world.createCollider(desc.setTranslation(...at));
  };
  const points = localPoints(art.positions, origin);
  const indices = Uint32Array.from(art.indices);
  const triangles = (world: InstanceType<Engine['World']>, at: Vec3) => {
    world.createCollider(rapier.ColliderDesc.trimesh(points, indices).setTranslation(...at));
  };
  const side = Math.max(diagonalOf(bounds), 1e-3);
  const measured: Cost = { shapes: [], triangles: [] };
  COST_COPIES.forEach((copies, i) => {
    measured.shapes.push(measure(rapier, copies, side, solids));
    if ((copies * indices.length) / 3 <= MAX_TRIANGLES)
      measured.triangles.push(measure(rapier, copies, side, triangles));
    progress((i + 1) / COST_COPIES.length);
  });
  return measured;
}

function measure(
  rapier: Engine,
  copies: number,
  side: number,
  put: (world: InstanceType<Engine['World']>, at: Vec3) => void,
): CostPoint {
  const world = new rapier.World({ x: 0, y: -9.81, z: 0 });
  const across = Math.ceil(Math.sqrt(copies));
  const start = performance.now();
  for (let i = 0; i < copies; i++) put(world, [(i % across) * side, 0, Math.floor(i / across) * side]);
  world.step();
  const build = performance.now() - start;
  for (let i = 0; i < MOVING; i++) {
    const copy = Math.floor((i * copies) / MOVING);
    const [left, back] = [(copy % across) * side, Math.floor(copy / across) * side];
    const body = world.createRigidBody(
      rapier.RigidBodyDesc.dynamic()
        .setTranslation(
          left + ((i % 8) / 10 + 0.1) * side,
          side * (0.6 + Math.floor(i / 8) * 0.08),
          back + (Math.floor(i / 8) / 10 + 0.1) * side,
        )
        .setCanSleep(false),
    );
    world.createCollider(rapier.ColliderDesc.ball(side * 0.03), body);
  }
  const times: number[] = [];
  for (let i = 0; i < STEPS; i++) {
    const before = performance.now();
    world.step();
    times.push(performance.now() - before);
  }
  const bytes = world.takeSnapshot().length;
  world.free();
  return { copies, build, step: times.sort((a, b) => a - b)[STEPS >> 1]!, bytes };
}
