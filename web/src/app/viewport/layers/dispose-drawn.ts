import { LineSegments, type Material, Mesh, type Object3D } from 'three';

/** Free the buffers and materials of everything below an object that nothing else draws. */
export function disposeDrawn(object: Object3D): void {
  object.traverse((each) => {
    if (!(each instanceof Mesh || each instanceof LineSegments)) return;
    each.geometry.dispose();
    (each.material as Material).dispose();
  });
}
