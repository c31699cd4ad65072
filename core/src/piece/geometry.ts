import {
  applyMatrix,
  baseCentreOf,
  type Bounds,
  boundsThrough,
  centreOf,
  composeMatrix,
  emptyBounds,
  type Matrix,
  multiplyMatrices,
  NO_ROTATION,
  placeOf,
  pointOfBounds,
  type Quat,
  type Transform,
  unionOf,
  type Vec3,
} from '../math/index.js';
import { facesOfArea } from './areas.js';
import { cornersOfFaces, speckless } from '../decompose/index.js';
import { joinMeshes, type Mesh, mergeOrder, transformMesh } from '../mesh/index.js';
import { metresPerUnit, type PieceDocument, type PieceNode } from './document.js';
import { type Pivot, pivotAt, type PivotAnchor } from './pivot.js';
import { placingMatrix } from './placing.js';

/** World matrix of every node, in their order, inside `outer`. */
export function worldMatrices(
  nodes: readonly (Transform & { parent: number | null })[],
  outer: Matrix = composeMatrix({
    translation: [0, 0, 0],
    rotation: [...NO_ROTATION] as Quat,
    scale: [1, 1, 1],
  }),
): Matrix[] {
  const world: Matrix[] = [];
  nodes.forEach((_, i) => {
    const chain: number[] = [];
    for (let up: number | null = i; up !== null && !world[up]; up = nodes[up]!.parent) chain.push(up);
    for (let at = chain.pop(); at !== undefined; at = chain.pop()) {
      const { parent } = nodes[at]!;
      world[at] = multiplyMatrices(parent === null ? outer : world[parent]!, composeMatrix(nodes[at]!));
    }
  });
  return world;
}

/** From the file's space and unit into the piece's, in metres. */
export const fileToPiece = (document: Pick<PieceDocument, 'placing' | 'unit'>): Matrix =>
  placingMatrix(document.placing, metresPerUnit(document));

const placed = new WeakMap<PieceDocument, readonly Matrix[]>();

/** World matrix of every node in the piece's space, in metres. Worked out once for a document. */
export function placedMatrices(document: PieceDocument): readonly Matrix[] {
  const known = placed.get(document) ?? worldMatrices(document.nodes, fileToPiece(document));
  placed.set(document, known);
  return known;
}

/** The numbers of the nodes that are art: with a mesh and not set aside. */
export const artNodes = (nodes: readonly PieceNode[]): number[] =>
  nodes.flatMap((node, i) => (node.mesh !== null && !node.aside ? [i] : []));

/**
 * The whole art as one mesh where it stands, in metres: every node's transform is baked into the
 * vertices, mirrored faces are turned.
 */
export const artMesh = (document: PieceDocument, meshOf: (blob: string) => Mesh): Mesh =>
  placedArt(document, meshOf).mesh;

/** The art as one mesh that remembers where each face comes from. */
export interface PlacedArt {
  mesh: Mesh;
  /** [t]: number of the node */
  node: Uint32Array;
  /** [t]: number of the face in the node's own mesh */
  face: Uint32Array;
}

export function placedArt(document: PieceDocument, meshOf: (blob: string) => Mesh): PlacedArt {
  const world = placedMatrices(document);
  const parts = artNodes(document.nodes);
  const meshes = parts.map((i) => transformMesh(meshOf(document.nodes[i]!.mesh!), world[i]!));
  const faces = meshes.reduce((sum, mesh) => sum + mesh.indices.length / 3, 0);
  const node = new Uint32Array(faces);
  const face = new Uint32Array(faces);
  const groups: { material: number; start: number; count: number }[] = [];
  let at = 0;
  meshes.forEach((mesh, k) => {
    for (const group of mesh.groups) groups.push({ ...group, start: group.start + at });
    const own = mesh.indices.length / 3;
    node.fill(parts[k]!, at, at + own);
    for (let f = 0; f < own; f++) face[at + f] = f;
    at += own;
  });
  const order = mergeOrder(groups);
  const mesh = joinMeshes(meshes);
  if (!order) return { mesh, node, face };
  const sorted = { node: new Uint32Array(faces), face: new Uint32Array(faces) };
  at = 0;
  for (const { start, count } of order.flatMap(({ runs }) => runs)) {
    sorted.node.set(node.subarray(start, start + count), at);
    sorted.face.set(face.subarray(start, start + count), at);
    at += count;
  }
  return { mesh, ...sorted };
}

/** Ids of the parts that nothing collides with. */
export const partsLeftOut = ({ nodes }: Pick<PieceDocument, 'nodes'>): string[] =>
  nodes.flatMap(({ id, noCollision }) => (noCollision ? [id] : []));

/** A text that is the same for two documents of one art exactly when the same of it is left out. */
export const leftOutKey = (document: Pick<PieceDocument, 'nodes' | 'noCollision'>): string =>
  JSON.stringify([partsLeftOut(document), document.noCollision]);

/**
 * The art that is collided with: without parts that are left out, and without loose specks, which widen every box.
 * Vertices stay as they are.
 */
export function collidingArt(
  { nodes, noCollision }: Pick<PieceDocument, 'nodes' | 'noCollision'>,
  placed: PlacedArt,
): PlacedArt {
  const someLeftOut = noCollision.length > 0 || nodes.some((node) => node.noCollision);
  const leftOut = someLeftOut ? facesOfArea({ nodes }, { faces: noCollision }, placed) : null;
  const counted = leftOut
    ? facesOf(
        placed,
        Uint32Array.from(placed.node.keys()).filter(
          (face) => !leftOut[face] && !nodes[placed.node[face]!]!.noCollision,
        ),
      )
    : placed;
  const { kept, specks } = speckless(counted.mesh);
  return specks ? facesOf(counted, kept) : counted;
}

/** Some faces of placed art, with all its vertices. */
function facesOf(placed: PlacedArt, kept: Uint32Array): PlacedArt {
  const indices = cornersOfFaces(placed.mesh, kept);
  return {
    mesh: { ...placed.mesh, indices, groups: [{ material: 0, start: 0, count: kept.length }] },
    node: kept.map((face) => placed.node[face]!),
    face: kept.map((face) => placed.face[face]!),
  };
}

const artKeys = new WeakMap<PieceDocument, string>();

/** A text that is the same for two documents exactly when their art stands the same. */
export function artKey(document: PieceDocument): string {
  const known = artKeys.get(document);
  if (known !== undefined) return known;
  const { nodes, unit, placing } = document;
  const key = JSON.stringify([
    unit.name,
    placing,
    nodes.map(({ parent, mesh, aside, translation, rotation, scale }) => [
      parent,
      mesh,
      aside,
      translation,
      rotation,
      scale,
    ]),
  ]);
  artKeys.set(document, key);
  return key;
}

/** Bounds of the art as it stands, in metres. */
export function artBounds(document: PieceDocument): Bounds {
  const matrix = fileToPiece(document);
  return boundsThrough({ min: document.whole.min, max: document.whole.max }, (p) => applyMatrix(matrix, p));
}

/** Bounds of one node's own mesh, or of a group's parts together, as they stand, in metres. */
export function partBounds(document: PieceDocument, number: number): Bounds {
  const { nodes } = document;
  const own = nodes[number]!;
  const bounds = own.mesh === null ? boundsBelow(nodes, number) : (own.bounds ?? emptyBounds());
  const matrix = fileToPiece(document);
  return boundsThrough(bounds, (p) => applyMatrix(matrix, p));
}

function boundsBelow(nodes: readonly PieceNode[], number: number): Bounds {
  const within = new Uint8Array(nodes.length);
  within[number] = 1;
  let bounds = emptyBounds();
  for (let i = number; i < nodes.length; i++) {
    const node = nodes[i]!;
    if (node.parent !== null && within[node.parent]) within[i] = 1;
    if (within[i] && node.bounds) bounds = unionOf(bounds, node.bounds);
  }
  return bounds;
}

export const nodeById = (document: Pick<PieceDocument, 'nodes'>, id: string): number =>
  document.nodes.findIndex((node) => node.id === id);

/**
 * Where an anchor puts the pivot, in metres in the piece's space. Anchors that need more than bounds
 * ("numeric", a vertex, a hinge …) have no place of their own and stay where the pivot is.
 */
export function pivotPlace(document: PieceDocument, anchor: PivotAnchor, cell: Vec3 = [0, -1, 0]): Vec3 {
  switch (anchor) {
    case 'base-centre':
      return baseCentreOf(artBounds(document));
    case 'centre':
      return centreOf(artBounds(document));
    case 'bounds':
      return pointOfBounds(artBounds(document), cell);
    case 'origin':
      return [0, 0, 0];
    case 'as-it-came':
      return pivotAsItCame(document);
    default:
      return document.pivot.position;
  }
}

/** Where the art was modelled about: the origin of its file, in metres in the piece's space. */
export const modellingOrigin = (document: Pick<PieceDocument, 'placing' | 'unit'>): Vec3 =>
  placeOf(fileToPiece(document));

/** A single part brings its node's own origin; several only have the file's. */
function pivotAsItCame(document: PieceDocument): Vec3 {
  const parts = artNodes(document.nodes);
  return parts.length === 1 ? placeOf(placedMatrices(document)[parts[0]!]!) : modellingOrigin(document);
}

/** The pivot of a part: its own, the one it keeps in step with, or its node's origin. */
export function partPivot(document: PieceDocument, number: number): Pivot {
  const seen = new Set<number>();
  let i = number;
  for (;;) {
    const { pivot } = document.nodes[i]!;
    if (!pivot) return pivotAt('as-it-came', placeOf(placedMatrices(document)[i]!));
    const leader = pivot.follows === undefined ? -1 : nodeById(document, pivot.follows);
    seen.add(i);
    if (leader < 0 || seen.has(leader)) return pivot;
    i = leader;
  }
}
