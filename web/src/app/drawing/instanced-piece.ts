import {
  fanTriangles,
  footprint,
  type Matrix,
  type PieceDocument,
  polygonEdges,
  shapePolygons,
} from '@yard-brace/core';
import {
  Box3,
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
  MeshLambertMaterial,
  type Plane,
  Vector3,
} from 'three';
import { tintOf } from './tints';
import { type ArtGeometry, holdGeometry, releaseGeometry } from './art-geometry';
import { ArtMaterials } from './art-materials';
import type { ArtOfPiece, ArtToDraw } from './art-to-draw';
import { InstancedLines } from './instanced-lines';

const INK = '#1E2A2F';
const INK_OPACITY = 0.4;
const FILL_OPACITY = 0.3;
/** A sphere or a capsule in a set of thousands has no more sides than it needs to be told from a box. */
const ROUND_SEGMENTS = 16;
const BOX_COLOR = '#c2b8a6';
/** Parts that are drawn as a box each, at most; all together as one where there are more. */
const MAX_BOXES = 24;
const PIVOT_CROSS_METRES = 0.12;
const MIN_CAPACITY = 4;
const MIRROR = new Matrix4().makeScale(-1, 1, 1);

/** Whole, as it is or mirrored; or only as the boxes round its parts, where it is too small to be told from them. */
export const INSTANCE_FORMS = ['straight', 'mirrored', 'light'] as const;
export type InstanceForm = (typeof INSTANCE_FORMS)[number];

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
    forceSinglePass: true,
  });
  private readonly edge = new LineBasicMaterial({ vertexColors: true, transparent: true });
  private readonly drawn = new Map<InstanceForm, Copies>();
  private readonly outline: BufferGeometry;
  private readonly outlineInk = new LineBasicMaterial({ color: INK, depthTest: false, transparent: true });
  private readonly boxes: BufferGeometry;
  private readonly plain = new MeshLambertMaterial({
    color: BOX_COLOR,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  });
  private artStrength = 1;
  private shapeStrength = 0;
  private planned = false;

  constructor(
    readonly piece: ArtOfPiece,
    changed: () => void,
  ) {
    this.geometry = holdGeometry(piece.art);
    this.materials = new ArtMaterials(piece.art, piece.document, changed);
    [this.shapes, this.shapeEdges] = shapesOf(piece.document, piece.art.origin);
    this.boxes = boxesOf(piece.art);
    this.outline = outlineOf(piece);
  }

  get triangles(): number {
    return this.piece.art.indices.length / 3;
  }

  /** All the places that it stands at, by how it is drawn there. */
  set(places: Readonly<Record<InstanceForm, readonly Instance[]>>): void {
    for (const form of INSTANCE_FORMS) {
      let copies = this.drawn.get(form);
      if (!copies || places[form].length > copies.capacity) {
        copies?.dispose(this.group);
        const capacity = Math.max(MIN_CAPACITY, 2 ** Math.ceil(Math.log2(places[form].length)));
        copies = new Copies(this.parts(form, capacity), form, this.group);
        this.drawn.set(form, copies);
      }
      copies.place(places[form], this.piece.art.origin);
    }
    this.fade(this.artStrength, this.shapeStrength, this.planned);
  }

  /** One of its places, moved: for a drag. */
  move(form: InstanceForm, index: number, matrix: Matrix): void {
    this.drawn.get(form)?.move(index, matrix, this.piece.art.origin);
  }

  /** The colours that its places are drawn through. */
  paint(form: InstanceForm, index: number, tint: Color): void {
    this.drawn.get(form)?.paint(index, tint);
  }

  /** How strong art and shapes are seen: 0 is gone, 1 is whole; and whether footprints are drawn. */
  fade(art: number, shapes: number, planned: boolean): void {
    [this.artStrength, this.shapeStrength, this.planned] = [art, shapes, planned];
    for (const material of this.materials.all) {
      material.transparent = art < 1;
      material.opacity = art;
      material.depthWrite = art > 0.5;
    }
    this.ink.opacity = INK_OPACITY * art;
    this.fill.opacity = FILL_OPACITY * shapes;
    this.edge.opacity = shapes;
    this.plain.transparent = art < 1;
    this.plain.opacity = art;
    for (const copies of this.drawn.values())
      copies.show({ art: art > 0.01, shapes: shapes > 0.01, planned });
  }

  cut(plane: Plane | null): void {
    for (const material of [...this.materials.all, this.plain, this.ink, this.fill, this.edge]) {
      material.clippingPlanes = plane ? [plane] : null;
      material.needsUpdate = true;
    }
  }

  get tree() {
    return this.geometry.tree();
  }

  dispose(): void {
    for (const copies of this.drawn.values()) copies.dispose(this.group);
    for (const material of [this.plain, this.ink, this.fill, this.edge, this.outlineInk]) material.dispose();
    for (const geometry of [this.shapes, this.shapeEdges, this.boxes, this.outline]) geometry.dispose();
    this.materials.dispose();
    releaseGeometry(this.geometry);
  }

  private parts(form: InstanceForm, count: number): Parts {
    const light = form === 'light';
    const art: Parts['art'] = light
      ? new InstancedMesh(this.boxes, this.plain, count)
      : new InstancedMesh<BufferGeometry, Material[]>(this.geometry.faces, this.materials.all, count);
    const fill = new InstancedMesh(this.shapes, this.fill, count);
    for (const mesh of [art, fill]) mesh.frustumCulled = false;
    fill.renderOrder = 2;
    const ink = new InstancedLines(this.geometry.ink, this.ink, count);
    const edge = new InstancedLines(this.shapeEdges, this.edge, count);
    edge.renderOrder = 3;
    const outline = new InstancedLines(this.outline, this.outlineInk, count);
    outline.renderOrder = 7;
    return { art, ink, fill, edge, outline };
  }
}

interface Parts {
  art: InstancedMesh<BufferGeometry, Material | Material[]>;
  ink: InstancedLines<Material>;
  fill: InstancedMesh;
  edge: InstancedLines<Material>;
  outline: InstancedLines<Material>;
}

/** The copies that are drawn alike. */
class Copies {
  readonly capacity: number;
  private readonly all: (InstancedMesh | InstancedLines<Material>)[];
  private readonly mirrored: boolean;
  private readonly light: boolean;

  constructor(
    private readonly parts: Parts,
    form: InstanceForm,
    group: Group,
  ) {
    this.capacity = parts.art.count;
    this.mirrored = form === 'mirrored';
    this.light = form === 'light';
    this.all = [parts.art, parts.ink, parts.fill, parts.edge, parts.outline] as typeof this.all;
    for (const part of this.all) {
      // three.js turns faces by the object's own matrix: what is mirrored is so by that, and its places undo it.
      if (this.mirrored) part.scale.x = -1;
      group.add(part);
    }
  }

  place(instances: readonly Instance[], origin: readonly number[]): void {
    for (const part of this.all) part.count = instances.length;
    instances.forEach(({ matrix, tint }, i) => {
      this.write(i, matrix, origin);
      this.parts.art.setColorAt(i, tint);
    });
    this.told();
    if (this.parts.art.instanceColor) this.parts.art.instanceColor.needsUpdate = true;
  }

  paint(index: number, tint: Color): void {
    this.parts.art.setColorAt(index, tint);
    this.parts.art.instanceColor!.needsUpdate = true;
  }

  move(index: number, matrix: Matrix, origin: readonly number[]): void {
    this.write(index, matrix, origin);
    this.told();
  }

  show({ art, shapes, planned }: { art: boolean; shapes: boolean; planned: boolean }): void {
    const { art: mesh, ink, fill, edge, outline } = this.parts;
    const any = mesh.count > 0;
    // Too small to be told from its boxes, it is too small for its edges, its shapes and its outline.
    const told = any && !this.light;
    mesh.visible = art && any;
    ink.visible = art && told;
    fill.visible = edge.visible = shapes && told;
    outline.visible = planned && told;
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

/** The outlines of the parts seen from above, over the piece, and a cross at its pivot: lines from the art's origin. */
function outlineOf({ art, document }: ArtOfPiece): BufferGeometry {
  const { positions, indices, part, origin } = art;
  const points = new Map<number, number[]>();
  const many = new Set(part).size > MAX_BOXES;
  let top = -Infinity;
  indices.forEach((v, i) => {
    const key = many ? 0 : part[(i / 3) | 0]!;
    const own = points.get(key) ?? [];
    own.push(positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!);
    top = Math.max(top, positions[v * 3 + 1]!);
    points.set(key, own);
  });
  const ends: number[] = [];
  for (const own of points.values()) {
    const ring = footprint(own);
    for (let i = 0; i < ring.length; i += 2) {
      const k = (i + 2) % ring.length;
      ends.push(ring[i]!, top, ring[i + 1]!, ring[k]!, top, ring[k + 1]!);
    }
  }
  if (Number.isFinite(top)) {
    const [x, z] = [document.pivot.position[0] - origin[0], document.pivot.position[2] - origin[2]];
    const cross = PIVOT_CROSS_METRES;
    ends.push(x - cross, top, z, x + cross, top, z, x, top, z - cross, x, top, z + cross);
  }
  const lines = new BufferGeometry();
  lines.setAttribute('position', new Float32BufferAttribute(ends, 3));
  return lines;
}

/** A box round each part, from the art's origin. */
function boxesOf({ positions, indices, part }: ArtToDraw): BufferGeometry {
  const parts = new Map<number, Box3>();
  const many = new Set(part).size > MAX_BOXES;
  const at = new Vector3();
  indices.forEach((v, i) => {
    const key = many ? 0 : part[(i / 3) | 0]!;
    const box = parts.get(key) ?? new Box3();
    box.expandByPoint(at.fromArray(positions, v * 3));
    parts.set(key, box);
  });
  const corners: number[] = [];
  const faces: number[] = [];
  for (const { min, max } of parts.values()) {
    const first = corners.length / 3;
    for (let i = 0; i < 8; i++)
      corners.push(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z);
    for (const v of BOX_FACES) faces.push(first + v);
  }
  const solid = new BufferGeometry();
  solid.setAttribute('position', new Float32BufferAttribute(corners, 3));
  solid.setIndex(faces);
  // Corners of their own for each face, so that it is lit flat.
  const flat = solid.toNonIndexed();
  flat.computeVertexNormals();
  return flat;
}

/** Corners are numbered by their sides: 1 is far along x, 2 along y, 4 along z. */
const BOX_FACES = [
  0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5,
];
