import { dot, type ShapeHandle, type Vec3 } from '@yard-brace/core';
import { BufferGeometry, Float32BufferAttribute, LineBasicMaterial, LineSegments } from 'three';
import type { FrameView, Layer, Place } from '../layer';

/** CSS pixels that a tab stands off its face. */
const OFF_PIXELS = 20;

/** Of more tabs than this only those are shown that look to the eye. */
const MAX_TABS_ALL_ROUND = 10;

/** Where the tabs of a chosen shape stand: a little off each face, tied to it by a line. */
export class HandlesLayer implements Layer {
  readonly object = new LineSegments(
    new BufferGeometry(),
    new LineBasicMaterial({ color: '#1E2A2F', depthTest: false, transparent: true, opacity: 0.7 }),
  );
  private handles: readonly ShapeHandle[] = [];
  private stand: Place[] = [];

  constructor(private readonly changed: () => void) {
    this.object.renderOrder = 5;
    this.object.frustumCulled = false;
  }

  set(handles: readonly ShapeHandle[]): void {
    this.handles = handles;
    this.changed();
  }

  places(): readonly Place[] {
    return this.stand;
  }

  beforeFrame(view: FrameView): void {
    const many = this.handles.length > MAX_TABS_ALL_ROUND;
    const seen = this.handles.filter(({ at, normal }) => !many || dot(normal, view.towardsEye(at)) > 0);
    const origin = seen[0]?.at ?? [0, 0, 0];
    this.stand = seen.map(({ id, at, normal }) => {
      const off = view.metresPerPixel(at) * OFF_PIXELS;
      return { id, at: at.map((v, k) => v + normal[k]! * off) as Vec3 };
    });
    const points = seen.flatMap(({ at }, i) =>
      [at, this.stand[i]!.at].flatMap((p) => p.map((v, k) => v - origin[k]!)),
    );
    this.object.position.set(...origin);
    this.object.geometry.setAttribute('position', new Float32BufferAttribute(points, 3));
    this.object.visible = points.length > 0;
  }

  dispose(): void {
    this.object.geometry.dispose();
    this.object.material.dispose();
  }
}
