/** What an operation came to, in figures: sentences are made of it in `outcome-text.ts`, and nowhere else. */
export type Outcome =
  | { op: 'reparent'; part: string; parent: string | null; shearBaked: boolean }
  | { op: 'group'; parts: number; group: string }
  | { op: 'delete'; parts: number }
  | { op: 'duplicate'; parts: number }
  | { op: 'combine'; parts: number; into: string }
  | { op: 'set-aside'; parts: number; aside: boolean }
  | { op: 'move'; part: string | null; metres: number; degrees: number }
  | { op: 'split-shells'; part: string; shells: number; made: readonly string[] }
  | { op: 'split-materials'; part: string; materials: number; made: readonly string[] }
  | { op: 'split-faces'; made: readonly string[] }
  | { op: 'split-plane'; made: readonly string[] }
  | { op: 'weld'; metres: number; before: number; after: number; bordersClosed: number }
  | { op: 'fill-holes'; holes: number; faces: number }
  | { op: 'remove-faces'; faces: Readonly<Partial<Record<RemovedFaces, number>>>; unusedVertices: number }
  | { op: 'delete-faces'; faces: number }
  | { op: 'face-outward'; faces: number }
  | { op: 'flip'; faces: number }
  | { op: 'vertices'; before: number; after: number }
  | { op: 'normals'; degrees: number; edges: number; as: 'hard' | 'smooth' | null }
  | { op: 'reduce'; before: number; after: number; metres: number }
  | { op: 'merge-materials'; materials: number; into: string }
  | { op: 'order-materials'; names: readonly string[] }
  | { op: 'assign-material'; faces: number; material: string }
  | { op: 'project-uvs'; parts: number; metresPerPicture: number }
  | { op: 'bake'; nodes: number; mirrored: number; sheared: number };

/** Why faces went. */
export type RemovedFaces = 'doubled' | 'hidden' | 'zero-area' | 'specks';
