import { counted, listText, measuredText, volumeText } from '../math/index.js';
import { type Distance, hullDistance } from '../hull/index.js';
import { shapeDistance } from '../compare/index.js';
import { type ShapeKind, shapePolygons, shapeTriangles, shapeVolume } from '../shape/index.js';
import { trianglesVolume } from '../mesh/index.js';
import { hasTree } from './choices.js';
import { CARRIED_PICTURES } from '../format/index.js';
import type { PictureSlot } from '../piece/index.js';
import { leavingMaterials } from './leaving-materials.js';
import { type Container, CONTAINER_NAMES } from './profile.js';
import type { Plan, PlannedShape } from './plan.js';

/** Something that the target drops or changes of a piece, and what that costs. */
export type Loss =
  | {
      about: 'kind';
      from: ShapeKind;
      to: ShapeKind;
      shapes: number;
      /** of round shapes that get flat sides */
      sides: number | null;
      /** most metres by which one of them stands out or falls short */
      deviation: number;
    }
  | { about: 'filled'; shapes: number; cubicMetres: number }
  | { about: 'broken-up'; shapes: number; into: number }
  | { about: 'hierarchy'; parts: number }
  | { about: 'part-pivots'; parts: number }
  | { about: 'own-pivot'; container: Container }
  | { about: 'constants'; materials: string[] }
  | { about: 'constants-as-pictures'; pictures: number }
  | { about: 'uncarried'; container: Container; slots: PictureSlot[]; materials: number }
  | { about: 'metalness'; materials: string[] }
  | { about: 'materials'; materials: number; way: 'by-name' | 'left-out' }
  | { about: 'pictures'; pictures: number }
  | { about: 'roles'; shapes: number; roles: string[] }
  | { about: 'surfaces' | 'responses' | 'densities'; shapes: number }
  | { about: 'too-many-shapes'; shapes: number; most: number };

/** What of the piece does not arrive at the target as it is. */
export function lossesOf(plan: Plan): Loss[] {
  const shapes = plan.files.flatMap(({ nodes }) => nodes.flatMap((node) => node.shapes));
  return [...kindLosses(plan, shapes), ...artLosses(plan), ...behaviourLosses(plan, shapes)];
}

function kindLosses({ profile }: Plan, shapes: readonly PlannedShape[]): Loss[] {
  const losses: Loss[] = [];
  const changed = shapes.filter(({ drawn, kind }) => drawn.kind !== kind);
  const surfaces = changed.filter(({ drawn }) => drawn.kind === 'surface');
  const ids = new Set(surfaces.map(({ id }) => id));
  if (surfaces.length > ids.size)
    losses.push({ about: 'broken-up', shapes: ids.size, into: surfaces.length });
  else if (surfaces.length)
    losses.push({
      about: 'filled',
      shapes: surfaces.length,
      cubicMetres: surfaces.reduce((sum, each) => sum + filledBy(each), 0),
    });
  const pairs = new Map<string, PlannedShape[]>();
  for (const each of changed)
    if (each.drawn.kind !== 'surface') {
      const key = `${each.drawn.kind} ${each.kind}`;
      pairs.set(key, [...(pairs.get(key) ?? []), each]);
    }
  for (const same of pairs.values()) {
    const [{ drawn, kind }] = same as [PlannedShape];
    const flat = drawn.kind === 'box' || drawn.kind === 'hull';
    losses.push({
      about: 'kind',
      from: drawn.kind,
      to: kind,
      shapes: same.length,
      sides: flat ? null : sidesOf(same[0]!),
      deviation: flat ? 0 : Math.max(...same.map(roundDeviation)),
    });
  }
  if (shapes.length > profile.solids.maxShapes)
    losses.push({ about: 'too-many-shapes', shapes: shapes.length, most: profile.solids.maxShapes });
  return losses;
}

/** Cubic metres that are inside of the hull and not below the surface it was made of. */
function filledBy({ drawn, shape }: PlannedShape): number {
  const { points, indices } = shapeTriangles(drawn);
  return Math.max(0, shapeVolume(shape) - Math.abs(trianglesVolume(points, indices)));
}

/** Sides round the axis, from the corners of the polygons that stand for a round shape. */
function sidesOf({ shape, drawn }: Pick<PlannedShape, 'shape' | 'drawn'>): number {
  const corners = (shape.kind === 'hull' || shape.kind === 'surface' ? shape.points.length : 0) / 3;
  // Two poles and rings between them: a ball has half as many rings as sides, but one; a capsule its middle one twice.
  if (drawn.kind === 'sphere') return Math.round(1 + Math.sqrt(1 + 2 * (corners - 2)));
  return drawn.kind === 'cylinder' ? corners / 2 : Math.round(Math.sqrt(2 * (corners - 2)));
}

/** How far polygons lie from the round shape that they stand for, either way, at most; metres. */
function roundDeviation({ drawn, shape }: PlannedShape): number {
  if (shape.kind !== 'hull' && shape.kind !== 'surface') return 0;
  const { points, faces } = shapePolygons(shape);
  const out = farthestOf(points, shapeDistance(drawn));
  // Twice as many places on the round one as there are sides: in the middle of each it lies farthest outside.
  const round = shapePolygons(drawn, { segments: 2 * sidesOf({ drawn, shape }) }).points;
  return Math.max(0, out, farthestOf(round, hullDistance(points, faces)));
}

function farthestOf(points: ArrayLike<number>, distance: Distance): number {
  let most = -Infinity;
  for (let i = 0; i < points.length; i += 3)
    most = Math.max(most, distance(points[i]!, points[i + 1]!, points[i + 2]!));
  return most;
}

function artLosses({ document, profile, choices, files, together }: Plan): Loss[] {
  const losses: Loss[] = [];
  const parts = files.flatMap(({ nodes }) => nodes.flatMap((node) => node.parts));
  const merged = files.some(({ nodes }) => nodes.some((node) => node.parts.length > 1));
  if (merged && parts.length > 1) losses.push({ about: 'hierarchy', parts: parts.length });
  else if (!hasTree(choices.container) && choices.hierarchy === 'kept' && parts.length > 1)
    losses.push({ about: 'part-pivots', parts: parts.length });
  if (together !== null && !hasTree(choices.container))
    losses.push({ about: 'own-pivot', container: choices.container });
  const pictures = document.pictures.length;
  if (choices.materials !== 'written') {
    if (document.materials.length)
      losses.push({ about: 'materials', materials: document.materials.length, way: choices.materials });
  } else losses.push(...valueLosses(document, profile, choices));
  if (pictures && choices.pictures === 'left-out') losses.push({ about: 'pictures', pictures });
  return losses;
}

/** What becomes of values and pictures of materials that are written. */
function valueLosses(document: Plan['document'], profile: Plan['profile'], choices: Plan['choices']): Loss[] {
  const losses: Loss[] = [];
  const { materials } = document;
  const { container } = choices;
  const made = leavingMaterials(document, choices).pictures.length - document.pictures.length;
  if (made) losses.push({ about: 'constants-as-pictures', pictures: made });
  else if (profile.constants === 'dropped') {
    const bare = materials.filter(({ pictures }) => !pictures.baseColor).map(({ name }) => name);
    if (bare.length) losses.push({ about: 'constants', materials: bare });
  }
  const metal = materials.filter(({ metalness }) => metalness !== 0).map(({ name }) => name);
  // COLLADA's shading models know no metal.
  if (container === 'dae' && metal.length) losses.push({ about: 'metalness', materials: metal });
  if (choices.pictures === 'left-out') return losses;
  const gone = materials.map(({ pictures }) =>
    (Object.keys(pictures) as PictureSlot[]).filter((slot) => !CARRIED_PICTURES[container].includes(slot)),
  );
  const slots = [...new Set(gone.flat())];
  if (slots.length)
    losses.push({
      about: 'uncarried',
      container,
      slots,
      materials: gone.filter((each) => each.length).length,
    });
  return losses;
}

function behaviourLosses({ profile }: Plan, shapes: readonly PlannedShape[]): Loss[] {
  const { physics } = profile;
  const losses: Loss[] = [];
  const lost = shapes.filter(({ proxy }) => proxy.role && !physics.roles.includes(proxy.role));
  if (lost.length)
    losses.push({
      about: 'roles',
      shapes: lost.length,
      roles: [...new Set(lost.map(({ proxy }) => proxy.role!))],
    });
  const count = (key: 'surface' | 'response' | 'density') =>
    shapes.filter(({ proxy }) => proxy[key] !== undefined).length;
  if (!physics.surfaces && count('surface')) losses.push({ about: 'surfaces', shapes: count('surface') });
  if (!physics.responses && count('response')) losses.push({ about: 'responses', shapes: count('response') });
  if (!physics.mass && count('density')) losses.push({ about: 'densities', shapes: count('density') });
  return losses;
}

const SLOT_WORDS: Record<PictureSlot, string> = {
  baseColor: 'base colour',
  normal: 'normals',
  metallicRoughness: 'metalness and roughness',
  occlusion: 'occlusion',
  emissive: 'emission',
};

const ROLE_WORDS: Record<string, string> = {
  static: 'static',
  animated: 'moved by animation',
  simulated: 'simulated',
};

/** A loss as a sentence. */
export function lossText(loss: Loss): string {
  switch (loss.about) {
    case 'kind': {
      const { shapes, from, to, sides, deviation } = loss;
      const many = `${counted(shapes, from, plural(from))} ${shapes === 1 ? `leaves as a ${to}` : `leave as ${plural(to)}`}`;
      if (sides === null) return `${many}, in the same form.`;
      return `${many} with ${sides} sides, in the same volume and up to ${measuredText(deviation)} off.`;
    }
    case 'filled':
      return `${counted(loss.shapes, 'surface')} ${loss.shapes === 1 ? 'is' : 'are'} filled to ${loss.shapes === 1 ? 'a hull' : 'hulls'}: ${volumeText(loss.cubicMetres)} more than was drawn.`;
    case 'broken-up':
      return `${counted(loss.shapes, 'surface')} ${loss.shapes === 1 ? 'is' : 'are'} broken up into ${loss.into} convex shapes.`;
    case 'hierarchy':
      return `The tree of ${loss.parts} parts becomes one mesh; the manifest keeps it.`;
    case 'part-pivots':
      return `${loss.parts} parts keep their names and lose their own pivots and tree; the manifest keeps them.`;
    case 'own-pivot':
      return `${CONTAINER_NAMES[loss.container]} places no nodes: the piece stands where it stood, and its pivot is the file’s origin; the manifest keeps it.`;
    case 'constants':
      return `Values without a picture are dropped: ${listText(loss.materials)}.`;
    case 'constants-as-pictures':
      return `Values without a picture leave as ${counted(loss.pictures, 'small picture')}, in steps of 1/255.`;
    case 'metalness':
      return `COLLADA knows no metalness: ${listText(loss.materials)} ${loss.materials.length === 1 ? 'arrives' : 'arrive'} without it.`;
    case 'uncarried':
      return `${CONTAINER_NAMES[loss.container]} names no pictures for ${listText(loss.slots.map((slot) => SLOT_WORDS[slot]))}: those of ${counted(loss.materials, 'material')} are left out.`;
    case 'materials':
      return loss.way === 'by-name'
        ? `${counted(loss.materials, 'material')} ${loss.materials === 1 ? 'leaves' : 'leave'} by name only.`
        : `${counted(loss.materials, 'material')} ${loss.materials === 1 ? 'is' : 'are'} left out.`;
    case 'pictures':
      return `${counted(loss.pictures, 'picture')} ${loss.pictures === 1 ? 'is' : 'are'} left out.`;
    case 'roles':
      return `${counted(loss.shapes, 'shape')} ${listText(loss.roles.map((role) => ROLE_WORDS[role]!))} ${loss.shapes === 1 ? 'arrives' : 'arrive'} static: the target takes no other role here; the manifest keeps it.`;
    case 'surfaces':
      return `Surfaces of contact of ${counted(loss.shapes, 'shape')} are not taken; the manifest keeps them.`;
    case 'responses':
      return `Responses of ${counted(loss.shapes, 'shape')} are not taken; the manifest keeps them.`;
    case 'densities':
      return `Densities of ${counted(loss.shapes, 'shape')} are not taken; the manifest keeps them.`;
    case 'too-many-shapes':
      return `${loss.shapes} shapes leave, and the target takes ${loss.most} a piece.`;
  }
}

const plural = (kind: ShapeKind): string => (kind === 'box' ? 'boxes' : `${kind}s`);
