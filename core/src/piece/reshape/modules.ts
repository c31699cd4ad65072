import {
  add,
  alongPath,
  bent,
  composeMatrix,
  inModule,
  length,
  type Matrix,
  moduleAxes,
  multiplyQuats,
  NO_ROTATION,
  type Quat,
  rotate,
  scaled,
  stretched,
  subtract,
  type Vec3,
  type Warp,
  warpPoint,
  warpTurn,
} from '../../math/index.js';
import { cutByPlane, joinMeshes, topologyOf, transformMesh, warpMesh } from '../../mesh/index.js';
import { cutShape, warpShape } from '../../edit-shape/index.js';
import type { Proxy, RiddenEdge } from '../document.js';
import { withoutLink } from '../linked-shapes.js';
import type { Pivot } from '../pivot.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import { copyNodes } from './copy-nodes.js';
import { clearanceThrough, placeNodes, shapeThrough } from './place.js';
import type { Reshaping } from './reshaping.js';
import { planeInto } from './split.js';

type Module = OperationOf<'bend'>['module'];

/** The module's axes in the piece's space. @throws ReshapeError for a direction without length */
function axesOf({ origin, along }: Module): Omit<Warp, 'stations'> {
  if (length(along) < 1e-9) throw new ReshapeError('The module needs a direction; choose one.');
  return { origin, ...moduleAxes(along) };
}

function checkSpan({ from, to }: Module): void {
  if (!(to - from > 1e-6))
    throw new ReshapeError('The module ends before it begins; type an end that lies farther along.');
}

/** A straight module bent about its upright axis. */
export function bend(
  work: Reshaping,
  { parts, module, degrees, divisions, held }: OperationOf<'bend'>,
): OutcomeOf<'bend'> {
  checkSpan(module);
  const radians = (degrees * Math.PI) / 180;
  const warp = bent(axesOf(module), { ...module, radians, divisions, held });
  const count = warpParts(work, parts, warp);
  return { op: 'bend', parts: count, degrees, divisions };
}

/** What lies between two places of a module takes another length; its ends keep their form. */
export function stretch(
  work: Reshaping,
  { parts, module, metres, held }: OperationOf<'stretch'>,
): OutcomeOf<'stretch'> {
  checkSpan(module);
  const now = module.to - module.from;
  const warp = stretched(axesOf(module), { ...module, length: metres, held });
  warpParts(work, parts, warp);
  return { op: 'stretch', from: now, to: metres };
}

/** A straight module laid along a line of points. */
export function layAlong(
  work: Reshaping,
  { parts, module, line }: OperationOf<'lay-along'>,
): OutcomeOf<'lay-along'> {
  checkSpan(module);
  const warp = alongPath(axesOf(module), { ...module, line });
  if (!warp) throw new ReshapeError('The line has no length; pick places that are apart.');
  warpParts(work, parts, warp);
  const reach = line.slice(1).reduce((sum, p, i) => sum + length(subtract(p, line[i]!)), 0);
  return { op: 'lay-along', bends: warp.stations.length - 2, metres: reach };
}

/** Every part named goes along a warp where it stands, with its pivot and shapes; the whole piece with all it has. */
function warpParts(work: Reshaping, parts: readonly string[], warp: Warp): number {
  const chosen = work.parts(parts);
  const placed = work.placed();
  for (const node of chosen) {
    const back = work.inverse(placed[node]!, node);
    const standing = transformMesh(work.mesh(node), placed[node]!);
    work.setMesh(node, transformMesh(warpMesh(standing, warp), back));
  }
  const ids = new Set(chosen.map((i) => work.nodes[i]!.id));
  work.nodes = work.nodes.map((node) =>
    node.pivot && ids.has(node.id) ? { ...node, pivot: warpedPivot(node.pivot, warp) } : node,
  );
  const whole = parts.length === 0;
  work.changeShapes(whole ? null : ids, (proxy) => {
    const shapes = warpShape(proxy.shape, warp);
    return shapes.map((shape): Proxy => ({ ...withoutLink(proxy), shape }));
  });
  if (!whole) return chosen.length;
  const { pivot, presentation, familyFeature, clearances, riddenEdges } = work.document;
  if (presentation) work.along.presentation = warpedPivot(presentation, warp);
  if (familyFeature) work.along.familyFeature = warpPoint(warp, familyFeature);
  if (!pivot.locked) work.along.pivot = { ...warpedPivot(pivot, warp), rotation: pivot.rotation };
  work.along.clearances = clearances.map((each) => clearanceThrough(each, rigidAt(warp, each.center)));
  work.along.riddenEdges = riddenEdges.map((each) => warpedEdge(each, warp));
  return chosen.length;
}

/** What a warp does to something small at a place: moved and turned as a whole. */
function rigidAt(warp: Warp, at: Readonly<Vec3>): Matrix {
  const rotation = warpTurn(warp, at);
  const translation = subtract(warpPoint(warp, at), rotate(rotation, at));
  return composeMatrix({ translation, rotation, scale: [1, 1, 1] });
}

function warpedPivot(pivot: Pivot, warp: Warp): Pivot {
  const turn = warpTurn(warp, pivot.position);
  return {
    ...pivot,
    position: warpPoint(warp, pivot.position),
    rotation: multiplyQuats(turn, pivot.rotation),
    ...(pivot.hinge ? { hinge: { ...pivot.hinge, axis: rotate(turn, pivot.hinge.axis) } } : {}),
  };
}

/** A ridden edge bends where the module does. */
function warpedEdge(edge: RiddenEdge, warp: Warp): RiddenEdge {
  const line: Vec3[] = [];
  const sides: RiddenEdge['sides'] = [];
  edge.line.slice(1).forEach((end, i) => {
    const start = edge.line[i]!;
    const [a, b] = [inModule(warp, start)[0], inModule(warp, end)[0]];
    const shares = warp.stations
      .map(({ at }) => (at - a) / (b - a))
      .filter((share) => share > 1e-9 && share < 1 - 1e-9)
      .sort((p, q) => p - q);
    const places = [0, ...shares].map((share) => add(start, scaled(subtract(end, start), share)));
    places.forEach((place, k) => {
      const next = places[k + 1] ?? end;
      const middle = scaled(add(place, next), 0.5);
      const turn = warpTurn(warp, middle);
      line.push(warpPoint(warp, place));
      sides.push(edge.sides[i]!.map((way) => rotate(turn, way)) as [Vec3, Vec3]);
    });
  });
  line.push(warpPoint(warp, edge.line.at(-1)!));
  return { ...edge, line, sides };
}

/**
 * Parts with all below them again and again along a line, the original among the count; no part stands for the whole
 * piece. As one, each part holds all of its copies; otherwise every copy is a part of its own.
 */
export function repeat(
  work: Reshaping,
  { parts, count, step, asOne }: OperationOf<'repeat'>,
): OutcomeOf<'repeat'> {
  if (length(step) < 1e-9) throw new ReshapeError('Copies need a step; type how far they are apart.');
  const whole = parts.length === 0;
  const shift = (n: number): Matrix =>
    composeMatrix({ translation: scaled(step, n), rotation: [...NO_ROTATION] as Quat, scale: [1, 1, 1] });
  const copies = Array.from({ length: count - 1 }, (_, n) => n + 1);
  if (asOne) {
    const chosen = work.parts(parts);
    const placed = work.placed();
    for (const node of chosen) {
      const back = work.inverse(placed[node]!, node);
      const standing = transformMesh(work.mesh(node), placed[node]!);
      const all = joinMeshes([standing, ...copies.map((n) => transformMesh(standing, shift(n)))]);
      work.setMesh(node, transformMesh(all, back));
    }
    const ids = new Set(chosen.map((i) => work.nodes[i]!.id));
    work.changeShapes(whole ? null : ids, (proxy) => [
      proxy,
      ...copies.flatMap((n) => shapeThrough(proxy, shift(n))),
    ]);
  } else {
    const chosen = whole
      ? work.nodes.flatMap((node, i) => (node.parent === null ? [i] : []))
      : parts.map((id) => work.number(id));
    const below = work.below(chosen);
    const tops = chosen.filter((i) => !below[work.nodes[i]!.parent ?? -1]);
    const owners = copies.map((n) => ({ n, ...copyNodes(work, tops) }));
    for (const { n, tops: made } of owners)
      placeNodes(
        work,
        made.map((id) => work.number(id)),
        shift(n),
      );
    const ids = new Set(owners[0]?.owner.keys() ?? []);
    work.changeShapes(whole ? null : ids, (proxy) => [
      proxy,
      ...owners.flatMap(({ n, owner }) =>
        shapeThrough(proxy, shift(n)).map((each) => ({
          ...each,
          ...(each.part === undefined ? {} : { part: owner.get(each.part) ?? each.part }),
        })),
      ),
    ]);
  }
  return { op: 'repeat', count, metres: length(step), asOne };
}

/** What lies beyond a plane, along its normal, goes: of the art, and of the shapes that belong to it. */
export function trim(
  work: Reshaping,
  { parts, point, normal, close }: OperationOf<'trim'>,
): OutcomeOf<'trim'> {
  const chosen = work.parts(parts);
  let cut = 0;
  const gone: number[] = [];
  for (const node of chosen) {
    const mesh = work.mesh(node);
    const closed = close && topologyOf(mesh).closed;
    const { front, back } = cutByPlane(mesh, planeInto(work, node, point, normal), { close: closed });
    if (front.indices.length === 0) continue;
    cut++;
    if (back.indices.length === 0) gone.push(node);
    work.setMesh(node, back);
  }
  if (cut === 0) throw new ReshapeError('Nothing lies beyond the plane; move it.');
  if (gone.length === chosen.length)
    throw new ReshapeError(
      'All of it lies beyond the plane, and nothing would be left; move it, or turn it round.',
    );
  const ids = new Set(chosen.map((i) => work.nodes[i]!.id));
  work.changeShapes(parts.length ? ids : null, (proxy) => {
    const { below } = cutShape(proxy.shape, { point, normal });
    return below ? [below === proxy.shape ? proxy : { ...withoutLink(proxy), shape: below }] : [];
  });
  return { op: 'trim', parts: cut };
}
