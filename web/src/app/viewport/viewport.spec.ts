import { BoxGeometry, Group, Mesh } from 'three';
import { canvasOnPage } from '../testing/crate';
import type { Layer, Place } from './layer';
import type { PointerAt, Tool } from './tool';
import { tieViews } from './tied-views';
import { Viewport } from './viewport';

const cube: Layer & { shown: Place[]; gone: boolean } = {
  object: new Group(),
  shown: [{ id: 'tag', at: [0, 0, 0] }],
  gone: false,
  bounds: () => ({ min: [-1, -1, -1], max: [1, 1, 1] }),
  places: () => cube.shown,
  dispose: () => void (cube.gone = true),
};

describe('Viewport', () => {
  let canvas: HTMLCanvasElement;
  let viewport: Viewport;
  let told: string[];
  const tool = (over: Partial<Tool> = {}): Tool => ({
    down: ({ at }) => void told.push(`down ${at.join()}`),
    move: ({ at, pressed }: PointerAt) => void told.push(`move ${at.join()}${pressed ? ' pressed' : ''}`),
    up: ({ still }) => void told.push(still ? 'click' : 'up'),
    leave: () => void told.push('leave'),
    ...over,
  });
  const pointer = (type: string, x: number, y: number, init: PointerEventInit = {}) =>
    canvas.dispatchEvent(
      new PointerEvent(type, { clientX: x, clientY: y, bubbles: true, pointerId: 1, ...init }),
    );
  const frame = () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));

  beforeEach(() => {
    told = [];
    canvas = canvasOnPage();
    // No pointer of a person is down that could be captured.
    canvas.setPointerCapture = () => undefined;
    canvas.releasePointerCapture = () => undefined;
    viewport = new Viewport(canvas, { gridMetres: 4 });
    viewport.resize(400, 300);
    viewport.add(cube);
  });
  afterEach(() => {
    viewport.dispose();
    canvas.remove();
  });

  it('brings into view what its layers bound, and says where their places are', async () => {
    const places = new Promise<ReadonlyMap<Layer, readonly { id: string; x: number; y: number }[]>>(
      (resolve) => (viewport.onFrame = resolve),
    );
    viewport.fit();
    const [tag] = (await places).get(cube)!;
    expect([tag!.id, Math.round(tag!.x), Math.round(tag!.y)]).toEqual(['tag', 200, 150]);
    expect(viewport.size()).toBeCloseTo(Math.sqrt(12), 9);
    for (const corner of [-1, 1]) {
      const [x, y] = viewport.onScreen([corner, corner, corner]);
      expect(x > 0 && x < 400 && y > 0 && y < 300).toBeTrue();
    }
  });

  it('is not empty until the next frame when its place on the page becomes another', async () => {
    viewport.add({ object: new Mesh(new BoxGeometry()), dispose: () => undefined });
    viewport.fit();
    await frame();
    viewport.resize(300, 200);
    const paper = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')!;
    paper.drawImage(canvas, 0, 0);
    const { data } = paper.getImageData(0, 0, canvas.width, canvas.height);
    expect(data.some((value) => value !== 0)).toBeTrue();
  });

  it('what moves too slowly is drawn of fewer pixels, and whole when it rests', async () => {
    const heavy = new Mesh(new BoxGeometry());
    heavy.frustumCulled = false;
    heavy.onBeforeRender = () => {
      const end = performance.now() + 70;
      while (performance.now() < end);
    };
    viewport.add({ object: heavy, dispose: () => undefined });
    await frame();
    const whole = canvas.width;
    for (let i = 0; i < 6; i++) {
      viewport.moving();
      await frame();
    }
    expect(canvas.width).toBeLessThan(whole);
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(canvas.width).toBe(whole);
    // What is dragged moves, too.
    pointer('pointerdown', 200, 150, { button: 0, buttons: 1 });
    viewport.redraw();
    await frame();
    expect(canvas.width).toBeLessThan(whole);
    pointer('pointerup', 200, 150, { button: 0 });
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(canvas.width).toBe(whole);
  });

  it('keeps what is fitted clear of what lies over the view', () => {
    viewport.rig.insets = { top: 100, bottom: 0 };
    viewport.rig.lookFrom('front');
    viewport.fit();
    const top = viewport.onScreen([0, 1, 0])[1];
    const bottom = viewport.onScreen([0, -1, 0])[1];
    expect(top).toBeGreaterThan(100);
    expect(bottom).toBeLessThan(300);
  });

  it('a ray through a place on the screen goes through the place in space', () => {
    viewport.fit();
    const at = [0.4, -0.3, 0.2] as const;
    const { ray } = viewport.rayAt(viewport.onScreen([...at]));
    const away = ray.direction
      .clone()
      .cross(ray.origin.clone().sub({ x: at[0], y: at[1], z: at[2] } as never))
      .length();
    expect(away).toBeLessThan(1e-9);
  });

  it('the tool owns the pointer: down, move, up; a pointer that stays is a click; leaving takes it all back', async () => {
    viewport.use(tool());
    pointer('pointerdown', 100, 100, { buttons: 1 });
    pointer('pointermove', 130, 100, { buttons: 1 });
    pointer('pointerup', 130, 100);
    expect(told).toEqual(['down 100,100', 'move 130,100 pressed', 'up']);
    told = [];
    pointer('pointerdown', 50, 60, { buttons: 1 });
    pointer('pointerup', 52, 61);
    expect(told).toEqual(['down 50,60', 'click']);
    told = [];
    // Hovering looks once a frame.
    pointer('pointermove', 10, 10);
    pointer('pointermove', 12, 12);
    await frame();
    expect(told).toEqual(['move 12,12']);
    pointer('pointerleave', 0, 0);
    expect(told.at(-1)).toBe('leave');
  });

  it('another tool takes over cleanly; the same one again changes nothing', () => {
    const first = tool();
    viewport.use(first);
    viewport.use(first);
    expect(told).toEqual([]);
    viewport.use(tool({ cursor: 'crosshair' }));
    expect([told, canvas.style.cursor]).toEqual([['leave'], 'crosshair']);
    viewport.use(null);
    expect(canvas.style.cursor).toBe('');
  });

  it('a tool that is grabbed by its handle has the pointer until it is let go', () => {
    const looking = tool();
    viewport.use(looking);
    const moved: number[] = [];
    const cut = { down: () => undefined, move: ({ at }: PointerAt) => void moved.push(at[0]) };
    viewport.grab(cut, new PointerEvent('pointerdown', { clientX: 10, clientY: 10, pointerId: 1 }));
    pointer('pointermove', 20, 10, { buttons: 1 });
    pointer('pointerup', 20, 10);
    expect([moved, told]).toEqual([[20], []]);
    pointer('pointermove', 30, 10, { buttons: 1 });
    expect([moved, told]).toEqual([[20], ['move 30,10 pressed']]);
  });

  it('draws the line of a tool, and takes it away with the tool', () => {
    const lines: number[] = [];
    viewport.onOverlay = (line) => lines.push(line.length);
    viewport.use(
      tool({
        overlay: () => [
          [0, 0],
          [1, 1],
        ],
      }),
    );
    viewport.use(null);
    expect(lines).toEqual([2, 0]);
  });

  it('asks the tool about a key, and the layers to go when it goes itself', () => {
    viewport.use(tool({ key: ({ key }) => key === 'Escape' }));
    expect(viewport.key(new KeyboardEvent('keydown', { key: 'Escape' }))).toBeTrue();
    expect(viewport.key(new KeyboardEvent('keydown', { key: 'a' }))).toBeFalse();
    viewport.dispose();
    expect(cube.gone).toBeTrue();
    pointer('pointerdown', 1, 1, { buttons: 1 });
    expect(told).toEqual([]);
  });

  it('metres of a pixel: what is so many pixels high is so many metres', () => {
    for (const from of ['front', 'free'] as const) {
      viewport.rig.lookFrom(from);
      viewport.fit();
      const up = from === 'front' ? ([0, 1, 0] as const) : null;
      const pixel = viewport.metresPerPixel([0, 0, 0]);
      if (up) {
        const high = viewport.onScreen([0, 0, 0])[1] - viewport.onScreen([...up])[1];
        expect(pixel * high).toBeCloseTo(1, 6);
      } else expect(pixel).toBeGreaterThan(0);
    }
  });
});

describe('tied views', () => {
  it('look from one place, whichever of them is turned, and tell each other once', () => {
    const canvases = [canvasOnPage(), canvasOnPage()];
    const [a, b] = canvases.map((canvas) => new Viewport(canvas, { gridMetres: 1 })) as [Viewport, Viewport];
    for (const view of [a, b]) view.resize(400, 300);
    tieViews(a, b);
    const redrawn = spyOn(b, 'redraw').and.callThrough();
    a.rig.fit({ min: [0, 0, 0], max: [4, 2, 1] });
    expect(b.rig.sight.eye).toEqual(a.rig.sight.eye);
    expect(redrawn.calls.count()).toBeLessThan(8);
    b.rig.fit({ min: [10, 0, 0], max: [11, 1, 1] });
    expect(a.rig.sight.eye).toEqual(b.rig.sight.eye);
    for (const view of [a, b]) view.dispose();
    for (const canvas of canvases) canvas.remove();
  });
});
