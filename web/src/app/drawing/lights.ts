import { DirectionalLight, HemisphereLight, type Scene } from 'three';

/** Workshop light: a wide sky and a low sun. */
export function addLights(scene: Scene): void {
  scene.add(new HemisphereLight('#fffaf0', '#b8ae9c', 2.1));
  const sun = new DirectionalLight('#fff6e6', 1.5);
  sun.position.set(3, 6, 4);
  scene.add(sun);
}
