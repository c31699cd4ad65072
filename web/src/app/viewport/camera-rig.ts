import { type Bounds, centreOf, diagonalOf, type Sight, type Vec3 } from '@yard-brace/core';
import { MOUSE, OrthographicCamera, PerspectiveCamera, Vector3 } from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { fitDistance } from '../drawing/fit-distance';
import type { LooksFrom } from '../state/view-settings';

/** From where each straight view looks; null for the free one. */
export const LOOKED_FROM: Readonly<Record<LooksFrom, Vec3 | null>> = {
  free: null,
  front: [0, 0, 1],
  side: [1, 0, 0],
  top: [0, 1, 0],
};
const FREE_DIRECTION = new Vector3(0.55, 0.4, 0.75).normalize();
const UP = new Vector3(0, 1, 0);
/** From an eye that stands somewhere, the view turns about a place this near before it. */
const EYE_TARGET_METRES = 0.05;
/** Room round what is fitted. */
const MARGIN = 1.12;

/** Parts of the canvas that are covered, in CSS pixels: what is fitted keeps clear of them. */
export interface Insets {
  top: number;
  bottom: number;
}

/** The eye: free with perspective, or straight from a side without. It moves only when it is told to. */
export class CameraRig {
  private readonly perspective = new PerspectiveCamera(38, 1, 0.01, 1000);
  private readonly flat = new OrthographicCamera(-1, 1, 1, -1, 0.01, 1000);
  private readonly controls: OrbitControls;
  private width = 1;
  private height = 1;
  private looksFrom: LooksFrom = 'free';
  camera: PerspectiveCamera | OrthographicCamera = this.perspective;
  insets: Insets = { top: 0, bottom: 0 };

  constructor(canvas: HTMLCanvasElement, changed: () => void) {
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.addEventListener('change', changed);
    this.camera.position.set(3, 2, 4);
  }

  get from(): LooksFrom {
    return this.looksFrom;
  }

  /** From where it is looked: an eye, and the one direction of all rays when there is no perspective. */
  get sight(): Sight {
    const direction =
      this.looksFrom === 'free' ? null : (this.camera.getWorldDirection(new Vector3()).toArray() as Vec3);
    return { eye: this.camera.position.toArray() as Vec3, direction };
  }

  /** Look freely, or straight from one side without perspective. */
  lookFrom(from: LooksFrom): void {
    this.looksFrom = from;
    const { target } = this.controls;
    const away = this.camera.position.distanceTo(target);
    const free = from === 'free';
    this.camera = free ? this.perspective : this.flat;
    const straight = LOOKED_FROM[from];
    const direction = straight ? new Vector3(...straight) : FREE_DIRECTION;
    this.camera.position.copy(target).addScaledVector(direction, away);
    this.camera.up.set(0, 1, 0);
    this.flat.zoom = 1;
    this.controls.object = this.camera;
    this.controls.enableRotate = free;
    this.frame();
    this.controls.update();
  }

  /** Bring bounds into view whole, from where they are looked at now. */
  fit(bounds: Bounds): void {
    const centre = new Vector3(...centreOf(bounds));
    const radius = Math.max(1e-6, diagonalOf(bounds) / 2);
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    const { top, bottom } = this.insets;
    const open = Math.max(0.2, (this.height - top - bottom) / this.height);
    const half = (this.perspective.fov * Math.PI) / 360;
    const tangent = Math.tan(half) / MARGIN;
    const away = fitDistance(bounds, {
      direction: direction.toArray(),
      tangents: [tangent * open, tangent * this.perspective.aspect],
      parallel: this.camera === this.flat,
    });
    for (const camera of [this.perspective, this.flat]) {
      camera.near = radius / 200;
      camera.far = radius * 400;
    }
    this.flat.zoom = 1;
    this.camera.position.copy(centre).addScaledVector(direction, away);
    this.controls.target.copy(centre);
    this.frame();
    this.controls.update();
    // What is fitted stands in the middle of what is not covered.
    const up = new Vector3(0, 1, 0).applyQuaternion(this.camera.quaternion);
    const shift = ((top - bottom) / 2) * ((2 * away * Math.tan(half)) / this.height);
    this.camera.position.addScaledVector(up, shift);
    this.controls.target.addScaledVector(up, shift);
    this.controls.update();
  }

  /** Go on round the upright axis through what is looked at; a straight view stays. */
  turnRound(radians: number): void {
    if (this.looksFrom !== 'free') return;
    const { target } = this.controls;
    this.camera.position.sub(target).applyAxisAngle(UP, radians).add(target);
    this.controls.update();
  }

  /** The level way that is looked along: x and z, unit length. */
  get heading(): readonly [number, number] {
    const ahead = this.camera.getWorldDirection(new Vector3());
    // From straight above, what is up on the screen is ahead.
    if (Math.hypot(ahead.x, ahead.z) < 1e-3) ahead.copy(UP).applyQuaternion(this.camera.quaternion);
    const length = Math.hypot(ahead.x, ahead.z) || 1;
    return [ahead.x / length, ahead.z / length];
  }

  /** The eye goes along with what moves, and goes on looking as it did. */
  goAlong([x, y, z]: Readonly<Vec3>): void {
    const by = new Vector3(x, y, z);
    this.camera.position.add(by);
    this.controls.target.add(by);
    this.controls.update();
  }

  /** The eye stands at a place, looking the way that it looked before, or that way on the level. */
  standAt(at: Readonly<Vec3>, level = false): void {
    const [x, z] = this.heading;
    const ahead = level ? new Vector3(x, 0, z) : this.camera.getWorldDirection(new Vector3());
    this.camera.position.set(...at);
    this.controls.target.copy(this.camera.position).addScaledVector(ahead, EYE_TARGET_METRES);
    this.controls.update();
  }

  /** Look at things as another eye does. */
  lookAs(other: CameraRig): void {
    this.camera.position.copy(other.camera.position);
    this.controls.target.copy(other.controls.target);
    for (const [own, theirs] of [
      [this.perspective, other.perspective],
      [this.flat, other.flat],
    ] as const) {
      own.near = theirs.near;
      own.far = theirs.far;
      own.zoom = theirs.zoom;
    }
    this.frame();
    this.controls.update();
  }

  /** What was looked at has grown or moved: the eye goes along, so that it is looked at in the same way. */
  follow(before: Bounds, now: Bounds): void {
    const ratio = diagonalOf(now) / Math.max(1e-12, diagonalOf(before));
    const [from, to] = [new Vector3(...centreOf(before)), new Vector3(...centreOf(now))];
    for (const point of [this.camera.position, this.controls.target])
      point.sub(from).multiplyScalar(ratio).add(to);
    for (const camera of [this.perspective, this.flat]) {
      camera.near *= ratio;
      camera.far *= ratio;
    }
    this.frame();
    this.controls.update();
  }

  /** While a tool drags with the left button, the right one turns the view. */
  setDragging(drags: boolean): void {
    this.controls.mouseButtons = drags
      ? { LEFT: null, MIDDLE: MOUSE.PAN, RIGHT: MOUSE.ROTATE }
      : { LEFT: MOUSE.ROTATE, MIDDLE: MOUSE.DOLLY, RIGHT: MOUSE.PAN };
  }

  /** Whether the pointer turns the view at all just now. */
  setEnabled(enabled: boolean): void {
    this.controls.enabled = enabled;
  }

  resize(width: number, height: number): void {
    this.width = width;
    this.height = height;
    this.frame();
  }

  metresPerPixel(at: Readonly<Vec3>): number {
    const away = this.camera.position.distanceTo(new Vector3(...at));
    const half = Math.tan((this.perspective.fov * Math.PI) / 360);
    if (this.camera === this.flat) return (this.flat.top - this.flat.bottom) / this.flat.zoom / this.height;
    return (2 * away * half) / this.height;
  }

  dispose(): void {
    this.controls.dispose();
  }

  /** The flat camera shows as much at the target as the other one would. */
  private frame(): void {
    this.perspective.aspect = this.width / this.height;
    const { aspect, fov } = this.perspective;
    const half = this.camera.position.distanceTo(this.controls.target) * Math.tan((fov * Math.PI) / 360);
    Object.assign(this.flat, { left: -half * aspect, right: half * aspect, top: half, bottom: -half });
    this.perspective.updateProjectionMatrix();
    this.flat.updateProjectionMatrix();
  }
}
