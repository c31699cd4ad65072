import {
  type Bounds,
  boundsOf,
  centreOf,
  diagonalOf,
  emptyBounds,
  isEmpty,
  UnionFind,
  unionOf,
} from '../math/index.js';
import { eachSet } from './edits/change-sets.js';
import { joinMeshes, type Mesh, transformMesh } from '../mesh/index.js';
import { shapeBounds } from '../shape/index.js';
import { surveyMesh } from '../solid/index.js';
import type { PieceDocument } from './document.js';
import { artNodes, nodeById, partBounds, worldMatrices } from './geometry.js';
import { pieceNameFrom } from './intake.js';

/** Parts that stand this share of the smaller one's size apart are taken for different pieces. */
const SEPARATE_SHARE = 0.25;

const known = new WeakMap<PieceDocument['nodes'], string[][]>();

/**
 * The pieces that seem to be in one document: the ids of the tops of the tree that stand together. One
 * list when all stands together. A lone empty root does not count as the top. Worked out once for a tree.
 */
export function piecesIn({ nodes }: Pick<PieceDocument, 'nodes'>): string[][] {
  const found = known.get(nodes) ?? findPieces(nodes);
  known.set(nodes, found);
  return found;
}

function findPieces(nodes: PieceDocument['nodes']): string[][] {
  let tops = nodes.flatMap((node, i) => (node.parent === null ? [i] : []));
  while (tops.length === 1 && nodes[tops[0]!]!.mesh === null) {
    const below = nodes.flatMap((node, i) => (node.parent === tops[0] ? [i] : []));
    if (below.length === 0) break;
    tops = below;
  }
  const top = new Int32Array(nodes.length).fill(-1);
  tops.forEach((node, t) => (top[node] = t));
  const boxes: Bounds[] = tops.map(() => emptyBounds());
  nodes.forEach((node, i) => {
    if (top[i]! < 0 && node.parent !== null) top[i] = top[node.parent]!;
    if (top[i]! >= 0 && node.bounds && !node.aside) boxes[top[i]!] = unionOf(boxes[top[i]!]!, node.bounds);
  });
  const solid = tops.map((_, t) => t).filter((t) => !isEmpty(boxes[t]!));
  const group = standingTogether(solid.map((t) => boxes[t]!));
  const pieces = new Map<number, string[]>();
  solid.forEach((t, i) => {
    const id = nodes[tops[t]!]!.id;
    const piece = pieces.get(group[i]!);
    if (piece) piece.push(id);
    else pieces.set(group[i]!, [id]);
  });
  return [...pieces.values()];
}

/**
 * Which boxes stand together, over any number of others between them: boxes are swept along x, and those that
 * are known to stand together are not compared again. Shape: [n], the least number of each one's group.
 */
function standingTogether(boxes: readonly Bounds[]): Int32Array {
  const groups = new UnionFind(boxes.length);
  const reach = boxes.map((box) => SEPARATE_SHARE * diagonalOf(box));
  const order = boxes.map((_, i) => i).sort((a, b) => boxes[a]!.min[0] - boxes[b]!.min[0]);
  let active: number[] = [];
  for (const i of order) {
    active = active.filter((other) => boxes[other]!.max[0] + reach[other]! >= boxes[i]!.min[0]);
    for (const other of active) {
      if (groups.root(i) === groups.root(other)) continue;
      if (gap(boxes[i]!, boxes[other]!) <= Math.min(reach[i]!, reach[other]!)) groups.join(i, other);
    }
    active.push(i);
  }
  return Int32Array.from(boxes, (_, i) => groups.root(i));
}

function gap(a: Bounds, b: Bounds): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const apart = Math.max(0, a.min[k]! - b.max[k]!, b.min[k]! - a.max[k]!);
    sum += apart * apart;
  }
  return Math.sqrt(sum);
}

/**
 * One of several pieces as a document of its own: the tops with all above and below them, where they
 * stood. Proxies of its parts go along, and those of the whole, and clearances, that stand with it; meshes are
 * shared, not copied.
 */
export function extractPiece(
  document: PieceDocument,
  tops: readonly string[],
  meshOf: (blob: string) => Mesh,
  meshName: (pieceName: string) => string,
): PieceDocument {
  const keep = new Uint8Array(document.nodes.length);
  document.nodes.forEach((node, i) => {
    if (tops.includes(node.id) || (node.parent !== null && keep[node.parent] === 2)) keep[i] = 2;
  });
  for (let i = keep.length - 1; i >= 0; i--) {
    const { parent } = document.nodes[i]!;
    if (keep[i] && parent !== null) keep[parent] ||= 1;
  }
  const place = new Map<number, number>();
  const nodes = document.nodes.flatMap((node, i) => {
    if (!keep[i]) return [];
    place.set(i, place.size);
    // What is only on the way to the root is a group here: its own mesh is another piece's.
    const own = keep[i] === 2 ? node : { ...node, mesh: null, bounds: null };
    return [{ ...own, parent: node.parent === null ? null : place.get(node.parent)! }];
  });
  const ids = new Set(nodes.map((node) => node.id));
  const used = new Set(nodes.map((node) => node.mesh));
  const world = worldMatrices(nodes);
  const pieces = piecesIn(document);
  const nearest = nearestPiece(document, pieces);
  const own = pieces.findIndex((piece) => piece.includes(tops[0]!));
  const standsWith = (bounds: Bounds) => nearest(bounds) === own;
  const name = pieceNameFrom(`${document.nodes.find((node) => node.id === tops[0])!.name}.`);
  return {
    ...document,
    name,
    meshName: meshName(name),
    nodes,
    meshes: Object.fromEntries(Object.entries(document.meshes).filter(([id]) => used.has(id))),
    whole: surveyMesh(
      joinMeshes(artNodes(nodes).map((i) => transformMesh(meshOf(nodes[i]!.mesh!), world[i]!))),
    ),
    ...eachSet(document, (proxies) =>
      proxies.filter(({ part, shape }) =>
        part === undefined ? standsWith(shapeBounds(shape)) : ids.has(part),
      ),
    ),
    areas: document.areas.filter(({ faces }) => faces.every(({ part }) => ids.has(part))),
    noCollision: document.noCollision.filter(({ part }) => ids.has(part)),
    riddenEdges: document.riddenEdges.filter(({ line }) => standsWith(boundsOf(line.flat()))),
    clearances: document.clearances.filter(({ center }) => standsWith({ min: center, max: center })),
  };
}

/** Which of the pieces something belongs to that names no part: the one it stands in or nearest to. */
function nearestPiece(document: PieceDocument, pieces: readonly string[][]): (bounds: Bounds) => number {
  const boxes = pieces.map((tops) =>
    tops.map((id) => boundsBelow(document, nodeById(document, id))).reduce(unionOf, emptyBounds()),
  );
  return (bounds) => {
    const middle = centreOf(bounds);
    const away = boxes.map((box) => gap(box, { min: middle, max: middle }));
    return away.indexOf(Math.min(...away));
  };
}

/** Bounds of a node's parts with all below it, as they stand, in metres. */
function boundsBelow(document: PieceDocument, top: number): Bounds {
  const within = new Uint8Array(document.nodes.length);
  let bounds = emptyBounds();
  document.nodes.forEach(({ parent, mesh, aside }, i) => {
    if (i === top || (parent !== null && within[parent])) within[i] = 1;
    if (within[i] && mesh !== null && !aside) bounds = unionOf(bounds, partBounds(document, i));
  });
  return bounds;
}
