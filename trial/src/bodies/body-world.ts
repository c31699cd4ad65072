import type { ColliderDesc, EventQueue, RigidBody, RigidBodyDesc } from '@dimforge/rapier3d-compat';
import { add, type Bounds, type CollisionShape, diagonalOf, type Quat, type Vec3 } from '@yard-brace/core';
import { colliderDesc, vec, xyzw } from '../collider-desc.js';
import { StillWorld } from '../still-world.js';
import { boundsOfShapes } from '../walk/bounds-of-shapes.js';
import type { TrialShape } from '../walk/trial-world.js';
import { STEP_SECONDS } from '../walk/walker.js';

/** Where a body is: metres in the piece's space, and how it is turned. */
export interface Pose {
  at: Vec3;
  turned: Quat;
}

/** How what moves was drawn at every second step: [7 × bodies × frames], place and turn of each. */
export interface Played {
  bodies: number;
  frames: number;
  poses: Float32Array;
  /** what the poses are relative to, metres */
  origin: Vec3;
}

/** Every so many steps a frame is kept. */
const STEPS_A_FRAME = 2;
/** Metres of ground beyond a piece. */
const GROUND_METRES = 20;
const GROUND_FRICTION = 0.7;

/** Moving bodies among what stands still. The same start gives the same run. */
export class BodyWorld {
  readonly bodies: RigidBody[] = [];
  private readonly middles = new Map<number, Vec3>();
  private readonly poses: number[] = [];
  private steps = 0;
  private readonly events: EventQueue;

  private constructor(
    readonly still: StillWorld,
    readonly bounds: Bounds,
    readonly ground: number,
  ) {
    this.events = new still.rapier.EventQueue(true);
  }

  /**
   * @param standing shapes that stand still
   * @param around bounds that the run takes place in, metres
   * @param ground height of the ground, metres; null for none
   */
  static async of(
    standing: readonly TrialShape[],
    around: Bounds,
    ground: number | null,
  ): Promise<BodyWorld> {
    const origin: Vec3 = [
      (around.min[0] + around.max[0]) / 2,
      ground ?? around.min[1],
      (around.min[2] + around.max[2]) / 2,
    ];
    const still = await StillWorld.at(origin);
    standing.forEach(({ colliders }, i) => still.addShape(colliders, i));
    if (ground !== null) still.addGround(ground, diagonalOf(around) + GROUND_METRES);
    still.ready();
    still.world.timestep = STEP_SECONDS;
    return new BodyWorld(still, around, ground ?? around.min[1]);
  }

  get rapier(): StillWorld['rapier'] {
    return this.still.rapier;
  }

  /** A body of one collider, or of several; the shapes are placed about its own middle. */
  add(body: RigidBodyDesc, colliders: readonly ColliderDesc[], { at, turned }: Pose): RigidBody {
    const [x, y, z] = this.local(at);
    const made = this.still.world.createRigidBody(body.setTranslation(x, y, z).setRotation(xyzw(turned)));
    for (const collider of colliders)
      this.still.world.createCollider(collider.setFriction(GROUND_FRICTION), made);
    this.bodies.push(made);
    return made;
  }

  /** Shapes as colliders about a place; those that enclose nothing are left out. */
  collidersAbout(shapes: readonly CollisionShape[], middle: Readonly<Vec3>): ColliderDesc[] {
    return shapes.flatMap((shape) => colliderDesc(this.rapier, shape, middle) ?? []);
  }

  step(): void {
    for (const body of this.bodies) this.middles.set(body.handle, vec(body.translation()));
    // The engine asks who may touch whom only where it also keeps events.
    this.still.world.step(this.events, {
      filterContactPair: (a, b, bodyA, bodyB) =>
        this.faces(a, bodyB) && this.faces(b, bodyA) ? this.rapier.SolverFlags.COMPUTE_IMPULSE : null,
      filterIntersectionPair: () => true,
    });
    if (this.steps++ % STEPS_A_FRAME) return;
    for (const body of this.bodies) {
      const [p, q] = [body.translation(), body.rotation()];
      this.poses.push(p.x, p.y, p.z, q.x, q.y, q.z, q.w);
    }
  }

  poseOf(body: RigidBody): Pose {
    const q = body.rotation();
    return { at: add(vec(body.translation()), this.still.origin), turned: [q.x, q.y, q.z, q.w] };
  }

  played(): Played {
    const bodies = this.bodies.length;
    return {
      bodies,
      frames: bodies ? this.poses.length / 7 / bodies : 0,
      poses: Float32Array.from(this.poses),
      origin: [...this.still.origin] as Vec3,
    };
  }

  local(at: Readonly<Vec3>): Vec3 {
    const { origin } = this.still;
    return [at[0] - origin[0], at[1] - origin[1], at[2] - origin[2]];
  }

  free(): void {
    this.events.free();
    this.still.free();
  }

  private faces(collider: number, other: number): boolean {
    const middle = this.middles.get(other);
    return !middle || this.still.isInFront(collider, middle);
  }
}

/** Bounds of a set. */
export const boundsOfSet = (shapes: readonly TrialShape[]): Bounds =>
  boundsOfShapes(shapes.flatMap(({ colliders }) => colliders));
