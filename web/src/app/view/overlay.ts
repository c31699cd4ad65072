import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
} from 'three';
import type { ArtToDraw } from '../compute/messages';

/** Faces and edges of the art painted over: a selection, or where a fault is. */
export class Overlay {
  readonly group = new Group();
  private readonly faces: Mesh<BufferGeometry, MeshBasicMaterial>;
  private readonly lines: LineSegments<BufferGeometry, LineBasicMaterial>;

  constructor(color: string, opacity = 0.5) {
    this.faces = new Mesh(
      new BufferGeometry(),
      new MeshBasicMaterial({ color, transparent: true, opacity, side: DoubleSide, depthWrite: false }),
    );
    this.lines = new LineSegments(
      new BufferGeometry(),
      new LineBasicMaterial({ color, depthTest: false, transparent: true }),
    );
    this.faces.renderOrder = 4;
    this.lines.renderOrder = 5;
    this.group.add(this.faces, this.lines);
  }

  /** `chosen` is a byte a face of the art, `edges` pairs of points from its origin. */
  show(art: ArtToDraw | undefined, chosen: Uint8Array | null, edges: Float32Array | null = null): void {
    this.faces.geometry.dispose();
    this.lines.geometry.dispose();
    this.faces.geometry = new BufferGeometry();
    this.lines.geometry = new BufferGeometry();
    this.faces.visible = this.lines.visible = false;
    if (!art) return;
    this.group.position.set(...art.origin);
    if (chosen) {
      const count = chosen.reduce((sum, c) => sum + c, 0);
      const index = new Uint32Array(count * 3);
      let at = 0;
      for (let face = 0; face < chosen.length; face++) {
        if (!chosen[face]) continue;
        for (let k = 0; k < 3; k++) index[at++] = art.indices[face * 3 + k]!;
      }
      this.faces.geometry.setAttribute('position', new BufferAttribute(art.positions, 3));
      this.faces.geometry.setIndex(new BufferAttribute(index, 1));
      this.faces.visible = count > 0;
    }
    if (edges?.length) {
      this.lines.geometry.setAttribute('position', new BufferAttribute(edges, 3));
      this.lines.visible = true;
    }
  }

  dispose(): void {
    this.faces.geometry.dispose();
    this.lines.geometry.dispose();
    this.faces.material.dispose();
    this.lines.material.dispose();
  }
}
