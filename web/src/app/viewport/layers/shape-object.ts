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
  Matrix4,
} from 'three';
import type { Matrix, Vec3 } from '@yard-brace/core';
import { tintOf } from '../../drawing/tints';

const INK = new Color('#1E2A2F');
const VERMILION = new Color('#C8412B');

export interface ShapeLook {
  lit: boolean;
  anyLit: boolean;
  chosen: boolean;
  /** an importer made it otherwise than it was drawn */
  changed: boolean;
  outlined: boolean;
}

/** One proxy shape in the view: a translucent tint with inked edges. */
export class ShapeObject {
  readonly group = new Group();
  readonly mesh: Mesh<BufferGeometry, MeshBasicMaterial>;
  /** where its tag stands: the middle of its top */
  readonly tagAt: Vec3;
  private readonly origin: Vec3;
  private readonly tint: Color;
  private readonly edge: Color;
  private readonly lines: LineSegments<BufferGeometry, LineBasicMaterial>;

  constructor(
    readonly id: string,
    readonly number: number,
    readonly shape: Shape,
  ) {
    const { points, faces } = shapePolygons(shape, { segments: 32 });
    const { min, max } = shapeBounds(shape);
    const origin: Vec3 = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
    this.origin = origin;
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
    const tint = (this.tint = new Color(tintOf(number)));
    this.edge = tint.clone().lerp(INK, 0.35);
    this.mesh = new Mesh(
      geometry,
      new MeshBasicMaterial({ color: tint.clone(), transparent: true, depthWrite: false, side: DoubleSide }),
    );
    this.lines = new LineSegments(edges, new LineBasicMaterial({ color: this.edge, transparent: true }));
    this.mesh.renderOrder = 2;
    this.lines.renderOrder = 3;
    this.mesh.userData['shape'] = this;
    this.group.add(this.mesh, this.lines);
    this.group.matrixAutoUpdate = false;
    this.move(null);
    this.tagAt = [origin[0], max[1], origin[2]];
  }

  /** `strength` 0 to 1 from the veil; a lit shape stands out from the rest; over painted art all are outlines. */
  show(strength: number, { lit, anyLit, chosen, changed, outlined }: ShapeLook): void {
    this.group.visible = strength > 0.01;
    const fill = lit ? 0.55 : chosen ? 0.34 : outlined ? 0.04 : anyLit ? 0.12 : 0.28;
    this.mesh.material.opacity = strength * fill;
    this.lines.material.opacity = strength * (anyLit && !lit && !chosen ? 0.35 : 0.95);
    this.mesh.material.color.copy(changed ? VERMILION : this.tint);
    this.lines.material.color.copy(changed ? VERMILION : chosen ? INK : this.edge);
  }

  /** Drawn elsewhere for a look, by a matrix of the piece's space; null where it is. */
  move(matrix: Matrix | null): void {
    this.group.matrix.makeTranslation(...this.origin);
    if (matrix) this.group.matrix.premultiply(new Matrix4().fromArray(matrix));
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.mesh.material.dispose();
    this.lines.geometry.dispose();
    this.lines.material.dispose();
  }
}
