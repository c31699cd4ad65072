import type { PieceDocument } from '@yard-brace/core';
import { Box3, PerspectiveCamera, Scene, Vector3, WebGLRenderer } from 'three';
import type { ArtToDraw } from '../compute/messages';
import { ArtObject } from './art-object';
import { addLights } from './lights';

/** A small picture of the art on its own, as PNG bytes. Works in a worker as on a page. */
export async function takePicture(
  art: ArtToDraw,
  document: PieceDocument,
  width = 264,
  height = 124,
): Promise<Uint8Array<ArrayBuffer>> {
  const canvas = new OffscreenCanvas(width, height);
  const renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
  renderer.setSize(width, height, false);
  const scene = new Scene();
  addLights(scene);
  const object = new ArtObject(art, document, () => undefined);
  object.fade(1);
  scene.add(object.group);
  const camera = new PerspectiveCamera(26, width / height, 0.001, 10000);
  scene.updateMatrixWorld(true);
  const box = new Box3().setFromObject(object.mesh);
  const centre = box.getCenter(new Vector3());
  const radius = Math.max(1e-6, box.getSize(new Vector3()).length() / 2);
  camera.near = radius / 50;
  camera.far = radius * 50;
  camera.position
    .copy(centre)
    .addScaledVector(
      new Vector3(0.62, 0.42, 0.8).normalize(),
      (radius / Math.sin((camera.fov * Math.PI) / 360)) * 0.94,
    );
  camera.lookAt(centre);
  camera.updateProjectionMatrix();
  renderer.render(scene, camera);
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  object.dispose();
  renderer.dispose();
  renderer.forceContextLoss();
  return new Uint8Array(await blob.arrayBuffer());
}
