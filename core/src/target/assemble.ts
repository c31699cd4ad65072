import { writeScene } from '../format/index.js';
import type { ContactSurface, PieceDocument, Scene } from '../piece/index.js';
import { nameFault } from '../naming/index.js';
import { nameRulesOf } from './proxy-names.js';
import type { DeliveryChoices } from './choices.js';
import { express, joinScenes, type Sources } from './express/index.js';
import { expectationOfPlan } from './expectation.js';
import { importSheet } from './import-sheet.js';
import { manifestOf } from './manifest.js';
import { nameFaultsOf } from './name-faults.js';
import { type Plan, planToDeliver } from './plan.js';
import type { TargetProfile } from './profile.js';

export interface DeliveredFile {
  name: string;
  type: string;
  bytes: Uint8Array;
}

/** A piece that cannot leave as it is, with a sentence for the person. */
export class AssembleError extends Error {
  override readonly name = 'AssembleError';
}

export interface AssembleOptions extends Sources {
  choices?: DeliveryChoices;
  /** what the surfaces of contact that shapes name feel like */
  surfaces?: readonly ContactSurface[];
  folders?: DeliveryFolders;
}

/** Where files stand below a piece's own folder; empty for that itself. */
export interface DeliveryFolders {
  models: string;
  pictures: string;
  /** manifest and sheet */
  papers: string;
}

const ONE_FOLDER: DeliveryFolders = { models: '', pictures: '', papers: '' };

const TYPES: Record<string, string> = {
  glb: 'model/gltf-binary',
  gltf: 'model/gltf+json',
  bin: 'application/octet-stream',
  dae: 'model/vnd.collada+xml',
  obj: 'model/obj',
  mtl: 'model/mtl',
  usda: 'model/vnd.usda',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
};

const typeOf = (name: string): string =>
  TYPES[name.slice(name.lastIndexOf('.') + 1).toLowerCase()] ?? 'application/octet-stream';

/**
 * The files of one delivery: models with their collision as the target finds it, a manifest that remembers where
 * everything was and what was below what, and a sheet for whoever imports it. Same document, same bytes.
 *
 * @throws AssembleError when a name is not legal for the target, or two are the same; PlanError, DecomposeError
 */
export async function assemble(
  document: PieceDocument,
  profile: TargetProfile,
  { choices = {}, surfaces = [], folders, ...sources }: AssembleOptions,
): Promise<DeliveredFile[]> {
  return writePlan(await planToDeliver(document, profile, choices, surfaces), sources, folders);
}

/** The files of a plan. @throws AssembleError when a name is not legal for the target, or two are the same */
export const writePlan = (
  plan: Plan,
  sources: Sources,
  folders: DeliveryFolders = ONE_FOLDER,
): Promise<DeliveredFile[]> => writePlans([plan], sources, folders);

/**
 * The files of several pieces' plans for one target: models of one name hold what all of them put there. A manifest and
 * a sheet for each piece.
 *
 * @throws AssembleError when a name is not legal for the target, or two are the same
 */
export async function writePlans(
  plans: readonly Plan[],
  sources: Sources,
  folders: DeliveryFolders = ONE_FOLDER,
): Promise<DeliveredFile[]> {
  for (const plan of plans) {
    const [fault] = nameFaultsOf(plan).says;
    if (fault) throw new AssembleError(plans.length > 1 ? `${plan.document.name}: ${fault}` : fault);
  }
  checkOtherPieces(plans);
  const models = await writeModels(plans, sources, folders);
  return [
    ...models,
    ...plans.flatMap((plan, i) => papersOf(plan, models, sources, folders, sources.tried?.[i])),
  ];
}

/** Nodes of pieces that share a file are told apart by their names. */
function checkOtherPieces(plans: readonly Plan[]): void {
  const { together, profile } = plans[0]!;
  const fault = together === null ? null : nameFault(together, nameRulesOf(profile));
  if (fault) throw new AssembleError(`The file of several pieces, “${together}”: ${fault}`);
  const owners = new Map<string, Plan>();
  for (const plan of plans)
    for (const { stem, nodes } of plan.files)
      for (const { name } of nodes) {
        const key = `${stem}/${name}`.toLowerCase();
        const other = owners.get(key);
        if (other && other !== plan)
          throw new AssembleError(
            `“${other.document.name}” and “${plan.document.name}” both hold a node named “${name}”; rename one of them.`,
          );
        owners.set(key, plan);
      }
}

async function writeModels(
  plans: readonly Plan[],
  sources: Sources,
  folders: DeliveryFolders,
): Promise<DeliveredFile[]> {
  const { profile, choices } = plans[0]!;
  const meshKey = profile.collision.by === 'gltf-extension' ? profile.collision.meshKey : 'mesh';
  const scenes = new Map<string, Scene[]>();
  for (const plan of plans)
    for (const file of plan.files)
      for (const { stem, scene } of express(plan, file, sources))
        scenes.set(stem, [...(scenes.get(stem) ?? []), scene]);
  const files = new Map<string, DeliveredFile>();
  for (const [stem, parts] of scenes)
    for (const { name, bytes } of await writeScene(joinScenes(parts), choices.container, stem, {
      space: profile.space,
      meshKey,
      picturePath: pathBetween(folders.models, folders.pictures),
    })) {
      const placed = within(typeOf(name).startsWith('image/') ? folders.pictures : folders.models, name);
      const known = files.get(placed.toLowerCase());
      if (known && !sameBytes(known.bytes, bytes))
        throw new AssembleError(
          `Two files of the delivery would be named ${name}; rename a part or a picture.`,
        );
      files.set(placed.toLowerCase(), { name: placed, type: typeOf(name), bytes });
    }
  return [...files.values()];
}

/** Manifest and sheet of a piece. */
function papersOf(
  plan: Plan,
  models: readonly DeliveredFile[],
  sources: Sources,
  { papers }: DeliveryFolders,
  tried: readonly string[] = [],
): DeliveredFile[] {
  const { meshName } = plan.document;
  const text = (content: string) => new TextEncoder().encode(content);
  const json = `${JSON.stringify(manifestOf(plan, models), null, 2)}\n`;
  const sheet = importSheet(plan, expectationOfPlan(plan, sources.meshOf), tried);
  return [
    { name: within(papers, `${meshName}.manifest.json`), type: 'application/json', bytes: text(json) },
    { name: within(papers, `${meshName}.import.md`), type: 'text/markdown', bytes: text(sheet) },
  ];
}

const within = (folder: string, name: string): string => (folder ? `${folder}/${name}` : name);

/** The way from one folder to another, with a slash at its end; empty for the same. */
function pathBetween(from: string, to: string): string {
  if (from === to) return '';
  const up = from ? '../'.repeat(from.split('/').length) : '';
  return `${up}${to ? `${to}/` : ''}`;
}

export const sameBytes = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((byte, i) => byte === b[i]);
