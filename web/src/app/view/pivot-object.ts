import { CylinderGeometry, Group, Mesh, MeshBasicMaterial, SphereGeometry } from 'three';

const onTop = (color: string) => new MeshBasicMaterial({ color, depthTest: false, transparent: true });

/** The pivot in brass, with its axes in the trade's red, green and blue; as large on screen from near as from far. */
export class PivotObject {
  readonly group = new Group();

  constructor() {
    const rod = (color: string) =>
      new Mesh(new CylinderGeometry(0.014, 0.014, 1, 8).translate(0, 0.5, 0), onTop(color));
    const [x, y, z] = [rod('#c8412b'), rod('#4c9141'), rod('#2f62b8')];
    x.rotation.z = -Math.PI / 2;
    z.rotation.x = Math.PI / 2;
    const ring = new Mesh(new SphereGeometry(0.1, 20, 14), onTop('#FCFAF5'));
    const knob = new Mesh(new SphereGeometry(0.078, 20, 14), onTop('#94661C'));
    this.group.add(x, y, z, ring, knob);
    this.group.children.forEach((child, i) => (child.renderOrder = 10 + i));
  }

  resize(metres: number): void {
    this.group.scale.setScalar(metres);
  }
}
