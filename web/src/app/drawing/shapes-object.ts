import { type Shape, shapeTriangles, type Vec3 } from '@yard-brace/core';
import { BufferAttribute, BufferGeometry, Color, DoubleSide, Mesh, MeshBasicMaterial } from 'three';
import { tintOf } from './tints';

const STRENGTH = 0.42;

/** Shapes in their tints over the art of a small picture, as one mesh. */
export function shapesObject(shapes: readonly Shape[], origin: Vec3): Mesh {
  const positions: number[] = [];
  const colors: number[] = [];
  shapes.forEach((shape, i) => {
    const { points, indices } = shapeTriangles(shape);
    const tint = new Color(tintOf(i + 1));
    for (const v of indices) {
      for (let k = 0; k < 3; k++) positions.push(points[v * 3 + k]! - origin[k]!);
      colors.push(tint.r, tint.g, tint.b);
    }
  });
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  geometry.setAttribute('color', new BufferAttribute(Float32Array.from(colors), 3));
  const material = new MeshBasicMaterial({
    vertexColors: true,
    transparent: true,
    opacity: STRENGTH,
    depthWrite: false,
    side: DoubleSide,
    forceSinglePass: true,
  });
  const mesh = new Mesh(geometry, material);
  mesh.position.set(...origin);
  mesh.renderOrder = 2;
  return mesh;
}
