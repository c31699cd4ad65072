import * as z from 'zod';
import {
  bodyOf,
  type Comparer,
  edgesAlong,
  sharedBy,
  shapeDistance,
  TOUCH_METRES,
  crossingPairs,
} from '../compare/index.js';
import { barsAlong, DecomposeError } from '../decompose/index.js';
import { cutOutOf, trimToMeet } from '../edit-shape/index.js';
import { closestAround, pointsOfFaces, shapesAround, suggestShape, type WrapKind } from '../fit/index.js';
import { hullShape, withVertexBudget } from '../hull/index.js';
import { diagonalOf, type Vec3 } from '../math/index.js';
import {
  addProxies,
  applyEdit,
  changeProxies,
  type Clearance,
  clearanceAxes,
  clearanceShape,
  type PieceDocument,
  type PlacedArt,
  proxiesBetween,
  type PutProxies,
  withoutLink,
} from '../piece/index.js';
import { type Shape, shapeBounds, type ShapeKind, shapeVolume } from '../shape/index.js';
import { setOf } from './set-facts.js';
import { bareEdges } from './set-findings.js';

/** What can be done about the findings of a set: worked out on the art, proposed, then kept or discarded. */
export const setFixSchema = z.discriminatedUnion('fix', [
  z.object({ fix: z.literal('cut-back') }),
  z.object({ fix: z.literal('trim') }),
  z.object({ fix: z.literal('wrap-bare') }),
  z.object({ fix: z.literal('lay-bars') }),
  z.object({ fix: z.literal('refit'), shapes: z.array(z.string()) }),
]);
export type SetFix = z.infer<typeof setFixSchema>;

export interface FixSetInput {
  document: PieceDocument;
  placed: PlacedArt;
  comparer: Comparer;
  /** art that is farther out is bare, and what stands out more is felt: metres */
  toleranceMetres: number;
  /** of a hull, at most */
  maxCorners: number;
}

/**
 * The edit that mends what is wrong with a set of shapes; null where nothing can be mended so.
 *
 * @throws DecomposeError when an opening holds every shape: it was laid round the whole piece
 */
export function fixSet(fix: SetFix, input: FixSetInput): PutProxies | null {
  const { document } = input;
  switch (fix.fix) {
    case 'cut-back': {
      const { proxies } = cutBack(input);
      if (!proxies.length)
        throw new DecomposeError(
          'The openings hold every shape whole, so none would be left; make them smaller.',
        );
      return proxiesBetween(document.proxies, proxies);
    }
    case 'trim':
      return proxiesBetween(document.proxies, trimmed(input).proxies);
    case 'wrap-bare':
      return wrappedBare(input);
    case 'lay-bars':
      return withBars(input);
    case 'refit':
      return refitted(new Set(fix.shapes), input);
  }
}

/**
 * An edit that adds shapes, with those cut back out of the openings that stay free; shapes of before are left alone.
 *
 * @throws DecomposeError when nothing of what is added lies outside the openings
 */
export function withOpeningsFree(edit: PutProxies, input: FixSetInput): PutProxies {
  const { document } = input;
  if (!document.clearances.length || !edit.changed.length) return edit;
  const made = new Set(edit.changed.map(({ id }) => id));
  const before = new Set(document.proxies.flatMap(({ id }) => (made.has(id) ? [] : [id])));
  const after = applyEdit(document, edit);
  const free = cutBack({ ...input, document: after }, (id) => !before.has(id));
  if (free === after) return edit;
  if (free.proxies.every(({ id }) => before.has(id)))
    throw new DecomposeError(
      'An opening holds all of it, so nothing would be left; make the opening smaller.',
    );
  const { changed, removed } = proxiesBetween(document.proxies, free.proxies) ?? edit;
  return { ...edit, changed, removed };
}

const shapesOf = ({ proxies }: PieceDocument): Shape[] => proxies.map(({ shape }) => shape);

const withFewCorners = (shape: Shape, maxCorners: number): Shape =>
  shape.kind === 'hull'
    ? hullShape(
        withVertexBudget(
          { points: Float64Array.from(shape.points), faces: shape.faces },
          maxCorners,
          'inside',
        ),
      )
    : shape;

/** A piece that a shape falls into and that holds less of it than this may not be worth a shape. */
const SMALL_SHARE = 0.1;

/** Shapes that go into an opening fall into what is beside it. Small pieces stay only where they cover art. */
function cutBack(
  { document, comparer, toleranceMetres, maxCorners }: FixSetInput,
  counts: (id: string) => boolean = () => true,
): PieceDocument {
  let now = document;
  for (const clearance of document.clearances) {
    const opening = passage(clearance);
    for (const { id, shape } of now.proxies) {
      if (
        shape.kind === 'surface' ||
        !counts(id) ||
        !sharedBy(bodyOf(shape), bodyOf(clearanceShape(clearance)), TOUCH_METRES)
      )
        continue;
      const pieces = cutOutOf(shape, opening).map((piece) => withFewCorners(piece, maxCorners));
      const large = pieces.filter((piece) => shapeVolume(piece) > SMALL_SHARE * shapeVolume(shape));
      const [all, few] = [pieces, large].map((kept) => put(now, id, kept)) as [PieceDocument, PieceDocument];
      if (large.length === pieces.length) now = all;
      else {
        const [off, offOfFew] = [all, few].map((each) => comparer.compare(shapesOf(each)).artOutside.max) as [
          number,
          number,
        ];
        now = offOfFew <= Math.max(toleranceMetres, off) ? few : all;
      }
    }
  }
  return now;
}

/** An opening and as much again before and behind it: a sheet across it there would close it, too. */
function passage(clearance: Clearance): Shape {
  const { through } = clearanceAxes(clearance);
  const halfExtents: Vec3 = [...clearance.halfExtents];
  halfExtents[through] *= 3;
  return { ...clearanceShape(clearance), halfExtents };
}

const put = (document: PieceDocument, id: string, shapes: readonly Shape[]): PieceDocument => {
  const edit = changeProxies(document, new Set([id]), () => shapes);
  return edit ? applyEdit(document, edit) : document;
};

/** Pairs that go into each other are trimmed to meet, the deepest first, until none is left that can be. */
function trimmed({ document, maxCorners }: FixSetInput): PieceDocument {
  let now = document;
  const left = new Set<string>();
  // Each step ends one crossing or leaves it; pieces of a shape can cross what it crossed.
  for (let steps = 0; steps < 8 * document.proxies.length; steps++) {
    const pair = crossingPairs(setOf(now).members).find(({ a, b }) => !left.has(`${a} ${b}`));
    if (!pair) break;
    const [a, b] = [pair.a, pair.b].map((id) => now.proxies.find((proxy) => proxy.id === id)!.shape) as [
      Shape,
      Shape,
    ];
    const result = trimToMeet(a, b, pair.volume);
    if (!result) {
      left.add(`${pair.a} ${pair.b}`);
      continue;
    }
    for (const [id, shapes] of [
      [pair.a, result.a],
      [pair.b, result.b],
    ] as const)
      now = put(
        now,
        id,
        shapes.map((shape) => withFewCorners(shape, maxCorners)),
      );
    // Cut to its corners it may still touch by a hair: it is not tried again.
    left.add(`${pair.a} ${pair.b}`);
  }
  return now;
}

/** Bare areas that are wrapped at once. */
const MAX_AREAS = 64;

/** A shape round each area that is bare, of the cheapest kind that is close enough. */
function wrappedBare({
  document,
  placed,
  comparer,
  toleranceMetres,
  maxCorners,
}: FixSetInput): PutProxies | null {
  const uncovered = comparer.bareFaces(shapesOf(document), toleranceMetres);
  const openings = document.clearances.map(clearanceShape);
  let now = document;
  for (const faces of uncovered.slice(0, MAX_AREAS)) {
    const points = pointsOfFaces(placed.mesh, faces);
    const best = suggestShape(points, { tolerance: toleranceMetres })[0];
    if (!best) continue;
    const owners = new Set(faces.map((face) => document.nodes[placed.node[face]!]!.id));
    const part = owners.size === 1 && document.nodes.length > 1 ? [...owners][0] : undefined;
    const shapes = keptFree(withFewCorners(best.shape, maxCorners), openings);
    now = applyEdit(now, addProxies(now, shapes, part));
  }
  return proxiesBetween(document.proxies, now.proxies);
}

/** Bars under an edge are at least and at most so many times as thick as what is felt. */
const MIN_BAR_TOLERANCES = 0.5;
const MAX_BAR_TOLERANCES = 3;
/** Where everything is felt, bars are made for this, metres. */
const FINEST_METRES = 0.005;

/** Bars under each edge along which no shape has an edge of its own; they belong to the piece. */
function withBars({ document, placed, toleranceMetres }: FixSetInput): PutProxies | null {
  const fine = Math.max(toleranceMetres, FINEST_METRES);
  const edges = edgesAlong(document.riddenEdges, shapesOf(document), toleranceMetres);
  const bare = new Set(bareEdges({ edges }).map(({ edge }) => edge));
  const openings = document.clearances.map(clearanceShape);
  const bars = document.riddenEdges
    .filter(({ id }) => bare.has(id))
    .flatMap((edge) =>
      barsAlong(placed.mesh, edge, {
        minMetres: fine * MIN_BAR_TOLERANCES,
        maxMetres: fine * MAX_BAR_TOLERANCES,
      }),
    );
  return bars.length
    ? addProxies(
        document,
        bars.flatMap((bar) => keptFree(bar, openings)),
      )
    : null;
}

/** What of a shape lies outside all openings. */
function keptFree(shape: Shape, openings: readonly Shape[]): Shape[] {
  return openings.reduce<Shape[]>(
    (shapes, opening) =>
      shapes.flatMap((each) =>
        sharedBy(bodyOf(each), bodyOf(opening), TOUCH_METRES) ? cutOutOf(each, opening) : [each],
      ),
    [shape],
  );
}

/** Art belongs to the shape that is nearest to it, if it is no farther than this share of the shape's size … */
const REACH_SHARE = 0.1;
/** … or than so many times what is felt. */
const REACH_TOLERANCES = 2;

const KINDS_LIKE: Record<Exclude<ShapeKind, 'surface'>, readonly WrapKind[]> = {
  box: ['box', 'upright-box', 'smallest-box'],
  sphere: ['sphere'],
  capsule: ['capsule'],
  cylinder: ['cylinder', 'tapered-cylinder'],
  hull: ['hull'],
};

/** Shapes fitted anew to the art that is theirs, each of its own kind; those that would not lie closer stay. */
function refitted(
  ids: ReadonlySet<string>,
  { document, placed, comparer, toleranceMetres, maxCorners }: FixSetInput,
): PutProxies | null {
  const openings = document.clearances.map(clearanceShape);
  const own = artOfShapes(document, placed, toleranceMetres);
  const excess = (set: readonly Shape[], i: number) =>
    comparer.standing(
      set,
      set.map(() => 0),
      () => 0,
    ).shapes[i]!.excess.max;
  const before = shapesOf(document);
  const after = [...before];
  document.proxies.forEach(({ id, shape }, i) => {
    const points = own[i]!;
    if (!ids.has(id) || shape.kind === 'surface' || points.length < 12) return;
    const found = closestAround(shapesAround(points, { kinds: KINDS_LIKE[shape.kind], maxCorners }));
    const fitted = found && keptFree(found.shape, openings)[0];
    if (!fitted) return;
    const tried = after.map((each, k) => (k === i ? fitted : each));
    if (
      Math.max(excess(tried, i), outside(points, fitted)) < Math.max(excess(after, i), outside(points, shape))
    )
      after[i] = fitted;
  });
  // Each lies on its own art now, and follows no other any more.
  const fitted = document.proxies.map((proxy, i) =>
    after[i] === proxy.shape ? proxy : { ...withoutLink(proxy), shape: after[i]! },
  );
  return proxiesBetween(document.proxies, fitted);
}

/** How far points ([3n]) lie outside a shape at most. */
function outside(points: ArrayLike<number>, shape: Shape): number {
  const distance = shapeDistance(shape);
  let most = 0;
  for (let i = 0; i < points.length; i += 3)
    most = Math.max(most, distance(points[i]!, points[i + 1]!, points[i + 2]!));
  return most;
}

/** For each shape the corners of the art that are nearest to it and near enough, [3n]. */
function artOfShapes(
  { proxies }: PieceDocument,
  { mesh: { positions: p, indices } }: PlacedArt,
  toleranceMetres: number,
): number[][] {
  const distances = proxies.map(({ shape }) => shapeDistance(shape));
  const reach = proxies.map(({ shape }) =>
    Math.max(diagonalOf(shapeBounds(shape)) * REACH_SHARE, toleranceMetres * REACH_TOLERANCES),
  );
  const own: number[][] = proxies.map(() => []);
  for (const v of new Set(indices)) {
    const place = [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!] as const;
    let nearest = -1;
    let least = Infinity;
    distances.forEach((distance, i) => {
      const here = distance(...place);
      if (here >= least) return;
      least = here;
      nearest = i;
    });
    // Where shapes meet, what lies on both belongs to both.
    distances.forEach((distance, i) => {
      if (i === nearest ? least <= reach[i]! : distance(...place) <= TOUCH_METRES) own[i]!.push(...place);
    });
  }
  return own;
}
