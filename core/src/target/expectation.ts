import {
  type Bounds,
  boundsOf,
  centreOf,
  emptyBounds,
  type Quat,
  sizeOf,
  unionOf,
  type Vec3,
} from '../math/index.js';
import { type Mesh, meshBounds, triangleCount, trianglesVolume } from '../mesh/index.js';
import type { PieceDocument } from '../piece/index.js';
import {
  moveShape,
  type Shape,
  shapeBounds,
  type ShapeKind,
  shapeVolume,
  turnShape,
} from '../shape/index.js';
import type { DeliveryChoices } from './choices.js';
import { boundsSeenFrom, meshSeenFrom } from './delivered-mesh.js';
import { massOf, roleOf } from './express/colliders.js';
import { leavingMaterials, picturesOf } from './leaving-materials.js';
import { type Plan, planDelivery, type PlannedFile, type PlannedNode, type PlannedShape } from './plan.js';
import type { TargetProfile } from './profile.js';

export interface ExpectedShape {
  id: string;
  /** of its node: solids that are joined share one */
  name: string;
  owner: string;
  file: string;
  /** as it was drawn */
  kind: ShapeKind;
  /** as it leaves: another kind where the target does not know its own */
  deliveredAs: ShapeKind;
  /** cubic metres, as drawn; 0 for a surface */
  volume: number;
  /** of a surface, signed about the middle of its bounds: the other way round where its faces are flipped */
  facing: number;
  /** metres, axis-aligned, from the origin of the file */
  min: Vec3;
  max: Vec3;
  role: 'static' | 'animated' | 'simulated';
  /** the surface of contact, where the target takes one */
  surface: string | null;
}

export interface ExpectedMesh {
  name: string;
  file: string;
  parent: string | null;
  /** where its node stands in the file */
  position: Vec3;
  rotation: Quat;
  size: Vec3;
  /** lowest corner of the art as seen from its pivot: equal corners mean equal pivots */
  min: Vec3;
  /** null where only bounds were at hand */
  triangles: number | null;
  uvSets: number | null;
  /** material names in the order of their slots; null where only bounds were at hand */
  slots: string[] | null;
  /** pictures its materials name */
  pictures: number;
}

/** What the level should get, said from the plan. Metres, Y up, right-handed. */
export interface Expectation {
  /** models, by their name without an extension */
  files: string[];
  /** groups of the tree */
  groups: { name: string; parent: string | null }[];
  meshes: ExpectedMesh[];
  shapes: ExpectedShape[];
  bodies: { name: string; role: 'animated' | 'simulated'; kilograms: number | null }[];
}

/**
 * @param meshOf gives sizes from the geometry itself, which a pivot with turned axes needs; without it they
 * are taken from bounds
 */
export const expectationOfPlan = (plan: Plan, meshOf?: (blob: string) => Mesh): Expectation =>
  expectationOfPlans([plan], meshOf);

/** What pieces that are delivered together come to: files of one name hold what all of them put there. */
export function expectationOfPlans(plans: readonly Plan[], meshOf?: (blob: string) => Mesh): Expectation {
  const all: Expectation = { files: [], groups: [], meshes: [], shapes: [], bodies: [] };
  const nodesOf = new Map<string, PlannedNode[]>();
  for (const plan of plans)
    for (const file of plan.files) {
      addExpected(all, plan, file, meshOf);
      nodesOf.set(file.stem, [...(nodesOf.get(file.stem) ?? []), ...file.nodes]);
    }
  all.files.push(...nodesOf.keys());
  const { collision } = plans[0]!.profile;
  if (collision.by === 'second-file')
    for (const [stem, nodes] of nodesOf) {
      const together = oneSurface(stem, nodes, collision.suffix);
      if (!together) continue;
      all.shapes.push(together);
      all.files.push(together.name);
    }
  return all;
}

function addExpected(all: Expectation, plan: Plan, file: PlannedFile, meshOf?: (blob: string) => Mesh): void {
  for (const node of file.nodes) {
    const parent = node.parent === null ? null : file.nodes[node.parent]!.name;
    if (node.parts.length) all.meshes.push(expectedMesh(plan, file, node, parent, meshOf));
    else all.groups.push({ name: node.name, parent });
    if (plan.profile.collision.by !== 'second-file')
      all.shapes.push(...node.shapes.map((shape) => expectedShape(plan, file, node, shape)));
    all.bodies.push(...expectedBodies(node, plan));
  }
}

/** What a delivery with these choices should come to. */
export const expectationOf = (
  document: PieceDocument,
  profile: TargetProfile,
  meshOf?: (blob: string) => Mesh,
  choices: DeliveryChoices = {},
): Expectation => expectationOfPlan(planDelivery(document, profile, choices), meshOf);

function expectedMesh(
  { document, choices }: Plan,
  file: PlannedFile,
  node: PlannedNode,
  parent: string | null,
  meshOf?: (blob: string) => Mesh,
): ExpectedMesh {
  const mesh = meshOf && meshSeenFrom(document, node, meshOf);
  const turned = node.pivot.rotation[3] !== 1;
  const bounds = mesh && turned ? meshBounds(mesh) : boundsSeenFrom(document, node);
  const used = mesh ? [...new Set(mesh.groups.map(({ material }) => material))].filter((m) => m >= 0) : [];
  const leaving = leavingMaterials(document, choices).materials;
  const materials = choices.materials === 'left-out' ? [] : used.map((m) => leaving[m]!);
  return {
    name: node.name,
    file: file.stem,
    parent,
    position: node.world.position,
    rotation: node.world.rotation,
    size: sizeOf(bounds),
    min: bounds.min,
    triangles: mesh ? triangleCount(mesh) : null,
    uvSets: mesh ? mesh.uvs.length : null,
    slots: mesh ? materials.map(({ name }) => name) : null,
    pictures: picturesOf(materials).size,
  };
}

/** A shape as the file's origin sees it. */
const standing = (shape: Shape, { world }: PlannedNode): Shape =>
  moveShape(turnShape(shape, world.rotation), world.position);

function expectedShape(
  { profile }: Plan,
  file: PlannedFile,
  node: PlannedNode,
  each: PlannedShape,
): ExpectedShape {
  // What a surface was broken up into stands for itself: as a whole it is no solid to compare with.
  const drawn = standing(
    each.drawn.kind === 'surface' && each.kind !== 'surface' ? each.shape : each.drawn,
    node,
  );
  const { min, max } = shapeBounds(drawn);
  return {
    id: each.id,
    name: each.name,
    owner: node.name,
    file: file.stem,
    kind: each.drawn.kind,
    deliveredAs: each.kind,
    volume: shapeVolume(drawn),
    facing: facingOf(drawn),
    min,
    max,
    role: roleOf(each, profile),
    surface: (profile.physics.surfaces && each.proxy.surface) || null,
  };
}

/** The volume between a surface and the middle of its bounds, signed: flipped faces change the sign. */
export function facingOf(shape: Shape): number {
  if (shape.kind !== 'surface') return 0;
  return volumeAbout(shape, centreOf(boundsOf(shape.points)));
}

const volumeAbout = ({ points, indices }: Extract<Shape, { kind: 'surface' }>, middle: Vec3): number =>
  trianglesVolume(
    points.map((v, i) => v - middle[(i % 3) as 0]),
    indices,
  );

function expectedBodies(node: PlannedNode, plan: Plan): Expectation['bodies'] {
  const { profile } = plan;
  const roles = new Set(node.shapes.map((shape) => roleOf(shape, profile)));
  const body = (name: string, shapes: readonly PlannedShape[]) => {
    const role = roleOf(shapes[0]!, profile);
    return role === 'static' ? [] : [{ name, role, kilograms: massOf(shapes, plan).kilograms ?? null }];
  };
  if (!saysRoles(profile) || roles.size === 0) return [];
  if (roles.size === 1) return body(node.name, node.shapes);
  return node.shapes.flatMap((shape) => body(shape.name, [shape]));
}

/** Whether roles stand in the files; by other ways the sheet and the manifest say them. */
const saysRoles = ({ collision }: TargetProfile): boolean =>
  collision.by === 'gltf-extension' || collision.by === 'usd-schema';

/** All that collides of a file as the one surface that its second file holds. */
function oneSurface(stem: string, nodes: readonly PlannedNode[], suffix: string): ExpectedShape | null {
  const drawn = nodes.flatMap((node) => node.shapes.map((each) => standing(each.drawn, node)));
  if (!drawn.length) return null;
  const bounds = drawn.map(shapeBounds).reduce<Bounds>(unionOf, emptyBounds());
  const middle = centreOf(bounds);
  const kinds = new Set(drawn.map(({ kind }) => kind));
  return {
    id: stem,
    name: `${stem}${suffix}`,
    owner: stem,
    file: `${stem}${suffix}`,
    kind: kinds.size === 1 ? [...kinds][0]! : 'hull',
    deliveredAs: 'surface',
    volume: 0,
    facing: drawn.reduce(
      (sum, shape) => sum + (shape.kind === 'surface' ? volumeAbout(shape, middle) : shapeVolume(shape)),
      0,
    ),
    min: bounds.min,
    max: bounds.max,
    role: 'static',
    surface: null,
  };
}
