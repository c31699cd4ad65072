import { writeGlb } from '../format/index.js';
import { scaled, type Vec3 } from '../math/index.js';
import { type Mesh, plainMesh } from '../mesh/index.js';
import { nameFault } from '../naming/index.js';
import { artMesh, type PieceDocument, plainNode, type Scene, placedMatrices } from '../piece/index.js';
import { shapeTriangles } from '../shape/index.js';
import { expectationOf } from './expectation.js';
import { importSheet } from './import-sheet.js';
import type { TargetProfile } from './profile.js';

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
 * sat and hung, and a sheet for whoever imports it. The art is baked and stands with its pivot at the
 * origin; every proxy has the very same pivot. Same document, same bytes.
 *
 * @throws AssembleError when the mesh name is not legal for the target
 */
export async function assemble(
  document: PieceDocument,
  profile: TargetProfile,
  sources: AssembleSources,
): Promise<DeliveredFile[]> {
  const fault = nameFault(document.meshName, profile.names);
  if (fault) throw new AssembleError(`${fault} Change the mesh name in step 6, Names.`);
  const expected = expectationOf(document, profile);
  const scene = deliveredScene(document, profile, sources);
  const json = new TextEncoder().encode(`${JSON.stringify(manifest(document, profile), null, 2)}\n`);
  const sheet = new TextEncoder().encode(importSheet(document, profile, expected));
  return [
    { name: `${document.meshName}.glb`, type: 'model/gltf-binary', bytes: await writeGlb(scene) },
    { name: `${document.meshName}.manifest.json`, type: 'application/json', bytes: json },
    { name: `${document.meshName}.import.md`, type: 'text/markdown', bytes: sheet },
  ];
}

function deliveredScene(document: PieceDocument, profile: TargetProfile, sources: AssembleSources): Scene {
  const toPivot = scaled(document.pivot.position, -1);
  const art = shifted(artMesh(document, sources.meshOf), toPivot);
  const expected = expectationOf(document, profile);
  const used = [...new Set(art.groups.map((group) => group.material))]
    .filter((material) => material >= 0)
    .sort((a, b) => a - b);
  const pictures = [
    ...new Set(used.flatMap((m) => Object.values(document.materials[m]!.pictures).map((use) => use.picture))),
  ].sort((a, b) => a - b);
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [plainNode(document.meshName, 0)],
    meshes: [
      {
        name: document.meshName,
        mesh: {
          ...art,
          groups: art.groups.map((group) => ({ ...group, material: used.indexOf(group.material) })),
        },
      },
    ],
    materials: used.map((m) => renumberPictures(document.materials[m]!, pictures)),
    pictures: pictures.map((p) => ({
      ...document.pictures[p]!,
      bytes: sources.pictureOf(document.pictures[p]!.blob),
    })),
    leftOut: [],
    notes: [],
  };
  document.proxies.forEach(({ shape }, i) => {
    const { points, indices } = shapeTriangles(shape);
    const { name } = expected.shapes[i]!;
    scene.nodes.push(plainNode(name, scene.meshes.length, profile.proxies.hang === 'below' ? 0 : null));
    scene.meshes.push({ name, mesh: shifted(plainMesh(points, indices), toPivot) });
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

function shifted(mesh: Mesh, by: Vec3): Mesh {
  return { ...mesh, positions: mesh.positions.map((value, i) => value + by[i % 3]!) };
}

/** Where everything sat before it was moved to its pivot, and what hung below what. Metres, Y up, right-handed. */
export function manifest(document: PieceDocument, profile: TargetProfile): Record<string, unknown> {
  const world = placedMatrices(document);
  const expected = expectationOf(document, profile);
  return {
    manifest: 1,
    target: profile.id,
    piece: document.name,
    mesh: document.meshName,
    file: `${document.meshName}.glb`,
    space: { unit: 'm', up: 'y', handedness: 'right' },
    pivot: { anchor: document.pivot.anchor, satAt: document.pivot.position },
    proxies: expected.shapes.map(({ name, kind, volume }) => ({ name, kind, cubicMetres: volume })),
    hierarchy: document.nodes.map((node, i) => ({
      name: node.name,
      parent: node.parent,
      mesh: node.mesh === null ? null : document.meshes[node.mesh]!.name,
      world: [...world[i]!],
    })),
    source: document.source.files.map(({ name, blob }) => ({ name, sha256: blob })),
  };
}
