import { type Agent, centreOf, type Mesh, sizeOf, type TrialContact, type Vec3 } from '@yard-brace/core';
import { RouteFinder, type WalkableArea } from '../route/route-finder.js';
import { groundOfArt, groundOfShapes, routeGround } from '../route/trial-routes.js';
import { ContactMeter } from './contact-meter.js';
import { type TrialShape, TrialWorld } from './trial-world.js';
import { stepOf, STEP_SECONDS, WALK_PACE, Walker, type Way } from './walker.js';

/** What is asked of an agent for one step. */
export interface WalkInput {
  /** x and z, unit length; null stands */
  way: Way | null;
  jump: boolean;
  crouch: boolean;
}

/** Where an agent is after a step, and what it touched. */
export interface WalkFrame {
  /** between its feet, metres */
  at: Vec3;
  /** metres; less than its own while it crouches */
  height: number;
  /** it stands on something */
  stands: boolean;
  /** id of the shape that stopped it in this step; null when none did */
  stoppedBy: string | null;
}

/** Of its height, so much is left when it crouches. */
const CROUCHED_SHARE = 0.6;
/** It jumps up to a place of its route from no farther than this: radii. */
const JUMP_RADII = 3;
/** It has come to a place of its route when it is nearer than this: steps. */
const NEAR_STEPS = 2;

/** An agent that a person steers: the same inputs give the same walk. */
export class HandWalk {
  private walker: Walker;
  private readonly meter: ContactMeter;
  private readonly routes: { shapes?: Promise<RouteFinder>; art?: Promise<RouteFinder> } = {};
  /** places still to go to, the next first */
  private route: Vec3[] = [];

  private constructor(
    private readonly world: TrialWorld,
    private readonly agent: Agent,
    private readonly art: Mesh,
    private start: Vec3,
  ) {
    this.walker = new Walker(world.solid, agent, start);
    this.meter = new ContactMeter(world, agent);
  }

  /**
   * @param ahead the way that it looks: it starts before the piece, so that this leads to its middle
   * @param level height of the ground, metres. Default: the lowest of the art
   * @throws NothingToTryError without art
   */
  static async of(
    shapes: readonly TrialShape[],
    art: Mesh,
    agent: Agent,
    ahead: Way = [0, -1],
    level?: number,
  ): Promise<HandWalk> {
    const world = await TrialWorld.of(shapes, art, level);
    const { bounds, ground } = world;
    const half = sizeOf(bounds).map((side) => side / 2);
    const away =
      Math.min(half[0]! / Math.abs(ahead[0] || 1e-9), half[2]! / Math.abs(ahead[1] || 1e-9)) +
      2 * agent.radius +
      0.5;
    const middle = centreOf(bounds);
    const start: Vec3 = [middle[0] - ahead[0] * away, ground, middle[2] - ahead[1] * away];
    return new HandWalk(world, agent, art, start);
  }

  /** Where it can walk: on the shapes, or on the art if that collided. */
  async area(on: 'shapes' | 'art'): Promise<WalkableArea> {
    return (await this.routesOn(on)).area;
  }

  /** Ways over the shapes or the art, worked out when they are first asked for. */
  private routesOn(on: 'shapes' | 'art'): Promise<RouteFinder> {
    const { bounds, ground, solid, shapes } = this.world;
    const parts =
      on === 'art' ? [groundOfArt(this.art)] : groundOfShapes(shapes.map(({ colliders }) => colliders));
    this.routes[on] ??= RouteFinder.of(
      routeGround(parts, bounds, ground, this.agent),
      this.agent,
      solid.origin,
      { ...(on === 'shapes' ? this.world.solidsFor(this.agent) : {}), drawn: true },
    );
    return this.routes[on];
  }

  /** From here it starts, now and again; contacts are forgotten. */
  startAt(at: Vec3): WalkFrame {
    this.start = at;
    return this.restart();
  }

  restart(): WalkFrame {
    this.walker = new Walker(this.world.solid, this.agent, this.start);
    this.route = [];
    return this.frame(null);
  }

  /**
   * Walks to a place by itself: by the route that there is, or else straight on.
   *
   * @returns the way it takes, and whether it gets there
   */
  async goTo(goal: Vec3): Promise<{ points: Vec3[]; complete: boolean }> {
    const found = (await this.routesOn('shapes')).route(this.walker.position, goal);
    this.route = found?.complete ? found.points.slice(1) : [goal];
    return { points: [this.walker.position, ...this.route], complete: found?.complete ?? false };
  }

  /** Walks straight at a place, whatever stands between. */
  goStraight(goal: Vec3): void {
    this.route = [goal];
  }

  /** Steps of time, one for each input. */
  advance(inputs: readonly WalkInput[]): WalkFrame[] {
    return inputs.map((input) => {
      if (input.way) this.route = [];
      this.crouch(input.crouch);
      if (input.jump || (!input.way && this.hasToJump())) this.walker.jump();
      const said = this.walker.step(input.way ?? this.wayOnRoute());
      this.meter.touched(this.walker, said, null);
      this.meter.around(this.walker, said, null);
      const stopped = said.touches.find(({ kind }) => kind !== 'head');
      return this.frame(stopped ? this.world.idOf(stopped.hit.shape) : null);
    });
  }

  /** Gaps of more than it feels at what it touched so far, the worst first. */
  contacts(most: number): TrialContact[] {
    return this.meter.log
      .above(this.agent.detail)
      .slice(0, most)
      .map((each) => ({ ...each, shape: this.world.idOf(each.shape) }));
  }

  free(): void {
    this.world.free();
    for (const routes of Object.values(this.routes)) void routes.then((each) => each.free());
  }

  /** Its route goes on higher than it can step, and it stands before that. */
  private hasToJump(): boolean {
    const [x, y, z] = this.walker.position;
    const [next] = this.route;
    if (!next || !this.walker.stands || next[1] - y <= stepOf(this.agent)) return false;
    return Math.hypot(next[0] - x, next[2] - z) < this.agent.radius * JUMP_RADII;
  }

  private wayOnRoute(): Way | null {
    const [x, , z] = this.walker.position;
    for (let next = this.route[0]; next; next = this.route[0]) {
      const away = Math.hypot(next[0] - x, next[2] - z);
      if (away > NEAR_STEPS * WALK_PACE * STEP_SECONDS) return [(next[0] - x) / away, (next[2] - z) / away];
      this.route.shift();
    }
    return null;
  }

  private crouch(crouched: boolean): void {
    const height = this.agent.height * (crouched ? CROUCHED_SHARE : 1);
    if (height !== this.walker.height) this.walker.setHeight(height);
  }

  private frame(stoppedBy: string | null): WalkFrame {
    const { position, height, stands } = this.walker;
    return { at: position, height, stands, stoppedBy };
  }
}
