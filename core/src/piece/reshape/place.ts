import {
  add,
  applyMatrix,
  type Bounds,
  composeMatrix,
  decomposeMatrix,
  determinant3,
  diagonalOf,
  inverseQuat,
  type Matrix,
  multiplyMatrices,
  NO_ROTATION,
  normalized,
  placeOf,
  type Quat,
  subtract,
  type Vec3,
} from '../../math/index.js';
import { meshBounds, transformMesh } from '../../mesh/index.js';
import { mirrorPoint, type MirrorPlane } from '../../shape/index.js';
import { throughMatrix } from '../../edit-shape/index.js';
import type { Clearance, FacesOfParts, PieceNode, Proxy, RiddenEdge } from '../document.js';
import { fileToPiece } from '../geometry.js';
import { withoutLink } from '../linked-shapes.js';
import type { Pivot } from '../pivot.js';
import { copyNodes } from './copy-nodes.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';
import { setParent } from './tree.js';

const ACROSS_X: Matrix = composeMatrix({
  translation: [0, 0, 0],
  rotation: [...NO_ROTATION] as Quat,
  scale: [-1, 1, 1],
});

/** Turned about a point, grown from it along its axes before that, then shifted; all in the piece's space. */
export function placeMatrix({
  by,
  turn,
  about,
  scale = [1, 1, 1],
  axes = [...NO_ROTATION] as Quat,
}: Pick<OperationOf<'move'>, 'by' | 'turn' | 'about' | 'scale' | 'axes'>): Matrix {
  const rotation = (quat: Quat) =>
    composeMatrix({ translation: [0, 0, 0], rotation: quat, scale: [1, 1, 1] });
  const grown = composeMatrix({ translation: [0, 0, 0], rotation: axes, scale });
  const linear = multiplyMatrices(rotation(turn), multiplyMatrices(grown, rotation(inverseQuat(axes))));
  const shift = add(subtract(about, applyMatrix(linear, about)), by);
  return multiplyMatrices(
    composeMatrix({ translation: shift, rotation: [...NO_ROTATION] as Quat, scale: [1, 1, 1] }),
    linear,
  );
}

/**
 * Parts with all below them, or by themselves, moved, turned and grown; no part stands for the whole piece. Pivots,
 * hinges and shapes go along; faces that a mirror turned are turned back.
 */
export function move(work: Reshaping, operation: OperationOf<'move'>): OutcomeOf<'move'> {
  const { parts, by, turn, alone = false, scale = [1, 1, 1] } = operation;
  if (scale.some((s) => Math.abs(s) < 1e-9))
    throw new ReshapeError('A scale of zero flattens the part; type another factor.');
  const matrix = placeMatrix(operation);
  const chosen = parts.map((id) => work.number(id));
  const names = chosen.map((i) => work.nodes[i]!.name);
  placeNodes(work, chosen, matrix, alone);
  const degrees = (2 * Math.acos(Math.min(1, Math.abs(turn[3]))) * 180) / Math.PI;
  return { op: 'move', parts: names, metres: Math.hypot(...by), degrees, scale: [...scale] as Vec3 };
}

/** What differs less is where it was: metres, and shares of a turn or scale. */
const IN_PLACE = 1e-9;

/** Whether art is what once had these bounds, which may be an outer estimate where the piece stands turned. */
function fills(own: Bounds, box: Bounds): boolean {
  const [size, whole] = [diagonalOf(own), diagonalOf(box)];
  const room = whole * 1e-4;
  const inside = [0, 1, 2].every(
    (k) => own.min[k]! >= box.min[k]! - room && own.max[k]! <= box.max[k]! + room,
  );
  return inside && size >= whole * LEAST_FILLED;
}
/** A cube that is turned fills this share of the box round its box, by their diagonals, and somewhat more. */
const LEAST_FILLED = 0.55;

/** Nodes where they stood once, one after the other from the roots on, so that each ends where it is wanted. */
export function putBack(work: Reshaping, { places }: OperationOf<'put-back'>): OutcomeOf<'put-back'> {
  const wanted = new Map(
    places.map(({ part, matrix, box }) => [work.number(part), { to: Float64Array.from(matrix), box }]),
  );
  const moved: string[] = [];
  let metres = 0;
  for (const node of [...wanted.keys()].sort((a, b) => a - b)) {
    const { to, box } = wanted.get(node)!;
    const now = work.placed()[node]!;
    const { name, mesh } = work.nodes[node]!;
    if (box && mesh !== null && !fills(meshBounds(transformMesh(work.mesh(node), to)), box))
      throw new ReshapeError(
        `“${name}” has other vertices than it had then, as after a bake or a cut; put it back by hand.`,
      );
    if (now.every((v, k) => Math.abs(v - to[k]!) <= IN_PLACE)) continue;
    const matrix = multiplyMatrices(to, work.inverse(now, node));
    if (Math.abs(determinant3(matrix)) < 1e-12)
      throw new ReshapeError(`“${name}” would be flattened; that is no place to put it back to.`);
    if (determinant3(matrix) < 0)
      throw new ReshapeError(
        `“${name}” is mirrored against what it was then; mirror it again, then put it back.`,
      );
    metres = Math.max(metres, Math.hypot(...[12, 13, 14].map((k) => now[k]! - to[k]!)));
    placeNodes(work, [node], matrix);
    moved.push(name);
  }
  return { op: 'put-back', moved, metres, stayed: places.length - moved.length };
}

/** @param chosen numbers of nodes; none for the whole piece */
export function placeNodes(work: Reshaping, chosen: readonly number[], matrix: Matrix, alone = false): void {
  const whole = chosen.length === 0;
  const left = alone && !whole ? childrenLeft(work, chosen) : [];
  for (const { child } of left) setParent(work, child, null, work.localUnder(child, null));
  const tops = whole
    ? work.nodes.flatMap((node, i) => (node.parent === null ? [i] : []))
    : topsOf(work, chosen);
  const moves = work.below(tops);
  const mirrors = determinant3(matrix) < 0;
  const placed = work.placed();
  if (mirrors) mirrorOwn(work, moves, new Set(tops));
  for (const top of tops) {
    const { parent } = work.nodes[top]!;
    const outer = parent === null ? fileToPiece(work) : placed[parent]!;
    const wanted = multiplyMatrices(matrix, placed[top]!);
    const proper = mirrors ? multiplyMatrices(wanted, ACROSS_X) : wanted;
    setParent(work, top, parent, multiplyMatrices(work.inverse(outer, parent ?? top), proper));
  }
  for (const { child, parent } of left) setParent(work, child, parent, work.localUnder(child, parent));
  work.nodes = work.nodes.map((node, i) =>
    moves[i] && node.pivot ? { ...node, pivot: pivotThrough(node.pivot, matrix) } : node,
  );
  const ids = new Set(work.nodes.flatMap(({ id }, i) => (moves[i] ? [id] : [])));
  work.changeShapes(whole ? null : ids, (proxy) => shapeThrough(proxy, matrix));
  if (!whole) return;
  const { pivot, presentation, familyFeature, clearances, riddenEdges } = work.document;
  if (presentation) work.along.presentation = pivotThrough(presentation, matrix);
  if (familyFeature) work.along.familyFeature = applyMatrix(matrix, familyFeature);
  // The axes of the piece stay: how it stands changes, not what it is.
  work.along.pivot = { ...pivotThrough(pivot, matrix), rotation: pivot.rotation };
  work.along.clearances = clearances.map((each) => clearanceThrough(each, matrix));
  work.along.riddenEdges = riddenEdges.map((each) => edgeThrough(each, matrix));
}

/** What hangs below chosen nodes and is not chosen itself, with what it hangs below. */
const childrenLeft = (work: Reshaping, chosen: readonly number[]): { child: number; parent: number }[] =>
  work.nodes.flatMap(({ parent }, child) =>
    parent !== null && chosen.includes(parent) && !chosen.includes(child) ? [{ child, parent }] : [],
  );

/** A mirror goes out of the nodes and into the vertices; places below the tops are mirrored each in its own space. */
function mirrorOwn(work: Reshaping, moves: Uint8Array, tops: ReadonlySet<number>): void {
  const done = new Map<string, string | null>();
  work.nodes.forEach((node, i) => {
    if (!moves[i]) return;
    const { mesh, translation, rotation } = node;
    if (mesh !== null && !done.has(mesh))
      done.set(mesh, work.put(transformMesh(work.mesh(i), ACROSS_X), node.name));
    const [x, y, z] = translation;
    const [rx, ry, rz, rw] = rotation;
    const own: Pick<PieceNode, 'translation' | 'rotation'> = tops.has(i)
      ? { translation, rotation }
      : { translation: [-x, y, z], rotation: [rx, -ry, -rz, rw] };
    work.nodes[i] = { ...node, ...own, mesh: mesh === null ? null : done.get(mesh)! };
  });
}

/** Those of some nodes that are below no other of them. */
function topsOf(work: Reshaping, chosen: readonly number[]): number[] {
  const marks = work.below(chosen);
  return chosen.filter((i) => {
    const { parent } = work.nodes[i]!;
    return parent === null || !marks[parent];
  });
}

export const shapeThrough = (proxy: Proxy, matrix: Matrix): Proxy[] => {
  const shape = throughMatrix(proxy.shape, matrix);
  if (!shape) return [];
  const grown = Math.cbrt(Math.abs(determinant3(matrix)));
  const { acceptedExcess } = proxy;
  return [
    {
      ...withoutLink(proxy),
      shape,
      ...(acceptedExcess === undefined ? {} : { acceptedExcess: acceptedExcess * grown }),
    },
  ];
};

/** A direction through a matrix, unit length. */
const wayThrough = (matrix: Matrix, way: Readonly<Vec3>): Vec3 =>
  normalized(subtract(applyMatrix(matrix, way), placeOf(matrix)));

/** Axes through a matrix; in a mirror they stay right-handed. */
function axesThrough(matrix: Matrix, rotation: Quat): Quat {
  const own = multiplyMatrices(matrix, composeMatrix({ translation: [0, 0, 0], rotation, scale: [1, 1, 1] }));
  const proper = determinant3(matrix) < 0 ? multiplyMatrices(own, ACROSS_X) : own;
  return decomposeMatrix(proper).rotation;
}

/** A hinge that is seen in a mirror opens the other way. */
export function pivotThrough(pivot: Pivot, matrix: Matrix): Pivot {
  const mirrors = determinant3(matrix) < 0;
  const { hinge } = pivot;
  const grown = Math.cbrt(Math.abs(determinant3(matrix)));
  const [from, to] = hinge?.opens ?? [0, 0];
  return {
    ...pivot,
    position: applyMatrix(matrix, pivot.position),
    rotation: axesThrough(matrix, pivot.rotation),
    ...(hinge
      ? {
          hinge: {
            ...hinge,
            axis: wayThrough(matrix, hinge.axis),
            opens: mirrors ? [0 - to, 0 - from] : hinge.opens,
            ...(hinge.slides ? { slides: hinge.slides.map((end) => end * grown) as [number, number] } : {}),
          },
        }
      : {}),
  };
}

export function clearanceThrough(clearance: Clearance, matrix: Matrix): Clearance {
  const box = throughMatrix({ kind: 'box', ...pick(clearance) }, matrix);
  if (box?.kind === 'box') return { ...clearance, ...pick(box) };
  const { scale } = decomposeMatrix(matrix);
  return {
    ...clearance,
    center: applyMatrix(matrix, clearance.center),
    rotation: axesThrough(matrix, clearance.rotation),
    halfExtents: clearance.halfExtents.map((half, k) => half * Math.abs(scale[k]!)) as Vec3,
  };
}

const pick = ({ center, halfExtents, rotation }: Pick<Clearance, 'center' | 'halfExtents' | 'rotation'>) => ({
  center,
  halfExtents,
  rotation,
});

export const edgeThrough = (edge: RiddenEdge, matrix: Matrix): RiddenEdge => ({
  ...edge,
  line: edge.line.map((p) => applyMatrix(matrix, p)),
  sides: edge.sides.map(([a, b]): [Vec3, Vec3] => [wayThrough(matrix, a), wayThrough(matrix, b)]),
});

/** The reflection over a plane, as a matrix. */
export function mirrorMatrix(plane: MirrorPlane): Matrix {
  const at = mirrorPoint([0, 0, 0], plane);
  const column = (axis: Vec3) => [...subtract(mirrorPoint(axis, plane), at), 0];
  return Float64Array.from([...column([1, 0, 0]), ...column([0, 1, 0]), ...column([0, 0, 1]), ...at, 1]);
}

/**
 * Parts with all below them on the other side of a plane, in their place or as copies beside them; no part stands for
 * the whole piece, with its areas, clearances and sets. Faces look outward as before, pictures and baked light lie as
 * they lay, hinges open the other way, nodes keep scales above zero.
 */
export function mirror(work: Reshaping, { parts, plane, copy }: OperationOf<'mirror'>): OutcomeOf<'mirror'> {
  const matrix = mirrorMatrix(plane);
  if (parts.length === 0) {
    const before = new Map(work.nodes.map(({ id, mesh }) => [id, mesh]));
    placeNodes(work, [], matrix);
    work.along.pivot = pivotThrough(work.document.pivot, matrix);
    const renewed = (faces: FacesOfParts): FacesOfParts =>
      faces.map((each) => {
        const now = work.nodes.find(({ id }) => id === each.part)?.mesh;
        return now && before.get(each.part) === each.mesh ? { ...each, mesh: now } : each;
      });
    const { areas, noCollision } = work.document;
    if (areas.length) work.along.areas = areas.map((area) => ({ ...area, faces: renewed(area.faces) }));
    if (noCollision.length) work.along.noCollision = renewed(noCollision);
    return { op: 'mirror', parts: [], copies: [] };
  }
  const tops = topsOf(
    work,
    parts.map((id) => work.number(id)),
  );
  const names = tops.map((i) => work.nodes[i]!.name);
  if (!copy) {
    placeNodes(work, tops, matrix);
    return { op: 'mirror', parts: names, copies: [] };
  }
  const copies = copyNodes(work, tops);
  work.changeShapes(new Set(copies.owner.keys()), (proxy) => [
    proxy,
    ...shapeThrough({ ...proxy, part: copies.owner.get(proxy.part!)! }, matrix),
  ]);
  const own = copies.tops.map((id) => work.number(id));
  const made = own.map((i) => work.nodes[i]!.name);
  // Shapes of the copies were made above: the nodes alone are placed now.
  placeNodes(work, own, matrix);
  return { op: 'mirror', parts: names, copies: made };
}
