import { BufferGeometry, Group, LineBasicMaterial, LineSegments, Mesh, MeshBasicMaterial, SphereGeometry, Vector3 } from 'three';

/** The pivot in brass, with its axes in the trade's red, green and blue; as large on screen from near as from far. */
export class PivotObject {
  readonly group = new Group();

  constructor() {
    const axis = (direction: [number, number, number], color: string) =>
      new LineSegments(
        new BufferGeometry().setFromPoints([new Vector3(), new Vector3(...direction)]),
        new LineBasicMaterial({ color, depthTest: false, transparent: true }),
      );
    const ring = new Mesh(new SphereGeometry(0.1, 20, 14), new MeshBasicMaterial({ color: '#FCFAF5', depthTest: false, transparent: true }));
    const knob = new Mesh(new SphereGeometry(0.078, 20, 14), new MeshBasicMaterial({ color: '#94661C', depthTest: false, transparent: true }));
    this.group.add(axis([1, 0, 0], '#c8412b'), axis([0, 1, 0], '#4c9141'), axis([0, 0, 1], '#2f62b8'), ring, knob);
    this.group.children.forEach((child, i) => (child.renderOrder = 10 + i));
  }

  resize(metres: number): void {
    this.group.scale.setScalar(metres);
  }
}
