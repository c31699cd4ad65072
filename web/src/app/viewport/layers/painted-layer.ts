import { BufferAttribute, BufferGeometry, DoubleSide, Group, Mesh, MeshBasicMaterial } from 'three';
import type { Deviations } from '../../state/deviation-store';
import { excessColors } from '../deviation-paint';
import type { Layer } from '../layer';
import { disposeDrawn } from './dispose-drawn';

/** The shapes' own faces, painted where they stand off the art: a hollow that is filled shows. */
export class PaintedLayer implements Layer {
  readonly object = new Group();

  constructor(private readonly changed: () => void) {}

  set(deviation: Pick<Deviations, 'faces' | 'scale'> | null): void {
    disposeDrawn(this.object);
    this.object.clear();
    if (deviation) {
      const { positions, indices, values, origin } = deviation.faces;
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(positions, 3));
      geometry.setAttribute('color', new BufferAttribute(excessColors(values, deviation.scale), 4));
      geometry.setIndex(new BufferAttribute(indices, 1));
      const mesh = new Mesh(
        geometry,
        new MeshBasicMaterial({ vertexColors: true, transparent: true, depthWrite: false, side: DoubleSide }),
      );
      mesh.position.set(...origin);
      mesh.renderOrder = 2;
      this.object.add(mesh);
    }
    this.changed();
  }

  /** Gone with the proxies when the veil shows the art alone. */
  show(visible: boolean): void {
    this.object.visible = visible;
    this.changed();
  }

  dispose(): void {
    disposeDrawn(this.object);
  }
}
