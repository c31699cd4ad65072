import { Comparer, judgeSet } from '../compare/index.js';
import {
  type Agent,
  judgedAgent,
  type ProxyFacts,
  proxyKey,
  type SetFacts,
  setFactsOf,
  setKey,
  setOf,
  type WalkTrial,
  withLeftByArt,
  withWalks,
} from '../check/index.js';
import type { Mesh } from '../mesh/index.js';
import {
  applyEdit,
  artKey,
  collidingArt,
  type Edit,
  leftOutKey,
  meshReader,
  operate,
  type Operation,
  outcomeText,
  type PieceDocument,
  type PlacedArt,
  placedArt,
  selectParts,
} from '../piece/index.js';
import { type DeliveryChoices, proxiesAsDelivered, takesOf, type TargetProfile } from '../target/index.js';
import type { RecipeYard, WalkPiece } from './recipe-yard.js';
import { StepError } from './step-error.js';

export interface RecipeWorkInput {
  document: PieceDocument;
  /** decoded meshes of the document, by id */
  meshOf: (id: string) => Mesh;
  yard: RecipeYard;
  /** how its shapes were measured last */
  measured?: ProxyFacts | null;
  /** Default: trials cannot be asked for */
  walk?: WalkPiece;
}

/** A piece that leaves for a target, as a recipe wants it. */
export interface WantedDelivery {
  target: string;
  choices: DeliveryChoices;
}

/** A piece under the steps of a recipe: each step finds it as the one before left it. */
export class RecipeWork {
  readonly edits: Edit[] = [];
  /** what is stored before the edits are made */
  readonly blobs = new Map<string, Uint8Array>();
  readonly leaving: WantedDelivery[] = [];
  readonly yard: RecipeYard;
  readonly walk: WalkPiece | undefined;
  document: PieceDocument;
  measured: ProxyFacts | null;
  /** told while a step goes on, with its share */
  progress: (share: number) => void = () => undefined;
  private readonly given: (id: string) => Mesh;
  private readonly own = meshReader(this.blobs);
  private readonly decoded = new Map<string, Mesh>();
  private placed: { key: string; art: PlacedArt } | undefined;
  private measuring: { key: string; art: PlacedArt; comparer: Comparer } | undefined;

  constructor({ document, meshOf, yard, measured = null, walk }: RecipeWorkInput) {
    this.document = document;
    this.given = meshOf;
    this.yard = yard;
    this.measured = measured;
    this.walk = walk;
  }

  readonly meshOf = (id: string): Mesh => {
    const known = this.decoded.get(id);
    if (known) return known;
    const { pack } = this.document.meshes[id] ?? {};
    const made = this.blobs.has(id) || (pack !== undefined && this.blobs.has(pack));
    const mesh = made ? this.own(id) : this.given(id);
    if (made) this.decoded.set(id, mesh);
    return mesh;
  };

  /** What shapes are made and judged for where no target is named. */
  get profile(): TargetProfile {
    return this.yard.targets[0]!;
  }

  /** @throws StepError when the yard has none of that id */
  target(id: string): TargetProfile {
    const found = this.yard.targets.find((profile) => profile.id === id);
    if (found) return found;
    throw new StepError(`The yard has no target “${id}”; add it in Rules, or name one of its own.`);
  }

  /** Who the piece is judged for. */
  get agent(): Agent | undefined {
    const { agents, agent } = this.yard;
    return judgedAgent({ agent: this.document.agent ?? agent }, agents);
  }

  /** @throws StepError when the yard has none of that id */
  agentBy(id: string): Agent {
    const found = this.yard.agents.find((agent) => agent.id === id);
    if (found) return found;
    throw new StepError(`The yard has no agent “${id}”; add it in Rules, or name one of its own.`);
  }

  /** Metres below which a difference is not felt. */
  get feltMetres(): number {
    return this.agent?.detail ?? 0;
  }

  /** Corners of a hull at most, as the target takes them. */
  get maxCorners(): number {
    return Math.min(32, this.profile.solids.maxHullVertices);
  }

  /** All the art as it stands. */
  get art(): PlacedArt {
    const key = artKey(this.document);
    if (this.placed?.key !== key) this.placed = { key, art: placedArt(this.document, this.meshOf) };
    return this.placed.art;
  }

  /** The art that is collided with, and what measures shapes against it. */
  get colliding(): { art: PlacedArt; comparer: Comparer } {
    const key = artKey(this.document) + leftOutKey(this.document);
    if (this.measuring?.key !== key) {
      const art = collidingArt(this.document, this.art);
      this.measuring = { key, art, comparer: new Comparer(art.mesh) };
    }
    return this.measuring;
  }

  apply(edit: Edit, blobs: ReadonlyMap<string, Uint8Array> = new Map()): void {
    for (const [id, bytes] of blobs) this.blobs.set(id, bytes);
    this.document = applyEdit(this.document, edit);
    this.edits.push(edit);
  }

  /** Do an operation on the tree and its meshes; what it came to, in a sentence. */
  async operate(operation: Operation): Promise<string> {
    const { edit, blobs, outcome } = await operate(this.document, operation, this.meshOf, this.progress);
    this.apply(edit, blobs);
    return outcomeText(outcome);
  }

  /** Numbers of the faces of the art that belong to parts; null for all of it. */
  facesOf({ all, ids }: { all: boolean; ids: readonly string[] }): Uint32Array<ArrayBuffer> | null {
    if (all) return null;
    const chosen = new Set(ids);
    const { node } = this.art;
    const { nodes } = this.document;
    return Uint32Array.from(node.keys()).filter((face) => chosen.has(nodes[node[face]!]!.id));
  }

  /** Shapes judged against the art as they will leave; nothing where there are none. What was judged is not judged again. */
  judged(): SetFacts | null {
    const { document, profile, feltMetres } = this;
    if (!document.proxies.length) return null;
    const takes = takesOf(profile);
    if (this.measured?.judged?.key === setKey(document, feltMetres, takes)) return this.measured.judged;
    const { art, comparer } = this.colliding;
    const leaving = { ...document, proxies: proxiesAsDelivered(profile, document.proxies) };
    const found = judgeSet(comparer, {
      ...setOf(leaving),
      partOfFace: (face) => document.nodes[art.node[face]!]!.id,
      toleranceMetres: feltMetres,
    });
    const judged = setFactsOf(document, feltMetres, takes, found);
    const { trials } = this.measured ?? {};
    this.measured = {
      key: proxyKey(document),
      artOutside: judged.uncovered.max,
      proxyOutside: judged.excess.max,
      judged: withLeftByArt(this.measured?.judged ?? null, judged),
      ...(trials ? { trials } : {}),
    };
    return judged;
  }

  /** What was walked is kept with what was measured. */
  keepWalks(walks: readonly WalkTrial[]): void {
    this.judged();
    if (!this.measured) return;
    const before = this.measured.trials ?? { walks: [], bodies: [], felt: [] };
    this.measured = { ...this.measured, trials: withWalks(before, walks, this.yard.agents) };
  }

  select(selector: Parameters<typeof selectParts>[1]): string[] {
    return selectParts(this.document, selector, this.meshOf);
  }
}
