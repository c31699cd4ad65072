import * as z from 'zod';
import { writeGlb } from '../format/index.js';
import { decomposeMatrix } from '../math/index.js';
import { quatSchema, vec3Schema } from '../math/schemas.js';
import { type Scene, sceneOfPiece } from '../piece/index.js';
import { sourceKey } from '../set-out/index.js';
import {
  AssembleError,
  type DeliveredFile,
  type DeliveryFolders,
  sameBytes,
  writePlans,
} from './assemble.js';
import { joinScenes, type Sources } from './express/index.js';
import type { LeavingPlacement, SetPlan } from './plan-set.js';

/**
 * Where the pieces of a set stand: metres, Y up, right-handed, whatever the target. Documented in
 * `docs/placement-list.md`.
 */
export const placementListSchema = z.object({
  format: z.literal('yard-brace placements'),
  version: z.literal(1),
  name: z.string(),
  space: z.object({ unit: z.literal('m'), up: z.literal('+y'), handed: z.literal('right') }),
  placements: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      /** name of the mesh, or of its root node */
      piece: z.string(),
      /** of the pivot */
      position: vec3Schema,
      /** quaternion x, y, z, w of the pivot's axes */
      rotation: quatSchema,
      /** an instance of scale -1 along the x of its pivot; in files that hold placements the geometry is mirrored itself */
      mirrored: z.boolean(),
      group: z.string().nullable(),
      /** material names that stand for others here */
      materials: z.record(z.string(), z.string()),
    }),
  ),
});
export type PlacementList = z.infer<typeof placementListSchema>;

export const placementListOf = (name: string, leaving: readonly LeavingPlacement[]): PlacementList => ({
  format: 'yard-brace placements',
  version: 1,
  name,
  space: { unit: 'm', up: '+y', handed: 'right' },
  placements: leaving.map(({ placed: { placement, name }, node }) => ({
    id: placement.id,
    name,
    piece: node,
    position: placement.position,
    rotation: placement.rotation,
    mirrored: placement.mirrored,
    group: placement.group,
    materials: placement.materials,
  })),
});

/** Beside the models of a set: no importer of the target is asked for it. */
const INSTANCES_ENDING = '.instances.glb';
export const isInstancesFile = (name: string): boolean => name.endsWith(INSTANCES_ENDING);

/** A glTF scene of the set: each piece's meshes once, and a node for every place that it stands at. */
export async function instancesScene(
  leaving: readonly LeavingPlacement[],
  sources: Sources,
): Promise<Uint8Array> {
  const scenes: Scene[] = [];
  const known = new Map<string, { scene: Scene; places: LeavingPlacement[] }>();
  for (const each of leaving) {
    const key = sourceKey(each.placed.placement);
    const entry = known.get(key) ?? { scene: sceneOfPiece(each.placed.document, sources), places: [] };
    entry.places.push(each);
    known.set(key, entry);
  }
  for (const { scene, places } of known.values()) {
    const nodes = places.flatMap(({ placed: { name, matrix } }, i) => {
      const first = i * (scene.nodes.length + 1);
      return [
        { name, parent: null, mesh: null, ...decomposeMatrix(matrix) },
        ...scene.nodes.map((node) => ({
          ...node,
          parent: node.parent === null ? first : first + 1 + node.parent,
        })),
      ];
    });
    scenes.push({ ...scene, nodes });
  }
  return writeGlb(joinScenes(scenes));
}

/** The list of places as a file of a delivery. */
export const placementListFile = (list: PlacementList, folder: string): DeliveredFile => ({
  name: `${folder ? `${folder}/` : ''}${list.name}.placements.json`,
  type: 'application/json',
  bytes: new TextEncoder().encode(`${JSON.stringify(list, null, 2)}\n`),
});

/**
 * The files of a set: its models with the papers of each piece once, the list of where everything stands, and a glTF
 * scene of its instances where pieces leave each in a file of its own.
 *
 * @throws AssembleError when a name is not legal for the target, or two are the same
 */
export async function writeSet(
  { files, firstOf, leaving }: SetPlan,
  name: string,
  sources: Sources,
  folders: DeliveryFolders = { models: '', pictures: '', papers: '' },
): Promise<DeliveredFile[]> {
  const written = new Map<string, DeliveredFile>();
  const firsts = new Set(firstOf.values());
  for (const plans of files) {
    const copies = plans.filter((plan) => !firsts.has(plan)).map(({ document }) => document.meshName);
    for (const file of await writePlans(plans, sources, folders)) {
      const base = file.name.slice(file.name.lastIndexOf('/') + 1);
      if (copies.some((copy) => base === `${copy}.manifest.json` || base === `${copy}.import.md`)) continue;
      const known = written.get(file.name.toLowerCase());
      if (known && !sameBytes(known.bytes, file.bytes))
        throw new AssembleError(
          `Two files of the set would be named ${file.name}; rename a piece or a picture.`,
        );
      written.set(file.name.toLowerCase(), file);
    }
  }
  written.set('list', placementListFile(placementListOf(name, leaving), folders.papers));
  if (files.length > 1 || files.flat().every(({ together }) => together === null)) {
    const within = folders.models ? `${folders.models}/` : '';
    written.set('scene', {
      name: `${within}${name}${INSTANCES_ENDING}`,
      type: 'model/gltf-binary',
      bytes: await instancesScene(leaving, sources),
    });
  }
  return [...written.values()];
}
