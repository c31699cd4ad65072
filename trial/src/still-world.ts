import type { Collider as EngineCollider, ColliderDesc, Shape, World } from '@dimforge/rapier3d-compat';
import {
  add,
  type CollisionShape,
  dot,
  NO_ROTATION,
  type Quat,
  scaled,
  subtract,
  type Vec3,
} from '@yard-brace/core';
import { colliderDesc, localPoints, vec, xyz, xyzw } from './collider-desc.js';
import { type Engine, engine } from './engine.js';
import { isClosed, surfacePatches } from './surface-patches.js';

/** What was met, on the way or right away. */
export interface Hit {
  /** metres along the motion */
  distance: number;
  /** where they touch */
  at: Vec3;
  /** out of what was met, unit length */
  normal: Vec3;
  /** number of the shape that was met; `GROUND` for the ground */
  shape: number;
}

/** An upright cylinder. */
export interface Body {
  /** its middle, metres */
  at: Vec3;
  halfHeight: number;
  radius: number;
}

/** What stands for the ground where shapes are numbered. */
export const GROUND = -1;

/** A body that is so far through a patch has gone through it. */
const FRONT_METRES = 0.01;
/** A patch whose normal goes down by more than this looks down: what could be stood on from its other side. */
const LOOKS_DOWN = 0.3;
const UPRIGHT = { x: 0, y: 0, z: 0, w: 1 };
/** Half the thickness of the ground, in metres: a box that is no larger than needed is met the more exactly. */
const HALF_GROUND_METRES = 1;

/**
 * What stands still: shapes, and a ground if wanted, to be asked what a moving body would meet. Places are in metres
 * in the piece's space; the engine counts from an origin near them.
 */
export class StillWorld {
  readonly world: World;
  private readonly tags = new Map<number, number>();
  /** planes of patches that are met from their front only, by collider */
  private readonly fronts = new Map<number, { normal: Vec3; offset: number }>();

  private constructor(
    readonly rapier: Engine,
    readonly origin: Readonly<Vec3>,
  ) {
    this.world = new rapier.World({ x: 0, y: -9.81, z: 0 });
  }

  static async at(origin: Readonly<Vec3>): Promise<StillWorld> {
    return new StillWorld(await engine(), origin);
  }

  /** The level ground at a height, so far to all sides of the origin; metres. */
  addGround(height: number, reach: number): this {
    const desc = this.rapier.ColliderDesc.cuboid(reach, HALF_GROUND_METRES, reach);
    this.insert(desc.setTranslation(0, height - this.origin[1] - HALF_GROUND_METRES, 0), GROUND);
    return this;
  }

  /** The colliders of one shape of the set, by its number. */
  addShape(colliders: readonly CollisionShape[], shape: number): this {
    for (const collider of colliders) {
      if (collider.kind === 'surface' && !isClosed(collider)) this.addPatches(collider, shape);
      else {
        const desc = colliderDesc(this.rapier, collider, this.origin);
        if (desc) this.insert(desc, shape);
      }
    }
    return this;
  }

  /** Triangles that are met from both sides, as art is. Shapes: [3n], [3t]. */
  addTriangles(points: ArrayLike<number>, indices: ArrayLike<number>, shape: number): this {
    if (indices.length === 0) return this;
    const { ColliderDesc } = this.rapier;
    this.insert(ColliderDesc.trimesh(localPoints(points, this.origin), Uint32Array.from(indices)), shape);
    return this;
  }

  /** To be called once all is there. */
  ready(): this {
    this.world.step();
    return this;
  }

  private addPatches(surface: Extract<CollisionShape, { kind: 'surface' }>, shape: number): void {
    for (const { points, indices, normal, offset } of surfacePatches(surface)) {
      const desc = this.rapier.ColliderDesc.trimesh(
        localPoints(points, this.origin),
        Uint32Array.from(indices),
      );
      const { ActiveHooks } = this.rapier;
      const { handle } = this.insert(desc.setActiveHooks(ActiveHooks.FILTER_CONTACT_PAIRS), shape);
      this.fronts.set(handle, { normal, offset: offset - dot(normal, this.origin) });
    }
  }

  private insert(desc: ColliderDesc, shape: number): EngineCollider {
    const collider = this.world.createCollider(desc);
    this.tags.set(collider.handle, shape);
    return collider;
  }

  /** Number of the shape that a collider is of; null for what was not put in here. */
  shapeOf(handle: number): number | null {
    return this.tags.get(handle) ?? null;
  }

  /** Whether something whose middle is at a place, from the origin, is in front of a collider; all but patches have no back. */
  isInFront(handle: number, at: Readonly<Vec3>): boolean {
    const front = this.fronts.get(handle);
    return !front || dot(front.normal, at) >= front.offset - FRONT_METRES;
  }

  /** Which colliders a body meets: flat patches only while all of it is in front of them. */
  private meets(
    { halfHeight, radius }: Body,
    from: Vec3,
  ): ((collider: EngineCollider) => boolean) | undefined {
    if (this.fronts.size === 0) return undefined;
    return ({ handle }) => {
      const front = this.fronts.get(handle);
      if (!front) return true;
      const { normal, offset } = front;
      const reach = halfHeight * Math.abs(normal[1]) + radius * Math.hypot(normal[0], normal[2]);
      return dot(normal, from) - reach >= offset - FRONT_METRES;
    };
  }

  /**
   * The first that a body meets on its way, or null.
   *
   * @param comesOut one that is in something goes on as long as it comes out of it; otherwise it meets that at 0
   */
  sweep(body: Body, motion: Readonly<Vec3>, comesOut = false): Hit | null {
    const cylinder = new this.rapier.Cylinder(body.halfHeight, body.radius);
    const meets = this.meets(body, subtract(body.at, this.origin));
    return this.cast(cylinder, NO_ROTATION, body.at, motion, { comesOut, meets });
  }

  /** The first that a turned box meets on its way, or null. */
  sweepBox(
    halfExtents: Readonly<Vec3>,
    turned: Readonly<Quat>,
    at: Readonly<Vec3>,
    motion: Readonly<Vec3>,
  ): Hit | null {
    const box = new this.rapier.Cuboid(...(halfExtents as Vec3));
    const meets = this.meets({ at: [...at], halfHeight: 0, radius: 0 }, subtract(at, this.origin));
    return this.cast(box, turned, at, motion, { comesOut: false, meets });
  }

  private cast(
    shape: Shape,
    turned: Readonly<Quat>,
    at: Readonly<Vec3>,
    motion: Readonly<Vec3>,
    { comesOut, meets }: { comesOut: boolean; meets: ReturnType<StillWorld['meets']> },
  ): Hit | null {
    const way = Math.hypot(...motion);
    if (way === 0) return null;
    const hit = this.world.castShape(
      xyz(subtract(at, this.origin)),
      xyzw(turned),
      xyz(scaled(motion, 1 / way)),
      shape,
      0,
      way,
      !comesOut,
      undefined,
      undefined,
      undefined,
      undefined,
      meets,
    );
    if (!hit) return null;
    return {
      distance: hit.time_of_impact,
      at: add(vec(hit.witness1), this.origin),
      normal: vec(hit.normal1),
      shape: this.tags.get(hit.collider.handle)!,
    };
  }

  /** What lies straight below a place within a length, or null; the normal is that of the face. */
  below(at: Readonly<Vec3>, within: number): Hit | null {
    return this.ray(at, [0, -1, 0], within);
  }

  /** The first that a ray of unit direction meets within a length, or null. */
  ray(at: Readonly<Vec3>, direction: Readonly<Vec3>, within: number): Hit | null {
    const from = subtract(at, this.origin);
    const hit = this.world.castRayAndGetNormal(
      new this.rapier.Ray(xyz(from), xyz(direction)),
      within,
      true,
      undefined,
      undefined,
      undefined,
      undefined,
      this.meets({ at: [...at], halfHeight: 0, radius: 0 }, from),
    );
    if (!hit) return null;
    return {
      distance: hit.timeOfImpact,
      at: add(at, scaled(direction, hit.timeOfImpact)),
      normal: vec(hit.normal),
      shape: this.tags.get(hit.collider.handle)!,
    };
  }

  /** Number of the shape of a surface that lies straight below within a length and looks down; null for none. */
  backBelow(at: Readonly<Vec3>, within: number): number | null {
    const from = subtract(at, this.origin);
    const looksDown = ({ handle }: EngineCollider) =>
      (this.fronts.get(handle)?.normal[1] ?? 0) < -LOOKS_DOWN && !this.isInFront(handle, from);
    const ray = new this.rapier.Ray(xyz(from), xyz([0, -1, 0]));
    const hit = this.world.castRay(ray, within, true, undefined, undefined, undefined, undefined, looksDown);
    return hit && this.shapeOf(hit.collider.handle);
  }

  /** Whether a place is in a solid shape. */
  encloses(at: Readonly<Vec3>): boolean {
    let found = false;
    this.world.intersectionsWithPoint(xyz(subtract(at, this.origin)), ({ handle }) => {
      found = this.tags.get(handle) !== GROUND && !this.fronts.has(handle);
      return !found;
    });
    return found;
  }

  /** Whether a body is in something. */
  overlaps(body: Body): boolean {
    return this.around(body) !== null;
  }

  /** Number of a shape that a body is in; `GROUND` for the ground, and where it is in none. */
  met(body: Body): number {
    return this.around(body) ?? GROUND;
  }

  private around(body: Body): number | null {
    const from = subtract(body.at, this.origin);
    const found = this.world.intersectionWithShape(
      xyz(from),
      UPRIGHT,
      new this.rapier.Cylinder(body.halfHeight, body.radius),
      undefined,
      undefined,
      undefined,
      undefined,
      this.meets(body, from),
    );
    return found ? this.tags.get(found.handle)! : null;
  }

  /** Gives the engine's memory back. */
  free(): void {
    this.world.free();
  }
}
