import type { Vec3 } from '../math/index.js';
import type { Shape } from '../shape/index.js';
import type { BareArea } from './bare-areas.js';
import type { Comparer } from './comparer.js';
import type { Deviation, ShapeComparison } from './comparison.js';
import { type EdgeAlong, edgesAlong, type LineToFollow } from './edges-along.js';
import { bodyOf, sharedBy } from './convex-overlap.js';

/** Shapes that go into each other or into an opening by less only touch, metres. */
export const TOUCH_METRES = 1e-4;

/** A shape of a set. */
export interface SetMember {
  id: string;
  shape: Shape;
  /** id of the part it belongs to; null for the piece as a whole */
  owner: string | null;
}

export interface JudgeSetInput {
  members: readonly SetMember[];
  /** volumes that have to stay open */
  openings: readonly { id: string; shape: Shape }[];
  /** lines along which a shape has to have an edge */
  edges?: readonly LineToFollow[];
  /** id of the part that a face of the mesh is on */
  partOfFace: (face: number) => string;
  /** art that is farther out of all shapes is bare, metres */
  toleranceMetres: number;
}

export interface JudgedShape {
  id: string;
  excess: Deviation;
  /** cubic metres of it without art */
  overfill: number;
  /** metres to the nearest art, when it holds and touches none; else 0 */
  away: number;
}

/** The shapes and the art of one part, or of the piece as a whole (`owner` null, which has no art of its own). */
export interface JudgedOwner {
  owner: string | null;
  shapes: number;
  excess: Deviation;
  uncovered: Deviation;
}

/** Two shapes that go into each other. */
export interface Crossing {
  a: string;
  b: string;
  /** metres that one would have to move to be out of the other */
  depth: number;
  /** cubic metres */
  volume: number;
  at: Vec3;
}

export interface BlockedOpening {
  opening: string;
  shape: string;
  /** metres that the shape goes into it */
  depth: number;
  at: Vec3;
}

/** A set of shapes judged against its art. */
export interface JudgedSet {
  figures: ShapeComparison;
  shapes: JudgedShape[];
  owners: JudgedOwner[];
  /** the deepest first */
  crossings: Crossing[];
  /** the largest first */
  bare: BareArea[];
  /** the deepest first */
  blocked: BlockedOpening[];
  edges: EdgeAlong[];
}

/** Everything that is measured of a set: in figures, by owner and by shape, and what is wrong with it and where. */
export function judgeSet(
  comparer: Comparer,
  { members, openings, edges = [], partOfFace, toleranceMetres }: JudgeSetInput,
): JudgedSet {
  const shapes = members.map(({ shape }) => shape);
  const owners: (string | null)[] = [];
  const numberOf = (owner: string | null): number => {
    const known = owners.indexOf(owner);
    return known >= 0 ? known : owners.push(owner) - 1;
  };
  const ownerOf = members.map(({ owner }) => numberOf(owner));
  const standing = comparer.standing(shapes, ownerOf, (face) => numberOf(partOfFace(face)));
  return {
    figures: standing.figures,
    shapes: standing.shapes.map((each, i) => ({ id: members[i]!.id, ...each })),
    owners: standing.owners.map(({ owner, ...each }) => ({
      owner: owners[owner]!,
      shapes: ownerOf.filter((number) => number === owner).length,
      ...each,
    })),
    crossings: crossingPairs(members),
    bare: comparer.bareAreas(shapes, toleranceMetres),
    blocked: blockedBy(members, openings),
    edges: edgesAlong(edges, shapes, toleranceMetres),
  };
}

/** Those equally deep, to a micrometre, stay in order. */
const deeperFirst = (a: { depth: number }, b: { depth: number }): number =>
  Math.round(b.depth * 1e6) - Math.round(a.depth * 1e6);

/** Sides of round shapes lie on the curve: two that are tangent do not go into each other. */
const bodiesOf = (members: readonly SetMember[]) =>
  members.flatMap(({ id, shape }) => (shape.kind === 'surface' ? [] : [{ id, body: bodyOf(shape) }]));

/** Pairs of shapes that go into each other, the deepest first. */
export function crossingPairs(members: readonly SetMember[]): Crossing[] {
  const bodies = bodiesOf(members);
  return bodies
    .flatMap((a, i) =>
      bodies.slice(i + 1).flatMap((b) => {
        const shared = sharedBy(a.body, b.body, TOUCH_METRES);
        return shared ? [{ a: a.id, b: b.id, ...shared }] : [];
      }),
    )
    .sort(deeperFirst);
}

function blockedBy(members: readonly SetMember[], openings: JudgeSetInput['openings']): BlockedOpening[] {
  const bodies = openings.length ? bodiesOf(members) : [];
  return openings
    .flatMap(({ id, shape }) => {
      const opening = bodyOf(shape);
      return bodies.flatMap((each) => {
        const shared = sharedBy(each.body, opening, TOUCH_METRES);
        return shared ? [{ opening: id, shape: each.id, depth: shared.depth, at: shared.at }] : [];
      });
    })
    .sort(deeperFirst);
}
