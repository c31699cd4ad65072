import {
  type Agent,
  type Clearance,
  type CollisionShape,
  diagonalOf,
  freePassage,
  isEmpty,
  MAX_TRIAL_ENTRIES,
  type Mesh,
  meshBounds,
  type RunStart,
  shapePolygons,
  type TrialOpening,
  type TrialRoute,
  unionOf,
  type Vec3,
  type WalkLimits,
  type WalkTrial,
} from '@yard-brace/core';
import { GROUND, type Hit, StillWorld } from '../still-world.js';
import { RouteFinder, type RouteGround } from '../route/route-finder.js';
import { groundOfArt, groundOfShapes, routeGround, trialRoutes } from '../route/trial-routes.js';
import { boundsOfShapes } from './bounds-of-shapes.js';
import { ContactLog } from './contact-log.js';
import { type Course, lanesAcross, spread, type Stand, standsOn, throughOpening } from './courses.js';
import { TrialArt } from './trial-art.js';
import { COMPASS, underFoot, stepOf, type Stepped, Walker, WALK_PACE, STEP_SECONDS } from './walker.js';

/** A shape of the set, as what collides of it in a level. */
export interface TrialShape {
  id: string;
  colliders: readonly CollisionShape[];
}

export interface WalkTrialInput {
  shapes: readonly TrialShape[];
  /** the art that collides, metres */
  art: Mesh;
  clearances: readonly Clearance[];
  agent: Agent;
  limits: WalkLimits;
  progress?: (share: number) => void;
}

/** Steps without getting on after which an agent has stopped. */
const STILL_STEPS = 20;
const STILL_METRES = 0.005;
/** Most steps of one run. */
const MAX_STEPS = 2400;
/** Every so many steps it is looked how the art lies to who walks. */
const LOOK_EVERY = 6;
/** So many jolts upwards, or downwards, that follow each other within so many steps shake who walks. */
const SHAKEN_STEPS = 60;
const SHAKEN_JOLTS = 3;
/** Up from this share of a normal something is rather level than upright. */
const LEVEL_NORMAL = 0.7;
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
  const trial = await Trial.of(input);
  try {
    return await trial.run();
  } finally {
    trial.free();
  }
}

/** The piece has nothing to walk at. */
export class NothingToTryError extends Error {}

interface Run {
  end: 'out' | 'blocked' | 'time';
  at: Vec3;
  lastTouch: Hit | null;
  walker: Walker;
}

class Trial {
  private readonly contacts: ContactLog;
  private readonly blocked: Placed[] = [];
  private readonly stuck: Placed[] = [];
  private readonly falls: Placed[] = [];
  private readonly jolts: (Placed & { count: number })[] = [];
  private readonly slips: Placed[] = [];
  private runs = 0;

  private constructor(
    private readonly input: WalkTrialInput,
    private readonly world: StillWorld,
    private readonly art: TrialArt,
    private readonly ground: number,
    private readonly bounds: ReturnType<typeof meshBounds>,
  ) {
    this.contacts = new ContactLog(Math.max(input.agent.radius / 2, diagonalOf(bounds) / 80));
  }

  static async of(input: WalkTrialInput): Promise<Trial> {
    const artBounds = meshBounds(input.art);
    if (isEmpty(artBounds))
      throw new NothingToTryError('The piece has no art that collides; there is nothing to walk at.');
    const bounds = unionOf(artBounds, boundsOfShapes(input.shapes.flatMap(({ colliders }) => colliders)));
    const ground = artBounds.min[1];
    const origin: Vec3 = [(bounds.min[0] + bounds.max[0]) / 2, ground, (bounds.min[2] + bounds.max[2]) / 2];
    const world = await StillWorld.at(origin);
    input.shapes.forEach(({ colliders }, i) => world.addShape(colliders, i));
    // Nobody walks farther off than round the piece.
    const reach = diagonalOf(bounds) + 8 * input.agent.radius + 4;
    world.addGround(ground, reach).ready();
    return new Trial(
      input,
      world,
      await TrialArt.of(input.art, origin, { height: ground, reach }),
      ground,
      bounds,
    );
  }

  async run(): Promise<Omit<WalkTrial, 'key'>> {
    const { agent, progress = () => undefined } = this.input;
    const openings = this.input.clearances.map((clearance) => this.opening(clearance));
    progress(0.1);
    const stands = standsOn(this.art, agent, this.ground, (feet) => this.artHasRoom(feet));
    const free = stands.filter((stand) => this.tryStand(stand));
    progress(0.3);
    const lanes = lanesAcross(this.bounds, agent, this.ground);
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
    const { bounds, ground } = this;
    const { origin } = this.world;
    const onGround = (parts: readonly RouteGround[]) => routeGround(parts, bounds, ground, agent);
    const ofShapes = await RouteFinder.of(
      onGround(groundOfShapes(shapes.map(({ colliders }) => colliders))),
      agent,
      origin,
      (at) => this.world.encloses([at[0], at[1] + agent.height / 2, at[2]]),
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
      if (new Walker(this.world, agent, feet).isInside) continue;
      const run = this.walk({ ...course, at: feet }, MAX_STEPS);
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
      shape: this.idOf(shape ?? GROUND),
    };
  }

  /** A place as it is stood on there, where something lies within a step. */
  private onItsFeet(at: Vec3): Vec3 {
    const lift = stepOf(this.input.agent);
    const hit = this.world.below([at[0], at[1] + lift, at[2]], 2 * lift);
    return hit && hit.distance > 0 ? hit.at : at;
  }

  private artHasRoom(feet: Vec3): boolean {
    const walker = new Walker(this.art.world, this.input.agent, feet);
    const body = walker.body(stepOf(this.input.agent) + walker.reachableRise());
    return !this.art.world.overlaps(body);
  }

  /** Whether the shapes carry an agent where the art does, and leave it the room there. */
  private tryStand({ at, onGround }: Stand): boolean {
    const { agent } = this.input;
    const walker = new Walker(this.world, agent, at);
    const body = walker.body(stepOf(agent) + walker.reachableRise());
    if (this.world.overlaps(body)) {
      const inside = this.world.met(body);
      const air = Math.min(
        ...COMPASS.map(([x, z]) => this.art.air(body, [x, 0, z], this.reach) ?? this.reach),
      );
      if (air > agent.detail) this.blocked.push({ at, shape: inside, metres: air, from: null });
      return false;
    }
    if (onGround) return true;
    const lift = stepOf(agent);
    const hit = underFoot(this.world, at, agent, at[1] - this.ground + 1);
    const off = (hit ? hit.at[1] : this.ground) - at[1];
    if (off < -Math.max(lift, agent.detail)) {
      this.falls.push({ at, shape: GROUND, metres: -off, from: null });
      return false;
    }
    this.foot(off, at, hit?.shape ?? GROUND, null);
    return true;
  }

  /** Across the piece: stopped by shapes only where the art stops it, too. */
  private lane(course: Course): void {
    const run = this.walk(course, MAX_STEPS);
    if (run.end === 'out' || !run.lastTouch || this.artStops(course)) return;
    const { lastTouch, walker } = run;
    const air = this.airBehind(walker, lastTouch);
    if (air <= this.input.agent.detail) return;
    this.blocked.push({ at: run.at, shape: lastTouch.shape, metres: air, from: startOf(course) });
  }

  /** Whether the art stops an agent on a course, if it collided itself. */
  private artStops(course: Course): boolean {
    const walker = new Walker(this.art.world, this.input.agent, course.at);
    return this.go(walker, course, MAX_STEPS, () => undefined).end !== 'out';
  }

  private walk(course: Course, steps: number): Run {
    this.runs++;
    const walker = new Walker(this.world, this.input.agent, course.at);
    if (walker.isInside) return { end: 'time', at: course.at, lastTouch: null, walker };
    const watch = new Watch(this, startOf(course));
    const run = this.go(walker, course, steps, (said, step) => watch.look(walker, said, step));
    watch.end();
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

  private go(
    walker: Walker,
    { at, way, length }: Course,
    steps: number,
    look: (said: Stepped, step: number) => void,
  ): Run {
    let lastTouch: Hit | null = null;
    let still = 0;
    for (let step = 0; step < steps; step++) {
      const said = walker.step(way);
      lastTouch = said.touches.at(-1)?.hit ?? lastTouch;
      look(said, step);
      const { position } = walker;
      const gone = (position[0] - at[0]) * way[0] + (position[2] - at[2]) * way[1];
      if (gone >= length) return { end: 'out', at: position, lastTouch, walker };
      if (length === Infinity && this.isOutside(position))
        return { end: 'out', at: position, lastTouch, walker };
      still = said.moved < STILL_METRES && said.ground ? still + 1 : 0;
      if (still >= STILL_STEPS) return { end: 'blocked', at: position, lastTouch, walker };
    }
    return { end: 'time', at: walker.position, lastTouch, walker };
  }

  private isOutside([x, , z]: Readonly<Vec3>): boolean {
    const { radius } = this.input.agent;
    const { min, max } = this.bounds;
    return x < min[0] - radius || x > max[0] + radius || z < min[2] - radius || z > max[2] + radius;
  }

  /** Round the piece with a shoulder to it. */
  private round(hand: 1 | -1): void {
    const [course] = lanesAcross(this.bounds, this.input.agent, this.ground);
    const walker = new Walker(this.world, this.input.agent, course!.at);
    if (walker.isInside) return;
    this.runs++;
    const watch = new Watch(this, startOf(course!));
    let heading = Math.atan2(course!.way[1], course!.way[0]);
    const { min, max } = this.bounds;
    const round = 2 * (max[0] - min[0] + max[2] - min[2]) + 16 * this.input.agent.radius;
    const steps = Math.min(ROUND_STEPS, Math.ceil((1.5 * round) / (WALK_PACE * STEP_SECONDS)));
    for (let step = 0; step < steps; step++) {
      const said = walker.step([Math.cos(heading), Math.sin(heading)]);
      watch.look(walker, said, step);
      const side = said.touches.find(({ kind }) => kind !== 'head');
      if (side) {
        const [x, , z] = side.hit.normal;
        // Along the wall, leaning on it a little.
        heading = Math.atan2(z, x) + hand * (Math.PI / 2 + 0.2);
      } else if (step % 4 === 0) heading += hand * 0.05;
      if (this.isFar(walker.position)) {
        heading = Math.atan2(
          (min[2] + max[2]) / 2 - walker.position[2],
          (min[0] + max[0]) / 2 - walker.position[0],
        );
      }
    }
    watch.end();
  }

  private isFar([x, , z]: Readonly<Vec3>): boolean {
    const room = 2 * this.input.agent.radius + 1;
    const { min, max } = this.bounds;
    return x < min[0] - room || x > max[0] + room || z < min[2] - room || z > max[2] + room;
  }

  /** Jumps where there is something overhead that a jump reaches. */
  private jumpUnderTops(stands: readonly Stand[]): void {
    const { agent } = this.input;
    if (agent.jump === 0) return;
    const under = stands.filter(({ at }) => {
      const head = [at[0], at[1] + agent.height * 0.9, at[2]] as Vec3;
      return this.world.ray(head, [0, 1, 0], agent.height * 0.1 + agent.jump) !== null;
    });
    for (const { at } of spread(under, MAX_JUMPS)) {
      this.runs++;
      const walker = new Walker(this.world, agent, at);
      walker.step(null);
      walker.jump();
      for (let step = 0; step < 40; step++) {
        const head = walker.step(null).touches.find(({ kind }) => kind === 'head');
        if (!head) continue;
        this.head(walker, head.hit, null);
        break;
      }
    }
  }

  // What is looked at while somebody walks.

  side(walker: Walker, hit: Hit, from: RunStart | null): void {
    if (!this.contacts.isNew('side', hit.shape, walker.position, hit.normal)) return;
    const through = this.through(walker);
    if (through > 0) this.contacts.add('through', 'side', through, walker.position, hit.shape, from);
    else this.contacts.add('air', 'side', this.airBehind(walker, hit), hit.at, hit.shape, from);
  }

  /** Stopped at its feet by what is too steep for it. */
  steep(walker: Walker, hit: Hit, from: RunStart | null): void {
    if (!this.contacts.isNew('steep', hit.shape, walker.position, hit.normal)) return;
    this.contacts.add('air', 'side', this.art.distance(hit.at), hit.at, hit.shape, from);
  }

  /** Metres of air behind what stops a body: up to the art, or all of the shape where there is no art behind it. */
  private airBehind(walker: Walker, { at, normal, shape }: Hit): number {
    const [x, , z] = normal;
    const level = Math.hypot(x, z) || 1;
    const way: Vec3 = [-x / level, 0, -z / level];
    const bottom = stepOf(this.input.agent) + walker.reachableRise();
    const body = walker.body(Math.min(bottom, at[1] - walker.position[1]));
    // Art that ends by less than it feels above or below where the shape stops it stops it just as well.
    const halfHeight = body.halfHeight + this.input.agent.detail;
    const air = this.art.air({ ...body, halfHeight }, way, this.reach);
    if (air !== null || shape === GROUND) return air ?? 0;
    const ends = this.input.shapes[shape]!.colliders.flatMap((collider) => {
      const { points } = shapePolygons(collider);
      return Array.from({ length: points.length / 3 }, (_, i) => {
        const v = i * 3;
        return (points[v]! - at[0]) * way[0] + (points[v + 2]! - at[2]) * way[2];
      });
    });
    return Math.max(0, ...ends);
  }

  head(walker: Walker, hit: Hit, from: RunStart | null): void {
    if (!this.contacts.isNew('head', hit.shape, walker.position, hit.normal)) return;
    const body = walker.body(this.input.agent.height);
    const air = this.art.air(body, [0, 1, 0], this.reach);
    if (air !== null) this.contacts.add('air', 'head', air, hit.at, hit.shape, from);
  }

  /** @param off metres that the shapes lie over the art under its feet */
  foot(off: number, at: Vec3, shape: number, from: RunStart | null): void {
    if (off !== 0) this.contacts.add(off > 0 ? 'air' : 'through', 'foot', Math.abs(off), at, shape, from);
  }

  /** How the art lies to who stands or walks somewhere. */
  around(walker: Walker, said: Stepped, from: RunStart | null): void {
    const { ground } = said;
    if (!ground || said.hangs) return;
    const at = walker.position;
    if (this.isOutside(at) || !this.contacts.isNew('foot', ground.shape, at, [0, 1, 0])) return;
    const under = underFoot(this.art.world, at, this.input.agent, at[1] - this.ground + 1);
    if (under) this.foot(at[1] - under.at[1], at, ground.shape, from);
    const through = this.through(walker);
    if (through > 0) this.contacts.add('through', 'side', through, at, ground.shape, from);
  }

  /** Metres that the art reaches into a walker; where it is stepping over a shape it is over the art there, too. */
  private through(walker: Walker): number {
    const body = walker.body(stepOf(this.input.agent) + walker.reachableRise());
    if (this.world.overlaps(body)) return 0;
    // What reaches under it or over it by no more than it feels is not in its way.
    const halfHeight = Math.max(body.halfHeight - this.input.agent.detail, body.halfHeight / 10);
    return this.art.depth({ ...body, halfHeight });
  }

  shaken(at: Vec3, shape: number, metres: number, count: number, from: RunStart): void {
    this.jolts.push({ at, shape, metres, count, from });
  }

  slipped(at: Vec3, shape: number, metres: number, from: RunStart): void {
    const lift = stepOf(this.input.agent);
    // What is as steep in the art itself is no fault of the shapes.
    const under = this.art.world.below([at[0], at[1] + lift, at[2]], 2 * lift);
    const tangent = Math.tan((Math.min(this.input.agent.slopeDegrees, 85) * Math.PI) / 180);
    if (!under || under.normal[1] * tangent < Math.hypot(under.normal[0], under.normal[2])) return;
    this.slips.push({ at, shape, metres, from });
  }

  get limits(): WalkLimits {
    return this.input.limits;
  }

  private get reach(): number {
    return diagonalOf(this.bounds) + this.input.agent.radius;
  }

  private idOf(shape: number): string | null {
    return this.input.shapes[shape]?.id ?? null;
  }

  private report(openings: TrialOpening[], routes: TrialRoute[]): Omit<WalkTrial, 'key'> {
    const { agent } = this.input;
    const placed = (all: readonly Placed[]) =>
      thinned(all, this.bounds).map(({ at, shape, metres, from, ...rest }) => ({
        at: at.map(rounded) as Vec3,
        shape: this.idOf(shape),
        metres: rounded(metres),
        from,
        ...rest,
      }));
    const contacts = this.contacts.above(agent.detail);
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
        shape: this.idOf(each.shape),
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
      slips: placed(this.slips).slice(0, MAX_TRIAL_ENTRIES),
      routes,
    };
  }

  free(): void {
    this.world.free();
    this.art.free();
  }
}

interface Placed {
  at: Vec3;
  shape: number;
  metres: number;
  from: RunStart | null;
}

interface Jolt {
  step: number;
  at: Vec3;
  shape: number;
  /** upwards; negative downwards */
  metres: number;
}

/** What one run meets: contacts as they come, jolts and slides as they follow each other. */
class Watch {
  private readonly jolts: Jolt[] = [];
  private slid = 0;
  private slidAt: { at: Vec3; shape: number } | null = null;

  constructor(
    private readonly trial: Trial,
    private readonly from: RunStart,
  ) {}

  look(walker: Walker, said: Stepped, step: number): void {
    for (const { kind, hit } of said.touches) {
      if (hit.shape === GROUND) continue;
      if (kind === 'head') this.trial.head(walker, hit, this.from);
      else if (kind === 'steep') this.trial.steep(walker, hit, this.from);
      // What it brushes with the lower end of its body is ground that it walks over.
      else if (Math.abs(hit.normal[1]) < LEVEL_NORMAL) this.trial.side(walker, hit, this.from);
    }
    if (step % LOOK_EVERY === 0) this.trial.around(walker, said, this.from);
    if (Math.abs(said.jolt) > this.trial.limits.joltMetres)
      this.jolts.push({
        step,
        at: walker.position,
        shape: said.ground?.shape ?? GROUND,
        metres: said.jolt,
      });
    if (said.slides && said.ground) {
      this.slid += said.moved;
      this.slidAt ??= { at: walker.position, shape: said.ground.shape };
    }
  }

  end(): void {
    for (const side of [1, -1])
      this.tellShaken(this.jolts.filter(({ metres }) => Math.sign(metres) === side));
    if (this.slidAt && this.slid > WALK_PACE * STEP_SECONDS)
      this.trial.slipped(this.slidAt.at, this.slidAt.shape, this.slid, this.from);
  }

  private tellShaken(jolts: readonly Jolt[]): void {
    let series: Jolt[] = [];
    const tell = () => {
      if (series.length < SHAKEN_JOLTS) return;
      const worst = series.reduce((a, b) => (Math.abs(b.metres) > Math.abs(a.metres) + 1e-4 ? b : a));
      this.trial.shaken(worst.at, worst.shape, Math.abs(worst.metres), series.length, this.from);
    };
    for (const jolt of jolts) {
      if (series.length && jolt.step - series.at(-1)!.step > SHAKEN_STEPS) {
        tell();
        series = [];
      }
      series.push(jolt);
    }
    tell();
  }
}

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
