import {
  type Bounds,
  diagonalOf,
  emptyBounds,
  isEmpty,
  scaled,
  subtract,
  unionOf,
  type Vec3,
} from '@yard-brace/core';
import {
  Color,
  type LineSegments,
  Matrix4,
  type Object3D,
  Raycaster,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { addLights } from '../drawing/lights';
import { drawsInSoftware } from '../drawing/software-drawing';
import type { PlaceOnScreen } from '../drawing/place-on-screen';
import { CameraRig } from './camera-rig';
import { Ground } from './ground';
import type { FrameView, Layer, Place } from './layer';
import { type Detail, MovingDetail, WHOLE } from './moving-detail';
import type { PointerAt, ScreenPoint, Tool } from './tool';

/** A pointer that has moved no farther than this many CSS pixels has clicked. */
const CLICK_PIXELS = 4;

/** Once round in sixteen seconds. */
const TURN_RADIANS_A_SECOND = Math.PI / 8;

/** Milliseconds after which nothing moves any more. */
const REST_MS = 200;
/** Lines of more vertices take long where no graphics card helps. */
const MANY_VERTICES = 8000;

/**
 * A window on a space in metres: renderer, loop, camera, ground. What is drawn in it are layers, what the pointer does
 * is the tool's; it knows neither. It draws only when something has changed.
 */
export class Viewport implements FrameView {
  readonly rig: CameraRig;
  readonly ground: Ground;
  /** called after each drawn frame with the places of each layer that has any */
  onFrame: (places: ReadonlyMap<Layer, readonly PlaceOnScreen[]>) => void = () => undefined;
  /** called when the closed line that the tool draws has changed */
  onOverlay: (line: readonly ScreenPoint[]) => void = () => undefined;

  /** called when it is looked at from elsewhere */
  onMoved: () => void = () => undefined;

  private readonly pixelRatio = Math.min(2, devicePixelRatio);
  private readonly moved = new MovingDetail();
  private untilRest: ReturnType<typeof setTimeout> | undefined;
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly layers: Layer[] = [];
  private readonly listening = new AbortController();
  private tool: Tool | null = null;
  /** a tool that has the pointer until its button is let go */
  private grabbing: Tool | null = null;
  private pressedAt: ScreenPoint | null = null;
  private turning = 0;
  private frame = 0;
  private hover = 0;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    { gridMetres }: { gridMetres: number },
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: !drawsInSoftware() });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.renderer.localClippingEnabled = true;
    this.renderer.setPixelRatio(this.pixelRatio);
    this.scene.background = new Color('#F4F0E7');
    addLights(this.scene);
    this.rig = new CameraRig(canvas, () => {
      this.moving();
      this.onMoved();
    });
    this.ground = new Ground(gridMetres);
    this.scene.add(this.ground.object);
    this.listen();
  }

  add(...layers: Layer[]): void {
    this.layers.push(...layers);
    this.scene.add(...layers.map(({ object }) => object));
    this.redraw();
  }

  /** The tool that owns the pointer from now on; null for none. */
  use(tool: Tool | null): void {
    if (tool === this.tool) return;
    this.tool?.leave?.();
    this.tool = tool;
    this.rig.setDragging(!!tool?.drags);
    this.canvas.style.cursor = tool?.cursor ?? '';
    this.onOverlay(tool?.overlay?.() ?? []);
  }

  /** A tool takes the pointer that was just pressed, on a handle that lies over the view, until it is let go. */
  grab(tool: Tool, event: PointerEvent): void {
    this.grabbing = tool;
    this.rig.setEnabled(false);
    this.canvas.setPointerCapture(event.pointerId);
    const bounds = this.canvas.getBoundingClientRect();
    this.pressedAt = [event.clientX - bounds.left, event.clientY - bounds.top];
    tool.down?.({ at: this.pressedAt, pressed: true, still: true, shift: event.shiftKey, alt: event.altKey });
  }

  /** True when the tool has used the key. */
  key(event: KeyboardEvent): boolean {
    const used = (this.grabbing ?? this.tool)?.key?.(event) ?? false;
    // What was dragged by a handle is let go by its key, with the button still held.
    if (used && this.grabbing) this.letGo();
    return used;
  }

  /** Walk round what is looked at, or stop. */
  setTurning(turning: boolean): void {
    if (turning === this.turning > 0) return;
    if (!turning) {
      cancelAnimationFrame(this.turning);
      this.turning = 0;
      return;
    }
    let last = performance.now();
    const step = (now: number) => {
      this.rig.turnRound(((now - last) / 1000) * TURN_RADIANS_A_SECOND);
      last = now;
      this.turning = requestAnimationFrame(step);
    };
    this.turning = requestAnimationFrame(step);
  }

  /** Bring everything that has bounds into view, and what is asked for beside it, from where it is looked at now. */
  fit(beside: Bounds = emptyBounds()): void {
    const bounds = unionOf(this.bounds(), beside);
    if (!isEmpty(bounds)) this.rig.fit(bounds);
    this.redraw();
  }

  bounds(): Bounds {
    return this.layers.reduce<Bounds>((all, layer) => {
      const own = layer.bounds?.();
      return own && !isEmpty(own) ? unionOf(all, own) : all;
    }, emptyBounds());
  }

  /** The diagonal of what is shown, in metres; 1 while nothing is. */
  size(): number {
    const bounds = this.bounds();
    return isEmpty(bounds) ? 1 : diagonalOf(bounds);
  }

  rayAt([x, y]: ScreenPoint): Raycaster {
    const { clientWidth, clientHeight } = this.canvas;
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2), this.rig.camera);
    return ray;
  }

  project(place: Place): PlaceOnScreen {
    return this.projectAll([place])[0]!;
  }

  onScreen(at: Vec3): [number, number] {
    const { x, y } = this.project({ id: '', at });
    return [x, y];
  }

  /** From space into clip space, with the size of the canvas: for what is marked out on the screen. */
  clipSpace(): { toClip: Matrix4; width: number; height: number } {
    const { projectionMatrix, matrixWorldInverse } = this.rig.camera;
    return {
      toClip: new Matrix4().multiplyMatrices(projectionMatrix, matrixWorldInverse),
      width: this.canvas.clientWidth,
      height: this.canvas.clientHeight,
    };
  }

  metresPerPixel(at: Vec3): number {
    return this.rig.metresPerPixel(at);
  }

  towardsEye(at: Vec3): Vec3 {
    const { eye, direction } = this.rig.sight;
    return direction ? scaled(direction, -1) : subtract(eye, at);
  }

  resize(width: number, height: number): void {
    if (width === 0 || height === 0) return;
    this.renderer.setSize(width, height, false);
    this.rig.resize(width, height);
    this.redraw();
    // The canvas is empty after that; a frame that waits for its turn would come after the page was seen so.
    cancelAnimationFrame(this.frame);
    this.draw();
  }

  redraw(): void {
    // What is dragged moves; and where a whole frame takes very long, something is seen sooner than all of it.
    if (this.pressedAt || this.moved.now.rough) this.moving();
    else this.request();
  }

  /** Draw a frame of many that follow each other; the last of them is drawn whole when all has come to rest. */
  moving(): void {
    clearTimeout(this.untilRest);
    this.untilRest = setTimeout(() => {
      this.untilRest = undefined;
      this.request();
    }, REST_MS);
    this.request();
  }

  dispose(): void {
    this.setTurning(false);
    clearTimeout(this.untilRest);
    cancelAnimationFrame(this.frame);
    cancelAnimationFrame(this.hover);
    this.listening.abort();
    for (const layer of this.layers) layer.dispose();
    this.ground.dispose();
    this.rig.dispose();
    this.renderer.dispose();
  }

  private request(): void {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => this.draw());
  }

  private render({ pixels, inked, rough }: Detail): void {
    for (const layer of this.layers) layer.roughen?.(rough);
    const ratio = this.pixelRatio * pixels;
    if (this.renderer.getPixelRatio() !== ratio) this.renderer.setPixelRatio(ratio);
    const left = inked ? [] : this.layers.flatMap(({ object }) => longLines(object));
    for (const lines of left) lines.visible = false;
    this.renderer.render(this.scene, this.rig.camera);
    for (const lines of left) lines.visible = true;
  }

  private draw(): void {
    for (const layer of this.layers) layer.beforeFrame?.(this);
    const moving = this.untilRest !== undefined;
    const start = performance.now();
    this.render(moving ? this.moved.now : WHOLE);
    const { triangles } = this.renderer.info.render;
    // The next frame comes when this one is on the screen.
    requestAnimationFrame((now) =>
      moving ? this.moved.drew(now - start) : this.moved.rested(triangles, now - start),
    );
    this.onFrame(new Map(this.layers.map((layer) => [layer, this.projectAll(layer.places?.() ?? [])])));
  }

  /** The size of the canvas is asked for once for all: each asking may lay out the page anew. */
  private projectAll(places: readonly Place[]): PlaceOnScreen[] {
    if (!places.length) return [];
    const { clientWidth, clientHeight } = this.canvas;
    return places.map(({ id, at }) => {
      const p = new Vector3(...at).project(this.rig.camera);
      return { id, x: ((p.x + 1) / 2) * clientWidth, y: ((1 - p.y) / 2) * clientHeight, behind: p.z > 1 };
    });
  }

  private listen(): void {
    const on = <Name extends keyof HTMLElementEventMap>(
      name: Name,
      act: (event: HTMLElementEventMap[Name]) => void,
    ) => this.canvas.addEventListener(name, act, { signal: this.listening.signal });
    on('contextmenu', (event) => event.preventDefault());
    on('pointerdown', (event) => {
      this.pressedAt = [event.offsetX, event.offsetY];
      this.canvas.focus({ preventScroll: true });
      if (event.button !== 0) return;
      const at: ScreenPoint = [event.offsetX, event.offsetY];
      const pressed = { at, pressed: true, still: true, shift: event.shiftKey, alt: event.altKey };
      if (this.tool?.grabs?.(pressed)) {
        this.grab(this.tool, event);
        return;
      }
      if (this.tool?.drags) this.canvas.setPointerCapture(event.pointerId);
      this.tell(this.tool, 'down', event);
    });
    on('pointermove', (event) => {
      if (this.grabbing || event.buttons) {
        this.tell(this.grabbing ?? this.tool, 'move', event);
        return;
      }
      // One look under the pointer a frame at most.
      cancelAnimationFrame(this.hover);
      this.hover = requestAnimationFrame(() => this.tell(this.tool, 'move', event));
    });
    const released = (event: PointerEvent) => {
      const tool = this.grabbing ?? this.tool;
      if (this.grabbing) this.letGo();
      if (event.button === 0 && this.pressedAt) this.tell(tool, 'up', event);
      this.pressedAt = null;
    };
    on('pointerup', released);
    on('pointercancel', () => {
      (this.grabbing ?? this.tool)?.leave?.();
      this.letGo();
      this.pressedAt = null;
    });
    on('pointerleave', () => {
      cancelAnimationFrame(this.hover);
      if (!this.pressedAt) this.tool?.leave?.();
    });
  }

  private letGo(): void {
    this.grabbing = null;
    this.rig.setEnabled(true);
  }

  private tell(tool: Tool | null, what: 'down' | 'move' | 'up', event: PointerEvent): void {
    if (!tool) return;
    const at: ScreenPoint = [event.offsetX, event.offsetY];
    const from = this.pressedAt ?? at;
    const pointer: PointerAt = {
      at,
      pressed: event.buttons !== 0,
      still: Math.hypot(at[0] - from[0], at[1] - from[1]) <= CLICK_PIXELS,
      shift: event.shiftKey,
      alt: event.altKey,
    };
    tool[what]?.(pointer);
    this.onOverlay(tool.overlay?.() ?? []);
  }
}

function longLines(object: Object3D): Object3D[] {
  const found: Object3D[] = [];
  object.traverseVisible((each) => {
    const { isLineSegments, geometry } = each as LineSegments;
    if (isLineSegments && (geometry.index ?? geometry.getAttribute('position')).count > MANY_VERTICES)
      found.push(each);
  });
  return found;
}
