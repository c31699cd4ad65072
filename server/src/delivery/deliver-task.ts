import {
  agreesInAll,
  type DeliveredFile,
  type Plan,
  planSet,
  PlanSetError,
  type SetForm,
  type SetOut,
  writeSet,
  AssembleError,
  compareReadBack,
  DecomposeError,
  type ContactSurface,
  type DeliveryChoices,
  type DeliveryFolders,
  expectationOfPlans,
  type Inventory,
  inventoryOf,
  isInstancesFile,
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
  /** a set as it stands, of these documents; absent for pieces by themselves */
  set?: LeavingSet;
}

export interface LeavingSet {
  setOut: SetOut;
  /** `sourceKey` of each of the documents */
  sources: string[];
  form: SetForm;
  name: string;
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
  set,
}: DeliverTask): Promise<DeliverResult> {
  try {
    const pictureOf = (id: string) => blobs.get(id)!;
    let meshOf = meshReader(blobs);
    let plans: Plan[];
    let own: Plan[];
    let files: DeliveredFile[];
    if (set) {
      const planned = await planSet({
        ...set,
        documents: new Map(set.sources.map((key, i) => [key, documents[i]!])),
        profile,
        choices,
        surfaces,
        blobs,
      });
      ({ meshOf } = planned);
      plans = planned.files.flat();
      // What the service sends along all leaves: it asks for the pieces that stand somewhere.
      own = set.sources.map((key) => planned.firstOf.get(key)!);
      files = await writeSet(planned, set.name, { meshOf, pictureOf }, folders);
    } else {
      own = plans = await planTogether(documents, profile, choices, surfaces);
      files = await writePlans(plans, { meshOf, pictureOf, tried }, folders);
    }
    const report = await readBack(
      files.filter(({ name }) => !isInstancesFile(name)),
      profile,
    );
    const comparison = compareReadBack(expectationOfPlans(plans, meshOf), report);
    const bundle = zipSync(Object.fromEntries(files.map(({ name, bytes }) => [name, bytes])), {
      mtime: BUNDLE_MOMENT,
    });
    return {
      files,
      bundle,
      readBack: report,
      comparison,
      inventories: own.map((plan, i) => inventoryOf(plan, measured[i])),
      agreed: agreesInAll(comparison),
    };
  } catch (error) {
    if (
      error instanceof AssembleError ||
      error instanceof PlanError ||
      error instanceof PlanSetError ||
      error instanceof DecomposeError
    )
      return { refused: error.message };
    if (error instanceof MeshCodecError)
      return { refused: `A mesh of the piece cannot be read: ${error.message}. Import its file again.` };
    throw error;
  }
}
