import type { Agent, CheckRules, WalkTrial } from '../check/index.js';
import type { Mesh } from '../mesh/index.js';
import type { NameValues } from '../naming/index.js';
import type { PieceDocument } from '../piece/index.js';
import type { TargetProfile } from '../target/index.js';

/** What a recipe asks of the yard that it runs in. */
export interface RecipeYard {
  agents: readonly Agent[];
  /** the targets in their order, the default first */
  targets: readonly TargetProfile[];
  /** what fields of patterns hold for every piece */
  nameFields: NameValues;
  /** ground that rises or falls by more at once shakes who walks, metres */
  joltMetres: number;
  /** id of the agent that pieces are judged for where none was chosen for them; null for the middle one */
  agent: string | null;
  checks(document: PieceDocument, profile: TargetProfile): CheckRules;
}

/** Sends an agent at a piece from all sides: what walks is no part of the core, and is given. */
export type WalkPiece = (asked: {
  document: PieceDocument;
  /** the art that collides, metres */
  art: Mesh;
  profile: TargetProfile;
  agent: Agent;
  joltMetres: number;
  progress: (share: number) => void;
}) => Promise<WalkTrial>;
