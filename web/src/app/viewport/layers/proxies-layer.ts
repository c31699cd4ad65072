import {
  applyMatrix,
  type Bounds,
  centreOf,
  emptyBounds,
  type Shape,
  shapeBounds,
  unionOf,
  type Vec3,
} from '@yard-brace/core';
import { Color, Group, type Raycaster } from 'three';
import { tintOf } from '../../drawing/tints';
import type { PickableLayer, Place } from '../layer';
import type { MovedParts } from './art-layer';
import { type ShapeInk, ShapesMesh } from './shapes-mesh';

export interface NumberedShape {
  id: string;
  number: number;
  shape: Shape;
}

/** How the shapes are drawn. */
export interface ProxyLook {
  /** 0 to 1, from the veil */
  strength: number;
  /** the one that is pointed at */
  lit: string | null;
  chosen: ReadonlySet<string>;
  /** made otherwise by an importer, in its own colour */
  changed?: ReadonlySet<string>;
  /** not drawn */
  hidden: ReadonlySet<string>;
  /** drawn, and passed by when something is picked */
  locked: ReadonlySet<string>;
  /** over painted art all are outlines */
  outlined: boolean;
}

/** Shapes drawn elsewhere for a look. */
export interface MovedShapes extends Pick<MovedParts, 'matrix'> {
  ids: ReadonlySet<string>;
}

const UNSEEN = 0.04;
const INK = new Color('#1E2A2F');
const VERMILION = new Color('#C8412B');

/** The proxy shapes, told apart by tint and number. */
export class ProxiesLayer implements PickableLayer<string> {
  readonly object = new Group();
  private readonly mesh = new ShapesMesh();
  private kept: readonly NumberedShape[] = [];
  /** as they are drawn: those that are dragged, as they are then */
  private shapes: readonly NumberedShape[] = [];
  /** where the tags stand: over the middle of each, at its top */
  private tags: readonly Place[] = [];
  private moved: MovedShapes | null = null;
  private look: ProxyLook = {
    strength: 1,
    lit: null,
    chosen: new Set(),
    hidden: new Set(),
    locked: new Set(),
    outlined: false,
  };

  constructor(private readonly changed: () => void) {
    this.object.add(this.mesh.fill, this.mesh.edges);
  }

  set(shapes: readonly NumberedShape[]): void {
    this.kept = shapes;
    this.draw(shapes);
  }

  /** Some shapes as they are while they are dragged; null when they are as they were set. */
  preview(dragged: ReadonlyMap<string, Shape> | null): void {
    this.draw(
      this.kept.map((kept) => {
        const shape = dragged?.get(kept.id);
        return shape ? { ...kept, shape } : kept;
      }),
    );
  }

  /** Some shapes turned about an axis for a look, with the parts they belong to; null when all stand where they are. */
  move(moved: MovedShapes | null): void {
    this.moved = moved;
    this.draw(this.shapes);
  }

  show(look: ProxyLook): void {
    this.look = look;
    const seen = look.strength > 0.01;
    this.mesh.draw((i) => seen && !look.hidden.has(this.shapes[i]!.id));
    const anyLit = this.shapes.some(({ id }) => id === look.lit);
    this.shapes.forEach(({ id, number }, i) => this.mesh.paint(i, inkOf(id, number, { ...look, anyLit })));
    this.changed();
  }

  /** The nearest shape under a ray, while shapes are to be seen. */
  pick(ray: Raycaster): string | null {
    if (this.look.strength <= UNSEEN) return null;
    const hit = this.mesh.under(ray).find((i) => !this.look.locked.has(this.shapes[i]!.id));
    return hit === undefined ? null : this.shapes[hit]!.id;
  }

  places(): readonly Place[] {
    if (this.look.strength <= UNSEEN) return [];
    return this.tags.filter(({ id }) => !this.look.hidden.has(id));
  }

  /** Bounds of those that are drawn; empty when none is. */
  extent(): Bounds {
    if (this.look.strength <= UNSEEN) return emptyBounds();
    return this.shapes
      .filter(({ id }) => !this.look.hidden.has(id))
      .reduce((all, { shape }) => unionOf(all, shapeBounds(shape)), emptyBounds());
  }

  /** the middles of those that can be picked */
  middles(): readonly Place[] {
    if (this.look.strength <= UNSEEN) return [];
    const { hidden, locked } = this.look;
    return this.shapes
      .filter(({ id }) => !hidden.has(id) && !locked.has(id))
      .map(({ id, shape }) => ({ id, at: centreOf(shapeBounds(shape)) }));
  }

  dispose(): void {
    this.mesh.dispose();
  }

  private draw(shapes: readonly NumberedShape[]): void {
    const alike =
      shapes.length === this.shapes.length && shapes.every(({ shape }, i) => this.mesh.change(i, shape));
    this.shapes = shapes;
    if (!alike) this.mesh.set(shapes.map(({ shape }) => shape));
    const matrixOf = (id: string) => (this.moved?.ids.has(id) ? this.moved.matrix : null);
    shapes.forEach(({ id }, i) => this.mesh.place(i, matrixOf(id)));
    this.tags = shapes.map(({ id, shape }) => {
      const [at, matrix] = [topOf(shape), matrixOf(id)];
      return { id, at: matrix ? applyMatrix(matrix, at) : at };
    });
    // They can be picked before they are drawn.
    this.object.updateMatrixWorld(true);
    this.show(this.look);
  }
}

function topOf(shape: Shape): Vec3 {
  const bounds = shapeBounds(shape);
  const [x, , z] = centreOf(bounds);
  return [x, bounds.max[1], z];
}

/** A lit shape stands out from the rest; over painted art all are outlines. */
function inkOf(id: string, number: number, look: ProxyLook & { anyLit: boolean }): ShapeInk {
  const tint = new Color(tintOf(number));
  const [lit, chosen] = [id === look.lit, look.chosen.has(id)];
  const changed = look.changed?.has(id) ?? false;
  const fill = lit ? 0.55 : chosen ? 0.34 : look.outlined ? 0.04 : look.anyLit ? 0.12 : 0.28;
  return {
    fill: changed ? VERMILION : tint,
    fillOpacity: look.strength * fill,
    edge: changed ? VERMILION : chosen ? INK : tint.clone().lerp(INK, 0.35),
    edgeOpacity: look.strength * (look.anyLit && !lit && !chosen ? 0.35 : 0.95),
  };
}
