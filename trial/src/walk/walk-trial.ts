import {
  type Agent,
  type Clearance,
  diagonalOf,
  freePassage,
  MAX_TRIAL_ENTRIES,
  type Mesh,
  type RunStart,
  type TrialOpening,
  type TrialRoute,
  type Vec3,
  type WalkLimits,
  type WalkTrial,
} from '@yard-brace/core';
import { RouteFinder, type RouteGround } from '../route/route-finder.js';
import { groundOfArt, groundOfShapes, routeGround, trialRoutes } from '../route/trial-routes.js';
import { GROUND, type Hit } from '../still-world.js';
import { ContactMeter } from './contact-meter.js';
import { type Course, lanesAcross, spread, type Stand, standsOn, throughOpening } from './courses.js';
import { RunWatch, type RunPlace } from './run-watch.js';
import { type TrialShape, TrialWorld } from './trial-world.js';
import {
  COMPASS,
  isWalkable,
  underFoot,
  stepOf,
  type Stepped,
  Walker,
  WALK_PACE,
  STEP_SECONDS,
} from './walker.js';

export interface WalkTrialInput {
  shapes: readonly TrialShape[];
  /** the art that collides, metres */
  art: Mesh;
  /** height of the ground, metres. Default: the lowest of the art */
  ground?: number;
  clearances: readonly Clearance[];
  agent: Agent;
  limits: WalkLimits;
  progress?: (share: number) => void;
}

/** Steps without getting on after which an agent has stopped. */
const STILL_STEPS = 20;
const STILL_METRES = 0.005;
/** A run may take so many times the steps of its straight way, and no more than this in all. */
const DETOUR = 1.6;
const MAX_STEPS = 9600;
/** From so many places on the art agents walk to all sides, and under so many tops they jump. */
const MAX_SEEDS = 16;
const MAX_JUMPS = 24;
/** Steps that a walk from a place on the art takes at most, and one round the piece. */
const SEED_STEPS = 300;
const ROUND_STEPS = 2400;

/**
 * Agents are sent across the piece from all sides, through every opening, over everything that carries them, under
 * every top and round the piece. Where the shapes and the art differ for them is told. The same input gives the same
 * report.
 */
export async function walkTrial(input: WalkTrialInput): Promise<Omit<WalkTrial, 'key'>> {
  const world = await TrialWorld.of(input.shapes, input.art, input.ground);
  try {
    return await new Trial(input, world).run();
  } finally {
    world.free();
  }
}

interface Run {
  end: 'out' | 'blocked' | 'time';
  at: Vec3;
  lastTouch: Hit | null;
  walker: Walker;
}

class Trial {
  private readonly meter: ContactMeter;
  private readonly blocked: Placed[] = [];
  private readonly stuck: Placed[] = [];
  private readonly falls: Placed[] = [];
  private readonly jolts: (Placed & { count: number })[] = [];
  private readonly stumbles: Placed[] = [];
  private readonly slips: Placed[] = [];
  private runs = 0;

  constructor(
    private readonly input: WalkTrialInput,
    private readonly world: TrialWorld,
  ) {
    this.meter = new ContactMeter(world, input.agent);
  }

  async run(): Promise<Omit<WalkTrial, 'key'>> {
    const { agent, progress = () => undefined } = this.input;
    const openings = this.input.clearances.map((clearance) => this.opening(clearance));
    progress(0.1);
    const stands = standsOn(this.world.art, agent, this.world.ground, (feet) => this.artHasRoom(feet));
    const free = stands.filter((stand) => this.tryStand(stand));
    progress(0.3);
    const lanes = lanesAcross(this.world.bounds, agent, this.world.ground);
    lanes.forEach((lane, i) => {
      this.lane(lane);
      progress(0.3 + (0.4 * i) / lanes.length);
    });
    const seeds = spread(
      free.filter(({ onGround }) => !onGround),
      MAX_SEEDS,
    );
    seeds.forEach(({ at }, i) => {
      for (const way of COMPASS) this.walk({ at, way, length: Infinity }, SEED_STEPS);
      progress(0.7 + (0.2 * i) / seeds.length);
    });
    this.round(1);
    this.round(-1);
    this.jumpUnderTops(free);
    return this.report(openings, await this.routes());
  }

  private async routes(): Promise<TrialRoute[]> {
    const { agent, shapes, art, clearances } = this.input;
    const { bounds, ground, solid } = this.world;
    const { origin } = solid;
    const onGround = (parts: readonly RouteGround[]) => routeGround(parts, bounds, ground, agent);
    const ofShapes = await RouteFinder.of(
      onGround(groundOfShapes(shapes.map(({ colliders }) => colliders))),
      agent,
      origin,
      this.world.solidsFor(agent),
    );
    const ofArt = await RouteFinder.of(onGround([groundOfArt(art)]), agent, origin);
    const routes = trialRoutes({ agent, clearances, bounds, ground, shapes: ofShapes, art: ofArt });
    ofShapes.free();
    ofArt.free();
    return routes.map((route) => ({
      ...route,
      at: route.at.map(rounded) as Vec3,
      metres: rounded(route.metres),
    }));
  }

  private opening(clearance: Clearance): TrialOpening {
    const { agent, shapes } = this.input;
    const passage = freePassage(
      shapes.map(({ colliders }) => colliders),
      clearance,
      agent,
    );
    let { passes, shape } = passage;
    for (const course of passes ? throughOpening(clearance, agent) : []) {
      const feet = this.onItsFeet(course.at);
      if (new Walker(this.world.solid, agent, feet).isInside) continue;
      const run = this.walk({ ...course, at: feet }, stepsFor(course));
      if (run.end === 'out' || this.artStops({ ...course, at: feet })) continue;
      passes = false;
      shape ??= run.lastTouch?.shape ?? null;
    }
    const { width, height, missingWidth, missingHeight } = passage;
    return {
      id: clearance.id || null,
      name: clearance.name,
      at: clearance.center,
      passes,
      width: rounded(width),
      height: rounded(height),
      missingWidth: rounded(missingWidth),
      missingHeight: rounded(missingHeight),
      missingMetres: rounded(Math.max(missingWidth, missingHeight)),
      shape: this.world.idOf(shape ?? GROUND),
    };
  }

  /** A place as it is stood on there, where something lies within a step. */
  private onItsFeet(at: Vec3): Vec3 {
    const lift = stepOf(this.input.agent);
    const hit = this.world.solid.below([at[0], at[1] + lift, at[2]], 2 * lift);
    return hit && hit.distance > 0 ? hit.at : at;
  }

  private artHasRoom(feet: Vec3): boolean {
    const walker = new Walker(this.world.art.world, this.input.agent, feet);
    const body = walker.body(stepOf(this.input.agent) + walker.reachableRise());
    return !this.world.art.world.overlaps(body);
  }

  /** Whether the shapes carry an agent where the art does, and leave it the room there. */
  private tryStand({ at, onGround }: Stand): boolean {
    const { agent } = this.input;
    const walker = new Walker(this.world.solid, agent, at);
    const body = walker.body(stepOf(agent) + walker.reachableRise());
    if (this.world.solid.overlaps(body)) {
      const inside = this.world.solid.met(body);
      const air = Math.min(
        ...COMPASS.map(([x, z]) => this.world.art.air(body, [x, 0, z], this.world.reach) ?? this.world.reach),
      );
      if (air > agent.detail) this.blocked.push({ at, shape: inside, metres: air, from: null });
      return false;
    }
    if (onGround) return true;
    const lift = stepOf(agent);
    const hit = underFoot(this.world.solid, at, agent, at[1] - this.world.ground + 1);
    const off = (hit ? hit.at[1] : this.world.ground) - at[1];
    if (off < -Math.max(lift, agent.detail)) {
      this.falls.push({ at, shape: GROUND, metres: -off, from: null });
      return false;
    }
    this.meter.foot(off, at, hit?.shape ?? GROUND, null);
    return true;
  }

  /** Across the piece: stopped by shapes only where the art stops it, too. */
  private lane(course: Course): void {
    const run = this.walk(course, stepsFor(course));
    if (run.end === 'out' || !run.lastTouch || this.artStops(course)) return;
    const { lastTouch, walker } = run;
    const air = this.meter.airBehind(walker, lastTouch);
    if (air <= this.input.agent.detail) return;
    this.blocked.push({ at: run.at, shape: lastTouch.shape, metres: air, from: startOf(course) });
  }

  /** Whether the art stops an agent on a course, if it collided itself. */
  private artStops(course: Course): boolean {
    const walker = new Walker(this.world.art.world, this.input.agent, course.at);
    return this.go(walker, course, stepsFor(course), () => undefined).end !== 'out';
  }

  private walk(course: Course, steps: number): Run {
    this.runs++;
    const walker = new Walker(this.world.solid, this.input.agent, course.at);
    if (walker.isInside) return { end: 'time', at: course.at, lastTouch: null, walker };
    const watch = new RunWatch(this.meter, this.input.limits.joltMetres, startOf(course));
    const run = this.go(walker, course, steps, (said) => watch.look(walker, said));
    this.tell(watch, course);
    if (run.end === 'blocked') this.lookWhetherStuck(run, course);
    return run;
  }

  private lookWhetherStuck({ walker, lastTouch }: Run, course: Course): void {
    const room = Math.max(0.1, this.input.agent.radius / 2);
    if (COMPASS.some((way) => !walker.ahead(way, room))) return;
    this.stuck.push({
      at: walker.position,
      shape: lastTouch?.shape ?? GROUND,
      metres: 0,
      from: startOf(course),
    });
  }

  private go(walker: Walker, { at, way, length }: Course, steps: number, look: (said: Stepped) => void): Run {
    let lastTouch: Hit | null = null;
    let still = 0;
    for (let step = 0; step < steps; step++) {
      const said = walker.step(way);
      lastTouch = said.touches.at(-1)?.hit ?? lastTouch;
      look(said);
      const { position } = walker;
      const gone = (position[0] - at[0]) * way[0] + (position[2] - at[2]) * way[1];
      if (gone >= length) return { end: 'out', at: position, lastTouch, walker };
      if (length === Infinity && this.world.isBeside(position, this.input.agent.radius))
        return { end: 'out', at: position, lastTouch, walker };
      still = said.moved < STILL_METRES && said.ground ? still + 1 : 0;
      if (still >= STILL_STEPS) return { end: 'blocked', at: position, lastTouch, walker };
    }
    return { end: 'time', at: walker.position, lastTouch, walker };
  }

  /** Round the piece with a shoulder to it. */
  private round(hand: 1 | -1): void {
    const [course] = lanesAcross(this.world.bounds, this.input.agent, this.world.ground);
    const walker = new Walker(this.world.solid, this.input.agent, course!.at);
    if (walker.isInside) return;
    this.runs++;
    const watch = new RunWatch(this.meter, this.input.limits.joltMetres, startOf(course!));
    let heading = Math.atan2(course!.way[1], course!.way[0]);
    const { min, max } = this.world.bounds;
    const round = 2 * (max[0] - min[0] + max[2] - min[2]) + 16 * this.input.agent.radius;
    const steps = Math.min(ROUND_STEPS, Math.ceil((1.5 * round) / (WALK_PACE * STEP_SECONDS)));
    for (let step = 0; step < steps; step++) {
      const said = walker.step([Math.cos(heading), Math.sin(heading)]);
      watch.look(walker, said);
      const side = said.touches.find(({ kind }) => kind !== 'head');
      if (side) {
        const [x, , z] = side.hit.normal;
        // Along the wall, leaning on it a little.
        heading = Math.atan2(z, x) + hand * (Math.PI / 2 + 0.2);
      } else if (step % 4 === 0) heading += hand * 0.05;
      if (this.world.isBeside(walker.position, 2 * this.input.agent.radius + 1)) {
        heading = Math.atan2(
          (min[2] + max[2]) / 2 - walker.position[2],
          (min[0] + max[0]) / 2 - walker.position[0],
        );
      }
    }
    this.tell(watch, course!);
  }

  /** Jumps where there is something overhead that a jump reaches. */
  private jumpUnderTops(stands: readonly Stand[]): void {
    const { agent } = this.input;
    if (agent.jump === 0) return;
    const under = stands.filter(({ at }) => {
      const head = [at[0], at[1] + agent.height * 0.9, at[2]] as Vec3;
      return this.world.solid.ray(head, [0, 1, 0], agent.height * 0.1 + agent.jump) !== null;
    });
    for (const { at } of spread(under, MAX_JUMPS)) {
      this.runs++;
      const walker = new Walker(this.world.solid, agent, at);
      walker.step(null);
      walker.jump();
      for (let step = 0; step < 40; step++) {
        const head = walker.step(null).touches.find(({ kind }) => kind === 'head');
        if (!head) continue;
        this.meter.head(walker, head.hit, null);
        break;
      }
    }
  }

  /** What a run came to beside its contacts. */
  private tell(watch: RunWatch, course: Course): void {
    const from = startOf(course);
    for (const shaken of watch.shaken()) this.jolts.push({ ...shaken, from });
    for (const stumble of watch.stumbles()) this.stumbles.push({ ...stumble, from });
    const slide = watch.slide();
    if (!slide) return;
    const { agent } = this.input;
    const lift = stepOf(agent);
    // What is as steep in the art itself is no fault of the shapes.
    const [x, y, z] = slide.at;
    const under = this.world.art.world.below([x, y + lift, z], 2 * lift);
    if (under && isWalkable(under.normal, agent)) this.slips.push({ ...slide, from });
  }

  private report(openings: TrialOpening[], routes: TrialRoute[]): Omit<WalkTrial, 'key'> {
    const { agent } = this.input;
    const placed = (all: readonly Placed[]) =>
      thinned(all, this.world.bounds).map(({ at, shape, metres, from, ...rest }) => ({
        at: at.map(rounded) as Vec3,
        shape: this.world.idOf(shape),
        metres: rounded(metres),
        from,
        ...rest,
      }));
    const contacts = this.meter.log.above(agent.detail);
    const blocked = placed(this.blocked);
    const falls = placed(this.falls);
    return {
      agent: agent.id,
      runs: this.runs,
      openings,
      contacts: contacts.slice(0, MAX_TRIAL_ENTRIES).map((each) => ({
        ...each,
        at: each.at.map(rounded) as Vec3,
        metres: rounded(each.metres),
        shape: this.world.idOf(each.shape),
      })),
      contactCount: contacts.length,
      blocked: blocked.slice(0, MAX_TRIAL_ENTRIES),
      blockedCount: blocked.length,
      stuck: placed(this.stuck)
        .slice(0, MAX_TRIAL_ENTRIES)
        .map(({ at, shape, from }) => ({ at, shape, from })),
      falls: falls.slice(0, MAX_TRIAL_ENTRIES),
      fallCount: falls.length,
      jolts: placed(this.jolts).slice(0, MAX_TRIAL_ENTRIES) as WalkTrial['jolts'],
      stumbles: placed(this.stumbles).slice(0, MAX_TRIAL_ENTRIES),
      slips: placed(this.slips).slice(0, MAX_TRIAL_ENTRIES),
      routes,
    };
  }
}

interface Placed extends RunPlace {
  from: RunStart | null;
}

const stepsFor = ({ length }: Course): number =>
  Math.min(MAX_STEPS, Math.ceil((DETOUR * length) / (WALK_PACE * STEP_SECONDS)) + STILL_STEPS * 2);

const startOf = ({ at, way }: Course): RunStart => ({ at, way: [way[0], way[1]] });

/** To a hundredth of a millimetre: what the engine's single precision holds. */
const rounded = (metres: number): number => Math.round(metres * 1e5) / 1e5 || 0;

/** Of places that are close together the worst, the worst first. */
function thinned<P extends Placed>(all: readonly P[], bounds: Parameters<typeof diagonalOf>[0]): P[] {
  const cell = Math.max(diagonalOf(bounds) / 40, 1e-6);
  const worst = new Map<string, P>();
  for (const each of all) {
    const key = [each.shape, ...each.at.map((v) => Math.floor(v / cell))].join();
    const known = worst.get(key);
    if (!known || each.metres > known.metres) worst.set(key, each);
  }
  return [...worst.values()].sort((a, b) => b.metres - a.metres);
}
