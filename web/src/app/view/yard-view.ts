import {
  type Bounds,
  boundsOf,
  centreOf,
  diagonalOf,
  isEmpty,
  type PieceDocument,
  type Shape,
  unionOf,
  type Vec3,
} from '@yard-brace/core';
import {
  Box3,
  BufferGeometry,
  Color,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineLoop,
  type LineSegments,
  Matrix4,
  MOUSE,
  OrthographicCamera,
  PerspectiveCamera,
  Plane,
  Raycaster,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { ArtToDraw } from '../compute/messages';
import { type ArtLook, ArtObject } from './art-object';
import { deviationColors, type Deviations } from './deviation-paint';
import { groundGrid } from './grid';
import { addLights } from './lights';
import { disposeMarks, drawMarks, type MarksToDraw, NO_MARKS } from './marks';
import { Overlay } from './overlay';
import { PivotObject } from './pivot-object';
import { disposeRow, type Reference, referenceRow } from './references';
import { type Area, facesInArea } from './screen-area';
import { ShapeObject } from './shape-object';
import { type Snap, snapOnFace } from './snap';
import type { Cut, LooksFrom } from './view-state';

export interface NumberedShape {
  id: string;
  number: number;
  shape: Shape;
}

/** A tag's place on the canvas in CSS pixels; `behind` when its shape is out of sight. */
export interface TagPlace {
  id: string;
  x: number;
  y: number;
  behind: boolean;
}

/** A word that stands at a place of the piece. */
export interface Label {
  text: string;
  at: Vec3;
}

export type Hit =
  { shape: string } | { art: { at: Vec3; material: number; face: number; part: number } } | null;

const FROM: Record<Exclude<LooksFrom, 'free'>, Vec3> = { front: [0, 0, 1], side: [1, 0, 0], top: [0, 1, 0] };

/** The bench's window on a piece. Knows three.js and nothing of Angular; draws only when something changed. */
export class YardView {
  /** called after each drawn frame */
  onFrame: (tags: TagPlace[], labels: TagPlace[], handle: TagPlace | null) => void = () => undefined;

  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly perspective = new PerspectiveCamera(38, 1, 0.01, 1000);
  private readonly flat = new OrthographicCamera(-1, 1, 1, -1, 0.01, 1000);
  private camera: PerspectiveCamera | OrthographicCamera = this.perspective;
  private readonly controls: OrbitControls;
  private readonly pivot = new PivotObject();
  private readonly chosen = new Overlay('#17616E', 0.5);
  private readonly faults = new Overlay('#C8412B', 0.6);
  private art: ArtObject | undefined;
  private others: ArtObject[] = [];
  private artBounds: Bounds | undefined;
  private shapes: ShapeObject[] = [];
  private grid: LineSegments | undefined;
  private marks = new Group();
  private references = new Group();
  private labels: readonly Label[] = [];
  private cut: { plane: Plane; axis: 0 | 1 | 2; outline: LineLoop } | null = null;
  private veil = 0.5;
  private painted = false;
  private lit: string | null = null;
  private asked = 0;
  private from: LooksFrom = 'free';

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly gridMetres: number,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: false });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.renderer.localClippingEnabled = true;
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    this.scene.background = new Color('#F4F0E7');
    addLights(this.scene);
    this.scene.add(this.pivot.group, this.chosen.group, this.faults.group, this.marks, this.references);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.addEventListener('change', () => this.draw());
    this.camera.position.set(3, 2, 4);
  }

  /** Show a piece's art; look at it whole unless the view is to stay. */
  setArt(art: ArtToDraw, document: PieceDocument, { stay = false } = {}): void {
    const before = this.artBounds;
    this.clearArt();
    this.art = new ArtObject(art, document, () => this.draw());
    this.artBounds = boundsOfArt(art);
    this.scene.add(this.art.group);
    if (this.cut) this.art.cut(this.cut.plane);
    this.layGround();
    this.applyVeil();
    if (!stay || !before || !alike(before, this.artBounds)) this.fit();
  }

  /** Other pieces where they stand, drawn faintly. */
  setOthers(others: readonly { art: ArtToDraw; document: PieceDocument }[]): void {
    for (const other of this.others) {
      this.scene.remove(other.group);
      other.dispose();
    }
    this.others = others.map(({ art, document }) => new ArtObject(art, document, () => this.draw()));
    for (const other of this.others) {
      other.fade(0.35);
      this.scene.add(other.group);
    }
    this.draw();
  }

  setShapes(shapes: readonly NumberedShape[]): void {
    for (const shape of this.shapes) {
      this.scene.remove(shape.group);
      shape.dispose();
    }
    this.shapes = shapes.map(({ id, number, shape }) => new ShapeObject(id, number, shape));
    for (const shape of this.shapes) this.scene.add(shape.group);
    this.applyVeil();
  }

  setPivot(position: Vec3, rotation: readonly [number, number, number, number] = [0, 0, 0, 1]): void {
    this.pivot.group.position.set(...position);
    this.pivot.group.quaternion.set(...rotation);
    this.draw();
  }

  /** 0 shows the art alone, 1 the proxies alone. */
  setVeil(veil: number): void {
    this.veil = veil;
    this.applyVeil();
  }

  light(id: string | null): void {
    if (this.lit === id) return;
    this.lit = id;
    this.applyVeil();
  }

  look(look: ArtLook): void {
    this.art?.look(look);
    this.draw();
  }

  /** Paint the art by how far the proxies lie from it; null shows it as it is. */
  setDeviation(deviation: Deviations | null): void {
    const fits = deviation && this.art?.art.positions.length === deviation.vertices.length * 3;
    this.art?.paint(fits ? deviationColors(deviation) : null);
    this.painted = !!fits;
    this.applyVeil();
  }

  showParts(looks: ((part: number) => 'whole' | 'faint' | 'gone') | null): void {
    this.art?.showParts(looks);
    this.draw();
  }

  /** Turn parts about an axis for a look; null puts them back. */
  swing(
    parts: ((part: number) => boolean) | null,
    about: Vec3 = [0, 0, 0],
    axis: Vec3 = [0, 1, 0],
    degrees = 0,
  ): void {
    const turn = new Matrix4()
      .makeTranslation(...about)
      .multiply(new Matrix4().makeRotationAxis(new Vector3(...axis), (degrees * Math.PI) / 180))
      .multiply(new Matrix4().makeTranslation(-about[0], -about[1], -about[2]));
    this.art?.swing(parts, turn);
    this.draw();
  }

  setChosen(faces: Uint8Array | null): void {
    this.chosen.show(this.art?.art, faces);
    this.draw();
  }

  setFaults(places: { faces: Uint8Array | null; edges: Float32Array | null } | null): void {
    this.faults.show(places ? this.art?.art : undefined, places?.faces ?? null, places?.edges ?? null);
    this.draw();
  }

  setMarks(marks: MarksToDraw, labels: readonly Label[]): void {
    this.scene.remove(this.marks);
    disposeMarks(this.marks);
    this.marks = drawMarks(marks, this.size() * 0.02);
    this.labels = labels;
    this.scene.add(this.marks);
    this.draw();
  }

  /** Known things in a row beside the piece, on its ground. */
  setReferences(references: readonly Reference[]): void {
    this.scene.remove(this.references);
    disposeRow(this.references);
    const bounds = this.artBounds;
    if (bounds && !isEmpty(bounds)) {
      const gap = Math.max(0.3, this.size() * 0.08);
      this.references = referenceRow(references, [bounds.max[0] + gap, bounds.min[1], centreOf(bounds)[2]]);
    }
    this.scene.add(this.references);
    if (references.length) this.fit();
    else this.draw();
  }

  /** Cut the piece open square to an axis. */
  setCut(cut: Cut | null): void {
    if (this.cut) {
      this.scene.remove(this.cut.outline);
      this.cut.outline.geometry.dispose();
      this.cut = null;
    }
    const bounds = this.artBounds;
    if (cut && bounds) {
      const { axis, at, flipped } = cut;
      const place = bounds.min[axis] + (bounds.max[axis] - bounds.min[axis]) * at;
      const sign = flipped ? 1 : -1;
      const normal = new Vector3().setComponent(axis, sign);
      const plane = new Plane(normal, -sign * place);
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3] as [number, number];
      const room = this.size() * 0.04;
      const corners = [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ].map(([i, j]) => {
        const p: Vec3 = [0, 0, 0];
        p[axis] = place;
        p[u] = i ? bounds.max[u]! + room : bounds.min[u]! - room;
        p[v] = j ? bounds.max[v]! + room : bounds.min[v]! - room;
        return p;
      });
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new Float32BufferAttribute(corners.flat(), 3));
      const outline = new LineLoop(
        geometry,
        new LineBasicMaterial({ color: '#17616E', depthTest: false, transparent: true }),
      );
      outline.renderOrder = 7;
      this.scene.add(outline);
      this.cut = { plane, axis, outline };
    }
    this.art?.cut(this.cut?.plane ?? null);
    this.draw();
  }

  /** How far along the cut's axis, in shares of the bounds, a pointer's way on the screen leads. */
  cutWay(dx: number, dy: number): number {
    if (!this.cut || !this.artBounds) return 0;
    const { axis } = this.cut;
    const length = this.artBounds.max[axis] - this.artBounds.min[axis];
    const middle = new Vector3(...centreOf(this.artBounds));
    const [x0, y0] = this.onScreen(middle.toArray());
    const ahead = middle.clone();
    ahead.setComponent(axis, ahead.getComponent(axis) + length);
    const [x1, y1] = this.onScreen(ahead.toArray());
    const [wx, wy] = [x1 - x0, y1 - y0];
    const squared = wx * wx + wy * wy;
    return squared < 4 ? -dy / 200 : (dx * wx + dy * wy) / squared;
  }

  /** Look freely, or straight from one side without perspective. */
  lookFrom(from: LooksFrom): void {
    if (from === this.from) return;
    this.from = from;
    const target = this.controls.target.clone();
    const away = this.camera.position.distanceTo(target);
    if (from === 'free') {
      this.camera = this.perspective;
      this.camera.position.copy(target).addScaledVector(new Vector3(0.55, 0.4, 0.75).normalize(), away);
    } else {
      this.camera = this.flat;
      this.camera.position.copy(target).addScaledVector(new Vector3(...FROM[from]), away);
      this.camera.zoom = 1;
    }
    this.camera.up.set(0, 1, 0);
    this.controls.object = this.camera;
    this.controls.enableRotate = from === 'free';
    this.fit();
  }

  /** While faces are chosen by dragging, the left button draws and the right one turns the view. */
  setDragging(chooses: boolean): void {
    this.controls.mouseButtons = chooses
      ? { LEFT: null, MIDDLE: MOUSE.PAN, RIGHT: MOUSE.ROTATE }
      : { LEFT: MOUSE.ROTATE, MIDDLE: MOUSE.DOLLY, RIGHT: MOUSE.PAN };
  }

  /** Bring the whole piece into view, from where it is looked at now. */
  fit(): void {
    if (!this.artBounds || isEmpty(this.artBounds)) return;
    const beside = new Box3().setFromObject(this.references);
    const bounds = beside.isEmpty()
      ? this.artBounds
      : unionOf(this.artBounds, { min: beside.min.toArray(), max: beside.max.toArray() });
    const centre = new Vector3(...centreOf(bounds));
    const radius = Math.max(1e-6, diagonalOf(bounds) / 2);
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    const narrow = Math.min(1, this.perspective.aspect);
    const away = (radius / Math.sin((this.perspective.fov * Math.PI) / 360) / narrow) * 1.02;
    for (const camera of [this.perspective, this.flat]) {
      camera.near = radius / 200;
      camera.far = radius * 400;
    }
    this.flat.zoom = 1;
    this.camera.position.copy(centre).addScaledVector(direction, away);
    this.controls.target.copy(centre);
    this.frame();
    this.controls.update();
    this.draw();
  }

  /** What is at a place on the canvas, in CSS pixels from its corner. */
  pick(x: number, y: number): Hit {
    const ray = this.rayAt(x, y);
    const shapes =
      this.veil > 0.02
        ? ray.intersectObjects(
            this.shapes.map((shape) => shape.mesh),
            false,
          )
        : [];
    if (shapes[0]) return { shape: (shapes[0].object.userData['shape'] as ShapeObject).id };
    const hit = this.veil < 0.98 ? this.art?.hit(ray) : null;
    if (!hit) return null;
    const { groups, part } = this.art!.art;
    const group = groups.find(({ start, count }) => hit.face >= start && hit.face < start + count);
    return { art: { at: hit.at, face: hit.face, part: part[hit.face]!, material: group?.material ?? -1 } };
  }

  /** The face of the art at a place, proxies looked through. */
  pickFace(x: number, y: number): { face: number; part: number; at: Vec3 } | null {
    const hit = this.art?.hit(this.rayAt(x, y));
    return hit ? { face: hit.face, part: this.art!.art.part[hit.face]!, at: hit.at } : null;
  }

  /** What the pointer catches at a place. */
  snap(x: number, y: number): (Snap & { part: number }) | null {
    const hit = this.pickFace(x, y);
    return (
      hit && {
        ...snapOnFace(this.art!.art, hit.face, hit.at, [x, y], (p) => this.onScreen(p)),
        part: hit.part,
      }
    );
  }

  facesIn(area: Area): Uint8Array | null {
    if (!this.art) return null;
    const toClip = new Matrix4().multiplyMatrices(
      this.camera.projectionMatrix,
      this.camera.matrixWorldInverse,
    );
    return facesInArea(this.art.art, area, toClip, this.canvas.clientWidth, this.canvas.clientHeight);
  }

  /** From where it is looked at: an eye, and the one direction of all rays when there is no perspective. */
  get sight(): { eye: Vec3; direction: Vec3 | null } {
    const direction =
      this.from === 'free' ? null : (this.camera.getWorldDirection(new Vector3()).toArray() as Vec3);
    return { eye: this.camera.position.toArray() as Vec3, direction };
  }

  resize(width: number, height: number): void {
    if (width === 0 || height === 0) return;
    this.renderer.setSize(width, height, false);
    this.perspective.aspect = width / height;
    this.frame();
    this.draw();
  }

  dispose(): void {
    cancelAnimationFrame(this.asked);
    this.clearArt();
    this.setShapes([]);
    this.setOthers([]);
    this.setMarks(NO_MARKS, []);
    disposeRow(this.references);
    this.chosen.dispose();
    this.faults.dispose();
    cancelAnimationFrame(this.asked);
    this.controls.dispose();
    this.renderer.dispose();
  }

  /** Nothing is on the bench yet, or no longer. */
  clearArt(): void {
    if (!this.art) return;
    this.chosen.show(undefined, null);
    this.faults.show(undefined, null);
    this.scene.remove(this.art.group);
    this.art.dispose();
    this.art = undefined;
    this.artBounds = undefined;
    this.draw();
  }

  private size(): number {
    return this.artBounds && !isEmpty(this.artBounds) ? diagonalOf(this.artBounds) : 1;
  }

  private rayAt(x: number, y: number): Raycaster {
    const { clientWidth, clientHeight } = this.canvas;
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2), this.camera);
    return ray;
  }

  /** The flat camera shows as much at the target as the other one would. */
  private frame(): void {
    const { aspect, fov } = this.perspective;
    const half = this.camera.position.distanceTo(this.controls.target) * Math.tan((fov * Math.PI) / 360);
    Object.assign(this.flat, { left: -half * aspect, right: half * aspect, top: half, bottom: -half });
    this.perspective.updateProjectionMatrix();
    this.flat.updateProjectionMatrix();
  }

  /** The ground lies at zero, or under a piece that stands somewhere else; its lines stay on whole metres. */
  private layGround(): void {
    if (this.grid) {
      this.scene.remove(this.grid);
      this.grid.geometry.dispose();
    }
    const bounds = this.artBounds;
    if (!bounds || isEmpty(bounds)) return;
    const size = diagonalOf(bounds);
    const centre = centreOf(bounds);
    const onZero = bounds.min[1] > -size && bounds.min[1] < size / 2;
    this.grid = groundGrid(Math.max(5, size * 2.2), this.gridMetres);
    const step = Math.max(1, Math.round(this.gridMetres));
    this.grid.position.set(
      Math.round(centre[0] / step) * step,
      onZero ? 0 : bounds.min[1],
      Math.round(centre[2] / step) * step,
    );
    this.scene.add(this.grid);
  }

  private applyVeil(): void {
    const lit = this.shapes.some((shape) => shape.id === this.lit) ? this.lit : null;
    this.art?.fade(this.veil <= 0.5 ? 1 : 2 - 2 * this.veil);
    for (const shape of this.shapes)
      shape.show(Math.min(1, this.veil * 2), shape.id === lit, lit !== null, this.painted);
    this.draw();
  }

  private draw(): void {
    cancelAnimationFrame(this.asked);
    this.asked = requestAnimationFrame(() => this.drawNow());
  }

  private drawNow(): void {
    const distance = this.camera.position.distanceTo(this.pivot.group.position);
    this.pivot.resize((distance * 0.09) / (this.camera === this.flat ? this.flat.zoom : 1));
    this.renderer.render(this.scene, this.camera);
    const tags = this.veil > 0.02 ? this.shapes.map((shape) => this.placeOf(shape.id, shape.tagAt)) : [];
    const labels = this.labels.map(({ at }, i) => this.placeOf(String(i), new Vector3(...at)));
    const handle = this.cut ? this.placeOf('cut', this.handleAt()) : null;
    this.onFrame(tags, labels, handle);
  }

  /** The corner of the cut's outline that is highest on the screen: there its handle is. */
  private handleAt(): Vector3 {
    const place = this.cut!.outline.geometry.getAttribute('position');
    const corners = [0, 1, 2, 3].map((i) => new Vector3().fromBufferAttribute(place, i));
    const height = (p: Vector3) => p.clone().project(this.camera).y;
    return corners.reduce((best, p) => (height(p) > height(best) ? p : best));
  }

  private onScreen(at: readonly number[]): [number, number] {
    const { x, y } = this.placeOf('', new Vector3(at[0], at[1], at[2]));
    return [x, y];
  }

  private placeOf(id: string, at: Vector3): TagPlace {
    const p = at.clone().project(this.camera);
    const { clientWidth, clientHeight } = this.canvas;
    return { id, x: ((p.x + 1) / 2) * clientWidth, y: ((1 - p.y) / 2) * clientHeight, behind: p.z > 1 };
  }
}

/** Whether a view that showed one of two bounds well shows the other well too. */
function alike(a: Bounds, b: Bounds): boolean {
  const [before, now] = [diagonalOf(a), diagonalOf(b)];
  const moved = Math.hypot(...centreOf(a).map((v, k) => v - centreOf(b)[k]!));
  return now < before * 1.4 && now > before / 1.4 && moved < before / 3;
}

function boundsOfArt(art: ArtToDraw): Bounds {
  const local = boundsOf(art.positions);
  const shift = (p: Vec3): Vec3 => [p[0] + art.origin[0], p[1] + art.origin[1], p[2] + art.origin[2]];
  return { min: shift(local.min), max: shift(local.max) };
}
