import {
  agreesInAll,
  assemble,
  AssembleError,
  compareReadBack,
  expectationOf,
  MeshCodecError,
  meshReader,
  type PieceDocument,
  profileById,
  readBack,
} from '@yard-brace/core';
import { zipSync } from 'fflate';

export interface DeliverTask {
  document: PieceDocument;
  target: string;
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
      agreed: boolean;
    };

/** Fixed, so that the same piece gives the same bundle. */
const BUNDLE_MOMENT = new Date(1980, 0, 1);

/** Runs on a worker thread: assemble a delivery, read its bytes back, compare, pack. */
export default async function deliver({ document, target, blobs }: DeliverTask): Promise<DeliverResult> {
  const profile = profileById(target);
  if (!profile) return { refused: `There is no target “${target}”.` };
  try {
    const meshOf = meshReader(blobs);
    const files = await assemble(document, profile, { meshOf, pictureOf: (id) => blobs.get(id)! });
    const report = await readBack(files, profile);
    const comparison = compareReadBack(expectationOf(document, profile, meshOf), report);
    const bundle = zipSync(Object.fromEntries(files.map(({ name, bytes }) => [name, bytes])), {
      mtime: BUNDLE_MOMENT,
    });
    return { files, bundle, readBack: report, comparison, agreed: agreesInAll(comparison) };
  } catch (error) {
    if (error instanceof AssembleError) return { refused: error.message };
    if (error instanceof MeshCodecError)
      return { refused: `A mesh of the piece cannot be read: ${error.message}. Import its file again.` };
    throw error;
  }
}
