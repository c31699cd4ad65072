import { fanTriangles, type Matrix, type PieceDocument, polygonEdges, shapePolygons } from '@yard-brace/core';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Float32BufferAttribute,
  Group,
  InstancedMesh,
  LineBasicMaterial,
  type Material,
  Matrix4,
  MeshBasicMaterial,
  type MeshStandardMaterial,
  type Plane,
} from 'three';
import { tintOf } from './tints';
import { type ArtGeometry, holdGeometry, releaseGeometry } from './art-geometry';
import { ArtMaterials } from './art-materials';
import type { ArtOfPiece } from './art-to-draw';
import { InstancedLines } from './instanced-lines';

const INK = '#1E2A2F';
const INK_OPACITY = 0.4;
const FILL_OPACITY = 0.3;
/** A sphere or a capsule in a set of thousands has no more sides than it needs to be told from a box. */
const ROUND_SEGMENTS = 16;
const MIRROR = new Matrix4().makeScale(-1, 1, 1);

/** Where an instance stands, and the colour that its art is drawn through. */
export interface Instance {
  matrix: Matrix;
  tint: Color;
}

/**
 * A piece that stands in many places: its art, inked edges and shapes, each drawn in one call for all of them. Mirrored
 * places are drawn apart, so that their faces look outward.
 */
export class InstancedPiece {
  readonly group = new Group();
  private readonly geometry: ArtGeometry;
  private readonly materials: ArtMaterials;
  private readonly ink = new LineBasicMaterial({ color: INK, transparent: true, opacity: INK_OPACITY });
  private readonly shapes: BufferGeometry;
  private readonly shapeEdges: BufferGeometry;
  private readonly fill = new MeshBasicMaterial({
    vertexColors: true,
    transparent: true,
    opacity: FILL_OPACITY,
    depthWrite: false,
    side: DoubleSide,
  });
  private readonly edge = new LineBasicMaterial({ vertexColors: true, transparent: true });
  private drawn: Copies[] = [];
  private artStrength = 1;
  private shapeStrength = 0;

  constructor(
    readonly piece: ArtOfPiece,
    changed: () => void,
  ) {
    this.geometry = holdGeometry(piece.art);
    this.materials = new ArtMaterials(piece.art, piece.document, changed);
    [this.shapes, this.shapeEdges] = shapesOf(piece.document, piece.art.origin);
  }

  get triangles(): number {
    return this.piece.art.indices.length / 3;
  }

  /** All the places that it stands at: [straight ones, mirrored ones]. */
  set(straight: readonly Instance[], mirrored: readonly Instance[]): void {
    const sets = [straight, mirrored];
    if (this.drawn.length !== 2 || sets.some((set, i) => set.length !== this.drawn[i]!.size)) {
      for (const copies of this.drawn) copies.dispose(this.group);
      this.drawn = sets.map((set, i) => new Copies(this.parts(set.length), i === 1, this.group));
      this.fade(this.artStrength, this.shapeStrength);
    }
    sets.forEach((set, i) => this.drawn[i]!.place(set, this.piece.art.origin));
  }

  /** One of its places, moved: for a drag. */
  move(mirrored: boolean, index: number, matrix: Matrix): void {
    this.drawn[mirrored ? 1 : 0]?.move(index, matrix, this.piece.art.origin);
  }

  /** The colours that its places are drawn through. */
  paint(mirrored: boolean, index: number, tint: Color): void {
    this.drawn[mirrored ? 1 : 0]?.paint(index, tint);
  }

  /** How strong art and shapes are seen: 0 is gone, 1 is whole. */
  fade(art: number, shapes: number): void {
    [this.artStrength, this.shapeStrength] = [art, shapes];
    for (const material of this.materials.all) {
      material.transparent = art < 1;
      material.opacity = art;
      material.depthWrite = art > 0.5;
    }
    this.ink.opacity = INK_OPACITY * art;
    this.fill.opacity = FILL_OPACITY * shapes;
    this.edge.opacity = shapes;
    for (const copies of this.drawn) copies.show(art > 0.01, shapes > 0.01);
  }

  cut(plane: Plane | null): void {
    for (const material of [...this.materials.all, this.ink, this.fill, this.edge]) {
      material.clippingPlanes = plane ? [plane] : null;
      material.needsUpdate = true;
    }
  }

  get tree() {
    return this.geometry.tree();
  }

  dispose(): void {
    for (const copies of this.drawn) copies.dispose(this.group);
    for (const material of [this.ink, this.fill, this.edge]) material.dispose();
    this.shapes.dispose();
    this.shapeEdges.dispose();
    this.materials.dispose();
    releaseGeometry(this.geometry);
  }

  private parts(count: number): Parts {
    const art = new InstancedMesh<BufferGeometry, MeshStandardMaterial[]>(
      this.geometry.faces,
      this.materials.all,
      count,
    );
    const fill = new InstancedMesh(this.shapes, this.fill, count);
    for (const mesh of [art, fill]) mesh.frustumCulled = false;
    fill.renderOrder = 2;
    const ink = new InstancedLines(this.geometry.ink, this.ink, count);
    const edge = new InstancedLines(this.shapeEdges, this.edge, count);
    edge.renderOrder = 3;
    return { art, ink, fill, edge };
  }
}

interface Parts {
  art: InstancedMesh<BufferGeometry, MeshStandardMaterial[]>;
  ink: InstancedLines<Material>;
  fill: InstancedMesh;
  edge: InstancedLines<Material>;
}

/** The copies that are drawn alike: all straight, or all mirrored. */
class Copies {
  private readonly all: (InstancedMesh | InstancedLines<Material>)[];

  constructor(
    private readonly parts: Parts,
    private readonly mirrored: boolean,
    group: Group,
  ) {
    this.all = [parts.art, parts.ink, parts.fill, parts.edge] as typeof this.all;
    for (const part of this.all) {
      // three.js turns faces by the object's own matrix: what is mirrored is so by that, and its places undo it.
      if (mirrored) part.scale.x = -1;
      group.add(part);
    }
  }

  get size(): number {
    return this.parts.art.count;
  }

  place(instances: readonly Instance[], origin: readonly number[]): void {
    instances.forEach(({ matrix, tint }, i) => {
      this.write(i, matrix, origin);
      this.paint(i, tint);
    });
    this.told();
  }

  paint(index: number, tint: Color): void {
    this.parts.art.setColorAt(index, tint);
    this.parts.art.instanceColor!.needsUpdate = true;
  }

  move(index: number, matrix: Matrix, origin: readonly number[]): void {
    this.write(index, matrix, origin);
    this.told();
  }

  show(art: boolean, shapes: boolean): void {
    const { art: mesh, ink, fill, edge } = this.parts;
    mesh.visible = ink.visible = art && this.size > 0;
    fill.visible = edge.visible = shapes && this.size > 0;
  }

  dispose(group: Group): void {
    for (const part of this.all) group.remove(part);
    this.parts.art.dispose();
    this.parts.fill.dispose();
  }

  private write(index: number, matrix: Matrix, [x, y, z]: readonly number[]): void {
    const there = new Matrix4().fromArray(matrix).multiply(new Matrix4().makeTranslation(x!, y!, z!));
    if (this.mirrored) there.premultiply(MIRROR);
    for (const { instanceMatrix } of this.all) there.toArray(instanceMatrix.array, index * 16);
  }

  private told(): void {
    for (const { instanceMatrix } of this.all) instanceMatrix.needsUpdate = true;
  }
}

/** All shapes of a piece as one mesh in their tints, and their edges; from an origin. */
function shapesOf({ proxies }: PieceDocument, origin: readonly number[]): [BufferGeometry, BufferGeometry] {
  const positions: number[] = [];
  const colors: number[] = [];
  const indices: number[] = [];
  const edges: number[] = [];
  proxies.forEach(({ shape }, i) => {
    const { points, faces } = shapePolygons(shape, { segments: ROUND_SEGMENTS });
    const first = positions.length / 3;
    const tint = new Color(tintOf(i + 1));
    for (let v = 0; v < points.length; v++) positions.push(points[v]! - origin[v % 3]!);
    for (let v = 0; v < points.length / 3; v++) colors.push(tint.r, tint.g, tint.b);
    for (const v of fanTriangles(faces)) indices.push(first + v);
    for (const v of polygonEdges(faces)) edges.push(first + v);
  });
  const at = new Float32BufferAttribute(positions, 3);
  const tints = new Float32BufferAttribute(colors, 3);
  return [indices, edges].map((index) => {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', at);
    geometry.setAttribute('color', tints);
    geometry.setIndex(new BufferAttribute(Uint32Array.from(index), 1));
    return geometry;
  }) as [BufferGeometry, BufferGeometry];
}
