import { type Shape, shapeBounds, type Vec3 } from '@yard-brace/core';
import { Group, type Raycaster } from 'three';
import type { PickableLayer, Place } from '../layer';
import type { MovedParts } from './art-layer';
import { ShapeObject } from './shape-object';

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

/** The proxy shapes, told apart by tint and number. */
export class ProxiesLayer implements PickableLayer<string> {
  readonly object = new Group();
  private kept: readonly NumberedShape[] = [];
  private shapes: ShapeObject[] = [];
  private moved: MovedShapes | null = null;
  private look: ProxyLook = {
    strength: 1,
    lit: null,
    chosen: new Set(),
    hidden: new Set(),
    locked: new Set(),
    outlined: false,
  };

  constructor(private readonly changed: () => void) {}

  set(shapes: readonly NumberedShape[]): void {
    this.clear();
    this.kept = shapes;
    this.shapes = shapes.map(({ id, number, shape }) => new ShapeObject(id, number, shape));
    for (const shape of this.shapes) this.object.add(shape.group);
    // They can be picked before they are drawn.
    this.object.updateMatrixWorld(true);
    this.show(this.look);
  }

  /** Some shapes as they are while they are dragged; null when they are as they were set. */
  preview(dragged: ReadonlyMap<string, Shape> | null): void {
    for (const [i, drawn] of this.shapes.entries()) {
      const wanted = dragged?.get(drawn.id) ?? this.kept[i]!.shape;
      if (wanted !== drawn.shape) this.redraw(i, { ...this.kept[i]!, shape: wanted });
    }
    this.object.updateMatrixWorld(true);
    this.show(this.look);
  }

  /** Some shapes turned about an axis for a look, with the parts they belong to; null when all stand where they are. */
  move(moved: MovedShapes | null): void {
    this.moved = moved;
    this.show(this.look);
  }

  show(look: ProxyLook): void {
    this.look = look;
    for (const shape of this.shapes) shape.move(this.moved?.ids.has(shape.id) ? this.moved.matrix : null);
    this.object.updateMatrixWorld(true);
    const lit = this.shapes.some(({ id }) => id === look.lit) ? look.lit : null;
    for (const shape of this.shapes)
      shape.show(look.hidden.has(shape.id) ? 0 : look.strength, {
        lit: shape.id === lit,
        anyLit: lit !== null,
        chosen: look.chosen.has(shape.id),
        changed: look.changed?.has(shape.id) ?? false,
        outlined: look.outlined,
      });
    this.changed();
  }

  /** The nearest shape under a ray, while shapes are to be seen. */
  pick(ray: Raycaster): string | null {
    if (this.look.strength <= UNSEEN) return null;
    const { hidden, locked } = this.look;
    const meshes = this.shapes.flatMap(({ id, mesh }) => (hidden.has(id) || locked.has(id) ? [] : [mesh]));
    const [hit] = ray.intersectObjects(meshes, false);
    return hit ? (hit.object.userData['shape'] as ShapeObject).id : null;
  }

  /** where the tags stand */
  places(): readonly Place[] {
    if (this.look.strength <= UNSEEN) return [];
    return this.shapes.flatMap(({ id, tagAt }) => (this.look.hidden.has(id) ? [] : [{ id, at: tagAt }]));
  }

  /** the middles of those that can be picked */
  middles(): readonly Place[] {
    const { hidden, locked, strength } = this.look;
    if (strength <= UNSEEN) return [];
    return this.shapes.flatMap(({ id, shape }) => {
      if (hidden.has(id) || locked.has(id)) return [];
      const { min, max } = shapeBounds(shape);
      return [{ id, at: min.map((v, k) => (v + max[k]!) / 2) as Vec3 }];
    });
  }

  dispose(): void {
    this.clear();
  }

  private redraw(i: number, { id, number, shape }: NumberedShape): void {
    const before = this.shapes[i]!;
    this.object.remove(before.group);
    before.dispose();
    this.shapes[i] = new ShapeObject(id, number, shape);
    this.object.add(this.shapes[i]!.group);
  }

  private clear(): void {
    for (const shape of this.shapes) {
      this.object.remove(shape.group);
      shape.dispose();
    }
    this.shapes = [];
  }
}
