import { type Bounds, diagonalOf, type Vec3 } from '@yard-brace/core';
import {
  BufferGeometry,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineLoop,
  Plane,
  Vector3,
} from 'three';
import { cutPlace, cutPlane } from '../../state/cut-plane';
import type { Cut } from '../../state/view-settings';
import type { Layer, Place } from '../layer';

/** The outline stands out of the piece by this share of its diagonal. */
const MARGIN_SHARE = 0.04;

/** The plane that the piece is cut open by, drawn as its outline. */
export class CutLayer implements Layer {
  readonly object = new Group();
  private outline: LineLoop<BufferGeometry, LineBasicMaterial> | undefined;
  private corners: readonly Vec3[] = [];

  constructor(private readonly changed: () => void) {}

  /** The plane; what lies behind it is cut away. */
  set(cut: Cut | null, bounds: Bounds | null): Plane | null {
    this.clear();
    if (!cut || !bounds) return null;
    const { normal, offset } = cutPlane(cut, bounds);
    this.corners = outlineCorners(cut, bounds);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new Float32BufferAttribute(this.corners.flat(), 3));
    this.outline = new LineLoop(
      geometry,
      new LineBasicMaterial({ color: '#17616E', depthTest: false, transparent: true }),
    );
    this.outline.renderOrder = 7;
    this.object.add(this.outline);
    this.changed();
    return new Plane(new Vector3(...normal), -offset);
  }

  /** the corners of the outline: a handle stands at one of them */
  places(): readonly Place[] {
    return this.corners.map((at, i) => ({ id: String(i), at }));
  }

  dispose(): void {
    this.clear();
  }

  private clear(): void {
    this.corners = [];
    if (!this.outline) return;
    this.object.remove(this.outline);
    this.outline.geometry.dispose();
    this.outline.material.dispose();
    this.outline = undefined;
    this.changed();
  }
}

/** Where a cut meets bounds that are a little larger, corner by corner. */
export function outlineCorners(cut: Cut, { min, max }: Bounds): Vec3[] {
  const place = cutPlace(cut, { min, max });
  const room = diagonalOf({ min, max }) * MARGIN_SHARE;
  const [u, v] = [(cut.axis + 1) % 3, (cut.axis + 2) % 3];
  return [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ].map(([i, j]) => {
    const p: Vec3 = [0, 0, 0];
    p[cut.axis] = place;
    p[u!] = i ? max[u!]! + room : min[u!]! - room;
    p[v!] = j ? max[v!]! + room : min[v!]! - room;
    return p;
  });
}
