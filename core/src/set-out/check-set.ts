import { type Agent, freePassage, passageOf } from '../check/index.js';
import { applyMatrix, centreOf, diagonalOf, scalingMatrix, type Vec3 } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { shapeBounds } from '../shape/index.js';
import { type Bvh, buildBvh } from '../solid/index.js';
import { type ArtBetween, artBetween } from './art-between.js';
import { isMirrorOf } from './forgotten-mirror.js';
import { MEETS_METRES, type ModuleSeam, moduleSeam, SEAM_REACH_METRES } from './module-seam.js';
import { neighbours } from './neighbours.js';
import {
  between,
  type Documents,
  type Placed,
  placedClearances,
  placedMesh,
  placedPieces,
  type PlacedShape,
  placedShapes,
} from './placed.js';
import { SHAPE_REACH_METRES, type ShapesBetween, shapesBetween } from './shapes-between.js';
import type { SetCheck, SetFault } from './set-fault.js';
import { type SetOut, sourceKey } from './set-out.js';
import { standing } from './standing.js';

export interface CheckSetInput {
  setOut: SetOut;
  documents: Documents;
  /** the art of what stands there in its own space, metres, by its `sourceKey` */
  artOf: (source: string) => Mesh;
  agents: readonly Agent[];
  progress?: (share: number) => void;
}

/** A piece whose foot is nearer than this to what is below stands on it in any case, metres. */
const STANDS_METRES = 1e-3;
/** Whoever walks over a gap feels it from here on, metres. */
const FELT_DIP_METRES = 1e-3;

/**
 * Whether the pieces of a set meet: seams, shapes of neighbours, how each stands, openings that others block, shapes that
 * were forgotten. Faults of one kind stand together, the worst first.
 */
export function checkSet({
  setOut,
  documents,
  artOf,
  agents,
  progress = () => undefined,
}: CheckSetInput): SetCheck {
  const placed = placedPieces(setOut, documents);
  // Air that nobody feels is not told.
  const felt = Math.max(STANDS_METRES, Math.min(...agents.map(({ detail }) => detail), 1));
  const trees = new Map<string, Bvh>();
  const treeOf = (source: string) =>
    trees.get(source) ?? trees.set(source, buildBvh(artOf(source))).get(source)!;
  const faults: SetFault[] = [];
  placed.forEach((each, i) => {
    faults.push(...standingFault(each, placed, { artOf, treeOf, felt }));
    faults.push(...blockedOpenings(each, placed, agents));
    progress((0.35 * i) / placed.length);
  });
  const sunk = new Set(faults.flatMap((fault) => (fault.kind === 'sinks' ? [`${fault.a} ${fault.on}`] : [])));
  const near = neighbours(placed, SHAPE_REACH_METRES);
  const relations = new Relations(artOf);
  let meeting = 0;
  near.forEach(([a, b], i) => {
    const relation = relations.of(a, b);
    const { seam, art } = relation;
    const isSunk = [`${a.placement.id} ${b.placement.id}`, `${b.placement.id} ${a.placement.id}`].some(
      (pair) => sunk.has(pair),
    );
    if (seam && Math.abs(seam.gap) <= MEETS_METRES) meeting++;
    else if (seam) faults.push(seamFault(a, b, seam));
    if (art && art.metres > felt && !isSunk) faults.push(artFault(a, b, art));
    else faults.push(...shapeFaults(a, b, relation, agents));
    progress(0.35 + (0.6 * i) / near.length);
  });
  faults.push(
    ...withoutShapes(placed, artOf),
    ...mirroredInstances(placed),
    ...removedPieces(setOut, documents),
  );
  progress(1);
  return { faults: inOrder(faults), pairs: near.length, meeting };
}

interface Relation {
  seam: ModuleSeam | null;
  /** only where they have no seam: what belongs together may lap over */
  art: ArtBetween | null;
  shapes: ShapesBetween | null;
}

/** How two pieces lie to each other is worked out once for every pair that stands alike, in the space of the first. */
class Relations {
  private readonly known = new Map<string, Relation>();

  constructor(private readonly artOf: (source: string) => Mesh) {}

  of(a: Placed, b: Placed): Relation {
    const matrix = between(b, a);
    const key = [
      sourceKey(a.placement),
      sourceKey(b.placement),
      ...[...matrix].map((v) => v.toFixed(7)),
    ].join();
    let found = this.known.get(key);
    if (!found) {
      const there: Placed = { ...b, matrix };
      const here: Placed = { ...a, matrix: scalingMatrix(1) };
      const [one, other] = [a, b].map(({ placement }) => this.artOf(sourceKey(placement))) as [Mesh, Mesh];
      const seam = moduleSeam(one, placedMesh(there, other));
      found = {
        seam,
        art: seam ? null : artBetween(one, other, matrix),
        shapes: shapesBetween(placedShapes(here), placedShapes(there)),
      };
      this.known.set(key, found);
    }
    return inSetOut(found, a);
  }
}

/** From the space of the first piece into the set-out's. */
function inSetOut({ seam, art, shapes }: Relation, { matrix }: Placed): Relation {
  const place = (p: Vec3) => applyMatrix(matrix, p);
  const zero = place([0, 0, 0]);
  const way = (v: Vec3) => place(v).map((c, k) => c - zero[k]!) as Vec3;
  return {
    seam: seam && { ...seam, at: place(seam.at), shift: way(seam.shift) },
    art: art && { ...art, at: place(art.at), shift: way(art.shift) },
    shapes: shapes && { ...shapes, at: place(shapes.at) },
  };
}

const seamFault = (a: Placed, b: Placed, seam: ModuleSeam): SetFault => ({
  kind: 'seam',
  a: a.placement.id,
  b: b.placement.id,
  ...seam,
});

/** The smaller of the two is the one that is moved out. */
function artFault(a: Placed, b: Placed, { metres, at, shift }: ArtBetween): SetFault {
  const moves = diagonalOf(b.bounds) <= diagonalOf(a.bounds);
  const [still, moved] = moves ? [a, b] : [b, a];
  return {
    kind: 'art-crosses',
    a: still.placement.id,
    b: moved.placement.id,
    metres,
    at,
    shift: moves ? shift : (shift.map((v) => -v || 0) as Vec3),
  };
}

/** Crossings are told; gaps where the art meets, and only where somebody who walks over them feels it. */
function shapeFaults(a: Placed, b: Placed, { seam, shapes }: Relation, agents: readonly Agent[]): SetFault[] {
  if (!shapes || shapes.kind === 'touching') return [];
  const { kind, metres, ...where } = shapes;
  const fault = { a: a.placement.id, b: b.placement.id, metres, ...where };
  if (kind === 'crossing') return [{ kind: 'shapes-cross', ...fault }];
  if (!seam || metres <= Math.abs(seam.gap) + STANDS_METRES || metres > SEAM_REACH_METRES * 2) return [];
  const dip = dipInto(metres, agents);
  return dip >= FELT_DIP_METRES ? [{ kind: 'shapes-gap', ...fault, dip }] : [];
}

/** How far the smallest of the agents sinks into a slot of a width: its foot is round. Metres. */
function dipInto(width: number, agents: readonly Agent[]): number {
  const radius = Math.min(...agents.map((agent) => agent.radius));
  if (!Number.isFinite(radius)) return 0;
  return width >= 2 * radius ? radius : radius - Math.sqrt(radius ** 2 - width ** 2 / 4);
}

function standingFault(
  each: Placed,
  placed: readonly Placed[],
  { artOf, treeOf, felt }: { artOf: (source: string) => Mesh; treeOf: (source: string) => Bvh; felt: number },
): SetFault[] {
  const art = artOf(sourceKey(each.placement));
  if (art.indices.length === 0) return [];
  const below = placed.filter((other) => other !== each && liesBelow(other, each));
  const { metres, at, on } = standing(
    placedMesh(each, art),
    below.map((other) => ({ placed: other, bvh: treeOf(sourceKey(other.placement)) })),
  );
  if (Math.abs(metres) <= felt) return [];
  return [{ kind: metres > 0 ? 'floats' : 'sinks', a: each.placement.id, on, metres: Math.abs(metres), at }];
}

const liesBelow = ({ bounds: other }: Placed, { bounds }: Placed): boolean =>
  other.min[1] <= bounds.min[1] + STANDS_METRES &&
  [0, 2].every((k) => other.max[k]! >= bounds.min[k]! && bounds.max[k]! >= other.min[k]!);

/** Openings of a piece that shapes of others leave too little of, for agents that its own shapes would let through. */
function blockedOpenings(each: Placed, placed: readonly Placed[], agents: readonly Agent[]): SetFault[] {
  return placedClearances(each).flatMap((clearance): SetFault[] => {
    const bounds = shapeBounds({ kind: 'box', ...clearance });
    const before = placed.filter(
      (other) =>
        other !== each &&
        [0, 1, 2].every(
          (k) => other.bounds.max[k]! > bounds.min[k]! && bounds.max[k]! > other.bounds.min[k]!,
        ),
    );
    const shapes: PlacedShape[] = before.flatMap(placedShapes);
    if (!shapes.length) return [];
    return agents.flatMap((agent): SetFault[] => {
      if (!passageOf(clearance, agent).passes) return [];
      const { passes, missingWidth, missingHeight, shape } = freePassage(
        shapes.map((one) => [one.shape]),
        clearance,
        agent,
      );
      if (passes || shape === null) return [];
      return [
        {
          kind: 'blocked',
          a: each.placement.id,
          b: shapes[shape]!.placement,
          opening: clearance.name,
          agent: agent.name,
          metres: Math.max(missingWidth, missingHeight),
          at: clearance.center,
        },
      ];
    });
  });
}

/** Pieces without shapes; those whose mirrored twin has some, by name. */
function withoutShapes(placed: readonly Placed[], artOf: (source: string) => Mesh): SetFault[] {
  const first = firstOfEach(placed);
  return [...first.values()].flatMap(({ each, count }): SetFault[] => {
    const { piece } = each.placement;
    if (each.document.proxies.length) return [];
    const at = centreOf(each.bounds);
    const twin = [...first.values()].find(
      ({ each: other }) =>
        other.document.proxies.length > 0 &&
        isMirrorOf(
          { document: other.document, art: artOf(sourceKey(other.placement)) },
          { document: each.document, art: artOf(sourceKey(each.placement)) },
        ),
    );
    const a = each.placement.id;
    return twin
      ? [
          {
            kind: 'mirror-forgotten',
            a,
            piece,
            of: twin.each.placement.piece,
            shapes: twin.each.document.proxies.length,
            at,
          },
        ]
      : [{ kind: 'no-shapes', a, piece, count, at }];
  });
}

/** Instances of scale −1 of pieces that have hulls or surfaces: of every piece the first, with how many there are. */
function mirroredInstances(placed: readonly Placed[]): SetFault[] {
  const mirrored = placed.filter(
    ({ placement, document }) =>
      placement.mirrored &&
      document.proxies.some(({ shape }) => shape.kind === 'hull' || shape.kind === 'surface'),
  );
  return [...firstOfEach(mirrored).values()].map(({ each, count }) => ({
    kind: 'mirrored',
    a: each.placement.id,
    piece: each.placement.piece,
    count,
    at: centreOf(each.bounds),
  }));
}

const removedPieces = ({ placements }: SetOut, documents: Documents): SetFault[] =>
  placements
    .filter((placement) => !documents.has(sourceKey(placement)))
    .map(({ id, piece, version, position }) => ({ kind: 'removed', a: id, piece, version, at: position }));

function firstOfEach(placed: readonly Placed[]): Map<string, { each: Placed; count: number }> {
  const first = new Map<string, { each: Placed; count: number }>();
  for (const each of placed) {
    const key = sourceKey(each.placement);
    const known = first.get(key);
    if (known) known.count++;
    else first.set(key, { each, count: 1 });
  }
  return first;
}

/** What stops a level first. */
const ORDER: readonly SetFault['kind'][] = [
  'removed',
  'mirror-forgotten',
  'blocked',
  'seam',
  'art-crosses',
  'shapes-cross',
  'shapes-gap',
  'floats',
  'sinks',
  'mirrored',
  'no-shapes',
];

function inOrder(faults: readonly SetFault[]): SetFault[] {
  const weight = (fault: SetFault) =>
    'gap' in fault
      ? Math.abs(fault.gap)
      : 'metres' in fault
        ? fault.metres
        : 'count' in fault
          ? fault.count
          : 0;
  return faults
    .map((fault, i) => ({ fault, i }))
    .sort(
      (x, y) =>
        ORDER.indexOf(x.fault.kind) - ORDER.indexOf(y.fault.kind) ||
        weight(y.fault) - weight(x.fault) ||
        x.i - y.i,
    )
    .map(({ fault }) => fault);
}

/** How a placement has to be moved so that a fault is gone; null where moving does not help. */
export function shiftFor(fault: SetFault): { placement: string; by: Vec3 } | null {
  if ('shift' in fault) return { placement: fault.b, by: fault.shift };
  if (fault.kind === 'floats') return { placement: fault.a, by: [0, -fault.metres, 0] };
  if (fault.kind === 'sinks') return { placement: fault.a, by: [0, fault.metres, 0] };
  return null;
}
