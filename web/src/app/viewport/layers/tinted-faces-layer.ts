import { BufferAttribute, BufferGeometry, DoubleSide, Group, Mesh, MeshLambertMaterial } from 'three';
import type { ArtToDraw } from '../../drawing/art-to-draw';
import type { Layer } from '../layer';
import { disposeDrawn } from './dispose-drawn';

/** The faces of the art each in a colour of its own, for a look. */
export class TintedFacesLayer implements Layer {
  readonly object = new Group();

  constructor(private readonly changed: () => void) {}

  /** @param colors [9t]: red, green and blue of each corner of each face; null for none */
  set(art: ArtToDraw | null, colors: Float32Array | null): void {
    disposeDrawn(this.object);
    this.object.clear();
    if (art && colors?.length === art.indices.length * 3) {
      const positions = new Float32Array(art.indices.length * 3);
      art.indices.forEach((v, corner) => positions.set(art.positions.subarray(v * 3, v * 3 + 3), corner * 3));
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(positions, 3));
      geometry.setAttribute('color', new BufferAttribute(colors, 3));
      geometry.computeVertexNormals();
      const material = new MeshLambertMaterial({
        vertexColors: true,
        side: DoubleSide,
        polygonOffset: true,
        polygonOffsetFactor: -1,
        polygonOffsetUnits: -1,
      });
      this.object.add(new Mesh(geometry, material));
      this.object.position.set(...art.origin);
    }
    this.changed();
  }

  dispose(): void {
    disposeDrawn(this.object);
  }
}
