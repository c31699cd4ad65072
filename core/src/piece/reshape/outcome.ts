/** What an operation came to, in figures: sentences are made of it in `outcome-text.ts`, and nowhere else. */
export type Outcome =
  | { op: 'reparent'; part: string; parent: string | null; shearBaked: boolean }
  | { op: 'group'; parts: number; group: string }
  | { op: 'delete'; parts: number }
  | { op: 'duplicate'; parts: number }
  | { op: 'combine'; parts: number; into: string }
  | { op: 'set-aside'; parts: number; aside: boolean }
  | { op: 'move'; parts: readonly string[]; metres: number; degrees: number; scale: readonly number[] }
  | { op: 'put-back'; moved: readonly string[]; metres: number; stayed: number }
  | { op: 'mirror'; parts: readonly string[]; copies: readonly string[] }
  | { op: 'repeat'; count: number; metres: number; asOne: boolean }
  | { op: 'bend'; parts: number; degrees: number; divisions: number }
  | { op: 'stretch'; from: number; to: number }
  | { op: 'lay-along'; bends: number; metres: number }
  | { op: 'trim'; parts: number }
  | {
      op: 'split-shells';
      parts: readonly string[];
      shells: number;
      /** shells that were too small to be parts of their own */
      specks: number;
      made: readonly string[];
    }
  | { op: 'split-materials'; parts: readonly string[]; materials: number; made: readonly string[] }
  | { op: 'split-faces'; made: readonly string[] }
  | { op: 'split-plane'; made: readonly string[] }
  | { op: 'weld'; metres: number; before: number; after: number; bordersClosed: number }
  | { op: 'fill-holes'; holes: number; faces: number }
  | { op: 'join-borders'; pairs: number; faces: number }
  | { op: 'remove-faces'; faces: Readonly<Partial<Record<RemovedFaces, number>>>; unusedVertices: number }
  | { op: 'delete-faces'; faces: number }
  | { op: 'face-outward'; faces: number }
  | { op: 'flip'; faces: number }
  | { op: 'vertices'; before: number; after: number }
  | { op: 'normals'; degrees: number }
  | { op: 'mark-edges'; edges: number; as: 'hard' | 'smooth' }
  | { op: 'reduce'; before: number; after: number; metres: number; skipped: readonly string[] }
  | { op: 'add-material'; material: string }
  | { op: 'remove-materials'; materials: number }
  | { op: 'merge-materials'; materials: number; into: string }
  | { op: 'order-materials'; names: readonly string[] }
  | { op: 'assign-material'; faces: number; material: string }
  | { op: 'project-uvs'; parts: number; metresPerPicture: number }
  | { op: 'uv-density'; parts: number; perMetre: number }
  | { op: 'unwrap'; parts: number; islands: number; side: number }
  | { op: 'remove-uvs'; parts: number; set: number }
  | { op: 'bake'; nodes: number; mirrored: number; sheared: number };

/** Why faces went. */
export type RemovedFaces = 'doubled' | 'hidden' | 'zero-area' | 'specks';
