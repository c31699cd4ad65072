import type { Quat, Vec3 } from '@yard-brace/core';
import { CylinderGeometry, Group, Mesh, MeshBasicMaterial, SphereGeometry } from 'three';
import type { FrameView, Layer } from '../layer';

const SIZE_PIXELS = 84;

const onTop = (color: string) => new MeshBasicMaterial({ color, depthTest: false, transparent: true });

/** The pivot in brass, with its axes in the trade's red, green and blue; as large on screen from near as from far. */
export class PivotLayer implements Layer {
  readonly object = new Group();

  constructor(private readonly changed: () => void) {
    const rod = (color: string) =>
      new Mesh(new CylinderGeometry(0.014, 0.014, 1, 8).translate(0, 0.5, 0), onTop(color));
    const [x, y, z] = [rod('#c8412b'), rod('#4c9141'), rod('#2f62b8')];
    x.rotation.z = -Math.PI / 2;
    z.rotation.x = Math.PI / 2;
    const ring = new Mesh(new SphereGeometry(0.1, 20, 14), onTop('#FCFAF5'));
    const knob = new Mesh(new SphereGeometry(0.078, 20, 14), onTop('#94661C'));
    this.object.add(x, y, z, ring, knob);
    this.object.children.forEach((child, i) => (child.renderOrder = 10 + i));
    this.object.visible = false;
  }

  set(pivot: { position: Readonly<Vec3>; rotation: Readonly<Quat> } | null): void {
    this.object.visible = pivot !== null;
    if (pivot) {
      this.object.position.set(...(pivot.position as Vec3));
      this.object.quaternion.set(...(pivot.rotation as Quat));
    }
    this.changed();
  }

  beforeFrame(view: FrameView): void {
    this.object.scale.setScalar(SIZE_PIXELS * view.metresPerPixel(this.object.position.toArray()));
  }

  dispose(): void {
    for (const child of this.object.children as Mesh[]) {
      child.geometry.dispose();
      (child.material as MeshBasicMaterial).dispose();
    }
  }
}
