import {
  agreesInAll,
  AssembleError,
  compareReadBack,
  DecomposeError,
  type ContactSurface,
  type DeliveryChoices,
  type DeliveryFolders,
  expectationOfPlans,
  type Inventory,
  inventoryOf,
  MeshCodecError,
  meshReader,
  type PieceDocument,
  PlanError,
  type ProxyFacts,
  planTogether,
  readBack,
  type TargetProfile,
  writePlans,
} from '@yard-brace/core';
import { zipSync } from 'fflate';

export interface DeliverTask {
  /** one, or several that leave together */
  documents: PieceDocument[];
  /** how the shapes of each were measured last; null where they were not */
  measured: (ProxyFacts | null)[];
  /** what was tried with each as it is, a line each */
  tried: string[][];
  profile: TargetProfile;
  choices: DeliveryChoices;
  /** what the surfaces of contact of the yard feel like */
  surfaces: ContactSurface[];
  /** where files stand below the piece's own folder */
  folders: DeliveryFolders;
  /** bytes of every mesh and picture the document names */
  blobs: Map<string, Uint8Array>;
}

export type DeliverResult =
  | { refused: string }
  | {
      files: { name: string; type: string; bytes: Uint8Array }[];
      bundle: Uint8Array;
      readBack: Awaited<ReturnType<typeof readBack>>;
      comparison: ReturnType<typeof compareReadBack>;
      /** of each piece */
      inventories: Inventory[];
      agreed: boolean;
    };

/** Fixed, so that the same piece gives the same bundle. */
const BUNDLE_MOMENT = new Date(1980, 0, 1);

/** Runs on a worker thread: assemble a delivery, read its bytes back, compare, pack. */
export default async function deliver({
  documents,
  measured,
  tried,
  profile,
  choices,
  surfaces,
  folders,
  blobs,
}: DeliverTask): Promise<DeliverResult> {
  try {
    const meshOf = meshReader(blobs);
    const plans = await planTogether(documents, profile, choices, surfaces);
    const files = await writePlans(plans, { meshOf, pictureOf: (id) => blobs.get(id)!, tried }, folders);
    const report = await readBack(files, profile);
    const comparison = compareReadBack(expectationOfPlans(plans, meshOf), report);
    const bundle = zipSync(Object.fromEntries(files.map(({ name, bytes }) => [name, bytes])), {
      mtime: BUNDLE_MOMENT,
    });
    return {
      files,
      bundle,
      readBack: report,
      comparison,
      inventories: plans.map((plan, i) => inventoryOf(plan, measured[i])),
      agreed: agreesInAll(comparison),
    };
  } catch (error) {
    if (error instanceof AssembleError || error instanceof PlanError || error instanceof DecomposeError)
      return { refused: error.message };
    if (error instanceof MeshCodecError)
      return { refused: `A mesh of the piece cannot be read: ${error.message}. Import its file again.` };
    throw error;
  }
}
