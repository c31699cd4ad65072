import {
  type Agent,
  type Bounds,
  type CollisionShape,
  diagonalOf,
  isEmpty,
  type Mesh,
  meshBounds,
  unionOf,
  type Vec3,
} from '@yard-brace/core';
import type { Solids } from '../route/route-finder.js';
import { StillWorld } from '../still-world.js';
import { boundsOfShapes } from './bounds-of-shapes.js';
import { TrialArt } from './trial-art.js';

/** A shape of the set, as what collides of it in a level. */
export interface TrialShape {
  id: string;
  colliders: readonly CollisionShape[];
}

/** The piece has nothing to walk at. */
export class NothingToTryError extends Error {}

/** Metres of ground beyond a piece: nobody walks farther off than round it. */
const GROUND_METRES = 14;

/** A piece to be tried: what collides of it on level ground, and the art that is seen there. */
export class TrialWorld {
  private constructor(
    readonly shapes: readonly TrialShape[],
    readonly solid: StillWorld,
    readonly art: TrialArt,
    /** height of the ground: the lowest of the art, metres */
    readonly ground: number,
    /** of art and shapes, metres */
    readonly bounds: Bounds,
  ) {}

  /**
   * @param mesh the art that collides, metres
   * @param level height of the ground, metres. Default: the lowest of the art
   * @throws NothingToTryError where there is none
   */
  static async of(shapes: readonly TrialShape[], mesh: Mesh, level?: number): Promise<TrialWorld> {
    const artBounds = meshBounds(mesh);
    if (isEmpty(artBounds))
      throw new NothingToTryError('The piece has no art that collides; there is nothing to walk at.');
    const bounds = unionOf(artBounds, boundsOfShapes(shapes.flatMap(({ colliders }) => colliders)));
    const ground = level ?? artBounds.min[1];
    const origin: Vec3 = [(bounds.min[0] + bounds.max[0]) / 2, ground, (bounds.min[2] + bounds.max[2]) / 2];
    const solid = await StillWorld.at(origin);
    shapes.forEach(({ colliders }, i) => solid.addShape(colliders, i));
    const reach = diagonalOf(bounds) + GROUND_METRES;
    solid.addGround(ground, reach).ready();
    const art = await TrialArt.of(mesh, origin, { height: ground, reach });
    return new TrialWorld(shapes, solid, art, ground, bounds);
  }

  /** Id of a shape by its number; null for the ground. */
  idOf(shape: number): string | null {
    return this.shapes[shape]?.id ?? null;
  }

  /** Farther than anything is from anything else, metres. */
  get reach(): number {
    return diagonalOf(this.bounds) + GROUND_METRES;
  }

  /** Whether a place is farther than a length beside the piece, seen from above. */
  isBeside([x, , z]: Readonly<Vec3>, metres: number): boolean {
    const { min, max } = this.bounds;
    return x < min[0] - metres || x > max[0] + metres || z < min[2] - metres || z > max[2] + metres;
  }

  /** What an agent's routes over the shapes have to know of them. */
  solidsFor({ height }: Pick<Agent, 'height'>): Solids {
    return {
      isInside: ([x, y, z]) => this.solid.encloses([x, y + height / 2, z]),
      isClear: (from, to) => {
        const over: Vec3 = [from[0], to[1] + height / 2, from[2]];
        const across: Vec3 = [to[0] - from[0], 0, to[2] - from[2]];
        const length = Math.hypot(across[0], across[2]);
        const up = this.solid.ray(
          [from[0], from[1] + height / 2, from[2]],
          [0, 1, 0],
          to[1] - from[1] + height / 2,
        );
        if (up || length === 0) return !up;
        return !this.solid.ray(over, [across[0] / length, 0, across[2] / length], length);
      },
    };
  }

  free(): void {
    this.solid.free();
    this.art.free();
  }
}
