import type { Bounds, Vec3 } from '@yard-brace/core';
import type { Object3D, Raycaster } from 'three';

/** A place that a word or tag stands at, as a layer names it: metres, in the piece's space. */
export interface Place {
  id: string;
  at: Vec3;
}

/** What a layer may know of how it is looked at, before each frame. */
export interface FrameView {
  /** metres that a length of one CSS pixel spans at a place */
  metresPerPixel(at: Vec3): number;
  /** from a place towards the eye; any length above 0 */
  towardsEye(at: Vec3): Vec3;
}

/** One kind of thing that is drawn. A page puts the layers it wants into its viewport. */
export interface Layer {
  readonly object: Object3D;
  /** what is to be seen of it when the view is fitted; absent for what is only laid over */
  bounds?(): Bounds | null;
  /** words and tags that stand at places of it */
  places?(): readonly Place[];
  beforeFrame?(view: FrameView): void;
  /** what is large may be drawn roughly, while something moves and the whole would come late */
  roughen?(rough: boolean): void;
  dispose(): void;
}

/** A layer that answers what lies under a ray. */
export interface PickableLayer<Hit> extends Layer {
  pick(ray: Raycaster): Hit | null;
}
