import type { PieceDocument } from '@yard-brace/core';
import { Box3, PerspectiveCamera, Scene, Vector3, WebGLRenderer } from 'three';
import { ArtObject } from './art-object';
import { addLights } from './lights';
import type { ArtToDraw } from './art-to-draw';
import { fitDistance } from './fit-distance';
import { shapesObject } from './shapes-object';

const DIRECTION = [0.62, 0.42, 0.8] as const;
/** Room round the piece, as a share of the frame beyond it. */
const MARGIN = 1.06;

/**
 * A small picture of the art, on its own or with the shapes of the document over it, as PNG bytes. Works in a worker as on
 * a page.
 */
export async function takePicture(
  art: ArtToDraw,
  document: PieceDocument,
  { shapes = false, width = 264, height = 124 } = {},
): Promise<Uint8Array<ArrayBuffer>> {
  const canvas = new OffscreenCanvas(width, height);
  const renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
  renderer.setSize(width, height, false);
  const scene = new Scene();
  addLights(scene);
  const object = new ArtObject(art, document, () => undefined);
  object.fade(1);
  scene.add(object.group);
  const over = shapes
    ? shapesObject(
        document.proxies.map(({ shape }) => shape),
        art.origin,
      )
    : null;
  if (over) scene.add(over);
  const camera = new PerspectiveCamera(26, width / height, 0.001, 10000);
  scene.updateMatrixWorld(true);
  const box = new Box3().setFromObject(object.mesh);
  if (over) box.expandByObject(over);
  const centre = box.getCenter(new Vector3());
  const tall = Math.tan((camera.fov * Math.PI) / 360) / MARGIN;
  const away = fitDistance(
    { min: box.min.toArray(), max: box.max.toArray() },
    { direction: [...DIRECTION], tangents: [tall, tall * camera.aspect] },
  );
  camera.near = away / 100;
  camera.far = away * 100;
  camera.position.copy(centre).addScaledVector(new Vector3(...DIRECTION).normalize(), away);
  camera.lookAt(centre);
  camera.updateProjectionMatrix();
  renderer.render(scene, camera);
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  over?.geometry.dispose();
  object.dispose();
  renderer.dispose();
  renderer.forceContextLoss();
  return new Uint8Array(await blob.arrayBuffer());
}
