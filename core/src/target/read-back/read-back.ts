import { extensionOf, inMetres, memoryFile, readFile, sceneFrom } from '../../format/index.js';
import { decomposeMatrix, placeOf } from '../../math/index.js';
import { type Mesh, meshBounds, plainMesh, shellsOf, takeFaces, triangleCount } from '../../mesh/index.js';
import type { Collider, Scene } from '../../piece/index.js';
import {
  moveShape,
  scaleShape,
  type Shape,
  shapeBounds,
  shapeTriangles,
  shapeVolume,
  turnShape,
} from '../../shape/index.js';
import { CONTAINERS, type TargetProfile } from '../profile.js';
import { byChildNodes } from './methods/child-nodes.js';
import type { Found, FoundShape, MethodInput } from './methods/found.js';
import { byNameTags } from './methods/name-tags.js';
import { bySecondFile } from './methods/second-file.js';
import {
  isTurned,
  ownMesh,
  type PlacedNode,
  placedNodes,
  reportTransform,
  standingMesh,
} from './placed-nodes.js';
import { recognise, recogniseByItself } from './recognise.js';
import { recogniseSurface } from './recognise-surface.js';
import type { ReadBack, ReadShape } from './report.js';

/** Shapes larger than this are not kept triangle by triangle in a report. */
const MAX_KEPT_TRIANGLES = 20_000;

/**
 * Decide from delivered bytes alone what a level would get, by the profile's rules. It stands in for a
 * real importer and shares nothing with the assembling side but the format readers.
 *
 * @param files name and bytes of every file of the delivery, beside each other
 * @throws FormatError when a model cannot be read
 */
export async function readBack(
  files: readonly { name: string; bytes: Uint8Array }[],
  profile: TargetProfile,
): Promise<ReadBack> {
  const report: ReadBack = {
    target: profile.id,
    files: [],
    groups: [],
    meshes: [],
    shapes: [],
    bodies: [],
    ignored: [],
    changed: [],
  };
  const isModel = (name: string) => (CONTAINERS as readonly string[]).includes(extensionOf(name));
  // Folders say where files stand; what is named in a model is found by its name.
  const flat = files.map(({ name, bytes }) => ({ name: name.slice(name.lastIndexOf('/') + 1), bytes }));
  const beside = flat.filter(({ name }) => !isModel(name)).map(({ name, bytes }) => memoryFile(name, bytes));
  for (const { name, bytes } of flat.filter((file) => isModel(file.name))) {
    const container = extensionOf(name);
    if (!profile.containers.some((each) => each === container)) {
      report.ignored.push({ name, why: `the target takes no .${container} files` });
      continue;
    }
    const scene = await readFile(memoryFile(name, bytes), beside, { remarks: false });
    // OBJ says nothing of unit and axes: the target takes the numbers for its own.
    const ours = container === 'obj' ? sceneFrom(profile.space, scene) : inMetres(scene);
    importScene(ours, name.slice(0, -container.length - 1), profile, report);
  }
  makeUpBoxes(profile, report);
  return report;
}

const METHODS: Record<TargetProfile['collision']['by'], (input: MethodInput) => Found> = {
  'name-prefix': byNameTags,
  'name-suffix': byNameTags,
  'child-node': byChildNodes,
  'second-file': bySecondFile,
  'gltf-extension': byColliders,
  'usd-schema': byColliders,
};

function importScene(scene: Scene, stem: string, profile: TargetProfile, report: ReadBack): void {
  report.files.push(stem);
  for (const { kind, name } of scene.leftOut) report.ignored.push({ name, why: `a ${kind} is not imported` });
  const nodes = placedNodes(scene);
  const { art, shapes } = METHODS[profile.collision.by]({ scene, stem, nodes, profile, report });
  for (const node of art) addMesh(node, scene, profile, report);
  const tree = profile.hierarchy === 'kept';
  const colliding = new Set((scene.colliders ?? []).map(({ node }) => node));
  const holds = new Set(nodes.flatMap(({ parent }) => (parent === null ? [] : [parent])));
  if (tree)
    for (const { name, mesh, parentName, number } of nodes)
      if (mesh === null && holds.has(number) && !colliding.has(number))
        report.groups.push({ name, parent: parentName });
  for (const found of shapes) addShapes(found, scene, profile, report);
  addColliders(scene, nodes, profile, report);
}

/** Colliders are not nodes with tags: all that has a mesh is art, but for what only collides. */
function byColliders({ nodes }: MethodInput): Found {
  return { art: nodes.filter(({ mesh }) => mesh !== null), shapes: [] };
}

function addMesh(node: PlacedNode, scene: Scene, profile: TargetProfile, report: ReadBack): void {
  const mesh = ownMesh(scene, node);
  const { rotation, scale } = decomposeMatrix(node.world);
  const materials = [...new Set(mesh.groups.map(({ material }) => material))].filter((m) => m >= 0);
  const named = materials.map((m) => scene.materials[m]!);
  const pictures = new Set(
    named.flatMap((each) => Object.values(each.pictures).map(({ picture }) => picture)),
  );
  const names = new Set(named.map(({ name }) => name));
  const missing = scene.notes.flatMap((note) =>
    note.about === 'picture' && (note.material === null || names.has(note.material)) ? [note.picture] : [],
  );
  report.meshes.push({
    name: node.name,
    parent: node.parentName,
    triangles: triangleCount(mesh),
    ...meshBounds(mesh),
    position: placeOf(node.world),
    rotation,
    scale,
    rotated: node.parent === null && isTurned(node.rotation),
    madeUpBox: false,
    slots: named.map(({ name }) => name),
    uvSets: mesh.uvs.length,
    pictures: { found: pictures.size, missing },
  });
  reportTransform(node, profile.hierarchy === 'kept', report);
}

/** One tagged node as one shape, or as one a solid where the target takes several in a node. */
function addShapes(
  { node, owner, kind }: FoundShape,
  scene: Scene,
  profile: TargetProfile,
  report: ReadBack,
): void {
  reportTransform(node, profile.hierarchy === 'kept', report);
  const whole = standingMesh(scene, node);
  const joined = profile.solids.as === 'joined' && profile.collision.by !== 'second-file';
  for (const mesh of joined && kind !== 'surface' ? solidsOf(whole) : [whole]) {
    const { maxHullVertices } = profile.solids;
    const result =
      kind === 'surface'
        ? recogniseSurface(mesh)
        : kind === null
          ? recogniseByItself(mesh, maxHullVertices)
          : recognise(mesh, kind, maxHullVertices);
    if ('refused' in result) {
      report.ignored.push({ name: node.name, why: result.refused });
      continue;
    }
    for (const how of result.warnings) report.changed.push({ name: node.name, how });
    const { warnings: _, bounds, ...known } = result;
    report.shapes.push({
      area: 0,
      facing: 0,
      ...known,
      name: node.name,
      owner,
      ...bounds,
      surface: null,
      ...keptTriangles(mesh),
    });
  }
}

function keptTriangles({ positions, indices }: Mesh): Pick<ReadShape, 'triangles'> {
  if (indices.length / 3 > MAX_KEPT_TRIANGLES) return {};
  return { triangles: { points: [...positions], indices: [...indices] } };
}

/** What hangs together by its faces' own vertices, one mesh each: touching solids stay apart. */
function solidsOf(mesh: Mesh): Mesh[] {
  const count = mesh.positions.length / 3;
  const apart = { count, remap: Uint32Array.from({ length: count }, (_, v) => v) };
  const shells = shellsOf(mesh, apart as Parameters<typeof shellsOf>[1]);
  if (shells.count < 2) return [mesh];
  return Array.from({ length: shells.count }, (_, shell) =>
    takeFaces(mesh, (face) => shells.ofTriangle[face] === shell),
  );
}

/** What the file says by more than names: exact shapes, meshes that collide, what moves, what it feels like. */
function addColliders(
  scene: Scene,
  nodes: readonly PlacedNode[],
  profile: TargetProfile,
  report: ReadBack,
): void {
  const { colliders = [], bodies = [], surfaces = [] } = scene;
  if (profile.collision.by !== 'gltf-extension' && profile.collision.by !== 'usd-schema') {
    if (colliders.length)
      report.ignored.push({
        name: `${colliders.length} colliders`,
        why: 'the target reads no physics from the file',
      });
    return;
  }
  for (const collider of colliders) addCollider(collider, scene, nodes, profile, report);
  for (const { node, role, kilograms = null } of bodies) {
    if (profile.physics.roles.includes(role))
      report.bodies.push({
        name: nodes[node]!.name,
        role,
        kilograms: profile.physics.mass ? kilograms : null,
      });
    else
      report.changed.push({
        name: nodes[node]!.name,
        how: `the target knows no bodies that are ${role}: it is static`,
      });
  }
  if (surfaces.length && !profile.physics.surfaces)
    report.ignored.push({ name: `${surfaces.length} surfaces of contact`, why: 'the target takes none' });
}

function addCollider(
  { node: number, geometry, surface }: Collider,
  scene: Scene,
  nodes: readonly PlacedNode[],
  profile: TargetProfile,
  report: ReadBack,
): void {
  const node = nodes[number]!;
  const owner = node.mesh !== null || node.parentName === null ? node.name : node.parentName;
  const felt = surface !== undefined && profile.physics.surfaces ? scene.surfaces![surface]!.name : null;
  const common = { name: node.name, owner, surface: felt };
  if (geometry.kind === 'mesh') {
    const mesh = standingMesh(scene, { ...node, mesh: geometry.mesh });
    const result = geometry.convex
      ? recognise(mesh, 'hull', profile.solids.maxHullVertices)
      : recogniseSurface(mesh);
    if ('refused' in result) {
      report.ignored.push({ name: node.name, why: result.refused });
      return;
    }
    for (const how of result.warnings) report.changed.push({ name: node.name, how });
    const { warnings: _, bounds, ...known } = result;
    report.shapes.push({ area: 0, facing: 0, ...known, ...common, ...bounds, ...keptTriangles(mesh) });
    return;
  }
  if (!profile.kinds.known.includes(geometry.kind)) {
    report.ignored.push({ name: node.name, why: `the target knows no ${geometry.kind}` });
    return;
  }
  reportTransform(node, true, report);
  const { translation, rotation, scale } = decomposeMatrix(node.world);
  const even = Math.max(...scale) - Math.min(...scale) < 1e-6 * Math.max(...scale);
  if (!even)
    report.changed.push({
      name: node.name,
      how: 'an uneven scale above an exact shape is taken at its first axis',
    });
  const own = scaleShape(
    { ...geometry, center: [0, 0, 0], rotation: [0, 0, 0, 1] } as Shape,
    Math.abs(scale[0]),
  );
  const shape = moveShape(turnShape(own, rotation), translation);
  const { points, indices } = shapeTriangles(shape);
  report.shapes.push({
    ...common,
    kind: shape.kind,
    volume: shapeVolume(shape),
    area: 0,
    facing: 0,
    corners: shape.kind === 'box' ? 8 : 0,
    ...shapeBounds(shape),
    filled: 0,
    cutBack: 0,
    ...keptTriangles(plainMesh(points, indices)),
  });
}

/** A model without any shape gets one box round everything, as importers make one up. */
function makeUpBoxes({ collision }: TargetProfile, report: ReadBack): void {
  if (report.shapes.length && collision.by !== 'name-prefix') return;
  for (const mesh of report.meshes) {
    if (report.shapes.some((shape) => shape.owner === mesh.name) || mesh.madeUpBox) continue;
    mesh.madeUpBox = true;
    report.changed.push({
      name: mesh.name,
      how: 'no shape arrived for it: one box round everything is made up',
    });
  }
}
