import { type BufferGeometry, InstancedBufferAttribute, LineSegments, type Material } from 'three';

/**
 * Line segments drawn many times in one call. three.js draws any object in instances that says it is instanced and
 * brings their matrices; its own class for that draws triangles only.
 */
export class InstancedLines<M extends Material> extends LineSegments<BufferGeometry, M> {
  readonly isInstancedMesh = true;
  instanceMatrix: InstancedBufferAttribute;
  readonly instanceColor = null;
  readonly morphTexture = null;
  count: number;

  constructor(geometry: BufferGeometry, material: M, count: number) {
    super(geometry, material);
    this.instanceMatrix = new InstancedBufferAttribute(new Float32Array(count * 16), 16);
    this.count = count;
    this.frustumCulled = false;
  }

  override raycast(): void {
    // Nobody points at them.
  }
}
