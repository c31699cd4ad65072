import type { PieceDocument } from '@yard-brace/core';
import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
  type Plane,
  type Raycaster,
} from 'three';
import { type ArtGeometry, holdGeometry, releaseGeometry, withIndex } from './art-geometry';
import { ArtMaterials } from './art-materials';
import type { ArtToDraw } from './art-to-draw';

const FAINT_OPACITY = 0.12;
const INK_OPACITY = 0.4;

/** How the art is drawn. */
export interface ArtLook {
  /** front and back of faces told apart */
  facing: boolean;
  /** a checker in place of the pictures */
  checker: boolean;
  /** the UV set that it lies on */
  checkerSet?: number;
  wire: boolean;
}

export interface ArtHit {
  /** number of the triangle */
  face: number;
  /** metres, in the piece's space */
  at: [number, number, number];
}

type PartLook = 'whole' | 'faint' | 'gone';

const bare = (): Mesh<BufferGeometry, MeshLambertMaterial[]> => new Mesh(new BufferGeometry(), []);

/** The art as three.js draws it: its faces, its inked edges, and what of it is hidden, faint, cut away or drawn elsewhere. */
export class ArtObject {
  readonly group = new Group();
  readonly mesh: Mesh<BufferGeometry, MeshLambertMaterial[]>;
  private readonly geometry: ArtGeometry;
  private readonly materials: ArtMaterials;
  private readonly faint = bare();
  private readonly ink: LineSegments<BufferGeometry, LineBasicMaterial>;
  private wire: LineSegments<BufferGeometry, LineBasicMaterial> | undefined;
  private moved: Mesh<BufferGeometry, MeshLambertMaterial[]> | undefined;
  private painted: Mesh<BufferGeometry, MeshLambertMaterial> | undefined;
  private whole: ((face: number) => boolean) | null = null;
  private clip: Plane | null = null;
  private opacity = 1;

  constructor(
    readonly art: ArtToDraw,
    document: Pick<PieceDocument, 'materials' | 'pictures'>,
    changed: () => void,
  ) {
    this.geometry = holdGeometry(art);
    this.materials = new ArtMaterials(art, document, changed);
    this.mesh = new Mesh(this.geometry.faces, this.materials.all);
    this.faint.material = this.materials.all.map((material) => {
      const faint = material.clone();
      Object.assign(faint, { transparent: true, opacity: FAINT_OPACITY, depthWrite: false });
      return faint;
    });
    this.faint.visible = false;
    this.ink = new LineSegments(
      this.geometry.ink,
      new LineBasicMaterial({ color: '#1E2A2F', transparent: true, opacity: INK_OPACITY }),
    );
    this.group.add(this.mesh, this.faint, this.ink);
    this.group.position.set(...art.origin);
  }

  /** Paint every vertex in a colour of its own ([3n], linear) in place of its material; null takes that away. */
  paint(colors: Float32Array | null): void {
    if (this.painted) {
      this.group.remove(this.painted);
      this.painted.geometry.dispose();
      this.painted.material.dispose();
      this.painted = undefined;
    }
    this.mesh.visible = !colors;
    if (!colors) return;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', this.geometry.faces.getAttribute('position'));
    if (this.art.normals) geometry.setAttribute('normal', this.geometry.faces.getAttribute('normal'));
    geometry.setAttribute('color', new BufferAttribute(colors, 3));
    geometry.setIndex(this.geometry.faces.getIndex());
    const material = new MeshLambertMaterial({
      vertexColors: true,
      flatShading: !this.art.normals,
      side: DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
      clippingPlanes: this.clip ? [this.clip] : null,
    });
    this.painted = new Mesh(geometry, material);
    this.group.add(this.painted);
    this.fade(this.opacity);
  }

  /** 0 is gone, 1 is solid. */
  fade(opacity: number): void {
    this.opacity = opacity;
    this.group.visible = opacity > 0.01;
    for (const material of this.drawnMaterials()) {
      material.transparent = opacity < 1;
      material.opacity = opacity;
      material.depthWrite = opacity > 0.5;
      material.needsUpdate = true;
    }
    this.ink.material.opacity = INK_OPACITY * opacity;
  }

  /** Draw some parts whole, some faintly, the rest not at all; null draws everything whole. */
  showParts(looks: ((part: number) => PartLook) | null): void {
    this.whole = looks && ((face) => looks(this.art.part[face]!) === 'whole');
    if (this.mesh.geometry !== this.geometry.faces) this.mesh.geometry.dispose();
    this.faint.geometry.dispose();
    this.mesh.geometry = looks ? this.facesWhere((part) => looks(part) === 'whole') : this.geometry.faces;
    this.faint.geometry = looks ? this.facesWhere((part) => looks(part) === 'faint') : new BufferGeometry();
    this.faint.visible = !!looks;
    this.ink.visible = !looks;
  }

  /** Draw some parts elsewhere, the rest where it stands; null puts all back. */
  move(parts: ((part: number) => boolean) | null, matrix?: Matrix4): void {
    if (this.moved) {
      this.group.remove(this.moved);
      this.moved.geometry.dispose();
      this.moved = undefined;
    }
    this.showParts(parts && ((part) => (parts(part) ? 'gone' : 'whole')));
    if (!parts || !matrix) return;
    this.moved = new Mesh(this.facesWhere(parts), this.mesh.material);
    const { x, y, z } = this.group.position;
    this.moved.matrixAutoUpdate = false;
    this.moved.matrix
      .makeTranslation(-x, -y, -z)
      .multiply(matrix)
      .multiply(new Matrix4().makeTranslation(x, y, z));
    this.group.add(this.moved);
  }

  /** Its rough surface stands for it, where it has one and all of it is drawn as it is. */
  roughen(rough: boolean): void {
    const { faces, rough: few } = this.geometry;
    if (few && (this.mesh.geometry === faces || this.mesh.geometry === few))
      this.mesh.geometry = rough ? few : faces;
  }

  look({ wire, ...look }: ArtLook): void {
    this.materials.look(look);
    if (wire && !this.wire) this.wire = this.wireLines();
    if (this.wire) this.wire.visible = wire;
  }

  /** What lies in front of the plane is cut away. */
  cut(plane: Plane | null): void {
    this.clip = plane;
    const lines = this.wire ? [this.ink.material, this.wire.material] : [this.ink.material];
    for (const material of [...this.drawnMaterials(), ...this.faint.material, ...lines]) {
      material.clippingPlanes = plane ? [plane] : null;
      material.needsUpdate = true;
    }
  }

  /** The nearest face that is drawn whole and not cut away. */
  hit(ray: Raycaster): ArtHit | null {
    const local = ray.ray.clone();
    local.origin.sub(this.group.position);
    const tree = this.geometry.tree();
    const hits =
      this.whole || this.clip ? tree.raycast(local, DoubleSide) : [tree.raycastFirst(local, DoubleSide)];
    let nearest: ArtHit | null = null;
    let distance = Infinity;
    for (const hit of hits) {
      const face = hit?.faceIndex;
      if (!hit || hit.distance >= distance || face === null || face === undefined) continue;
      if (this.whole && !this.whole(face)) continue;
      const at = hit.point.add(this.group.position);
      if (this.clip && this.clip.distanceToPoint(at) < 0) continue;
      distance = hit.distance;
      nearest = { face, at: at.toArray() };
    }
    return nearest;
  }

  dispose(): void {
    this.paint(null);
    if (this.mesh.geometry !== this.geometry.faces) this.mesh.geometry.dispose();
    this.faint.geometry.dispose();
    this.moved?.geometry.dispose();
    this.ink.material.dispose();
    this.wire?.geometry.dispose();
    this.wire?.material.dispose();
    for (const material of this.faint.material) material.dispose();
    this.materials.dispose();
    releaseGeometry(this.geometry);
  }

  private drawnMaterials(): MeshLambertMaterial[] {
    return this.painted ? [...this.mesh.material, this.painted.material] : this.mesh.material;
  }

  /** The same vertices with an index of only some faces. */
  private facesWhere(takes: (part: number) => boolean): BufferGeometry {
    const { indices, part, groups } = this.art;
    const picked = new Uint32Array(indices.length);
    const taken: { start: number; count: number }[] = [];
    let at = 0;
    for (const { start, count } of groups) {
      const from = at;
      for (let face = start; face < start + count; face++) {
        if (!takes(part[face]!)) continue;
        picked[at] = indices[face * 3]!;
        picked[at + 1] = indices[face * 3 + 1]!;
        picked[at + 2] = indices[face * 3 + 2]!;
        at += 3;
      }
      taken.push({ start: from / 3, count: (at - from) / 3 });
    }
    return withIndex(this.geometry.faces, { indices: picked.subarray(0, at), groups: taken });
  }

  /** Each shared edge once: a side is drawn by the lower of its two faces. */
  private wireLines(): LineSegments<BufferGeometry, LineBasicMaterial> {
    const { indices, neighbours } = this.art;
    const lines = new Uint32Array(indices.length * 2);
    let at = 0;
    for (let side = 0; side < indices.length; side++) {
      if (neighbours[side]! > ((side / 3) | 0)) continue;
      lines[at++] = indices[side]!;
      lines[at++] = indices[side % 3 === 2 ? side - 2 : side + 1]!;
    }
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', this.geometry.faces.getAttribute('position'));
    geometry.setIndex(new BufferAttribute(lines.subarray(0, at), 1));
    const wire = new LineSegments(
      geometry,
      new LineBasicMaterial({ color: '#17616E', transparent: true, opacity: 0.55 }),
    );
    this.group.add(wire);
    return wire;
  }
}
