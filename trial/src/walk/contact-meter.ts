import { type Agent, diagonalOf, type RunStart, shapePolygons, type Vec3 } from '@yard-brace/core';
import { GROUND, type Hit } from '../still-world.js';
import { ContactLog } from './contact-log.js';
import type { TrialWorld } from './trial-world.js';
import { stepOf, type Stepped, underFoot, type Walker } from './walker.js';

/** Up from this share of a normal something is rather level than upright. */
const LEVEL_NORMAL = 0.7;
/** Of its height, so much at its top is not looked down from: a lintel may be as low. */
const CROWN_SHARE = 0.1;
/** Where it is looked how high the art is, of a circle of radius 1: its middle, and two rings of sixteen. */
const RISE_SAMPLES = [0, 0.5, 1].flatMap((reach) =>
  Array.from({ length: reach ? 16 : 1 }, (_, i) => {
    const angle = (i * Math.PI) / 8;
    return [Math.cos(angle) * reach, Math.sin(angle) * reach] as const;
  }),
);
/** At what an agent touches, how the art lies that is seen there. */
export class ContactMeter {
  readonly log: ContactLog;

  constructor(
    private readonly world: TrialWorld,
    private readonly agent: Agent,
  ) {
    this.log = new ContactLog(Math.max(agent.radius / 2, diagonalOf(world.bounds) / 80));
  }

  /** All that a step touched. */
  touched(walker: Walker, { touches }: Stepped, from: RunStart | null): void {
    for (const { kind, hit } of touches) {
      if (hit.shape === GROUND) continue;
      if (kind === 'head') this.head(walker, hit, from);
      else if (kind === 'steep') this.steep(walker, hit, from);
      // What it brushes with the lower end of its body is ground that it walks over.
      else if (Math.abs(hit.normal[1]) < LEVEL_NORMAL) this.side(walker, hit, from);
    }
  }

  private side(walker: Walker, hit: Hit, from: RunStart | null): void {
    if (!this.log.isNew('side', hit.shape, walker.position, hit.normal)) return;
    const through = this.through(walker);
    if (through > 0) this.log.add('through', 'side', through, walker.position, hit.shape, from);
    else this.log.add('air', 'side', this.airBehind(walker, hit), hit.at, hit.shape, from);
  }

  /** Stopped at its feet by what is too steep for it. */
  private steep(walker: Walker, hit: Hit, from: RunStart | null): void {
    if (!this.log.isNew('steep', hit.shape, walker.position, hit.normal)) return;
    this.log.add('air', 'side', this.world.art.distance(hit.at), hit.at, hit.shape, from);
  }

  /** Metres of air behind what stops a body: up to the art, or all of the shape where there is no art behind it. */
  airBehind(walker: Walker, { at, normal, shape }: Hit): number {
    const [x, , z] = normal;
    const level = Math.hypot(x, z) || 1;
    const way: Vec3 = [-x / level, 0, -z / level];
    const bottom = stepOf(this.agent) + walker.reachableRise();
    const body = walker.body(Math.min(bottom, at[1] - walker.position[1]));
    // Art that ends by less than it feels above or below where the shape stops it stops it just as well.
    const halfHeight = body.halfHeight + this.agent.detail;
    const air = this.world.art.air({ ...body, halfHeight }, way, this.world.reach);
    if (air !== null || shape === GROUND) return air ?? 0;
    const ends = this.world.shapes[shape]!.colliders.flatMap((collider) => {
      const { points } = shapePolygons(collider);
      return Array.from({ length: points.length / 3 }, (_, i) => {
        const v = i * 3;
        return (points[v]! - at[0]) * way[0] + (points[v + 2]! - at[2]) * way[2];
      });
    });
    return Math.max(0, ...ends);
  }

  head(walker: Walker, hit: Hit, from: RunStart | null): void {
    if (!this.log.isNew('head', hit.shape, walker.position, hit.normal)) return;
    const body = walker.body(this.agent.height);
    const air = this.world.art.air(body, [0, 1, 0], this.world.reach);
    if (air !== null) this.log.add('air', 'head', air, hit.at, hit.shape, from);
  }

  /** @param off metres that the shapes lie over the art under its feet */
  foot(off: number, at: Vec3, shape: number, from: RunStart | null): void {
    if (off !== 0) this.log.add(off > 0 ? 'air' : 'through', 'foot', Math.abs(off), at, shape, from);
  }

  /** How the art lies to who stands or walks somewhere. */
  around(walker: Walker, said: Stepped, from: RunStart | null): void {
    const { ground } = said;
    if (!ground || said.hangs) return;
    const at = walker.position;
    if (this.world.isBeside(at, this.agent.radius) || !this.log.isNew('foot', ground.shape, at, [0, 1, 0]))
      return;
    const under = underFoot(this.world.art.world, at, this.agent, at[1] - this.world.ground + 1);
    if (under) this.foot(at[1] - under.at[1], at, ground.shape, from);
    const through = this.through(walker);
    if (through > 0) this.log.add('through', 'side', through, at, ground.shape, from);
  }

  /** Metres between the lowest and the highest that the art, or the ground, has about a place that is stood on. */
  artRise(at: Readonly<Vec3>): number {
    const { ground, art } = this.world;
    const { radius, detail, height } = this.agent;
    // Its circle may stand on an edge that its middle has left, and art as near as it feels is the same edge.
    const reach = radius + detail;
    const top = at[1] + height * (1 - CROWN_SHARE);
    const heights = RISE_SAMPLES.map(([x, z]) => {
      const over: Vec3 = [at[0] + x * reach, top, at[2] + z * reach];
      return art.world.below(over, top - ground + 1)?.at[1] ?? ground;
    });
    return Math.max(...heights) - Math.min(...heights);
  }

  /** Metres that the art reaches into a walker; where it is stepping over a shape it is over the art there, too. */
  private through(walker: Walker): number {
    const body = walker.body(stepOf(this.agent) + walker.reachableRise());
    if (this.world.solid.overlaps(body)) return 0;
    // What reaches under it or over it by no more than it feels is not in its way.
    const halfHeight = Math.max(body.halfHeight - this.agent.detail, body.halfHeight / 10);
    return this.world.art.depth({ ...body, halfHeight });
  }
}
