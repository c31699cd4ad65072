import {
  type Bounds,
  type Bvh,
  buildBvh,
  closestPoint,
  type Mesh,
  meshBounds,
  scaled,
  type Vec3,
} from '@yard-brace/core';
import { type Body, StillWorld } from '../still-world.js';
import { SKIN } from './walker.js';

/** The level ground, in metres. */
export interface Ground {
  height: number;
  /** to all sides of the middle */
  reach: number;
}

/** The art that is seen, to be asked how far a body is from it. */
export class TrialArt {
  private constructor(
    readonly bounds: Bounds,
    /** the art on its ground: what an agent would do if the art itself collided */
    readonly world: StillWorld,
    private readonly bare: StillWorld,
    private readonly bvh: Bvh,
  ) {}

  /** @param ground height of the ground and how far it reaches, metres */
  static async of(mesh: Mesh, origin: Readonly<Vec3>, ground: Ground): Promise<TrialArt> {
    const world = await StillWorld.at(origin);
    const bare = await StillWorld.at(origin);
    world.addTriangles(mesh.positions, mesh.indices, 0).addGround(ground.height, ground.reach).ready();
    bare.addTriangles(mesh.positions, mesh.indices, 0).ready();
    return new TrialArt(meshBounds(mesh), world, bare, buildBvh(mesh));
  }

  /** Metres that a body could go on one way until it met the art; null when it would meet none within a length, 0 in it. */
  air(body: Body, way: Readonly<Vec3>, reach: number): number | null {
    if (this.bare.overlaps(body)) return 0;
    const hit = this.bare.sweep(body, scaled(way, reach));
    return hit && Math.max(0, hit.distance - SKIN);
  }

  /** Metres from a place to the art; 0 without any. */
  distance(at: Readonly<Vec3>): number {
    return closestPoint(this.bvh, at)?.distance ?? 0;
  }

  /** Metres that the art reaches into the side of a body; 0 when it does not. Looked for from places along its axis. */
  depth({ at, halfHeight, radius }: Body): number {
    const from = (t: number): number => {
      const found = closestPoint(this.bvh, [at[0], at[1] + t, at[2]], radius)?.point;
      return found && Math.abs(found[1] - at[1]) <= halfHeight
        ? radius - Math.hypot(found[0] - at[0], found[2] - at[2])
        : 0;
    };
    const steps = Math.min(64, Math.max(2, Math.ceil((4 * halfHeight) / radius)));
    let best = 0;
    let place = 0;
    const look = (t: number) => {
      const depth = from(t);
      if (depth > best) [best, place] = [depth, t];
    };
    for (let i = 0; i <= steps; i++) look(-halfHeight + (2 * halfHeight * i) / steps);
    // The distance changes no faster than the place does: the most lies beside the most of the samples.
    for (let reach = halfHeight / steps; best > 0 && reach > radius * 1e-3; reach /= 2)
      for (const t of [place - reach, place + reach]) look(t);
    return best;
  }

  free(): void {
    this.world.free();
    this.bare.free();
  }
}
