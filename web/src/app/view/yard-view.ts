import {
  type Bounds,
  boundsOf,
  centreOf,
  diagonalOf,
  isEmpty,
  type PieceDocument,
  type Shape,
  type Vec3,
} from '@yard-brace/core';
import {
  Color,
  type LineSegments,
  PerspectiveCamera,
  Raycaster,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { ArtToDraw } from '../compute/messages';
import { ArtObject } from './art-object';
import { groundGrid } from './grid';
import { addLights } from './lights';
import { PivotObject } from './pivot-object';
import { ShapeObject } from './shape-object';

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

export type Hit = { shape: string } | { art: { at: Vec3; material: number } } | null;

/** The bench's window on a piece. Knows three.js and nothing of Angular; draws only when something changed. */
export class YardView {
  /** called after each drawn frame */
  onFrame: (tags: TagPlace[]) => void = () => undefined;
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(38, 1, 0.01, 1000);
  private readonly controls: OrbitControls;
  private readonly pivot = new PivotObject();
  private art: ArtObject | undefined;
  private artGroups: ArtToDraw['groups'] = [];
  private artBounds: Bounds | undefined;
  private shapes: ShapeObject[] = [];
  private grid: LineSegments | undefined;
  private veil = 0.5;
  private lit: string | null = null;
  private asked = 0;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly gridMetres: number,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: false });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    this.scene.background = new Color('#F4F0E7');
    addLights(this.scene);
    this.scene.add(this.pivot.group);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.addEventListener('change', () => this.draw());
    this.camera.position.set(3, 2, 4);
  }

  /** Show a piece's art and look at it whole. */
  setArt(art: ArtToDraw, document: PieceDocument): void {
    this.clearArt();
    this.art = new ArtObject(art, document, () => this.draw());
    this.artGroups = art.groups;
    const local = boundsOf(art.positions);
    const shift = (p: Vec3): Vec3 => [p[0] + art.origin[0], p[1] + art.origin[1], p[2] + art.origin[2]];
    this.artBounds = { min: shift(local.min), max: shift(local.max) };
    this.scene.add(this.art.group);
    this.layGround();
    this.applyVeil();
    this.fit();
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

  setPivot(position: Vec3): void {
    this.pivot.group.position.set(...position);
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

  /** Bring the whole piece into view, from where it is looked at now. */
  fit(): void {
    const bounds = this.artBounds;
    if (!bounds || isEmpty(bounds)) return;
    const centre = new Vector3(...centreOf(bounds));
    const radius = Math.max(1e-6, diagonalOf(bounds) / 2);
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    const narrow = Math.min(1, this.camera.aspect);
    const away = (radius / Math.sin((this.camera.fov * Math.PI) / 360) / narrow) * 1.02;
    this.camera.near = radius / 200;
    this.camera.far = radius * 400;
    this.camera.position.copy(centre).addScaledVector(direction, away);
    this.controls.target.copy(centre);
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.draw();
  }

  /** What is at a place on the canvas, in CSS pixels from its corner. */
  pick(x: number, y: number): Hit {
    const { clientWidth, clientHeight } = this.canvas;
    const ray = new Raycaster();
    ray.firstHitOnly = true;
    ray.setFromCamera(new Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2), this.camera);
    const shapes =
      this.veil > 0.02
        ? ray.intersectObjects(
            this.shapes.map((shape) => shape.mesh),
            false,
          )
        : [];
    const art = this.art && this.veil < 0.98 ? ray.intersectObject(this.art.mesh, false) : [];
    if (shapes[0]) return { shape: (shapes[0].object.userData['shape'] as ShapeObject).id };
    if (!art[0]) return null;
    const corner = (art[0].faceIndex ?? 0) as number;
    const group = this.artGroups.find(({ start, count }) => corner >= start && corner < start + count);
    return { art: { at: art[0].point.toArray() as Vec3, material: group?.material ?? -1 } };
  }

  resize(width: number, height: number): void {
    if (width === 0 || height === 0) return;
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  dispose(): void {
    cancelAnimationFrame(this.asked);
    this.clearArt();
    this.setShapes([]);
    cancelAnimationFrame(this.asked);
    this.controls.dispose();
    this.renderer.dispose();
  }

  /** Nothing is on the bench yet, or no longer. */
  clearArt(): void {
    if (!this.art) return;
    this.scene.remove(this.art.group);
    this.art.dispose();
    this.art = undefined;
    this.artBounds = undefined;
    this.draw();
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
    for (const shape of this.shapes) shape.show(Math.min(1, this.veil * 2), shape.id === lit, lit !== null);
    this.draw();
  }

  private draw(): void {
    cancelAnimationFrame(this.asked);
    this.asked = requestAnimationFrame(() => this.drawNow());
  }

  private drawNow(): void {
    const distance = this.camera.position.distanceTo(this.pivot.group.position);
    this.pivot.resize(distance * 0.09);
    this.renderer.render(this.scene, this.camera);
    this.onFrame(this.veil > 0.02 ? this.shapes.map((shape) => this.tagPlace(shape)) : []);
  }

  private tagPlace(shape: ShapeObject): TagPlace {
    const p = shape.tagAt.clone().project(this.camera);
    const { clientWidth, clientHeight } = this.canvas;
    return {
      id: shape.id,
      x: ((p.x + 1) / 2) * clientWidth,
      y: ((1 - p.y) / 2) * clientHeight,
      behind: p.z > 1,
    };
  }
}
