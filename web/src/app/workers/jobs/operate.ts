import { operate as operateOn, type Operation, type Outcome, type PieceDocument } from '@yard-brace/core';
import type { Operated, Progress } from '../messages';
import { meshes } from './art';
import { asBodies, storeBlobs } from './store-blobs';

/** Work out an operation and store the meshes it makes; the edit is for the page to keep or discard. */
export async function operate(
  document: PieceDocument,
  operation: Operation,
  progress: Progress,
): Promise<Operated> {
  const meshOf = await meshes.hold(document, (share) => progress(share * 0.1, 'Fetching the art'));
  const { edit, blobs, outcome } = await operateOn(document, operation, meshOf, (share) =>
    progress(0.1 + share * 0.6, 'Working'),
  );
  await storeBlobs(asBodies(blobs), (share) => progress(0.7 + share * 0.3, 'Storing'));
  return { edit, outcome };
}

/** What an operation would come to; nothing is stored. */
export async function tryOperation(
  document: PieceDocument,
  operation: Operation,
  progress: Progress,
): Promise<Outcome> {
  const meshOf = await meshes.hold(document, (share) => progress(share * 0.3, 'Counting'));
  return (await operateOn(document, operation, meshOf)).outcome;
}
