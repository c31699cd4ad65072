import { type Bvh, buildBvh, type ClosedSolid, closestPoint } from '../solid/index.js';
import { UnionFind, type Vec3 } from '../math/index.js';
import { compact } from './fragment.js';
import { type ConvexPart, convexPartOf, type DecompositionContext } from './convex-part.js';

/** Surfaces that are told apart; of more, near ones are taken together. */
const MAX_PARTS = 192;
/** Surfaces nearer than this share of the size belong to one solid to the eye. */
const GAP_SHARE = 0.005;

/**
 * The separate surfaces of the art as pieces, each with the number of the solid it belongs to. Hollows inside
 * closed ones are not seen from outside and are left out.
 */
export function separateParts(solid: ClosedSolid, context: DecompositionContext): ConvexPart[] {
  const { shells, volumes, shellOf, indices, faces, positions } = solid;
  const boxes = shellBounds(solid);
  const groups = groupsOf(solid, boxes, context.size * GAP_SHARE);
  const real: number[][] = Array.from({ length: shells }, () => []);
  const caps: number[][] = Array.from({ length: shells }, () => []);
  for (let t = 0; t < shellOf.length; t++) {
    const list = (t < faces ? real : caps)[shellOf[t]!]!;
    list.push(indices[t * 3]!, indices[t * 3 + 1]!, indices[t * 3 + 2]!);
  }
  const pieces: ConvexPart[] = [];
  for (const members of bundled(shells, boxes)) {
    const seen = members.filter((shell) => volumes[shell]! >= 0);
    const corners = seen.flatMap((shell) => real[shell]!);
    if (!corners.length) continue;
    context.progress(-1);
    const closing = seen.flatMap((shell) => (volumes[shell] ? caps[shell]! : []));
    pieces.push(convexPartOf(compact(positions, corners, closing), groups[members[0]!]!, context));
  }
  return pieces;
}

/** [6 * shells]: least x, y, z, greatest x, y, z */
export function shellBounds({ positions, indices, shellOf, shells, faces }: ClosedSolid): Float64Array {
  const boxes = new Float64Array(shells * 6);
  for (let i = 0; i < boxes.length; i++) boxes[i] = i % 6 < 3 ? Infinity : -Infinity;
  for (let i = 0; i < faces * 3; i++) {
    const s = shellOf[(i / 3) | 0]! * 6;
    for (let k = 0; k < 3; k++) {
      const value = positions[indices[i]! * 3 + k]!;
      if (value < boxes[s + k]!) boxes[s + k] = value;
      if (value > boxes[s + 3 + k]!) boxes[s + 3 + k] = value;
    }
  }
  return boxes;
}

/** Shells that come within `gap` metres of each other are one group; [shells], the lowest shell of each. */
function groupsOf(solid: ClosedSolid, boxes: Float64Array, gap: number): Int32Array {
  const { shells } = solid;
  const groups = new UnionFind(shells);
  // Of very many shells the boxes alone decide: they are bundled by place anyway.
  const meets = shells <= MAX_PARTS ? meeting(solid, gap) : () => true;
  const order = Int32Array.from({ length: shells }, (_, i) => i).sort(
    (a, b) => boxes[a * 6]! - boxes[b * 6]! || a - b,
  );
  let active: number[] = [];
  for (const s of order) {
    active = active.filter((o) => boxes[o * 6 + 3]! + gap >= boxes[s * 6]!);
    for (const o of shells <= MAX_PARTS ? active : active.slice(-64)) {
      if (groups.root(s) === groups.root(o)) continue;
      const near = [1, 2].every(
        (k) =>
          boxes[o * 6 + k]! - gap <= boxes[s * 6 + 3 + k]! &&
          boxes[s * 6 + k]! - gap <= boxes[o * 6 + 3 + k]!,
      );
      if (near && meets(s, o)) groups.join(s, o);
    }
    active.push(s);
  }
  return Int32Array.from({ length: shells }, (_, s) => groups.root(s));
}

/** Whether two shells come near each other: asked at the corners of each, and at places along its edges. */
function meeting({ positions, indices, shellOf, shells, faces }: ClosedSolid, gap: number) {
  const lists: number[][] = Array.from({ length: shells }, () => []);
  for (let i = 0; i < faces * 3; i++) lists[shellOf[(i / 3) | 0]!]!.push(indices[i]!);
  const trees: Bvh[] = [];
  const treeOf = (s: number) => (trees[s] ??= buildBvh({ positions, indices: Uint32Array.from(lists[s]!) }));
  const comesNear = (from: readonly number[], tree: Bvh): boolean => {
    for (let i = 0; i < from.length; i++) {
      const [a, b] = [from[i]! * 3, from[i % 3 === 2 ? i - 2 : i + 1]! * 3];
      for (let t = 0; t < 1; t += 0.25) {
        const at = [0, 1, 2].map((k) => positions[a + k]! * (1 - t) + positions[b + k]! * t) as Vec3;
        if (closestPoint(tree, at, gap)) return true;
      }
    }
    return false;
  };
  return (s: number, o: number): boolean =>
    comesNear(lists[s]!, treeOf(o)) || comesNear(lists[o]!, treeOf(s));
}

/** Shells one by one, or, when there are too many, those that are near each other together. */
function bundled(shells: number, boxes: Float64Array): number[][] {
  const all = Array.from({ length: shells }, (_, s) => s);
  if (shells <= MAX_PARTS) return all.map((s) => [s]);
  const middle = (s: number, k: number) => (boxes[s * 6 + k]! + boxes[s * 6 + 3 + k]!) / 2;
  const spread = (bundle: readonly number[]) => {
    let widest = { along: 0, extent: 0 };
    for (let k = 0; k < 3 && bundle.length > 1; k++) {
      let low = Infinity;
      let high = -Infinity;
      for (const s of bundle) {
        low = Math.min(low, middle(s, k));
        high = Math.max(high, middle(s, k));
      }
      if (high - low > widest.extent) widest = { along: k, extent: high - low };
    }
    return { bundle, ...widest };
  };
  const bundles = [spread(all)];
  // Halved across the longer side, the most spread first, until there are as many as can be told apart.
  while (bundles.length < MAX_PARTS) {
    let at = 0;
    for (let i = 1; i < bundles.length; i++) if (bundles[i]!.extent > bundles[at]!.extent) at = i;
    const { bundle, along, extent } = bundles[at]!;
    if (extent === 0) break;
    const sorted = [...bundle].sort((a, b) => middle(a, along) - middle(b, along) || a - b);
    bundles.splice(
      at,
      1,
      spread(sorted.slice(0, sorted.length >> 1)),
      spread(sorted.slice(sorted.length >> 1)),
    );
  }
  return bundles.map(({ bundle }) => bundle as number[]);
}
