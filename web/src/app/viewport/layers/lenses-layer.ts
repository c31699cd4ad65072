import { type Bounds, boundsOf, centreOf, fanTriangles, floatsAbout, polygonEdges } from '@yard-brace/core';
import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
} from 'three';
import type { Layer } from '../layer';
import { disposeDrawn } from './dispose-drawn';

const VERMILION = '#C8412B';

/** What shapes share: each lens of overlap solid, seen through everything. */
export class LensesLayer implements Layer {
  readonly object = new Group();

  constructor(private readonly changed: () => void) {}

  set(lenses: readonly { points: readonly number[]; faces: readonly (readonly number[])[] }[]): void {
    disposeDrawn(this.object);
    this.object.clear();
    for (const { points, faces } of lenses) this.object.add(lensObject(points, faces));
    this.changed();
  }

  dispose(): void {
    disposeDrawn(this.object);
  }
}

function lensObject(points: readonly number[], faces: readonly (readonly number[])[]): Group {
  const group = new Group();
  // Near its own origin, so that single precision does where it is drawn.
  const origin = centreOf(boundsOf(points) satisfies Bounds);
  const positions = new BufferAttribute(floatsAbout(points, origin), 3);
  const geometryOf = (index: Uint32Array) => {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', positions);
    geometry.setIndex(new BufferAttribute(index, 1));
    return geometry;
  };
  const polygons = faces.map((face) => [...face]);
  const look = { color: VERMILION, transparent: true, depthTest: false };
  const fill = new Mesh(
    geometryOf(fanTriangles(polygons)),
    new MeshBasicMaterial({ ...look, opacity: 0.35, side: DoubleSide, depthWrite: false }),
  );
  const edges = new LineSegments(geometryOf(polygonEdges(polygons)), new LineBasicMaterial(look));
  fill.renderOrder = 4;
  edges.renderOrder = 5;
  group.add(fill, edges);
  group.position.set(...origin);
  return group;
}
