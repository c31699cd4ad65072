import type { DynamicRayCastVehicleController, RigidBody } from '@dimforge/rapier3d-compat';
import { add, distance, dot, type Quat, rotate, scaled, subtract, type Vec3 } from '@yard-brace/core';
import { vec, xyz } from '../collider-desc.js';
import { GROUND } from '../still-world.js';
import type { BodyWorld, Pose } from './body-world.js';

/** A trolley on four wheels, in metres. */
export interface Trolley {
  /** between the middles of the wheels of one axle */
  track: number;
  /** between the axles */
  wheelbase: number;
  wheelRadius: number;
  /** from the ground to its floor */
  clearance: number;
}

export const FIRST_TROLLEY: Trolley = { track: 0.8, wheelbase: 1.1, wheelRadius: 0.15, clearance: 0.12 };

/** What is asked of a trolley for one step. */
export interface TrolleyInput {
  /** metres a second, backwards below 0; 0 brakes */
  pace: number;
  /** of the full lock of its front wheels: 1 to the left, -1 to the right */
  turn: number;
}

/** A place where something happened to it, with the shape to blame: its number, `GROUND` where there is none. */
export interface TrolleyMark {
  /** jolt: a wheel rose or fell at once; caught: its body was held up */
  kind: 'jolt' | 'caught';
  at: Vec3;
  /** a jolt's height, or the metres a second that it lost */
  metres: number;
  shape: number;
}

/** How it fares: it falls when nothing carries it, and it tips when its floor no longer looks up. */
export type TrolleyState = 'drives' | 'falls' | 'tips';

/** Steps until it stands on its springs. */
export const SETTLE_STEPS = 40;
/** It has fallen when it is so many wheel radii under everything that is driven on. */
const FALLEN_RADII = 2;
/** Without a wheel on anything for so many steps, and faster downwards than this, metres a second, it falls. */
const LOOSE_STEPS = 12;
const FALLING_PACE = 1;
const DENSITY = 300;
/** Up from less than this its own up is no longer up. */
const TIPPED = 0.3;
/** A wheel that rises or falls at once by more than this share of its radius jolts. */
const JOLT_SHARE = 0.08;
/** Who loses so much of what it is asked to go within a step was caught. */
const CAUGHT_SHARE = 0.3;
/** The engine gives all it has when it is off its pace by a metre a second divided by this. */
const PACE_GAIN = 3;
/** Farthest that the front wheels turn, radians. */
const LOCK = 0.55;
const WHEELS = [0, 1, 2, 3] as const;

interface WheelOn {
  at: Vec3;
  normal: Vec3;
}

/**
 * A trolley among what stands still, one step after the other. Its floor is a body and its wheels are rays with
 * springs, as engines have them. The same inputs give the same run.
 */
export class TrolleyRun {
  readonly marks: TrolleyMark[] = [];
  /** steps in which a wheel was off the floor, after it came to stand */
  airborne = 0;
  /** number of a surface that it fell through, as its faces look away; null for none */
  wrongWay: number | null = null;
  state: TrolleyState = 'drives';
  private readonly chassis: RigidBody;
  private readonly vehicle: DynamicRayCastVehicleController;
  private readonly before: (WheelOn | null)[] = [null, null, null, null];
  private steps = 0;
  private loose = 0;
  private lastPace = 0;

  /**
   * @param from over the floor where it starts, metres
   * @param way level and of unit length: x and z
   */
  constructor(
    private readonly run: BodyWorld,
    private readonly trolley: Trolley,
    from: Readonly<Vec3>,
    way: readonly [number, number],
  ) {
    const { ColliderDesc, RigidBodyDesc } = run.rapier;
    const { track, wheelbase, wheelRadius, clearance } = trolley;
    const thick = wheelRadius * 0.6;
    // Its own forward is +z.
    const half = Math.atan2(way[0], way[1]) / 2;
    const floor = clearance + thick / 2;
    this.chassis = run.add(
      RigidBodyDesc.dynamic().setCanSleep(false),
      [ColliderDesc.cuboid(track * 0.4, thick / 2, wheelbase * 0.55).setDensity(DENSITY)],
      {
        at: [from[0], from[1] + floor + wheelRadius * 0.2, from[2]],
        turned: [0, Math.sin(half), 0, Math.cos(half)],
      },
    );
    this.vehicle = run.still.world.createVehicleController(this.chassis);
    const rest = wheelRadius * 0.4;
    for (const z of [-1, 1])
      for (const x of [-1, 1]) {
        const hub = { x: (x * track) / 2, y: wheelRadius + rest - floor, z: (z * wheelbase) / 2 };
        this.vehicle.addWheel(hub, { x: 0, y: -1, z: 0 }, { x: -1, y: 0, z: 0 }, rest, wheelRadius);
      }
    for (const wheel of WHEELS) {
      this.vehicle.setWheelSuspensionStiffness(wheel, 60);
      this.vehicle.setWheelSuspensionCompression(wheel, 5);
      this.vehicle.setWheelSuspensionRelaxation(wheel, 6);
      this.vehicle.setWheelMaxSuspensionTravel(wheel, rest);
      this.vehicle.setWheelFrictionSlip(wheel, 2);
    }
  }

  get pose(): Pose {
    return this.run.poseOf(this.chassis);
  }

  /** Metres a second along its own forward. */
  get pace(): number {
    return dot(vec(this.chassis.linvel()), rotate(this.pose.turned, [0, 0, 1]));
  }

  /** Level velocity: x and z, metres a second. */
  get velocity(): readonly [number, number] {
    const { x, z } = this.chassis.linvel();
    return [x, z];
  }

  /** wheels that stand on something */
  get touching(): number {
    return WHEELS.filter((wheel) => this.vehicle.wheelIsInContact(wheel)).length;
  }

  /** Under this there is nothing more to fall on. */
  private get lowest(): number {
    return this.run.bounds.min[1] - FALLEN_RADII * this.trolley.wheelRadius;
  }

  get hasSettled(): boolean {
    return this.steps > SETTLE_STEPS;
  }

  step(input: TrolleyInput): void {
    if (this.state === 'falls' && this.pose.at[1] < this.lowest) return;
    const middle = vec(this.chassis.translation());
    const { still } = this.run;
    this.vehicle.updateVehicle(
      1 / 60,
      undefined,
      undefined,
      ({ handle }) => still.shapeOf(handle) !== null && still.isInFront(handle, middle),
    );
    this.steer(this.hasSettled ? input : { pace: 0, turn: 0 });
    this.run.step();
    this.steps++;
    this.look(input);
  }

  free(): void {
    this.vehicle.free();
  }

  /** Engine and brakes hold the pace. */
  private steer({ pace, turn }: TrolleyInput): void {
    const mass = this.chassis.mass();
    const off = Math.max(-1, Math.min(1, PACE_GAIN * (pace - this.pace)));
    for (const wheel of WHEELS) {
      this.vehicle.setWheelEngineForce(wheel, pace === 0 ? 0 : off * mass * 1.5);
      this.vehicle.setWheelBrake(wheel, pace === 0 ? mass * 0.05 : 0);
      if (wheel > 1) this.vehicle.setWheelSteering(wheel, turn * LOCK);
    }
    this.chassis.resetForces(true);
    if (pace === 0 && this.touching === WHEELS.length) this.hold(mass);
  }

  /** The engine's brakes take away the pace of a step that is over: on a slope they creep, were it not for this. */
  private hold(mass: number): void {
    const up = rotate(this.pose.turned, [0, 1, 0]);
    const down = vec(this.run.still.world.gravity);
    const alongSlope = subtract(down, scaled(up, dot(down, up)));
    this.chassis.addForce(xyz(scaled(alongSlope, -mass)), true);
  }

  private look({ pace }: TrolleyInput): void {
    const { at, turned } = this.pose;
    const { touching } = this;
    if (this.hasSettled && touching < WHEELS.length) this.airborne++;
    this.loose = touching === 0 ? this.loose + 1 : 0;
    if (touching < WHEELS.length) this.wrongWay ??= this.seenFromBehind();
    if ((this.loose > LOOSE_STEPS && this.chassis.linvel().y < -FALLING_PACE) || at[1] < this.lowest)
      this.state = 'falls';
    else if (touching > 0 && 1 - 2 * (turned[0] ** 2 + turned[2] ** 2) < TIPPED) this.state = 'tips';
    else if (this.state === 'falls' && touching === WHEELS.length) this.state = 'drives';
    if (this.state !== 'drives') return;
    this.lookAtWheels();
    this.lookWhetherCaught(at, pace);
  }

  /** A wheel's ground rose or fell by more than the slope on either side of the place lets it. */
  private lookAtWheels(): void {
    const { vehicle, run, before } = this;
    for (const wheel of WHEELS) {
      const [point, normal] = [vehicle.wheelContactPoint(wheel), vehicle.wheelContactNormal(wheel)];
      const now =
        vehicle.wheelIsInContact(wheel) && point && normal ? { at: vec(point), normal: vec(normal) } : null;
      const last = before[wheel]!;
      before[wheel] = now;
      if (!now || !last || !this.hasSettled) continue;
      const went = subtract(now.at, last.at);
      const metres = Math.min(...[now, last].map((on) => Math.abs(dot(on.normal, went))));
      if (metres <= JOLT_SHARE * this.trolley.wheelRadius) continue;
      const on = vehicle.wheelGroundObject(wheel);
      const shape = (on && run.still.shapeOf(on.handle)) ?? GROUND;
      this.mark({ kind: 'jolt', at: add(now.at, run.still.origin), metres, shape });
    }
  }

  private lookWhetherCaught(at: Vec3, asked: number): void {
    const pace = Math.abs(this.pace);
    const lost = this.lastPace - pace;
    this.lastPace = pace;
    if (!this.hasSettled || asked === 0 || lost <= CAUGHT_SHARE * Math.abs(asked)) return;
    let shape = GROUND;
    const { still } = this.run;
    still.world.contactPairsWith(this.chassis.collider(0), ({ handle }) => {
      shape = Math.max(shape, still.shapeOf(handle) ?? GROUND);
    });
    this.mark({ kind: 'caught', at, metres: lost, shape });
  }

  /** Of places of one kind that are closer together than its axles the worst. */
  private mark(mark: TrolleyMark): void {
    const near = this.marks.findIndex(
      ({ kind, at }) => kind === mark.kind && distance(at, mark.at) < this.trolley.wheelbase,
    );
    if (near < 0) this.marks.push(mark);
    else if (this.marks[near]!.metres < mark.metres) this.marks[near] = mark;
  }

  /** A surface whose back lies under a wheel that stands on nothing. */
  private seenFromBehind(): number | null {
    const { vehicle, run, trolley } = this;
    for (const wheel of WHEELS) {
      const hub = vehicle.wheelHardPoint(wheel);
      if (!hub || vehicle.wheelIsInContact(wheel)) continue;
      const over = add(add(vec(hub), run.still.origin), [0, trolley.wheelRadius, 0]);
      const shape = run.still.backBelow(over, 4 * trolley.wheelRadius);
      if (shape !== null) return shape;
    }
    return null;
  }
}

/** The level way that something looks whose own forward is +z: x and z, unit length. */
export function wayOf(turned: Readonly<Quat>): [number, number] {
  const [x, , z] = rotate(turned, [0, 0, 1]);
  const length = Math.hypot(x, z) || 1;
  return [x / length, z / length];
}
