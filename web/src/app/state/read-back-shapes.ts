import {
  artNodes,
  convexHull,
  hullShape,
  moveShape,
  partPivot,
  type PieceDocument,
  type Pivot,
  type ReadBack,
  type Shape,
  turnShape,
} from '@yard-brace/core';

/** Shapes as an importer has them, in the place of the piece's own while they are looked at. */
export interface ReadBackShapes {
  shapes: { id: string; shape: Shape }[];
  /** ids of those that the importer changed: filled, cut back, or made up */
  changed: ReadonlySet<string>;
}

/** What was read back of a delivery, where it stands over the piece. Shapes without their triangles are left out. */
export function readBackShapes(
  { meshes, shapes, changed }: ReadBack,
  document: PieceDocument,
): ReadBackShapes {
  const touched = new Set(changed.map(({ name }) => name));
  const drawn: ReadBackShapes['shapes'] = [];
  const marked = new Set<string>();
  shapes.forEach(({ name, owner, kind, triangles, filled, cutBack }, i) => {
    if (!triangles) return;
    const id = `read-back ${i}`;
    const shape = placed(formOf(kind, triangles), originOf(document, owner, meshes));
    drawn.push({ id, shape });
    if (filled > 0 || cutBack > 0 || touched.has(name)) marked.add(id);
  });
  meshes.forEach(({ name, madeUpBox, min, max, position }, i) => {
    if (!madeUpBox) return;
    const id = `made-up ${i}`;
    const middle = min.map((v, k) => (v + max[k]!) / 2 + position[k]!) as [number, number, number];
    const halfExtents = min.map((v, k) => Math.max((max[k]! - v) / 2, 1e-4)) as [number, number, number];
    const box: Shape = { kind: 'box', center: middle, halfExtents, rotation: [0, 0, 0, 1] };
    drawn.push({ id, shape: placed(box, originOf(document, name, meshes)) });
    marked.add(id);
  });
  return { shapes: drawn, changed: marked };
}

/** Convex ones by their faces, so that no diagonals are inked; a surface triangle by triangle. */
function formOf(kind: Shape['kind'], { points, indices }: { points: number[]; indices: number[] }): Shape {
  const found = kind === 'surface' ? null : convexHull(points);
  return found?.span === 'solid' ? hullShape(found.hull) : { kind: 'surface', points, indices };
}

/** The pivot that the file of an owner stands on: of its part where each left on its own, else of the piece. */
function originOf(document: PieceDocument, owner: string, meshes: ReadBack['meshes']): Pivot {
  const mesh = meshes.find(({ name }) => name === owner);
  const part = artNodes(document.nodes).find((i) => document.nodes[i]!.name === owner);
  const alone = mesh && mesh.parent === null && owner !== document.meshName;
  return alone && part !== undefined && mesh.position.every((v) => Math.abs(v) < 1e-9) && meshes.length > 1
    ? partPivot(document, part)
    : document.pivot;
}

const placed = (shape: Shape, { position, rotation }: Pivot): Shape =>
  moveShape(turnShape(shape, rotation), position);
