import type { DynamicRayCastVehicleController } from '@dimforge/rapier3d-compat';
import { type Bounds, type Quat, type Vec3 } from '@yard-brace/core';
import { vec } from '../collider-desc.js';
import type { TrialShape } from '../walk/trial-world.js';
import { BodyWorld, type Played } from './body-world.js';

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

export interface DriveInput {
  shapes: readonly TrialShape[];
  /** of the art that is driven on, metres */
  around: Bounds;
  trolley: Trolley;
  /** over the floor where it starts, and its level way */
  from: Vec3;
  way: readonly [number, number];
  /** metres that it has to go */
  length: number;
  /** metres a second. Default 1.5 */
  pace?: number;
}

export interface Driven {
  end: 'through' | 'falls' | 'stopped' | 'tips';
  /** metres that it got on */
  metres: number;
  /** where it ended */
  at: Vec3;
  /** steps in which a wheel left the floor, after it came to stand */
  airborne: number;
  played: Played;
}

const PACE = 1.5;
const SETTLE_STEPS = 40;
const STOPPED_STEPS = 60;
/** It has fallen when it is so many wheel radii under everything that is driven on. */
const FALLEN_RADII = 2;
/** Without a wheel on anything for so many steps, and faster downwards than this, metres a second, it falls. */
const LOOSE_STEPS = 12;
const FALLING_PACE = 1;
const DENSITY = 300;
/** Up from less than this its own up is no longer up. */
const TIPPED = 0.3;

/** A four-wheeled trolley driven straight over a floor: through, or where it falls, is stopped or tips. */
export async function drive(input: DriveInput): Promise<Driven> {
  const { shapes, around, trolley, from, way, length, pace = PACE } = input;
  const { min, max } = around;
  const run = await BodyWorld.of(shapes, { min: [min[0], min[1] - 4, min[2]], max }, null);
  const { chassis, vehicle } = vehicleOn(run, trolley, from, way);
  let airborne = 0;
  let still = 0;
  let loose = 0;
  let end: Driven['end'] = 'stopped';
  const steps = Math.ceil((length / pace) * 60 * 2) + SETTLE_STEPS + STOPPED_STEPS;
  const gone = (): number => {
    const { at } = run.poseOf(chassis);
    return (at[0] - from[0]) * way[0] + (at[2] - from[2]) * way[1];
  };
  for (let step = 0; step < steps; step++) {
    const middle = vec(chassis.translation());
    vehicle.updateVehicle(
      1 / 60,
      undefined,
      undefined,
      (collider) =>
        run.still.shapeOf(collider.handle) !== null && run.still.isInFront(collider.handle, middle),
    );
    steer(vehicle, step < SETTLE_STEPS ? 0 : pace, chassis.mass());
    run.step();
    const { at, turned } = run.poseOf(chassis);
    const touching = [0, 1, 2, 3].filter((wheel) => vehicle.wheelIsInContact(wheel)).length;
    if (step > SETTLE_STEPS && touching < 4) airborne++;
    loose = touching === 0 ? loose + 1 : 0;
    const falling = loose > LOOSE_STEPS && chassis.linvel().y < -FALLING_PACE;
    if (falling || at[1] < min[1] - FALLEN_RADII * trolley.wheelRadius) {
      end = 'falls';
      break;
    }
    if (touching > 0 && 1 - 2 * (turned[0] ** 2 + turned[2] ** 2) < TIPPED) {
      end = 'tips';
      break;
    }
    if (gone() >= length) {
      end = 'through';
      break;
    }
    const { x, z } = chassis.linvel();
    still = step > SETTLE_STEPS && x * way[0] + z * way[1] < pace * 0.03 ? still + 1 : 0;
    if (still > STOPPED_STEPS) break;
  }
  const metres = gone();
  const { at } = run.poseOf(chassis);
  const played = run.played();
  vehicle.free();
  run.free();
  return { end, metres, at, airborne, played };
}

function vehicleOn(run: BodyWorld, trolley: Trolley, from: Vec3, way: readonly [number, number]) {
  const { ColliderDesc, RigidBodyDesc } = run.rapier;
  const { track, wheelbase, wheelRadius, clearance } = trolley;
  const thick = wheelRadius * 0.6;
  // Its own forward is +z.
  const half = Math.atan2(way[0], way[1]) / 2;
  const turned: Quat = [0, Math.sin(half), 0, Math.cos(half)];
  const floor = clearance + thick / 2;
  const chassis = run.add(
    RigidBodyDesc.dynamic().setCanSleep(false),
    [ColliderDesc.cuboid(track * 0.4, thick / 2, wheelbase * 0.55).setDensity(DENSITY)],
    { at: [from[0], from[1] + floor + wheelRadius * 0.2, from[2]], turned },
  );
  const vehicle = run.still.world.createVehicleController(chassis);
  const rest = wheelRadius * 0.4;
  for (const z of [-1, 1])
    for (const x of [-1, 1]) {
      const hub = { x: (x * track) / 2, y: wheelRadius + rest - floor, z: (z * wheelbase) / 2 };
      vehicle.addWheel(hub, { x: 0, y: -1, z: 0 }, { x: -1, y: 0, z: 0 }, rest, wheelRadius);
    }
  for (let wheel = 0; wheel < 4; wheel++) {
    vehicle.setWheelSuspensionStiffness(wheel, 60);
    vehicle.setWheelSuspensionCompression(wheel, 5);
    vehicle.setWheelSuspensionRelaxation(wheel, 6);
    vehicle.setWheelMaxSuspensionTravel(wheel, rest);
    vehicle.setWheelFrictionSlip(wheel, 2);
  }
  return { chassis, vehicle };
}

/** Engine and brakes hold the pace. */
function steer(vehicle: DynamicRayCastVehicleController, pace: number, mass: number): void {
  const off = pace - vehicle.currentVehicleSpeed();
  for (let wheel = 0; wheel < 4; wheel++) {
    vehicle.setWheelEngineForce(wheel, pace > 0 ? Math.max(-1, Math.min(1, off)) * mass * 1.5 : 0);
    vehicle.setWheelBrake(wheel, pace > 0 ? 0 : mass * 0.05);
  }
}
