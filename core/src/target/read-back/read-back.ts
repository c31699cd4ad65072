import { memoryFile, readFile } from '../../format/index.js';
import {
  add,
  composeMatrix,
  decomposeMatrix,
  type Matrix,
  multiplyMatrices,
  placeOf,
  placeText,
  type Quat,
  type Vec3,
} from '../../math/index.js';
import { type Mesh, meshBounds, transformMesh, triangleCount } from '../../mesh/index.js';
import { type Scene, type SceneNode, worldMatrices } from '../../piece/index.js';
import type { ShapeKind } from '../../shape/index.js';
import type { TargetProfile } from '../profile.js';
import { recognise } from './recognise.js';
import type { ReadBack } from './report.js';

/**
 * Decide from delivered bytes alone what a level would get, by the profile's rules. It stands in for a
 * real importer and shares nothing with the assembling side but the format readers.
 *
 * @param files name and bytes of every file of the delivery; those that are no models are passed over
 * @throws FormatError when a model cannot be read
 */
export async function readBack(
  files: readonly { name: string; bytes: Uint8Array }[],
  profile: TargetProfile,
): Promise<ReadBack> {
  const report: ReadBack = { target: profile.id, meshes: [], shapes: [], ignored: [], changed: [] };
  for (const { name, bytes } of files.filter((file) => /\.(glb|gltf|obj)$/i.test(file.name))) {
    importScene(await readFile(memoryFile(name, bytes)), profile, report);
  }
  return report;
}

function importScene(scene: Scene, profile: TargetProfile, report: ReadBack): void {
  for (const { kind, name } of scene.leftOut) report.ignored.push({ name, why: `a ${kind} is not imported` });
  const world = worldMatrices(scene.nodes);
  const nodes = scene.nodes.flatMap((node, i) =>
    node.mesh === null
      ? []
      : [{ ...node, world: world[i]!, under: node.parent === null ? null : world[node.parent]! }],
  );
  const renderNames = nodes.map((node) => node.name).filter((name) => !tagOf(name, profile));
  const taken = new Set<string>();
  for (const node of nodes) {
    const mesh = ownScale(scene, node);
    const tag = tagOf(node.name, profile);
    if (!tag) {
      addMesh(node, mesh, profile, report);
      continue;
    }
    const owner = ownerOf(node.name.slice(tag.prefix.length), renderNames);
    if (owner === undefined) {
      report.changed.push({
        name: node.name,
        how: 'its name holds no whole mesh name and number: it becomes a visible mesh',
      });
      addMesh(node, mesh, profile, report);
    } else if (taken.has(node.name)) {
      report.ignored.push({
        name: node.name,
        why: 'a shape of this name was read already: the second is dropped',
      });
    } else {
      taken.add(node.name);
      addShape(node, owner, tag.kind, mesh, profile, report);
    }
  }
  for (const mesh of report.meshes) {
    if (report.shapes.some((shape) => shape.owner === mesh.name) || mesh.madeUpBox) continue;
    mesh.madeUpBox = true;
    report.changed.push({
      name: mesh.name,
      how: 'no shape arrived for it: one box round everything is made up',
    });
  }
}

/** The tag a name starts with, capitals and all. */
function tagOf(name: string, profile: TargetProfile): { kind: ShapeKind; prefix: string } | undefined {
  const entries = Object.entries(profile.proxies.prefixes) as [ShapeKind, string][];
  const found = entries.find(([, prefix]) => name.startsWith(prefix));
  return found && { kind: found[0], prefix: found[1] };
}

/** `Bollard_01` belongs to `Bollard`; of several owners that fit, the longest name. */
function ownerOf(rest: string, renderNames: readonly string[]): string | undefined {
  const fitting = renderNames.filter(
    (name) => rest.startsWith(`${name}_`) && /^\d+$/.test(rest.slice(name.length + 1)),
  );
  return fitting.sort((a, b) => b.length - a.length)[0];
}

/** A node with where all above it put it. */
type PlacedNode = SceneNode & { world: Matrix; under: Matrix | null };

/** The mesh as its own scale and rotation and those of all above leave it; the node's place is its pivot. */
function ownScale(scene: Scene, { mesh, world }: PlacedNode): Mesh {
  const [x, y, z] = placeOf(world);
  return transformMesh(
    scene.meshes[mesh!]!.mesh,
    multiplyMatrices(
      composeMatrix({ translation: [-x, -y, -z], rotation: [0, 0, 0, 1], scale: [1, 1, 1] }),
      world,
    ),
  );
}

function addMesh(node: PlacedNode, mesh: Mesh, profile: TargetProfile, report: ReadBack): void {
  const bounds = meshBounds(mesh);
  const { rotation, scale } = decomposeMatrix(node.world);
  report.meshes.push({
    name: node.name,
    triangles: triangleCount(mesh),
    ...bounds,
    position: placeOf(node.world),
    scale,
    rotated: isTurned(rotation),
    madeUpBox: false,
  });
  reportTransform(node, report);
  const tags = Object.values(profile.proxies.prefixes);
  const near = tags.find((tag) => node.name.toUpperCase().startsWith(tag));
  if (near && !node.name.startsWith(near)) {
    report.changed.push({
      name: node.name,
      how: `it starts almost like ${near}: capitals count, so it becomes a visible mesh`,
    });
  }
}

const isTurned = ([, , , w]: Quat) => Math.abs(Math.abs(w) - 1) > 1e-6;

function reportTransform(node: PlacedNode, report: ReadBack): void {
  if (node.scale.some((s) => Math.abs(s - 1) > 1e-6)) {
    report.changed.push({
      name: node.name,
      how: `its node scale of ${node.scale.map((s) => s.toPrecision(3)).join(', ')} is kept`,
    });
  }
  if (node.under?.some((v, k) => Math.abs(v - (k % 5 === 0 ? 1 : 0)) > 1e-6))
    report.changed.push({
      name: node.name,
      how: `its parents move, rotate or scale it: it lands at ${placeText(placeOf(node.world))}`,
    });
  if (node.parent === null && isTurned(node.rotation)) {
    report.changed.push({ name: node.name, how: 'a rotation is left on its root node' });
  }
}

function addShape(
  node: PlacedNode,
  owner: string,
  tagged: ShapeKind,
  mesh: Mesh,
  profile: TargetProfile,
  report: ReadBack,
): void {
  reportTransform(node, report);
  const result = recognise(mesh, tagged, profile.proxies.maxHullVertices);
  if ('refused' in result) {
    report.ignored.push({ name: node.name, why: result.refused });
    return;
  }
  for (const how of result.warnings) report.changed.push({ name: node.name, how });
  const at = (p: Vec3): Vec3 => add(p, placeOf(node.world));
  report.shapes.push({
    name: node.name,
    owner,
    kind: result.kind,
    volume: result.volume,
    corners: result.corners,
    min: at(result.bounds.min),
    max: at(result.bounds.max),
    filled: result.filled,
    cutBack: result.cutBack,
  });
}
