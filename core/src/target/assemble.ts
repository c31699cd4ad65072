import { writeGlb } from '../format/index.js';
import { type Mesh, plainMesh } from '../mesh/index.js';
import { nameFault, nameRulesFor } from '../naming/index.js';
import { type PieceDocument, plainNode, type Scene, placedMatrices } from '../piece/index.js';
import { shapeTriangles } from '../shape/index.js';
import { type DeliveredMesh, deliveredMeshes, meshSeenFrom, shapeSeenFrom } from './delivered-mesh.js';
import { deliveredShape, deliveredSides } from './delivered-shape.js';
import { type Expectation, expectationOf } from './expectation.js';
import { importSheet } from './import-sheet.js';
import { checkRulesOf, type TargetProfile } from './profile.js';

export interface DeliveredFile {
  name: string;
  type: 'model/gltf-binary' | 'application/json' | 'text/markdown';
  bytes: Uint8Array;
}

/** A piece that cannot leave as it is, with a sentence for the person. */
export class AssembleError extends Error {
  override readonly name = 'AssembleError';
}

export interface AssembleSources {
  meshOf: (blob: string) => Mesh;
  pictureOf: (blob: string) => Uint8Array;
}

/**
 * The files of one delivery: the model with its proxies, a manifest that remembers where everything
 * was and what was below what, and a sheet for whoever imports it. The art is baked and stands with its pivot at the
 * origin, as one or each part on its own; every proxy has the very same pivot. Same document, same bytes.
 *
 * @throws AssembleError when a mesh name is not legal for the target, or two are the same
 */
export async function assemble(
  document: PieceDocument,
  profile: TargetProfile,
  sources: AssembleSources,
): Promise<DeliveredFile[]> {
  const delivered = deliveredMeshes(document);
  for (const { name, node } of delivered) {
    const fault = nameFault(name, nameRulesFor(checkRulesOf(profile).names, document.proxies.length));
    const where =
      node === null
        ? 'Change the mesh name in step 6, Names.'
        : `Change the name of “${name}” in step 2, Parts.`;
    if (fault) throw new AssembleError(`${fault} ${where}`);
  }
  const doubled = delivered.find(({ name }, i) => delivered.findIndex((other) => other.name === name) < i);
  if (doubled)
    throw new AssembleError(`Two parts are named “${doubled.name}”. Change one of them in step 2, Parts.`);
  const expected = expectationOf(document, profile, sources.meshOf);
  const json = new TextEncoder().encode(`${JSON.stringify(manifest(document, profile), null, 2)}\n`);
  const sheet = new TextEncoder().encode(importSheet(document, profile, expected));
  const files: DeliveredFile[] = [];
  for (const mesh of delivered) {
    const bytes = await writeGlb(deliveredScene(document, profile, mesh, expected, sources));
    files.push({ name: `${mesh.name}.glb`, type: 'model/gltf-binary', bytes });
  }
  return [
    ...files,
    { name: `${document.meshName}.manifest.json`, type: 'application/json', bytes: json },
    { name: `${document.meshName}.import.md`, type: 'text/markdown', bytes: sheet },
  ];
}

function deliveredScene(
  document: PieceDocument,
  profile: TargetProfile,
  mesh: DeliveredMesh,
  expected: Expectation,
  sources: AssembleSources,
): Scene {
  const art = meshSeenFrom(document, mesh, sources.meshOf);
  const used = [...new Set(art.groups.map((group) => group.material))]
    .filter((material) => material >= 0)
    .sort((a, b) => a - b);
  const pictures = [
    ...new Set(used.flatMap((m) => Object.values(document.materials[m]!.pictures).map((use) => use.picture))),
  ].sort((a, b) => a - b);
  const groups = art.groups.map((group) => ({ ...group, material: used.indexOf(group.material) }));
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [plainNode(mesh.name, 0)],
    meshes: [{ name: mesh.name, mesh: { ...art, groups } }],
    materials: used.map((m) => renumberPictures(document.materials[m]!, pictures)),
    pictures: pictures.map((p) => ({
      ...document.pictures[p]!,
      bytes: sources.pictureOf(document.pictures[p]!.blob),
    })),
    leftOut: [],
    notes: [],
  };
  const names = expected.shapes.filter((shape) => shape.owner === mesh.name).map((shape) => shape.name);
  mesh.proxies.forEach(({ shape }, i) => {
    const { points, indices } = shapeTriangles(shapeSeenFrom(mesh.pivot, deliveredShape(profile, shape)), {
      // A target that knows round kinds reads them from any number of sides; hulls have corners to be kept.
      segments: shape.kind === 'cylinder' ? deliveredSides(profile) : undefined,
    });
    const name = names[i]!;
    scene.nodes.push(plainNode(name, scene.meshes.length, profile.proxies.place === 'below-mesh' ? 0 : null));
    scene.meshes.push({ name, mesh: plainMesh(points, indices) });
  });
  return scene;
}

function renumberPictures(
  material: Scene['materials'][number],
  pictures: readonly number[],
): Scene['materials'][number] {
  const uses = Object.entries(material.pictures).map(([slot, use]) => [
    slot,
    { ...use, picture: pictures.indexOf(use.picture) },
  ]);
  return { ...material, pictures: Object.fromEntries(uses) };
}

/** What moves a shape, what it feels like and how heavy it is, as far as that was said. */
function behaviourOf({ proxies }: PieceDocument, id: string): Record<string, unknown> {
  const { role, surface, response, density } = proxies.find((proxy) => proxy.id === id)!;
  const said = { role, surface, response, kilogramsPerCubicMetre: density };
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
}

/**
 * Where everything sat before it was moved to its pivot, and what hung below what. A delivered mesh comes back
 * to its place by its `rotation` quaternion and then its `position`. Metres, Y up, right-handed.
 */
export function manifest(document: PieceDocument, profile: TargetProfile): Record<string, unknown> {
  const world = placedMatrices(document);
  const expected = expectationOf(document, profile);
  return {
    manifest: 2,
    target: profile.id,
    piece: document.name,
    mesh: document.meshName,
    space: { unit: 'm', up: 'y', handedness: 'right' },
    pivot: {
      anchor: document.pivot.anchor,
      position: document.pivot.position,
      rotation: document.pivot.rotation,
    },
    family: document.family,
    meshes: deliveredMeshes(document).map(({ name, node, pivot }) => ({
      name,
      file: `${name}.glb`,
      node: node === null ? null : document.nodes[node]!.name,
      pivot: pivot.anchor,
      position: pivot.position,
      rotation: pivot.rotation,
      ...(pivot.hinge ? { hinge: pivot.hinge } : {}),
    })),
    proxies: expected.shapes.map(({ id, name, owner, kind, deliveredAs, volume }) => ({
      name,
      owner,
      kind: deliveredAs,
      ...(kind === deliveredAs ? {} : { drawnAs: kind }),
      cubicMetres: volume,
      ...behaviourOf(document, id),
    })),
    clearances: document.clearances.map(({ id: _id, ...clearance }) => clearance),
    hierarchy: document.nodes.map((node, i) => ({
      name: node.name,
      parent: node.parent,
      mesh: node.mesh === null ? null : document.meshes[node.mesh]!.name,
      aside: node.aside,
      world: [...world[i]!],
    })),
    source: document.source.files.map(({ name, blob }) => ({ name, sha256: blob })),
  };
}
