import type { Scene } from '../../../piece/index.js';
import type { ShapeKind } from '../../../shape/index.js';
import type { TargetProfile } from '../../profile.js';
import type { PlacedNode } from '../placed-nodes.js';
import type { ReadBack } from '../report.js';

/** A node that a target takes for collision. */
export interface FoundShape {
  node: PlacedNode;
  owner: string;
  /** null: its mesh alone says whether it is a hull or a surface */
  kind: ShapeKind | null;
}

/** What a target finds in one scene by its way of telling collision from art. */
export interface Found {
  art: PlacedNode[];
  shapes: FoundShape[];
}

export interface MethodInput {
  scene: Scene;
  /** name of the model without its extension */
  stem: string;
  nodes: readonly PlacedNode[];
  profile: TargetProfile;
  report: ReadBack;
}
