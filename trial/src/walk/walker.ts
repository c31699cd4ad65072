import { add, type Agent, type Vec3 } from '@yard-brace/core';
import { type Body, type Hit, type StillWorld } from '../still-world.js';

/** Seconds that one step of any trial takes. */
export const STEP_SECONDS = 1 / 60;
/** Metres a second that an agent walks. */
export const WALK_PACE = 1.5;
const GRAVITY = 9.81;
/** Metres that an agent keeps off what it touches. */
export const SKIN = 0.001;
/** It looks this much farther than it goes, so as to keep off what it goes along. */
const AHEAD_METRES = 0.02;
/** What stands no higher than this in its circle is level ground, metres. */
const LOW_METRES = 0.01;
/** The ground ahead is looked at anew when it has moved by more. */
const SAME_PLACE_METRES = 1e-4;
/** What touches it no lower than this under the top of its head is over it, metres. */
const HEAD_METRES = 0.01;
const MAX_FALL_SPEED = 30;
/** Metres a second by which one that hangs on an edge is let down beside it. */
const LET_DOWN_PACE = 1.5;
/** A step is at least this share of the height, so that there is room for a slope below the body. */
const LEAST_STEP_SHARE = 0.02;
/** However high the ground rises ahead, so much of the height is left to the body. */
const MOST_LIFT_SHARE = 0.9;
/** Rays between its middle and its circle that look how the ground goes on. */
const PROFILE_STEPS = 8;
/** A foot reaches so far from the middle: narrower gaps are walked over. A share of the radius. */
const FOOT_SHARE = 0.4;

/** Level direction: x and z, unit length. */
export type Way = readonly [number, number];

/** Eight ways, an eighth of a turn apart. */
export const COMPASS: readonly Way[] = Array.from({ length: 8 }, (_, k) => [
  Math.cos((k * Math.PI) / 4),
  Math.sin((k * Math.PI) / 4),
]);

export type TouchKind = 'side' | 'head' | 'steep';

export interface Touch {
  kind: TouchKind;
  hit: Hit;
}

/** What one step came to. */
export interface Stepped {
  touches: Touch[];
  /** metres moved on the level */
  moved: number;
  /** what it stands on; null in the air */
  ground: Hit | null;
  /** metres that the ground under it rose or fell within the step, where that is more than the steepest slope would; else 0, as while falling */
  jolt: number;
  /** it slides down what is too steep */
  slides: boolean;
  /** it rests on an edge beside its feet */
  hangs: boolean;
}

/**
 * An agent on its feet: an upright cylinder of its radius, and feet under its middle that follow the ground. The
 * cylinder ends a step above the highest ground within its circle that can be walked on to: a stair or a slope ahead
 * does not stop it, and what is too high to step on stops it at its full radius.
 */
export class Walker {
  /** between the feet, metres */
  position: Vec3;
  private fall = 0;
  private slide = 0;
  private downhill: Way = [0, 0];
  private standsOn: Hit | null = null;
  /** the rise as it was found where it stands */
  private riseAt: { at: Vec3; rise: number } | null = null;
  private readonly lift: number;
  private readonly slopeTangent: number;

  constructor(
    private readonly world: StillWorld,
    readonly agent: Agent,
    at: Readonly<Vec3>,
    /** metres; less than the agent's own when it crouches */
    private tall = agent.height,
  ) {
    this.position = [...at];
    this.lift = stepOf(agent);
    this.slopeTangent = slopeTangent(agent);
  }

  /** Metres from its feet to the top of its head. */
  get height(): number {
    return this.tall;
  }

  get stands(): boolean {
    return this.standsOn !== null;
  }

  /** Crouches, or rises again where there is room for it. */
  setHeight(height: number): void {
    if (height > this.tall && this.overhead(height - this.tall)) return;
    this.tall = height;
  }

  /** The body above a height over the feet. */
  body(bottom = this.lift): Body {
    return bodyOf(this.agent, this.position, bottom, this.height);
  }

  /** What its head meets on the way up; not what it only brushes in passing. */
  private overhead(up: number): Hit | null {
    const hit = this.world.sweep(this.body(this.height), [0, up, 0]);
    return hit && hit.at[1] > this.position[1] + this.height - HEAD_METRES ? hit : null;
  }

  /** Whether its body is in something where it stands. */
  get isInside(): boolean {
    return this.world.overlaps(this.body());
  }

  /** What stops it on a way: what it can walk on to does not. */
  ahead([x, z]: Way, within: number): Hit | null {
    const motion: Vec3 = [x * within, 0, z * within];
    const hit = this.world.sweep(this.body(), motion, true);
    const rise = hit ? this.reachableRise() : 0;
    return rise > 0 ? this.world.sweep(this.body(this.lift + rise), motion, true) : hit;
  }

  /** Metres over the feet that ground lies within its circle on which it could walk. */
  reachableRise(): number {
    const known = this.riseAt;
    if (!known || this.position.some((v, k) => Math.abs(v - known.at[k]!) > SAME_PLACE_METRES)) {
      // Mostly the ground is level: nothing stands in its circle that is lower than a step.
      const low = bodyOf(this.agent, this.position, Math.min(LOW_METRES, this.lift / 4), this.lift);
      const rise = this.world.overlaps(low) ? Math.max(...COMPASS.map((way) => this.riseAlong(way))) : 0;
      this.riseAt = { at: this.position, rise };
      return rise;
    }
    return known.rise;
  }

  private riseAlong([x, z]: Way): number {
    const { radius } = this.agent;
    const [fromX, y, fromZ] = this.position;
    let height = y;
    for (let i = 1; i <= PROFILE_STEPS; i++) {
      const d = (radius * i) / PROFILE_STEPS + SKIN;
      const hit = this.world.below(
        [fromX + x * d, height + this.lift + SKIN, fromZ + z * d],
        2 * this.lift + SKIN,
      );
      if (!hit || hit.distance === 0 || (hit.at[1] > height && this.isSteep(hit))) break;
      height = hit.at[1];
    }
    return Math.max(0, height - y);
  }

  private isSteep({ normal }: Hit): boolean {
    return normal[1] * this.slopeTangent < Math.hypot(normal[0], normal[2]) * 0.995;
  }

  jump(): void {
    if (!this.standsOn || this.agent.jump === 0) return;
    this.fall = -Math.sqrt(2 * GRAVITY * this.agent.jump);
    this.standsOn = null;
  }

  /** One step of time, walking a way or standing. */
  step(way: Way | null, pace = WALK_PACE): Stepped {
    const touches: Touch[] = [];
    const from: Vec3 = [...this.position];
    const stood = this.standsOn;
    this.walk(way, pace, touches);
    const said = { touches, moved: 0, ground: null as Hit | null, jolt: 0, slides: false, hangs: false };
    if (this.fall < 0) this.rise(touches);
    else if (!this.stand(from, said, stood)) this.drop(said);
    said.ground = this.standsOn;
    said.moved = Math.hypot(this.position[0] - from[0], this.position[2] - from[2]);
    const change = this.position[1] - from[1];
    if (stood && this.standsOn && Math.abs(change) > this.slopeTangent * said.moved + SKIN)
      said.jolt = change;
    return said;
  }

  /** On the level, along what is in the way. */
  private walk(way: Way | null, pace: number, touches: Touch[]): void {
    let x = (way?.[0] ?? 0) * pace * STEP_SECONDS + this.downhill[0] * this.slide * STEP_SECONDS;
    let z = (way?.[1] ?? 0) * pace * STEP_SECONDS + this.downhill[1] * this.slide * STEP_SECONDS;
    const [wantX, wantZ] = [x, z];
    for (let i = 0; i < 3; i++) {
      const length = Math.hypot(x, z);
      if (length < 1e-7) return;
      const along: Way = [x / length, z / length];
      const hit = this.ahead(along, length + AHEAD_METRES);
      const against = hit ? -(hit.normal[0] * along[0] + hit.normal[2] * along[1]) : 0;
      if (!hit || hit.distance - SKIN / Math.max(SKIN / AHEAD_METRES, against) >= length) {
        this.move(x, z);
        return;
      }
      touches.push({ kind: 'side', hit });
      const level = Math.hypot(hit.normal[0], hit.normal[2]);
      // What it is in already, or what leans over it without a side: no way on.
      if (level < 1e-3) return;
      const nx = hit.normal[0] / level;
      const nz = hit.normal[2] / level;
      if (against <= 0) return;
      const free = Math.max(0, hit.distance - SKIN / Math.max(SKIN / AHEAD_METRES, against));
      this.move(along[0] * free, along[1] * free);
      const left = 1 - free / length;
      const into = (nx * x + nz * z) * left;
      x = x * left - nx * into;
      z = z * left - nz * into;
      if (x * wantX + z * wantZ <= 0) return;
    }
  }

  private move(x: number, z: number): void {
    if (x === 0 && z === 0) return;
    this.position = [this.position[0] + x, this.position[1], this.position[2] + z];
  }

  /** Feet on the ground, if there is some within a step; false when it falls. */
  private stand(from: Vec3, said: Stepped, stood: Hit | null): boolean {
    const reach = stood ? this.lift : 0;
    const ground = this.groundBelow(reach + this.fall * STEP_SECONDS);
    if (!ground) return false;
    const [x, y, z] = this.position;
    const height = ground.at[1];
    const rises = height > y + 1e-6;
    const steep = this.isSteep(ground);
    if (ground.distance === 0 || (rises && steep)) {
      said.touches.push({ kind: ground.distance === 0 ? 'side' : 'steep', hit: ground });
      this.position = [from[0], y, from[2]];
      const before = this.groundBelow(reach + this.fall * STEP_SECONDS);
      if (!before || before.distance === 0) return this.stays(stood);
      this.position = [from[0], before.at[1], from[2]];
      return this.lands(before);
    }
    if (rises) {
      const head = this.overhead(height - y);
      if (head) {
        said.touches.push({ kind: 'head', hit: head });
        this.position = from;
        return this.stays(stood);
      }
    }
    // Beside an edge there is no room to come down yet: it goes on over the edge, or is let down along it.
    if (
      height < y - SKIN &&
      this.world.overlaps(bodyOf(this.agent, [x, height, z], this.lift, this.height))
    ) {
      if (stood) said.hangs = true;
      return stood ? this.stays(stood) : false;
    }
    if (height !== y) this.position = [x, height, z];
    if (steep) this.slip(ground, said);
    else this.slide = 0;
    return this.lands(ground);
  }

  private stays(stood: Hit | null): boolean {
    this.fall = 0;
    this.standsOn = stood;
    return stood !== null;
  }

  private lands(ground: Hit): boolean {
    this.fall = 0;
    this.standsOn = ground;
    return true;
  }

  private slip({ normal }: Hit, said: Stepped): void {
    const level = Math.hypot(normal[0], normal[2]) || 1;
    this.downhill = [normal[0] / level, normal[2] / level];
    this.slide = Math.min(this.slide + GRAVITY * level * normal[1] * STEP_SECONDS, MAX_FALL_SPEED);
    said.slides = true;
  }

  /** What the feet would stand on: under the middle, or on both sides of a gap that is narrower than a foot. */
  private groundBelow(reach: number): Hit | null {
    const [x, y, z] = this.position;
    const from = y + this.lift + SKIN;
    const within = this.lift + SKIN + reach;
    const middle = this.world.below([x, from, z], within);
    if (middle && middle.at[1] > y - SKIN) return middle;
    const foot = this.agent.radius * FOOT_SHARE;
    const at = (k: number) => {
      const angle = (k * Math.PI) / 4;
      const hit = this.world.below(
        [x + foot * Math.cos(angle), from, z + foot * Math.sin(angle)],
        this.lift + 2 * SKIN,
      );
      return hit && hit.distance > 0 ? hit : null;
    };
    let best: Hit | null = null;
    for (let k = 0; k < 4; k++) {
      const one = at(k);
      const other = one && at(k + 4);
      if (!one || !other) continue;
      const lower = one.at[1] < other.at[1] ? one : other;
      if (!best || lower.at[1] > best.at[1]) best = lower;
    }
    if (!best || (middle && best.at[1] <= middle.at[1] + SKIN)) return middle;
    return { ...best, at: [x, best.at[1], z] };
  }

  private rise(touches: Touch[]): void {
    const up = -this.fall * STEP_SECONDS;
    const head = this.overhead(up);
    this.position = add(this.position, [0, head ? Math.max(0, head.distance - SKIN) : up, 0]);
    if (head) touches.push({ kind: 'head', hit: head });
    this.fall = head ? 0 : this.fall + GRAVITY * STEP_SECONDS;
    this.standsOn = null;
    if (this.fall >= 0) this.fall = 0;
  }

  private drop(said: Stepped): void {
    this.standsOn = null;
    this.fall = Math.min(this.fall + GRAVITY * STEP_SECONDS, MAX_FALL_SPEED);
    const down = this.fall * STEP_SECONDS;
    const edge = this.world.sweep(this.body(), [0, -down, 0]);
    if (!edge) {
      this.position = add(this.position, [0, -down, 0]);
      return;
    }
    this.position = add(this.position, [0, -Math.max(0, edge.distance - SKIN), 0]);
    this.fall = 0;
    said.hangs = true;
    const away: Vec3 = [this.position[0] - edge.at[0], 0, this.position[2] - edge.at[2]];
    const length = Math.hypot(away[0], away[2]) || 1;
    const pace = (LET_DOWN_PACE * STEP_SECONDS) / length;
    const aside: Vec3 = [away[0] * pace, 0, away[2] * pace];
    this.position = add(this.position, [0, SKIN, 0]);
    if (!this.world.sweep(this.body(), aside)) this.move(aside[0], aside[2]);
    this.position = add(this.position, [0, -SKIN, 0]);
  }
}

/** Steeper than this, in degrees, nothing is walked on, whatever an agent's own slope is. */
const STEEPEST_DEGREES = 85;

/** Metres that the steepest slope that an agent walks rises in a metre on the level. */
const slopeTangent = ({ slopeDegrees }: Pick<Agent, 'slopeDegrees'>): number =>
  Math.tan((Math.min(slopeDegrees, STEEPEST_DEGREES) * Math.PI) / 180);

/** Whether an agent's slope lets it stand on a face with this normal. */
export const isWalkable = (normal: Readonly<Vec3>, agent: Pick<Agent, 'slopeDegrees'>): boolean =>
  normal[1] * slopeTangent(agent) >= Math.hypot(normal[0], normal[2]);

/** Metres that an agent steps over: its own step, or as much as a walk needs at all. */
export const stepOf = ({ step, height }: Pick<Agent, 'step' | 'height'>): number =>
  Math.max(step, height * LEAST_STEP_SHARE);

/** An agent's body from a height over its feet up to its head. */
export const bodyOf = (
  { radius, height }: Pick<Agent, 'radius' | 'height'>,
  feet: Readonly<Vec3>,
  bottom: number,
  top = height,
): Body => {
  const low = Math.min(bottom, top * MOST_LIFT_SHARE);
  return { at: [feet[0], feet[1] + (low + top) / 2, feet[2]], halfHeight: (top - low) / 2, radius };
};

/** Places under a foot: its middle, then round it. */
const UNDER_FOOT: readonly (readonly [Way, number])[] = [
  [[0, 0], 0],
  ...COMPASS.map((way) => [way, 1] as const),
  ...COMPASS.map((way) => [way, 0.5] as const),
];

/**
 * What lies under a foot: below its middle, or, where that is more than a step down or up, the highest under the foot.
 * So the edge of something is stood on until the foot has left it. Null where nothing lies within a length.
 */
export function underFoot(
  world: StillWorld,
  [x, y, z]: Readonly<Vec3>,
  agent: Agent,
  within: number,
): Hit | null {
  const lift = stepOf(agent);
  const foot = agent.radius * FOOT_SHARE;
  let highest: Hit | null = null;
  for (const [way, off] of UNDER_FOOT) {
    const hit = world.below([x + way[0] * off * foot, y + lift, z + way[1] * off * foot], lift + within);
    if (hit && (!highest || hit.at[1] > highest.at[1])) highest = hit;
    if (off === 0 && highest && Math.abs(highest.at[1] - y) <= lift) break;
  }
  return highest;
}
