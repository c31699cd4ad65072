import {
  centreOf,
  fanTriangles,
  type Matrix,
  polygonEdges,
  type Shape,
  shapeBounds,
  shapePolygons,
  transformPoints,
  unionOf,
  type Vec3,
} from '@yard-brace/core';
import {
  BufferAttribute,
  BufferGeometry,
  type Color,
  DoubleSide,
  DynamicDrawUsage,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  type Raycaster,
} from 'three';

/** How one shape is drawn. */
export interface ShapeInk {
  fill: Color;
  fillOpacity: number;
  edge: Color;
  edgeOpacity: number;
}

/** A round has as many sides on the screen, whatever the target makes of it. */
const ROUND_SEGMENTS = 32;

/** Where the vertices of a shape lie in the buffers, and what joins them. */
interface Slot {
  shape: Shape;
  first: number;
  /** 3 a vertex, metres */
  points: Float64Array;
  /** 3 a triangle and 2 an edge, vertices from the shape's first */
  triangles: Uint32Array;
  edges: Uint32Array;
  /** by what its vertices were placed last; absent before they were */
  placed?: Matrix | null;
}

/**
 * Any number of shapes in two draw calls: translucent fills and inked edges. A call each would cost the page more than
 * the drawing, with hundreds of them.
 */
export class ShapesMesh {
  readonly fill = new Mesh(
    new BufferGeometry(),
    new MeshBasicMaterial({
      vertexColors: true,
      transparent: true,
      depthWrite: false,
      side: DoubleSide,
      // Back and front have one colour: which of them is laid down first cannot be seen.
      forceSinglePass: true,
    }),
  );
  readonly edges = new LineSegments(
    new BufferGeometry(),
    new LineBasicMaterial({ vertexColors: true, transparent: true }),
  );
  private slots: Slot[] = [];
  private origin: Vec3 = [0, 0, 0];
  /** which shape a drawn triangle is of */
  private shapeOfTriangle: number[] = [];

  constructor() {
    this.fill.renderOrder = 2;
    this.edges.renderOrder = 3;
    for (const drawn of [this.fill, this.edges]) drawn.frustumCulled = false;
  }

  set(shapes: readonly Shape[]): void {
    this.slots = [];
    let first = 0;
    for (const shape of shapes) {
      const slot = slotOf(shape, first);
      this.slots.push(slot);
      first += slot.points.length / 3;
    }
    this.origin = middleOf(shapes);
    for (const drawn of [this.fill, this.edges]) drawn.position.set(...this.origin);
    this.dispose();
    const positions = buffer(first, 3);
    for (const drawn of [this.fill, this.edges]) {
      drawn.geometry = new BufferGeometry();
      drawn.geometry.setAttribute('position', positions);
      drawn.geometry.setAttribute('color', buffer(first, 4));
    }
    this.slots.forEach((_, i) => this.place(i, null));
    this.draw(() => true);
  }

  /** One of them as it is now; false when it has not the vertices that it had, and all must be set again. */
  change(i: number, shape: Shape): boolean {
    const before = this.slots[i]!;
    if (before.shape === shape) return true;
    const now = slotOf(shape, before.first);
    if (!sameTopology(before, now)) return false;
    this.slots[i] = now;
    return true;
  }

  /** Where one of them is drawn: by a matrix of the piece's space; null where it is. */
  place(i: number, matrix: Matrix | null): void {
    const slot = this.slots[i]!;
    if (slot.placed === matrix) return;
    slot.placed = matrix;
    const { points, first } = slot;
    const placed = matrix ? transformPoints(points, matrix) : points;
    const positions = this.fill.geometry.getAttribute('position') as BufferAttribute;
    positions.array.set(
      placed.map((value, k) => value - this.origin[k % 3]!),
      first * 3,
    );
    positions.needsUpdate = true;
    this.fill.geometry.boundingSphere = null;
  }

  /** Only those are drawn, and can be picked, that are wanted. */
  draw(wanted: (i: number) => boolean): void {
    const triangles: number[] = [];
    const edges: number[] = [];
    this.shapeOfTriangle = [];
    this.slots.forEach((slot, i) => {
      if (!wanted(i)) return;
      for (const v of slot.triangles) triangles.push(slot.first + v);
      for (const v of slot.edges) edges.push(slot.first + v);
      for (let t = 0; t < slot.triangles.length; t += 3) this.shapeOfTriangle.push(i);
    });
    this.fill.geometry.setIndex(new BufferAttribute(Uint32Array.from(triangles), 1));
    this.edges.geometry.setIndex(new BufferAttribute(Uint32Array.from(edges), 1));
    for (const drawn of [this.fill, this.edges]) drawn.visible = triangles.length > 0;
  }

  paint(i: number, { fill, fillOpacity, edge, edgeOpacity }: ShapeInk): void {
    const [fills, edges] = [this.fill, this.edges].map(
      ({ geometry }) => geometry.getAttribute('color') as BufferAttribute,
    );
    const { first, points } = this.slots[i]!;
    for (let v = first; v < first + points.length / 3; v++) {
      fills!.setXYZW(v, fill.r, fill.g, fill.b, fillOpacity);
      edges!.setXYZW(v, edge.r, edge.g, edge.b, edgeOpacity);
    }
    fills!.needsUpdate = edges!.needsUpdate = true;
  }

  /** Numbers of the drawn shapes under a ray, the nearest first; one that is met twice stands twice. */
  under(ray: Raycaster): number[] {
    return ray.intersectObject(this.fill, false).map(({ faceIndex }) => this.shapeOfTriangle[faceIndex!]!);
  }

  /** What the graphics card holds; it is made again when it is drawn. */
  dispose(): void {
    this.fill.geometry.dispose();
    this.edges.geometry.dispose();
  }
}

function slotOf(shape: Shape, first: number): Slot {
  const { points, faces } = shapePolygons(shape, { segments: ROUND_SEGMENTS });
  return { shape, first, points, triangles: fanTriangles(faces), edges: polygonEdges(faces) };
}

function sameTopology(a: Slot, b: Slot): boolean {
  return (
    a.points.length === b.points.length &&
    a.triangles.length === b.triangles.length &&
    a.triangles.every((v, i) => v === b.triangles[i])
  );
}

/** Buffers hold what lies far from the origin by its distance from here, so that it keeps its figures. */
function middleOf(shapes: readonly Shape[]): Vec3 {
  return shapes.length ? centreOf(shapes.map(shapeBounds).reduce(unionOf)) : [0, 0, 0];
}

function buffer(vertices: number, each: number): BufferAttribute {
  return new BufferAttribute(new Float32Array(vertices * each), each).setUsage(DynamicDrawUsage);
}
