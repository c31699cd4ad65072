import type { Mesh } from '../../mesh/index.js';
import type { Material, Scene } from '../../piece/index.js';
import type { SettledChoices } from '../choices.js';
import { meshSeenFrom } from '../delivered-mesh.js';
import { leavingMaterials, picturesOf } from '../leaving-materials.js';
import type { Plan, PlannedFile } from '../plan.js';

export interface Sources {
  meshOf: (blob: string) => Mesh;
  pictureOf: (blob: string) => Uint8Array;
  /** what was tried with each piece before it left, a line each, for its sheet */
  tried?: readonly (readonly string[])[];
}

/** The art of a planned file as a scene in metres: a node for each that is planned, in their order. */
export function artScene(
  { document, choices }: Plan,
  { nodes }: PlannedFile,
  { meshOf, pictureOf }: Sources,
): Scene {
  const meshes = nodes.map(({ parts, pivot }) =>
    parts.length ? meshSeenFrom(document, { parts, pivot }, meshOf) : null,
  );
  const used = materialsOf(meshes, choices);
  const leaving = leavingMaterials(document, choices);
  const materials = used.map((m) => leaving.materials[m]!);
  const pictures = [...picturesOf(materials)].sort((a, b) => a - b);
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [],
    meshes: [],
    materials: materials.map((material) => renumberPictures(material, pictures)),
    pictures: pictures.map((p) => {
      const { name, type, ...at } = leaving.pictures[p]!;
      return { name, type, bytes: 'blob' in at ? pictureOf(at.blob) : at.bytes };
    }),
    leftOut: [],
    notes: [],
  };
  nodes.forEach(({ name, parent, position, rotation }, i) => {
    const mesh = meshes[i];
    const number = mesh ? scene.meshes.push({ name, mesh: bound(mesh, used) }) - 1 : null;
    scene.nodes.push({ name, parent, mesh: number, translation: position, rotation, scale: [1, 1, 1] });
  });
  return scene;
}

function materialsOf(meshes: readonly (Mesh | null)[], { materials }: SettledChoices): number[] {
  if (materials === 'left-out') return [];
  const used = meshes.flatMap((mesh) => mesh?.groups.map((group) => group.material) ?? []);
  return [...new Set(used)].filter((material) => material >= 0).sort((a, b) => a - b);
}

const bound = (mesh: Mesh, used: readonly number[]): Mesh => ({
  ...mesh,
  groups: mesh.groups.map((group) => ({ ...group, material: used.indexOf(group.material) })),
});

const renumberPictures = (material: Material, pictures: readonly number[]): Material => ({
  ...material,
  pictures: Object.fromEntries(
    Object.entries(material.pictures).map(([slot, use]) => [
      slot,
      { ...use, picture: pictures.indexOf(use.picture) },
    ]),
  ),
});
