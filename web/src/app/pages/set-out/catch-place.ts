import {
  add,
  applyMatrix,
  type Bounds,
  invertMatrix,
  lengthText,
  onLevelGrid,
  type Placed,
  snapEnds,
  subtract,
  type Vec3,
} from '@yard-brace/core';
import { Plane, Vector3 } from 'three';
import { type SnapKind, snapOnFace } from '../../drawing/snap';
import type { PlacedLayer } from '../../viewport/layers/placed-layer';
import type { ScreenPoint } from '../../viewport/tool';
import type { Viewport } from '../../viewport/viewport';

/** How near, in CSS pixels, an end must come to another to catch. */
const CATCH_PIXELS = 10;

export interface Caught {
  at: Vec3;
  /** what it is: "vertex of Coping 01", "grid 0.5 m" */
  word: string;
}

export interface CatchOptions {
  viewport: Viewport;
  layer: PlacedLayer;
  /** pieces that stay where they are */
  others: readonly Placed[];
  /** ids of what moves, which catches nothing of itself */
  moving: ReadonlySet<string>;
  /** 0 for none */
  gridMetres: number;
  /** seen from above, what moves keeps its height */
  plan: boolean;
  /** nothing is caught */
  free: boolean;
}

/** A place that the pointer is at. */
export interface PointedPlace {
  at: Vec3;
  /** what of a piece it is on, and the id of that; null for the ground */
  on: { kind: SnapKind; id: string } | null;
}

/** The place that the pointer is at: on what stands there by its vertices, edges and faces, else on the ground. */
export function pointedPlace(
  at: ScreenPoint,
  height: number,
  { viewport, layer, moving, plan }: CatchOptions,
): PointedPlace | null {
  const ray = viewport.rayAt(at);
  const hit = layer.pickBut(ray, moving);
  if (hit) {
    const { matrix, art, id } = hit;
    const back = invertMatrix(matrix)!;
    const snap = snapOnFace(art.art, hit.face, applyMatrix(back, hit.at), at, (p) =>
      viewport.onScreen(applyMatrix(matrix, p)),
    );
    const place = applyMatrix(matrix, snap.at);
    const on = { kind: snap.kind, id };
    if (!plan) return { at: place, on };
    if (snap.kind !== 'face') return { at: [place[0], height, place[2]], on };
  }
  const ground = groundUnder(at, height, { viewport });
  return ground && { at: ground, on: null };
}

/** Where the pointer is on a level plane; null where it does not look at it. */
function groundUnder(
  at: ScreenPoint,
  height: number,
  { viewport }: Pick<CatchOptions, 'viewport'>,
): Vec3 | null {
  const plane = new Plane(new Vector3(0, 1, 0), -height);
  const ground = viewport.rayAt(at).ray.intersectPlane(plane, new Vector3());
  return ground && (ground.toArray() as Vec3);
}

/** Where the pivot of what moves comes to stand: a vertex, edge or face, ends of neighbours, or the grid. */
export function catchPlace(
  pointer: ScreenPoint,
  grabbed: Placed,
  options: CatchOptions,
  nameOf: (id: string) => string,
): Caught | null {
  const { position } = grabbed.placement;
  const height = options.plan ? position[1] : 0;
  const pointed = pointedPlace(pointer, height, options);
  if (!pointed) return null;
  const { on } = pointed;
  if (options.free) return { at: pointed.at, word: '' };
  // In a plan modules go end to end; what lies under the pivot catches where no end does.
  const onGround = options.plan && on ? groundUnder(pointer, height, options) : pointed.at;
  const ends = (options.plan || !on) && onGround ? endsAt(grabbed, onGround, options) : null;
  if (ends) return { at: ends.at, word: `end of ${nameOf(ends.other)}` };
  if (on) return { at: pointed.at, word: `${on.kind} of ${nameOf(on.id)}` };
  return options.gridMetres > 0
    ? { at: onLevelGrid(pointed.at, options.gridMetres), word: `grid ${lengthText(options.gridMetres)}` }
    : { at: pointed.at, word: '' };
}

/** The ends of what moves onto those of its neighbours, from a place of its pivot; an axis that catches none is on the grid. */
function endsAt(
  grabbed: Placed,
  at: Vec3,
  { viewport, others, gridMetres }: CatchOptions,
): { at: Vec3; other: string } | null {
  const by = subtract(at, grabbed.placement.position);
  const bounds: Bounds = { min: add(grabbed.bounds.min, by), max: add(grabbed.bounds.max, by) };
  const reach = CATCH_PIXELS * viewport.metresPerPixel(at);
  const { shift, caught, other } = snapEnds(
    bounds,
    others.map((each) => each.bounds),
    reach,
  );
  if (other === null) return null;
  const grid = gridMetres > 0 ? onLevelGrid(at, gridMetres) : at;
  const place = at.map((v, k) => clean(caught[k] ? v + shift[k]! : k === 1 ? v : grid[k]!)) as Vec3;
  return { at: place, other: others[other]!.placement.id };
}

/** To the nanometre: what sums leave of an exact number. */
const clean = (v: number): number => Math.round(v * 1e9) / 1e9 || 0;
