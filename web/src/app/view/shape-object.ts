import { type Shape, shapeBounds, shapePolygons, fanTriangles, polygonEdges } from '@yard-brace/core';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  Vector3,
} from 'three';
import { tintOf } from './tints';

const INK = new Color('#1E2A2F');

/** One proxy shape in the view: a translucent tint with inked edges. */
export class ShapeObject {
  readonly group = new Group();
  readonly mesh: Mesh<BufferGeometry, MeshBasicMaterial>;
  /** where its tag stands: the middle of its top */
  readonly tagAt: Vector3;
  private readonly lines: LineSegments<BufferGeometry, LineBasicMaterial>;

  constructor(
    readonly id: string,
    readonly number: number,
    shape: Shape,
  ) {
    const { points, faces } = shapePolygons(shape, { segments: 32 });
    const { min, max } = shapeBounds(shape);
    const origin = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2] as const;
    const positions = new BufferAttribute(
      Float32Array.from(points, (value, i) => value - origin[i % 3]!),
      3,
    );
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', positions);
    geometry.setIndex(new BufferAttribute(fanTriangles(faces), 1));
    const edges = new BufferGeometry();
    edges.setAttribute('position', positions);
    edges.setIndex(new BufferAttribute(polygonEdges(faces), 1));
    const tint = new Color(tintOf(number));
    this.mesh = new Mesh(
      geometry,
      new MeshBasicMaterial({ color: tint, transparent: true, depthWrite: false, side: DoubleSide }),
    );
    this.lines = new LineSegments(
      edges,
      new LineBasicMaterial({ color: tint.clone().lerp(INK, 0.35), transparent: true }),
    );
    this.mesh.renderOrder = 2;
    this.lines.renderOrder = 3;
    this.mesh.userData['shape'] = this;
    this.group.add(this.mesh, this.lines);
    this.group.position.set(...origin);
    this.tagAt = new Vector3(origin[0], max[1], origin[2]);
  }

  /** `strength` 0 to 1 from the veil; a lit shape stands out from the rest; over painted art all are outlines. */
  show(strength: number, lit: boolean, anyLit: boolean, outlined = false): void {
    this.group.visible = strength > 0.01;
    this.mesh.material.opacity = strength * (lit ? 0.55 : outlined ? 0.04 : anyLit ? 0.12 : 0.28);
    this.lines.material.opacity = strength * (anyLit && !lit ? 0.35 : 0.95);
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.mesh.material.dispose();
    this.lines.geometry.dispose();
    this.lines.material.dispose();
  }
}
