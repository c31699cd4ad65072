import {
  add,
  centreOf,
  inverseQuat,
  multiplyQuats,
  NO_ROTATION,
  type Quat,
  rotate,
  subtract,
  type Vec3,
} from '../math/index.js';
import {
  artNodes,
  type ContactSurface,
  partBounds,
  partPivot,
  type Pivot,
  type PieceDocument,
  type Proxy,
} from '../piece/index.js';
import { type Shape, shapeBounds, type ShapeKind } from '../shape/index.js';
import { type DeliveryChoices, hasTree, type SettledChoices, settledChoices } from './choices.js';
import { brokenUp, deliveredKind, deliveredOnce, isBrokenUp } from './delivered-shape.js';
import { seenFrom, shapeSeenFrom } from './delivered-mesh.js';
import { type PlannedDocument, withMaterialNames } from './planned-document.js';
import type { TargetProfile } from './profile.js';
import type { Stand } from './plan-together.js';
import { proxyName } from './proxy-names.js';
import { asVariant, variantName } from './variant.js';

/** A shape that leaves, as its owner's pivot sees it. */
export interface PlannedShape {
  /** of the proxy it comes from */
  id: string;
  proxy: Proxy;
  /** as it was drawn */
  drawn: Shape;
  /** as it leaves */
  shape: Shape;
  kind: ShapeKind;
  name: string;
}

/** A place in the tree of a delivered file. */
export interface PlannedNode {
  name: string;
  /** number of the document's node that bears the name; null where that is the piece's own */
  node: number | null;
  /** number in the file's nodes */
  parent: number | null;
  /** against its parent, in metres */
  position: Vec3;
  rotation: Quat;
  /** against the file's origin */
  world: { position: Vec3; rotation: Quat };
  /** numbers of the document's nodes whose meshes are its art; none for a group */
  parts: number[];
  /** where it was in the piece */
  pivot: Pivot;
  shapes: PlannedShape[];
}

export interface PlannedFile {
  /** its name, without an extension */
  stem: string;
  nodes: PlannedNode[];
}

/** What a delivery will hold, before any of it is written. */
export interface Plan {
  profile: TargetProfile;
  document: PlannedDocument;
  choices: SettledChoices;
  /** what the surfaces of contact that shapes name feel like */
  surfaces: readonly ContactSurface[];
  /** name of the file that it shares with other pieces; null when it leaves alone */
  together: string | null;
  /** what a studio follows it by, and what whoever imports it is told; null where nothing is */
  code: string | null;
  note: string | null;
  files: PlannedFile[];
}

/** A kept set that was asked for by name, and is not there any more. */
export class PlanError extends Error {
  override readonly name = 'PlanError';
}

type Broken = ReadonlyMap<string, readonly Shape[]>;

/**
 * Lay out what leaves for a target: files, trees, names, owners, and the shapes as the target takes them. Surfaces that
 * the target wants broken up are shown as the hull round them; `planToDeliver` breaks them up.
 *
 * @param surfaces what the surfaces of contact of the yard feel like
 * @throws PlanError when a set or part is named that the piece does not have
 */
export const planDelivery = (
  document: PieceDocument,
  profile: TargetProfile,
  choices: DeliveryChoices = {},
  surfaces: readonly ContactSurface[] = [],
): Plan => layOut(document, profile, choices, { surfaces, broken: new Map() });

/**
 * As `planDelivery`, with surfaces broken up.
 *
 * @param stand where its pivot is in a file that it shares. Default: where it was made
 * @throws PlanError, DecomposeError
 */
export async function planToDeliver(
  document: PieceDocument,
  profile: TargetProfile,
  choices: DeliveryChoices = {},
  surfaces: readonly ContactSurface[] = [],
  stand?: Stand,
): Promise<Plan> {
  const broken = new Map<string, Shape[]>();
  for (const { id, shape } of withSet(document, choices.set).proxies)
    if (isBrokenUp(profile, shape)) broken.set(id, await brokenUp(profile, shape));
  return layOut(document, profile, choices, { surfaces, broken, ...(stand ? { stand } : {}) });
}

function layOut(
  document: PieceDocument,
  profile: TargetProfile,
  choices: DeliveryChoices,
  { surfaces, broken, stand }: { surfaces: readonly ContactSurface[]; broken: Broken; stand?: Stand },
): Plan {
  const piece = forPresentation(
    withMaterialNames(asVariant(withSet(document, choices.set), choices.variant), choices),
    choices.presentation,
  );
  const settled = settledChoices(profile, choices, piece);
  const parts = chosenParts(piece, choices.parts);
  const { together = null, code = null, note = null } = choices;
  const nodesCanStand = hasTree(settled.container);
  // Together with others a piece stands where it stood: by its root node, or vertex by vertex as seen from the origin.
  const seen =
    together !== null && !nodesCanStand ? { ...piece, pivot: seenAsItStands(piece.pivot, stand) } : piece;
  const files = filesOf(seen, parts, settled);
  const stem = stemOf(choices);
  if (settled.files === 'piece' && stem !== null) files[0]!.stem = stem;
  if (together !== null && nodesCanStand) standAt(files[0]!, stand ?? piece.pivot);
  giveShapes(piece, parts, files, profile);
  for (const { nodes } of files) for (const node of nodes) takeForms(node, profile, settled, broken);
  return { profile, document: piece, choices: settled, surfaces, together, code, note, files };
}

/** What the one file of a piece is called instead of its mesh name; null for that. */
function stemOf({ together, stem, variant }: DeliveryChoices): string | null {
  if (together !== undefined) return together;
  if (stem === undefined) return null;
  return variant === undefined ? stem : variantName(stem, variant);
}

/** The pivot from which vertices are seen as they stand in the file. */
function seenAsItStands(pivot: Pivot, stand?: Stand): Pivot {
  if (!stand) return { ...pivot, ...ORIGIN };
  const rotation = multiplyQuats(pivot.rotation, inverseQuat(stand.rotation));
  return { ...pivot, rotation, position: subtract(pivot.position, rotate(rotation, stand.position)) };
}

/** From its pivot to where the piece stands, with all that hangs below. */
function standAt({ nodes }: PlannedFile, { position, rotation }: Stand): void {
  for (const node of nodes) {
    const world = {
      position: add(rotate(rotation, node.world.position), position),
      rotation: multiplyQuats(rotation, node.world.rotation),
    };
    node.world = world;
    if (node.parent === null) Object.assign(node, world);
  }
}

function withSet(document: PieceDocument, name: string | undefined): PieceDocument {
  if (name === undefined) return document;
  const set = document.sets.find((each) => each.name === name);
  if (!set) throw new PlanError(`There is no set “${name}” any more; choose another one.`);
  return { ...document, proxies: set.proxies };
}

/** On its pivot for presentation, a turntable's, instead of the one that it is placed by. */
const forPresentation = (document: PlannedDocument, asked: boolean | undefined): PlannedDocument =>
  asked && document.presentation ? { ...document, pivot: document.presentation } : document;

function chosenParts(document: PieceDocument, ids: readonly string[] | undefined): number[] {
  const all = artNodes(document.nodes);
  if (!ids) return all;
  const wanted = new Set(ids);
  const chosen = all.filter((i) => wanted.has(document.nodes[i]!.id));
  if (!chosen.length)
    throw new PlanError('None of the chosen parts is in the piece any more; choose others.');
  return chosen;
}

const ORIGIN = { position: [0, 0, 0] as Vec3, rotation: [...NO_ROTATION] as Quat };

const lone = (name: string, node: number | null, parts: number[], pivot: Pivot): PlannedNode => ({
  name,
  node,
  parent: null,
  ...ORIGIN,
  world: ORIGIN,
  parts,
  pivot,
  shapes: [],
});

function filesOf(
  document: PieceDocument,
  parts: number[],
  { files, hierarchy, container }: SettledChoices,
): PlannedFile[] {
  const { nodes, meshName, pivot } = document;
  if (files === 'part' || files === 'top-node') {
    const heads = files === 'part' ? parts : [...new Set(parts.map((part) => rootOf(document, part)))];
    return heads.map((head) => ({
      stem: nodes[head]!.name,
      nodes: [
        lone(
          nodes[head]!.name,
          head,
          files === 'part' ? [head] : parts.filter((part) => rootOf(document, part) === head),
          partPivot(document, head),
        ),
      ],
    }));
  }
  if (hierarchy === 'flattened' || parts.length < 2)
    return [{ stem: meshName, nodes: [lone(meshName, null, parts, pivot)] }];
  return [{ stem: meshName, nodes: treeOf(document, parts, hasTree(container)) }];
}

/** Whether shapes can hang below a node without a mesh. */
const takesGroups = ({ collision }: TargetProfile): boolean =>
  collision.by !== 'child-node' && collision.by !== 'name-prefix';

function rootOf({ nodes }: PieceDocument, node: number): number {
  let at = node;
  for (let up = nodes[at]!.parent; up !== null; up = nodes[at]!.parent) at = up;
  return at;
}

/**
 * The tree below a root of the mesh's name that stands in the piece's pivot: parts and groups on their own pivots.
 * Without a tree every part stands where the piece has it, with the piece's pivot.
 */
function treeOf(document: PieceDocument, parts: number[], tree: boolean): PlannedNode[] {
  const { nodes, meshName, pivot } = document;
  if (!tree) return parts.map((part) => lone(nodes[part]!.name, part, [part], pivot));
  const wanted = new Set<number>();
  for (const part of parts)
    for (let up: number | null = part; up !== null && !wanted.has(up); up = nodes[up]!.parent) wanted.add(up);
  const out = [lone(meshName, null, [], pivot)];
  const leaving = new Set(parts);
  const place = new Map<number, number>();
  // One group that holds everything is the piece: it bears the piece's name, and no second one is put above it.
  const tops = [...wanted].filter((i) => nodes[i]!.parent === null);
  const only = tops.length === 1 && nodes[tops[0]!]!.mesh === null ? tops[0]! : null;
  if (only !== null) place.set(only, 0);
  nodes.forEach(({ name, parent }, i) => {
    if (!wanted.has(i) || i === only) return;
    const own = partPivot(document, i);
    const world = {
      position: seenFrom(pivot, own.position),
      rotation: turnedFrom(pivot.rotation, own.rotation),
    };
    const above = parent === null ? 0 : place.get(parent)!;
    const from = out[above]!.world;
    place.set(i, out.length);
    out.push({
      name,
      node: i,
      parent: above,
      position: seenFrom(from, world.position),
      rotation: turnedFrom(from.rotation, world.rotation),
      world,
      parts: leaving.has(i) ? [i] : [],
      pivot: own,
      shapes: [],
    });
  });
  return out;
}

const turnedFrom = (from: Quat, to: Quat): Quat => {
  if (from[3] === 1) return to;
  return multiplyQuats(inverseQuat(from), to);
};

/** Every proxy of the parts that leave to the node that owns it. */
function giveShapes(
  document: PieceDocument,
  parts: number[],
  files: PlannedFile[],
  profile: TargetProfile,
): void {
  const all = artNodes(document.nodes);
  const whole = parts.length === all.length;
  const owners = files.flatMap(({ nodes }) => nodes);
  const root =
    files.length === 1 && owners[0]!.parts.length === 0 && takesGroups(profile) ? owners[0]! : null;
  for (const proxy of document.proxies) {
    const named = all.find((i) => document.nodes[i]!.id === proxy.part);
    // What names no part belongs to the piece as a whole, or goes with the part whose middle is nearest.
    if (named === undefined && whole && root) {
      root.shapes.push(planned(proxy));
      continue;
    }
    const part = named ?? nearestPart(document, all, proxy.shape);
    owners.find((node) => node.parts.includes(part))?.shapes.push(planned(proxy));
  }
}

const planned = (proxy: Proxy): PlannedShape => ({
  id: proxy.id,
  proxy,
  drawn: proxy.shape,
  shape: proxy.shape,
  kind: proxy.shape.kind,
  name: '',
});

function nearestPart(document: PieceDocument, parts: readonly number[], shape: Shape): number {
  const middle = centreOf(shapeBounds(shape));
  const away = (i: number) => Math.hypot(...subtract(centreOf(partBounds(document, i)), middle));
  return parts.reduce((best, i) => (away(i) < away(best) ? i : best));
}

/** Shapes of a node as the target takes them, each with its name; those that are joined share one. */
function takeForms(
  node: PlannedNode,
  profile: TargetProfile,
  { solids }: SettledChoices,
  broken: Broken,
): void {
  const shapes = node.shapes.flatMap((each) => {
    const forms = broken.get(each.id) ?? [deliveredOnce(profile, each.drawn)];
    const kind = broken.has(each.id) ? null : deliveredKind(profile, each.drawn);
    return forms.map((form) => ({
      ...each,
      drawn: shapeSeenFrom(node.pivot, each.drawn),
      shape: shapeSeenFrom(node.pivot, form),
      kind: kind ?? form.kind,
    }));
  });
  const solidOf = shapes.map(({ kind }, i) => (solids === 'joined' && isMesh(kind) ? kind : `${i}`));
  const all = [...new Set(solidOf)];
  node.shapes = shapes.map((each, i) => ({
    ...each,
    name: proxyName(profile, node.name, each.kind, all.indexOf(solidOf[i]!), all.length),
  }));
}

const isMesh = (kind: ShapeKind): boolean => kind === 'hull' || kind === 'surface';
