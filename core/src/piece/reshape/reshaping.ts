import {
  applyMatrix,
  determinant3,
  invertMatrix,
  type Matrix,
  multiplyMatrices,
  type Vec3,
} from '../../math/index.js';
import { encodeMesh, joinMeshes, type Mesh, transformMesh } from '../../mesh/index.js';
import { type MeshFacts, surveyMesh } from '../../solid/index.js';
import { blobId } from '../blob-id.js';
import {
  MAX_NODES,
  MAX_PROXIES,
  metresPerUnit,
  type PieceDocument,
  type PieceNode,
  type Proxy,
} from '../document.js';
import { freeIds } from '../edits/change-proxies.js';
import type { Edit } from '../edits/index.js';
import type { ShapesOfSet } from '../edits/reshape.js';
import { packUp } from '../pack-up.js';
import { artNodes, fileToPiece, nodeById, worldMatrices } from '../geometry.js';
import { partsNamed } from '../nodes.js';
import { boundsUnder } from '../intake.js';
import type { Intent } from '../edits/intent.js';
import { ReshapeError } from './operation.js';
import type { Outcome } from './outcome.js';

/** What an operation came to: the edit, and the bytes of the meshes it made. */
export interface Reshape {
  edit: Extract<Edit, { kind: 'reshape' }>;
  /** packs of encoded meshes, to be stored before the edit is made */
  blobs: Map<string, Uint8Array>;
  /** what was done, in figures */
  outcome: Outcome;
}

/**
 * A piece while an operation changes its tree and meshes. Nodes may be put in any order with parents by
 * id; `finish` sorts them, surveys what changed and drops what is no longer used.
 */
export class Reshaping {
  nodes: PieceNode[];
  materials: PieceDocument['materials'];
  unit: PieceDocument['unit'];
  placing: PieceDocument['placing'];
  /** what has a place in the piece and changes with it */
  readonly along: Pick<
    Reshape['edit'],
    'pivot' | 'presentation' | 'familyFeature' | 'clearances' | 'riddenEdges' | 'areas' | 'noCollision'
  > = {};
  private shapes: ShapesOfSet[] = [];
  private readonly made = new Map<string, { name: string; mesh: Mesh; bytes: Uint8Array }>();
  private lastId: number;

  constructor(
    readonly document: PieceDocument,
    private readonly meshOf: (blob: string) => Mesh,
  ) {
    this.nodes = document.nodes.map((node) => ({ ...node }));
    this.materials = document.materials;
    this.unit = document.unit;
    this.placing = document.placing;
    this.lastId = Math.max(0, ...document.nodes.map((node) => Number(/^n(\d+)$/.exec(node.id)?.[1] ?? 0)));
  }

  newId(): string {
    return `n${++this.lastId}`;
  }

  /** @throws ReshapeError when there is no such part */
  number(id: string): number {
    const number = nodeById(this, id);
    if (number < 0) throw new ReshapeError('The part is no longer there; choose again.');
    return number;
  }

  /** The numbers of the parts named, or of all art when none is; groups stand for the parts below them. */
  parts(ids: readonly string[]): number[] {
    for (const id of ids) this.number(id);
    const found = partsNamed(this, ids);
    if (found.length === 0 && ids.length)
      throw new ReshapeError('What is chosen has no faces; choose a part.');
    return found;
  }

  /** [n]: 1 for the nodes given and everything below them */
  below(roots: readonly number[]): Uint8Array {
    const marks = new Uint8Array(this.nodes.length);
    for (const root of roots) marks[root] = 1;
    this.nodes.forEach((node, i) => {
      if (node.parent !== null && marks[node.parent]) marks[i] = 1;
    });
    return marks;
  }

  mesh(node: number): Mesh {
    const { mesh, name } = this.nodes[node]!;
    if (mesh === null) throw new ReshapeError(`“${name}” has no faces.`);
    return this.made.get(mesh)?.mesh ?? this.meshOf(mesh);
  }

  /** Give a node another mesh; one without faces leaves it without any. */
  setMesh(node: number, mesh: Mesh): void {
    this.nodes[node] = { ...this.nodes[node]!, mesh: this.put(mesh, this.nodes[node]!.name) };
  }

  put(mesh: Mesh, name: string): string | null {
    if (mesh.indices.length === 0) return null;
    const bytes = encodeMesh(mesh);
    const id = blobId(bytes);
    if (!this.document.meshes[id]) this.made.set(id, { name, mesh, bytes });
    return id;
  }

  /** World matrices in the file's space. */
  world(): Matrix[] {
    return worldMatrices(this.nodes);
  }

  /** World matrices in the piece's space, in metres. */
  placed(): Matrix[] {
    return worldMatrices(this.nodes, fileToPiece(this));
  }

  /** The inverse of a node's world matrix. @throws ReshapeError when the node flattens */
  inverse(matrix: Matrix, node: number): Matrix {
    const inverse = invertMatrix(matrix);
    if (!inverse)
      throw new ReshapeError(
        `“${this.nodes[node]!.name}” is flattened by a scale of zero; bake or delete it first.`,
      );
    return inverse;
  }

  /** Metres that one unit of a node's own space is long, on average over its axes. */
  metresOf(node: number): number {
    return Math.cbrt(Math.abs(determinant3(this.placed()[node]!))) || metresPerUnit(this);
  }

  /** A point of the piece's space in a node's own. */
  pointInto(node: number, point: Readonly<Vec3>): Vec3 {
    return applyMatrix(this.inverse(this.placed()[node]!, node), point);
  }

  /** Put a node under another parent at the place it stands. Shear that cannot stay is left to the caller. */
  localUnder(node: number, parent: number | null): Matrix {
    const world = this.world();
    return parent === null
      ? world[node]!
      : multiplyMatrices(this.inverse(world[parent]!, parent), world[node]!);
  }

  /**
   * Change the shapes of parts, and those of the piece as a whole when it is changed as one: in the set in use and in
   * those beside it. What a shape falls into stays with its part; nothing in its place takes it away.
   *
   * @param parts ids, or null for every shape
   */
  changeShapes(parts: ReadonlySet<string> | null, change: (proxy: Proxy) => readonly Proxy[]): void {
    const { proxies, sets } = this.document;
    for (const { set, all } of [
      { set: null, all: proxies },
      ...sets.map(({ name, proxies: kept }) => ({ set: name, all: kept })),
    ]) {
      const nextId = freeIds(all);
      const changed: Proxy[] = [];
      const removed: string[] = [];
      let added = 0;
      for (const proxy of all) {
        if (parts && !(proxy.part !== undefined && parts.has(proxy.part))) continue;
        const [first, ...more] = change(proxy);
        if (!first) removed.push(proxy.id);
        else if (first !== proxy) changed.push({ ...first, id: proxy.id });
        changed.push(...more.map((each) => ({ ...each, id: nextId() })));
        added += more.length;
      }
      if (all.length + added - removed.length > MAX_PROXIES)
        throw new ReshapeError(
          `That would make more than ${MAX_PROXIES} shapes; take some away, or use fewer divisions or copies.`,
        );
      if (changed.length || removed.length) this.shapes.push({ set, changed, removed });
    }
  }

  finish(
    outcome: Outcome,
    intent: Intent | null,
    progress: (share: number) => void = () => undefined,
  ): Reshape {
    if (this.nodes.length > MAX_NODES)
      throw new ReshapeError(
        `That would make ${this.nodes.length} parts, more than ${MAX_NODES}; leave small ones together.`,
      );
    this.sortNodes();
    const world = this.world();
    const before = new Map(this.document.nodes.map((node, i) => [node.id, { node, world: i }]));
    const oldWorld = worldMatrices(this.document.nodes);
    let moved = this.nodes.length !== this.document.nodes.length;
    this.nodes = this.nodes.map((node, i) => {
      const old = before.get(node.id);
      const same =
        old && old.node.mesh === node.mesh && oldWorld[old.world]!.every((v, k) => v === world[i]![k]);
      if (!same || old.node.aside !== node.aside) moved = true;
      if (same) return node;
      return { ...node, bounds: node.mesh === null ? null : boundsUnder(this.mesh(i), world[i]!) };
    });
    const encoded = new Map<string, Uint8Array>();
    const meshes: PieceDocument['meshes'] = {};
    for (const { mesh, name } of this.nodes) {
      if (mesh === null || meshes[mesh]) continue;
      const made = this.made.get(mesh);
      if (made) encoded.set(mesh, made.bytes);
      meshes[mesh] = made
        ? { name: made.name || name, facts: surveyMesh(made.mesh) }
        : this.document.meshes[mesh]!;
    }
    const { blobs, packOf } = packUp(encoded);
    for (const [id, pack] of packOf) meshes[id]!.pack = pack;
    progress(0.6);
    const whole = moved ? this.wholeFacts(world, meshes) : this.document.whole;
    progress(1);
    return {
      blobs,
      outcome,
      edit: {
        kind: 'reshape',
        op: outcome.op,
        ...(intent ? { intent } : {}),
        nodes: this.nodes,
        meshes,
        whole,
        materials: this.materials,
        unit: this.unit,
        placing: this.placing,
        ...this.along,
        ...(this.shapes.length ? { shapes: this.shapes } : {}),
      },
    };
  }

  private wholeFacts(world: readonly Matrix[], meshes: PieceDocument['meshes']): MeshFacts {
    const parts = artNodes(this.nodes);
    if (parts.length === 0)
      throw new ReshapeError('Nothing would be left of the piece; keep at least one part.');
    const plain = (m: Matrix) => m.every((v, k) => v === (k % 5 === 0 ? 1 : 0));
    if (parts.length === 1 && plain(world[parts[0]!]!)) return meshes[this.nodes[parts[0]!]!.mesh!]!.facts;
    return surveyMesh(joinMeshes(parts.map((i) => transformMesh(this.mesh(i), world[i]!))));
  }

  /** Parents before their children, otherwise in the order they are in. */
  private sortNodes(): void {
    const children = new Map<number | null, number[]>();
    this.nodes.forEach(({ parent }, i) => children.set(parent, [...(children.get(parent) ?? []), i]));
    const order: number[] = [];
    const waiting = [...(children.get(null) ?? [])].reverse();
    for (let i = waiting.pop(); i !== undefined; i = waiting.pop()) {
      order.push(i);
      for (const child of [...(children.get(i) ?? [])].reverse()) waiting.push(child);
    }
    const place = new Map(order.map((old, now) => [old, now]));
    this.nodes = order.map((i) => {
      const node = this.nodes[i]!;
      return { ...node, parent: node.parent === null ? null : place.get(node.parent)! };
    });
  }
}
