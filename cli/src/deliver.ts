import { basename, join } from 'node:path';
import {
  agreesInAll,
  applyEdit,
  artMesh,
  checkRulesFor,
  compareReadBack,
  compareShapes,
  type DeliveryChoices,
  expectationOfPlans,
  findingsOf,
  isMeshFile,
  lossesOf,
  lossText,
  PatternError,
  type PieceDocument,
  pieceFolder,
  pivotEdit,
  pivotPlace,
  planTogether,
  proxiesAsDelivered,
  readBack,
  type TargetProfile,
  twinOf,
  choicesByRules,
  writePlans,
  type YardRules,
} from '@yard-brace/core';
import { proxiesAsked, withProxies } from './asked-proxies.js';
import { writeFiles } from './files.js';
import { choicesFrom, profilesFrom, rulesFrom } from './given-rules.js';
import { problemOf } from './problem-of.js';
import { type Options, type Result, said, stops } from './result.js';
import { type TakenIn, takeInFile } from './take-in-file.js';
import { UsageError } from './usage-error.js';

const PIVOTS = ['base-centre', 'centre', 'origin'] as const;

/** What all files of one call are delivered by. */
interface Order {
  options: Options;
  rules: YardRules;
  targets: { profile: TargetProfile; choices: DeliveryChoices }[];
  anchor: (typeof PIVOTS)[number];
  out: string;
}

/** Each mesh file is a piece; several go one after the other, or into one file together. */
export async function deliver(paths: readonly string[], options: Options): Promise<Result> {
  const rules = await rulesFrom(options.rules);
  const profiles = profilesFrom(options.target, rules);
  const anchor = PIVOTS.find((pivot) => pivot === (options.pivot ?? 'base-centre'));
  if (!anchor) throw new UsageError(`--pivot takes ${PIVOTS.join(', ')}, not “${options.pivot}”.`);
  if (!options.out) throw new UsageError('--out names the folder for the files.');
  proxiesAsked(options);
  const targets = profiles.map((profile) => ({ profile, choices: choicesFrom(options, rules, profile) }));
  const order: Order = { options, rules, targets, anchor, out: options.out };
  const files = pieceFiles(paths);
  if (files.length > 1 && options.name !== undefined)
    throw new UsageError('--name names one mesh; of several files each has its own.');
  if (options.together !== undefined) return inOneFile(files, order);
  if (files.length < 2) return deliverOne(await taken(files[0] ?? [], order), order);
  return oneByOne(files, order);
}

/** One that cannot be delivered is said and stops no other. */
async function oneByOne(files: readonly string[][], order: Order): Promise<Result> {
  const pieces: Record<string, unknown>[] = [];
  const bearers = new Map<string, string>();
  let stopped = false;
  for (const named of files) {
    const file = basename(named[0]!);
    try {
      const piece = await taken(named, order);
      const other = bearers.get(piece.document.meshName.toLowerCase());
      if (other)
        throw new UsageError(
          `${file} and ${other} would both be named ${piece.document.meshName}; rename one.`,
        );
      bearers.set(piece.document.meshName.toLowerCase(), file);
      const result = await deliverOne(piece, order);
      pieces.push({ file, ...result.json });
      stopped ||= result.stopped;
    } catch (error) {
      const says = problemOf(error);
      if (says === null) throw error;
      pieces.push({ file, refused: says });
      stopped = true;
    }
  }
  return { json: { pieces }, stopped };
}

async function inOneFile(files: readonly string[][], order: Order): Promise<Result> {
  const pieces: TakenIn[] = [];
  for (const named of files) pieces.push(await taken(named, order));
  const sources = {
    meshOf: (blob: string) => pieces.find(({ blobs }) => blobs.has(blob))!.meshOf(blob),
    pictureOf: (blob: string) => pieces.find(({ blobs }) => blobs.has(blob))!.pictureOf(blob),
  };
  return forEachTarget(
    pieces.map(({ document }) => document),
    sources,
    order,
  );
}

const deliverOne = ({ document, ...sources }: TakenIn, order: Order): Promise<Result> =>
  forEachTarget([document], sources, order);

/** Mesh files, each with what is named beside them all; the collision file of another comes with that one. */
export function pieceFiles(paths: readonly string[]): string[][] {
  const models = paths.filter((path) => isMeshFile(basename(path)));
  const named = models.map((path) => ({ path, name: basename(path) }));
  const twins = new Set(named.map(({ name }) => twinOf(name, named)?.path));
  const beside = paths.filter((path) => !models.includes(path));
  const pieces = models.filter((path) => !twins.has(path));
  return pieces.length
    ? pieces.map((path) => [path, ...beside, ...models.filter((other) => twins.has(other))])
    : [[...paths]];
}

/** The piece of a file, true to size and on its pivot. */
async function taken(named: readonly string[], { options, anchor }: Order): Promise<TakenIn> {
  const piece = await takeInFile(named, options.unit);
  const { document: art } = piece;
  if (!art.unit.confirmed)
    throw new UsageError(
      `${art.source.files[0]!.name} does not state its unit; say it with --unit (${art.unit.name} is likely).`,
    );
  const placed = applyEdit(art, pivotEdit(anchor, pivotPlace(art, anchor)));
  const { name } = options;
  return {
    ...piece,
    document: name === undefined ? placed : applyEdit(placed, { kind: 'rename-mesh', name }),
  };
}

type Sources = Pick<TakenIn, 'meshOf' | 'pictureOf'>;

async function forEachTarget(
  pieces: readonly PieceDocument[],
  sources: Sources,
  order: Order,
): Promise<Result> {
  const deliveries: Result[] = [];
  for (const { profile, choices } of order.targets) {
    const documents: PieceDocument[] = [];
    for (const piece of pieces)
      documents.push(await withProxies(piece, artMesh(piece, sources.meshOf), profile, order.options));
    deliveries.push(await deliverFor(documents, { profile, choices, sources, order }));
  }
  const [only] = deliveries;
  return {
    json: deliveries.length === 1 ? only!.json : { deliveries: deliveries.map(({ json }) => json) },
    stopped: deliveries.some(({ stopped }) => stopped),
  };
}

interface DeliverFor {
  profile: TargetProfile;
  choices: DeliveryChoices;
  sources: Sources;
  order: Order;
}

async function deliverFor(
  documents: readonly PieceDocument[],
  { profile, choices, sources, order }: DeliverFor,
): Promise<Result> {
  const { rules, out, targets } = order;
  const { files, ...result } = await assembled(documents, { profile, choices, sources, rules });
  if (files.length)
    await writeFiles(
      placeOf(documents[0]!, profile, choices, { rules, out, apart: targets.length > 1 }),
      files,
    );
  return result;
}

/** What leaves for a target, read back; no files where findings stop it. */
export async function assembled(
  documents: readonly PieceDocument[],
  { profile, choices, sources, rules }: Omit<DeliverFor, 'order'> & { rules: YardRules },
): Promise<Result & { files: readonly { name: string; bytes: Uint8Array }[] }> {
  const findings = documents.flatMap((document) =>
    findingsOf(document, checkRulesFor(document, rules, profile)),
  );
  const [document] = documents as [PieceDocument];
  const json: Record<string, unknown> = {
    target: profile.id,
    mesh: documents.length > 1 ? documents.map(({ meshName }) => meshName) : document.meshName,
    findings: findings.map(said),
  };
  if (stops(findings)) return { json: { ...json, files: [] }, stopped: true, files: [] };
  const named = choicesByRules(choices, rules, document, profile.id);
  const plans = await planTogether(documents, profile, named, rules.surfaces);
  const files = await writePlans(plans, sources, rules.folders);
  const expected = expectationOfPlans(plans, sources.meshOf);
  const comparison = compareReadBack(expected, await readBack(files, profile));
  return {
    files,
    json: {
      ...json,
      sizeMetres: expected.meshes[0]!.size,
      artStandsOutMetres: documents.length === 1 ? artStandsOut(document, profile, sources) : null,
      pivotSatAt: document.pivot.position,
      shapes: expected.shapes.map(({ name, owner, kind, deliveredAs, volume }) => ({
        name,
        owner,
        kind,
        deliveredAs,
        volume,
      })),
      files: files.map(({ name, bytes }) => ({ name, bytes: bytes.length })),
      dropped: plans.flatMap((plan) => lossesOf(plan).map(lossText)),
      agreed: agreesInAll(comparison),
      differences: comparison.filter((point) => !point.agrees),
    },
    stopped: !agreesInAll(comparison),
  };
}

/** A folder for each target where there are several, and below it the piece's own by the pattern of the rules. */
export function placeOf(
  document: PieceDocument,
  profile: TargetProfile,
  { together }: DeliveryChoices,
  { rules, out, apart }: { rules: YardRules; out: string; apart: boolean },
): string {
  try {
    const own = pieceFolder(rules, together === undefined ? document : { name: together });
    return join(out, ...(apart ? [profile.id] : []), own);
  } catch (error) {
    if (error instanceof PatternError)
      throw new UsageError(`The folder pattern of the rules: ${error.message}`);
    throw error;
  }
}

function artStandsOut(document: PieceDocument, profile: TargetProfile, { meshOf }: Sources): number | null {
  const shapes = proxiesAsDelivered(profile, document.proxies).map(({ shape }) => shape);
  return shapes.length ? compareShapes(artMesh(document, meshOf), shapes).artOutside.max : null;
}
