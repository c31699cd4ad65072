import {
  add,
  type Bounds,
  centreOf,
  diagonalOf,
  distance,
  isEmpty,
  sizeOf,
  subtract,
  UNITS,
  type UnitName,
  type Vec3,
} from '../math/index.js';
import { type Mesh, transformMesh } from '../mesh/index.js';
import { buildBvh, closestPoint } from '../solid/index.js';
import { shapeBounds } from '../shape/index.js';
import type { PieceDocument, PieceNode } from './document.js';
import type { Edit } from './edits/index.js';
import { artBounds, artNodes, partBounds, partPivot, pivotPlace, placedMatrices } from './geometry.js';
import type { Pivot } from './pivot.js';

/** What became of one part when new art came. */
export interface PartChange {
  /** id in the piece as it is; null for a new part */
  part: string | null;
  name: string;
  became: 'same' | 'moved' | 'changed' | 'new' | 'gone';
  /** farthest that its surface lies from where it was, in metres */
  off: number;
  triangles: { before: number; after: number };
}

export interface PivotChange {
  /** null for the piece's own */
  part: string | null;
  name: string;
  /** how far the pivot would move on the new art by its own rule, in metres */
  off: number;
  /** where that would be */
  would: Vec3;
}

/** What new art does to a piece, said before anything is replaced. */
export interface NewArtReport {
  parts: PartChange[];
  pivots: PivotChange[];
  /** ids of proxies on parts that changed, moved or are gone */
  proxies: string[];
  size: { before: Vec3; after: Vec3 };
  /** makes the change, every pivot staying where it is */
  edit: Extract<Edit, { kind: 'take-new-art' }>;
}

/** Below this a surface is where it was, in metres. */
const UNCHANGED_METRES = 1e-5;
/** Most vertices of a part whose distance is measured. */
const MAX_MEASURED_VERTICES = 20_000;

/**
 * Match the parts of new art to those of a piece, by the name they came with, else by place; what the
 * person set up stays: ids, names, pivots, proxies, clearances, order and names of materials.
 *
 * @param fresh the new file taken in as a piece of its own
 */
export function compareNewArt(
  old: PieceDocument,
  fresh: PieceDocument,
  meshOf: (blob: string) => Mesh,
): NewArtReport {
  const settled = inOldSpace(old, fresh);
  const match = matchParts(old, settled);
  const edit = takeOver(old, settled, match);
  const after: PieceDocument = { ...old, ...withoutKind(edit) };
  const parts = partChanges(old, after, meshOf);
  const touched = parts.filter(({ became }) => became !== 'same' && became !== 'new');
  const boxes = touched.map(({ part }) =>
    partBounds(
      old,
      old.nodes.findIndex((node) => node.id === part),
    ),
  );
  const ids = new Set(touched.map(({ part }) => part));
  return {
    parts,
    pivots: pivotChanges(old, after),
    proxies: old.proxies
      .filter(({ part, shape }) =>
        part !== undefined ? ids.has(part) : boxes.some((box) => overlap(box, shapeBounds(shape))),
      )
      .map(({ id }) => id),
    size: { before: sizeOf(artBounds(old)), after: sizeOf(artBounds(after)) },
    edit,
  };
}

const withoutKind = ({ kind: _kind, ...rest }: NewArtReport['edit']) => rest;

const overlap = (a: Bounds, b: Bounds): boolean =>
  [0, 1, 2].every((k) => a.min[k]! <= b.max[k]! && b.min[k]! <= a.max[k]!);

/**
 * The new art in the old piece's space: its unit where the format states none is the one that fits best, and where it
 * states one, the one that a person corrected it to, as long as that fits far better.
 */
function inOldSpace(old: PieceDocument, fresh: PieceDocument): PieceDocument {
  const placed = { ...fresh, placing: old.placing };
  const wanted = diagonalOf(artBounds(old));
  const size = diagonalOf({ min: fresh.whole.min, max: fresh.whole.max }) * old.placing.factor;
  const off = (unit: UnitName) => Math.abs(Math.log((size * UNITS[unit]) / wanted));
  if (fresh.unit.stated) {
    const corrected = old.unit.confirmed && off(old.unit.name) + 0.2 < off(fresh.unit.name);
    return corrected ? { ...placed, unit: { ...fresh.unit, name: old.unit.name } } : placed;
  }
  // The unit the piece has already wins unless another fits far better.
  const best = (Object.keys(UNITS) as UnitName[]).reduce((a, b) => (off(b) < off(a) ? b : a));
  const name = off(old.unit.name) < off(best) + 0.2 ? old.unit.name : best;
  return { ...placed, unit: { name, stated: false, confirmed: old.unit.confirmed } };
}

/** For each node of the new art the old one it stands for, or -1. */
function matchParts(old: PieceDocument, fresh: PieceDocument): number[] {
  const free = new Set(old.nodes.keys());
  const match = fresh.nodes.map(() => -1);
  const pass = (fits: (node: PieceNode, i: number, other: PieceNode, k: number) => boolean) => {
    fresh.nodes.forEach((node, i) => {
      if (match[i]! >= 0) return;
      const found = [...free].filter((k) => fits(node, i, old.nodes[k]!, k));
      if (found.length === 0) return;
      match[i] = found[0]!;
      free.delete(found[0]!);
    });
  };
  const bearing = (a: PieceNode, b: PieceNode) => (a.mesh === null) === (b.mesh === null);
  pass((node, _, other) => bearing(node, other) && node.name === (other.cameAs ?? other.name));
  pass((node, _, other) => node.mesh !== null && node.mesh === other.mesh);
  pass(
    (node, i, other, k) =>
      node.mesh !== null && other.mesh !== null && shared(partBounds(fresh, i), partBounds(old, k)) > 0.5,
  );
  return match;
}

/** Volume two boxes share, of what they cover together. */
function shared(a: Bounds, b: Bounds): number {
  if (isEmpty(a) || isEmpty(b)) return 0;
  // A hair of thickness, so that flat parts can be compared too.
  const hair = (diagonalOf(a) + diagonalOf(b)) * 1e-3;
  const volume = (v: readonly number[]) => v.reduce((product, side) => product * (side + hair), 1);
  const common = [0, 1, 2].map((k) => Math.min(a.max[k]!, b.max[k]!) - Math.max(a.min[k]!, b.min[k]!));
  if (common.some((side) => side < -hair)) return 0;
  const both = volume(common.map((side) => Math.max(0, side)));
  return both / (volume(sizeOf(a)) + volume(sizeOf(b)) - both);
}

function takeOver(old: PieceDocument, fresh: PieceDocument, match: readonly number[]): NewArtReport['edit'] {
  let last = Math.max(0, ...old.nodes.map((node) => Number(/^n(\d+)$/.exec(node.id)?.[1] ?? 0)));
  const nodes = fresh.nodes.map((node, i) => {
    const before = match[i]! >= 0 ? old.nodes[match[i]!]! : null;
    if (!before) return { ...node, id: `n${++last}` };
    const { id, name, cameAs, pivot, aside } = before;
    // A part that was grabbed by its node's origin keeps being grabbed where it was.
    const held = pivot ?? (node.mesh === null ? null : partPivot(old, match[i]!));
    return { ...node, id, name, ...(cameAs === undefined ? {} : { cameAs }), pivot: held, aside };
  });
  const kept = old.materials.map((material) =>
    fresh.materials.findIndex((other) => other.name === (material.cameAs ?? material.name)),
  );
  const named = fresh.materials.map((material, m) => {
    const k = kept.indexOf(m);
    if (k < 0) return material;
    const { name, cameAs } = old.materials[k]!;
    return { ...material, name, ...(cameAs === undefined ? {} : { cameAs }) };
  });
  return {
    kind: 'take-new-art',
    source: fresh.source,
    nodes,
    meshes: fresh.meshes,
    whole: fresh.whole,
    materials: named,
    unit: fresh.unit,
    placing: fresh.placing,
    pictures: fresh.pictures,
    pivot: old.pivot,
  };
}

function partChanges(old: PieceDocument, after: PieceDocument, meshOf: (blob: string) => Mesh): PartChange[] {
  const [before, now] = [placedMatrices(old), placedMatrices(after)];
  const facts = (document: PieceDocument, i: number) =>
    document.meshes[document.nodes[i]!.mesh!]!.facts.triangles;
  const changes = artNodes(after.nodes).map((i): PartChange => {
    const node = after.nodes[i]!;
    const k = old.nodes.findIndex((other) => other.id === node.id && other.mesh !== null);
    if (k < 0)
      return {
        part: null,
        name: node.name,
        became: 'new',
        off: 0,
        triangles: { before: 0, after: facts(after, i) },
      };
    const triangles = { before: facts(old, k), after: facts(after, i) };
    const sameMesh = old.nodes[k]!.mesh === node.mesh;
    const still = sameMesh && before[k]!.every((v, n) => Math.abs(v - now[i]![n]!) < UNCHANGED_METRES);
    const off = still
      ? 0
      : farthest(
          transformMesh(meshOf(old.nodes[k]!.mesh!), before[k]!),
          transformMesh(meshOf(node.mesh!), now[i]!),
        );
    const became =
      off < UNCHANGED_METRES && triangles.before === triangles.after
        ? 'same'
        : sameMesh
          ? 'moved'
          : 'changed';
    return { part: node.id, name: node.name, became, off, triangles };
  });
  const there = new Set(after.nodes.map((node) => node.id));
  for (const k of artNodes(old.nodes)) {
    const { id, name } = old.nodes[k]!;
    if (!there.has(id))
      changes.push({
        part: id,
        name,
        became: 'gone',
        off: 0,
        triangles: { before: facts(old, k), after: 0 },
      });
  }
  return changes;
}

/** Farthest that a vertex of either lies from the other's surface; large meshes are sampled evenly. */
function farthest(a: Mesh, b: Mesh): number {
  const oneWay = (from: Mesh, to: Mesh) => {
    const bvh = buildBvh(to);
    const step = Math.max(1, Math.ceil(from.indices.length / MAX_MEASURED_VERTICES));
    let most = 0;
    for (let i = 0; i < from.indices.length; i += step) {
      const v = from.indices[i]! * 3;
      const p: Vec3 = [from.positions[v]!, from.positions[v + 1]!, from.positions[v + 2]!];
      most = Math.max(most, closestPoint(bvh, p)?.distance ?? 0);
    }
    return most;
  };
  return Math.max(oneWay(a, b), oneWay(b, a));
}

/** Where each pivot would be on the new art by the rule it was set with, seen against where it is. */
function pivotChanges(old: PieceDocument, after: PieceDocument): PivotChange[] {
  const would = (document: PieceDocument) => pivotPlace(document, old.pivot.anchor, old.pivot.cell);
  const changes: PivotChange[] = [pivotChange(null, old.name, old.pivot, subtract(would(after), would(old)))];
  after.nodes.forEach((node, i) => {
    const k = old.nodes.findIndex((other) => other.id === node.id);
    if (k < 0 || !old.nodes[k]!.pivot) return;
    const [b, n] = [partBounds(old, k), partBounds(after, i)];
    if (isEmpty(b) || isEmpty(n)) return;
    const shift = subtract(centreOf(n), centreOf(b));
    const rule = old.nodes[k]!.pivot!.anchor;
    const by: Vec3 = rule === 'base-centre' ? [shift[0], n.min[1] - b.min[1], shift[2]] : shift;
    changes.push(pivotChange(node.id, node.name, old.nodes[k]!.pivot!, by));
  });
  return changes;
}

const pivotChange = (part: string | null, name: string, pivot: Pivot, by: Vec3): PivotChange => ({
  part,
  name,
  off: distance(by, [0, 0, 0]),
  would: add(pivot.position, by),
});

/** The edit that takes new art with its pivots where it brings them, instead of put back. */
export function withPivotsAlong({ edit, pivots }: NewArtReport): NewArtReport['edit'] {
  const moved = new Map(pivots.map(({ part, would }) => [part, would]));
  const own = moved.get(null);
  return {
    ...edit,
    pivot: own ? { ...edit.pivot, position: own } : edit.pivot,
    nodes: edit.nodes.map((node) =>
      node.pivot && moved.has(node.id)
        ? { ...node, pivot: { ...node.pivot, position: moved.get(node.id)! } }
        : node,
    ),
  };
}
